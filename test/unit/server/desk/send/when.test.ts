import { randomBytes } from 'node:crypto';
import { expect } from 'chai';
import { DateTime } from 'luxon';
import { claim, lapse } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { makeCourier } from '../../../../../courier/courier';
import { burstOf, pacer } from '../../../../../courier/pacer';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import type { Timing } from '../../../../../src/lib/core/time/timing';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { localOf } from '../../../../../src/lib/core/time/local';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { readSettings } from '../../../../../src/lib/server/settings';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { dispatchList, duplicate } from '../../../../../src/lib/server/desk/week/dispatch-list';
import { readDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import { addClosure } from '../../../../../src/lib/server/desk/calendar/closures';
import {
	callOffEvent,
	saveEvent,
	type EventInput
} from '../../../../../src/lib/server/desk/calendar/events';
import { importCalendar } from '../../../../../src/lib/server/desk/calendar/import-calendar';
import { loadWindow } from '../../../../../src/lib/server/desk/load/load';
import { familiesOn } from '../../../../../src/lib/server/desk/load/load-families';
import { moveEffects } from '../../../../../src/lib/server/desk/plan/move-effects';
import { moveDispatch } from '../../../../../src/lib/server/desk/send/move';
import { nextToPlan, replan, replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import { resume } from '../../../../../src/lib/server/desk/send/resume';
import {
	leaveOut,
	leaveRestOut,
	roundViews
} from '../../../../../src/lib/server/desk/calendar/round-view';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { stopRest } from '../../../../../src/lib/server/desk/send/stop';
import { monthView, weekView } from '../../../../../src/lib/server/desk/week/week';
import { localDays } from '../../../../../src/lib/core/time/zone';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { suggestedMoves } from '../../../../../src/lib/server/desk/load/load-moves';

const key = randomBytes(32);
const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();

describe('when it leaves', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.run(`INSERT INTO household (id, name) VALUES (1, 'Amaro'), (2, 'Pham')`);
		await school.db.run(
			`INSERT INTO household_member VALUES (1, 1), (1, 2), (1, 10), (1, 11), (2, 3), (2, 12)`
		);
	});
	afterEach(() => school.close());
	const sheet = (when: Timing['when'], over: Partial<Timing> = {}, more = {}) =>
		sheetOf({ timing: { ...usualTiming, when, ...over }, ...more });
	const send = async (s: ReturnType<typeof sheetOf>, user = coordinator) => {
		const { tally, checks } = await landing(school.db, user, s);
		const sent = await schedule(school.db, key, user, s, tally.copies);
		if (!sent.ok) throw new Error(checks.map((c) => c.text).join(' '));
		return sent;
	};
	const atTime = (local: string, over: Partial<Timing> = {}, more = {}) =>
		send(sheet({ kind: 'at', at: local }, over, more));
	const dues = async (id: number) =>
		(
			await school.db.all<{ way: string; due: number }>(
				'SELECT way, due_at AS due FROM delivery WHERE dispatch_id = $id ORDER BY way, id',
				{ id }
			)
		).map((d) => `${d.way} ${localOf(d.due, zone)}`);
	const dispatch = (id: number) =>
		school.db.one<{
			state: string;
			settled: number;
			waits: string | null;
			leaves_at: number;
			changed_at: number;
		}>('SELECT state, settled, waits, leaves_at, changed_at FROM dispatch WHERE id = $id', { id });

	it('a time is kept in the school’s zone, and quiet hours shift what falls into them, as the tally said', async () => {
		const s = sheet({ kind: 'at', at: '2027-03-12T07:00' });
		const { times, checks } = await landing(school.db, coordinator, s);
		// Texts from 8 am (47 CFR 64.1200(c)(1)), mail from half past six.
		expect(times).to.deep.include({
			shifted: 2,
			firstAt: at('2027-03-12T07:00'),
			lastAt: at('2027-03-12T08:00')
		});
		expect(checks.map((c) => c.text)).to.include(
			'2 of 5 copies would come in quiet hours and leave later, at Fri Mar 12, 8:00 am.'
		);
		const { dispatchId } = await send(s);
		expect(await dues(dispatchId)).to.deep.equal([
			'email 2027-03-12T07:00',
			'inbox 2027-03-12T07:00',
			'inbox 2027-03-12T07:00',
			'text 2027-03-12T08:00',
			'text 2027-03-12T08:00'
		]);
	});

	it('is not claimed before it is settled, and settling takes in who has come meanwhile', async () => {
		const { dispatchId } = await atTime('2027-03-12T14:15');
		const me = identity(school.db);
		await me.beat();
		expect((await dispatch(dispatchId))!.settled).to.equal(0);
		expect(await nextToPlan(school.db)).to.equal(null);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (12, 'email', 'bao@harbormail.example', 'unknown')`
		);
		await rosterChanged(school.db);
		await moveTo(school.db, at('2027-03-12T14:15'));
		expect(await claim(school.db, me, 'email', 100)).to.deep.equal([]);
		expect(await nextToPlan(school.db)).to.equal(dispatchId);
		await replan(school.db, key, dispatchId);
		expect((await dispatch(dispatchId))!.settled).to.equal(1);
		const mine = await claim(school.db, me, 'email', 100);
		expect(mine.map((c) => c.address).sort()).to.deep.equal([
			'bao@harbormail.example',
			'home@harbormail.example'
		]);
		expect(await nextToPlan(school.db)).to.equal(null);
	});

	it('waits with the reason, and sends nothing, where it can no longer go as it stands', async () => {
		const { dispatchId } = await atTime('2027-03-12T14:15', {}, { audience: audienceOf([101]) });
		await school.db.run('DELETE FROM enrolment WHERE section_id = 101');
		await rosterChanged(school.db);
		await moveTo(school.db, at('2027-03-12T14:16'));
		await replan(school.db, key, dispatchId);
		expect((await dispatch(dispatchId))!.waits).to.match(/No student is enrolled/);
		expect(await dues(dispatchId)).to.deep.equal([]);
		expect((await weekView(school.db, coordinator)).waiting.answers.map((l) => l.id)).to.deep.equal(
			[dispatchId]
		);
		expect((await callBack(school.db, coordinator, dispatchId)).ok).to.equal(true);
	});

	it('stands in nobody’s way where it cannot be worked out at all: after some tries it waits', async () => {
		const bad = (await atTime('2027-03-12T14:15')).dispatchId;
		const good = (await atTime('2027-03-12T14:16')).dispatchId;
		await moveTo(school.db, at('2027-03-12T14:10'));
		const settings = readSettings({ IDLE_COURIER_DATA: school.folder });
		const courier = makeCourier(school.db, settings, key, {
			plan: async (id) => {
				if (id === bad) throw new Error('out of luck');
				await replan(school.db, key, id);
			}
		});
		expect(await courier.beat()).to.equal(true);
		for (let i = 0; i < 5; i += 1) {
			expect((await dispatch(bad))!.waits, `try ${i}`).to.equal(null);
			await courier.settle();
		}
		expect((await dispatch(bad))!.waits).to.equal('It could not be worked out: out of luck');
		expect(await dues(bad)).to.deep.equal([]);
		expect((await dispatch(good))!.settled).to.equal(1);
		await courier.close();
	});

	it('is only foreseen where it is far ahead, and written out when it comes within sight', async () => {
		const { dispatchId } = await atTime('2027-05-12T14:15');
		expect(await dues(dispatchId)).to.deep.equal([]);
		const may = await monthView(school.db, coordinator, at('2027-05-12T12:00'));
		const [line] = may.days.flatMap((d) => d.lines);
		expect([line!.about, line!.copies]).to.deep.equal([true, 5]);
		await moveTo(school.db, at('2027-04-20T09:00'));
		expect(await nextToPlan(school.db)).to.equal(dispatchId);
		await replan(school.db, key, dispatchId);
		expect(await dues(dispatchId)).to.have.length(5);
		expect((await dispatch(dispatchId))!.settled).to.equal(0);
	});

	it('does not leave after its end: not by plan, and not late', async () => {
		const ends = { kind: 'at' as const, at: '2027-03-12T08:00' };
		const { dispatchId } = await atTime('2027-03-12T07:00', { ends });
		expect(await dues(dispatchId)).to.have.length(3);
		const out = await school.db.all<{ id: number; reasons: string }>(
			'SELECT person_id AS id, reasons FROM left_out WHERE dispatch_id = $id',
			{ id: dispatchId }
		);
		// Bao Pham has an inbox; nobody is left with nothing but a text.
		expect(out).to.deep.equal([]);
		const me = identity(school.db);
		await me.beat();
		await moveTo(school.db, at('2027-03-12T06:55'));
		await replan(school.db, key, dispatchId);
		// The courier was away for an hour.
		await moveTo(school.db, at('2027-03-12T08:00'));
		expect(await claim(school.db, me, 'email', 100)).to.deep.equal([]);
		expect(await lapse(school.db, me)).to.equal(3);
		const states = await school.db.all<{ state: string; detail: string }>(
			`SELECT DISTINCT delivery.state, detail FROM delivery JOIN event ON delivery_id = delivery.id AND kind = 'stopped'`
		);
		expect(states).to.deep.equal([
			{
				state: 'failed',
				detail: 'not sent: the end time of the dispatch came before it could leave'
			}
		]);
		expect((await dispatch(dispatchId))!.state).to.equal('sent');
	});

	it('can be stopped on its way: what has left is said, the rest does not leave', async () => {
		const { dispatchId } = await send(sheetOf({ holdMinutes: 0 }));
		const me = identity(school.db);
		await me.beat();
		await claim(school.db, me, 'email', 1);
		const stopped = await stopRest(school.db, coordinator, dispatchId);
		expect(stopped).to.deep.equal({ ok: true, stopped: 4, left: 1 });
		expect(await claim(school.db, me, 'text', 100)).to.deep.equal([]);
		expect((await stopRest(school.db, teacher, dispatchId)).ok).to.equal(false);
	});

	it('is moved, its copies with it; two who move it at once do not overwrite each other', async () => {
		const { dispatchId } = await atTime('2027-03-12T14:15');
		const base = (await dispatch(dispatchId))!.changed_at;
		const [a, b] = await Promise.all([
			moveDispatch(school.db, key, coordinator, dispatchId, '2027-03-15T14:15', base),
			moveDispatch(school.db, key, coordinator, dispatchId, '2027-03-16T07:00', base)
		]);
		expect([a.ok, b.ok]).to.deep.equal([true, false]);
		expect(!b.ok && b.changed && b.why).to.match(
			/^Maren Quill has changed it; it leaves Mon Mar 15, 2:15 pm/
		);
		expect((await dues(dispatchId))[0]).to.equal('email 2027-03-15T14:15');
		const again = (await dispatch(dispatchId))!.changed_at;
		for (const [to, why] of [
			['2027-03-09T08:00', /is past/],
			['2027-02-30T08:00', /no such day/],
			['tomorrow', /written like/]
		] as const) {
			const refused = await moveDispatch(school.db, key, coordinator, dispatchId, to, again);
			expect(!refused.ok && refused.why).to.match(why);
		}
		const other = await moveDispatch(
			school.db,
			key,
			teacher,
			dispatchId,
			'2027-03-17T10:00',
			again
		);
		expect(!other.ok && other.why).to.match(/no such dispatch of yours/);
		expect((await dispatch(dispatchId))!.leaves_at).to.equal(at('2027-03-15T14:15'));
	});

	describe('in a round', () => {
		const round = (over = {}) =>
			send(
				sheet({
					kind: 'round',
					first: '2027-03-10T10:00',
					rule: 'FREQ=WEEKLY;BYDAY=WE;COUNT=4',
					offDays: 'send',
					...over
				})
			);

		it('has a dispatch for each date, at the same wall time over the change of the clock, once also when sent twice', async () => {
			const s = sheet({
				kind: 'round',
				first: '2027-03-10T10:00',
				rule: 'FREQ=WEEKLY;BYDAY=WE;COUNT=4',
				offDays: 'send'
			});
			const first = await send(s);
			expect(await send(s)).to.deep.equal(first);
			const [view] = await roundViews(school.db, coordinator, { roundId: first.roundId! });
			expect(view!.dates.map((d) => localOf(d.leavesAt!, zone))).to.deep.equal([
				'2027-03-10T10:00',
				'2027-03-17T10:00',
				'2027-03-24T10:00',
				'2027-03-31T10:00'
			]);
			expect(view!.dates.every((d) => d.copies === 5 && !d.about)).to.equal(true);
			expect(view!.rule).to.contain('every week on Wednesday');
		});

		it('leaves dates without school out, and each can be changed or left out alone', async () => {
			await addClosure(school.db, coordinator, {
				name: 'Ferry strike',
				startsOn: '2027-03-17',
				lastOn: '2027-03-17',
				schoolId: null
			});
			// The term ends on March 22: the third moves to its last Friday, and the fourth would come to the same day.
			const { roundId } = await round({ offDays: 'before' });
			const view = async () =>
				(await roundViews(school.db, coordinator, { roundId: roundId! }))[0]!.dates;
			expect((await view()).map((d) => localOf(d.leavesAt!, zone))).to.deep.equal([
				'2027-03-10T10:00',
				'2027-03-16T10:00',
				'2027-03-19T10:00'
			]);
			const [first, second] = await view();
			await moveDispatch(
				school.db,
				key,
				coordinator,
				first!.id,
				'2027-03-11T09:00',
				first!.changedAt
			);
			expect(await leaveOut(school.db, coordinator, second!.id)).to.deep.equal({ ok: true });
			const dates = await view();
			expect(dates).to.have.length(2);
			expect([localOf(dates[0]!.leavesAt!, zone), dates[0]!.own]).to.deep.equal([
				'2027-03-11T09:00',
				true
			]);
			await callBack(school.db, coordinator, dates[1]!.id);
			const draft = await readDraft(school.db, coordinator, dates[1]!.id);
			expect(draft!.timing.when).to.deep.include({ kind: 'at' });
			expect(await leaveRestOut(school.db, coordinator, roundId!)).to.equal(1);
		});
	});

	describe('by an event', () => {
		const concert = (over: Partial<EventInput> = {}): EventInput => ({
			id: null,
			base: null,
			title: 'Concert',
			startsLocal: '2027-03-13T18:00',
			endsLocal: '2027-03-13T20:00',
			allDay: false,
			place: 'Hall',
			schoolIds: [],
			sectionIds: [],
			...over
		});
		const offset = (amount: number, unit: 'hours' | 'days') => ({
			amount,
			unit,
			side: 'before' as const,
			of: 'start' as const
		});
		async function withReminders() {
			const saved = await saveEvent(school.db, key, coordinator, concert());
			if (!saved.ok) throw new Error(saved.why);
			const sent = await send(
				sheet(
					{
						kind: 'event',
						eventId: saved.id,
						offsets: [offset(1, 'days'), offset(3, 'hours'), offset(2, 'days')]
					},
					{},
					{ ways: ['email'] }
				)
			);
			const changedAt = async () =>
				(await school.db.one<{ c: number }>('SELECT changed_at AS c FROM school_event'))!.c;
			const dates = async () =>
				(await roundViews(school.db, coordinator, { eventId: saved.id })).flatMap((v) => v.dates);
			return { id: saved.id, sent, changedAt, dates };
		}

		it('has reminders that move with it over the change of the clock, but not the one changed by hand', async () => {
			const { id, changedAt, dates } = await withReminders();
			const locals = async () =>
				(await dates()).map((d) => `${localOf(d.leavesAt!, zone)} ${d.words}`);
			expect(await locals()).to.deep.equal([
				'2027-03-11T18:00 2 days before it starts',
				'2027-03-12T18:00 1 day before it starts',
				'2027-03-13T15:00 3 hours before it starts'
			]);
			const [own] = await dates();
			await moveDispatch(school.db, key, coordinator, own!.id, '2027-03-10T12:00', own!.changedAt);
			const moved = await saveEvent(
				school.db,
				key,
				coordinator,
				concert({
					id,
					base: await changedAt(),
					startsLocal: '2027-03-15T19:00',
					endsLocal: '2027-03-15T21:00'
				})
			);
			expect(moved).to.deep.include({ ok: true, moved: 2 });
			expect(await locals()).to.deep.equal([
				'2027-03-10T12:00 2 days before it starts',
				'2027-03-14T19:00 1 day before it starts',
				'2027-03-15T16:00 3 hours before it starts'
			]);
			const ids = (await dates()).map((d) => d.id);
			expect(await dues(ids[1]!)).to.deep.equal(['email 2027-03-14T19:00']);
			// What no longer fits into the time that is left waits.
			const near = await saveEvent(
				school.db,
				key,
				coordinator,
				concert({
					id,
					base: await changedAt(),
					startsLocal: '2027-03-09T12:00',
					endsLocal: '2027-03-09T13:00'
				})
			);
			expect(near.ok).to.equal(true);
			expect((await dispatch(ids[1]!))!.waits).to.match(
				/Concert was moved, and this reminder’s time is past|time is past/
			);
		});

		it('that is called off makes its reminders wait: sent all the same, or let go', async () => {
			const { id, dates } = await withReminders();
			expect(await callOffEvent(school.db, coordinator, id)).to.deep.include({
				ok: true,
				moved: 3
			});
			const [a, b] = await dates();
			expect(a!.waits).to.match(/^Concert is called off/);
			await moveTo(school.db, at('2027-03-11T18:00'));
			expect(await nextToPlan(school.db)).to.equal(null);
			expect(await resume(school.db, key, coordinator, a!.id)).to.deep.equal({ ok: true });
			expect((await dispatch(a!.id))!.settled).to.equal(1);
			expect(await leaveOut(school.db, coordinator, b!.id)).to.deep.equal({ ok: true });
			expect((await resume(school.db, key, teacher, a!.id)).ok).to.equal(false);
			// Moving what is called off calls nothing on again.
			const base = (await school.db.one<{ c: number }>('SELECT changed_at AS c FROM school_event'))!
				.c;
			const later = { startsLocal: '2027-03-14T18:00', endsLocal: '2027-03-14T20:00' };
			expect(
				(await saveEvent(school.db, key, coordinator, concert({ id, base, ...later }))).ok
			).to.equal(true);
			expect((await dates()).filter((d) => d.waits !== null)).to.have.length(1);
		});

		it('is refused where it ends before it starts, is somebody else’s, or was changed meanwhile', async () => {
			const wrong = async (over: Partial<EventInput>, user = coordinator) => {
				const saved = await saveEvent(school.db, key, user, concert(over));
				return saved.ok ? '' : saved.why;
			};
			expect(await wrong({ endsLocal: '2027-03-13T17:00' })).to.match(/end comes before the start/);
			expect(await wrong({}, teacher)).to.match(/own sections/);
			expect(await wrong({ sectionIds: [101] }, teacher)).to.match(/own sections/);
			expect(await wrong({ sectionIds: [100] }, teacher)).to.equal('');
			const { id } = await withReminders();
			expect(await wrong({ id, base: 1 })).to.match(/changed meanwhile/);
			expect(await wrong({ id, base: 1, sectionIds: [100] }, teacher)).to.match(
				/no such event of yours/
			);
		});

		it('comes in from a calendar file, which is looked at first, changes what it knows and doubles nothing', async () => {
			const text = (...v: string[]) =>
				['BEGIN:VCALENDAR', 'VERSION:2.0', ...v, 'END:VCALENDAR'].join('\r\n');
			const walk = (start: string, ...more: string[]) => [
				'BEGIN:VEVENT',
				'UID:walk',
				'SUMMARY:Walk',
				`DTSTART:${start}`,
				'DURATION:PT1H',
				...more,
				'END:VEVENT'
			];
			const take = (file: string, really: boolean, as: 'events' | 'closures' = 'events') =>
				importCalendar(school.db, key, coordinator, file, as, really);
			const rows = async () =>
				(await school.db.one<{ n: number }>('SELECT count(*) AS n FROM school_event'))!.n;
			expect((await take(text(...walk('20270320T100000')), false)).fresh).to.have.length(1);
			expect(await rows()).to.equal(0);
			await take(text(...walk('20270320T100000')), true);
			const again = await take(text(...walk('20270320T100000')), true);
			expect([again.fresh.length, again.changed.length, again.same, await rows()]).to.deep.equal([
				0, 0, 1, 1
			]);
			expect((await take(text(...walk('20270321T100000')), true)).changed).to.have.length(1);
			await take(text(...walk('20270321T100000', 'STATUS:CANCELLED')), true);
			const off = await school.db.one<{ state: string; starts: string }>(
				'SELECT state, starts_local AS starts FROM school_event'
			);
			expect(off).to.deep.equal({ state: 'called-off', starts: '2027-03-21T10:00' });
			const closed = await take(
				text(
					'BEGIN:VEVENT',
					'UID:v',
					'SUMMARY:Vacation',
					'DTSTART;VALUE=DATE:20270312',
					'DTEND;VALUE=DATE:20270315',
					'END:VEVENT',
					...walk('20270320T100000')
				),
				true,
				'closures'
			);
			expect([closed.fresh.length, closed.problems.length]).to.deep.equal([1, 1]);
			const { dispatchId } = await atTime('2027-03-12T14:15', {}, { ways: ['email'] });
			expect(await dues(dispatchId)).to.deep.equal(['email 2027-03-15T06:30']);
			expect(
				(await importCalendar(school.db, key, teacher, text(), 'events', true)).problems[0]!.text
			).to.match(/only the district office/);
		});
	});

	it('is looked at again when days without school change', async () => {
		const { dispatchId } = await atTime('2027-03-12T14:15', {}, { ways: ['email'] });
		await addClosure(school.db, coordinator, {
			name: 'Storm',
			startsOn: '2027-03-12',
			lastOn: '2027-03-12',
			schoolId: null
		});
		await replanAhead(school.db, key);
		expect(await dues(dispatchId)).to.deep.equal(['email 2027-03-13T06:30']);
		expect(
			(
				await addClosure(school.db, teacher, {
					name: 'x',
					startsOn: '2027-03-12',
					lastOn: '2027-03-12',
					schoolId: 1
				})
			).ok
		).to.equal(false);
		expect(
			(
				await addClosure(school.db, coordinator, {
					name: 'x',
					startsOn: '2027-03-12',
					lastOn: '2027-03-11',
					schoolId: null
				})
			).ok
		).to.equal(false);
	});

	it('family load counts each family once a dispatch and day, tells who and why, and finds the best move', async () => {
		await school.db.run(
			`UPDATE setting SET value = json_set(value, '$.loadLimit', 1) WHERE key = 'district'`
		);
		const a = (await atTime('2027-03-12T10:00', {}, { audience: audienceOf([100]) })).dispatchId;
		await atTime('2027-03-12T11:00', {}, { audience: audienceOf([100, 101]) });
		await atTime('2027-03-11T11:00', {}, { audience: audienceOf([101]) });
		const week = await weekView(school.db, coordinator);
		const loads = week.days.map((d) => [d.load.most, d.load.over, d.load.texts]);
		expect(loads.slice(3, 5)).to.deep.equal([
			[1, 0, 1],
			[2, 1, 3]
		]);
		const families = await familiesOn(school.db, coordinator, '2027-03-12');
		expect(families.families.map((f) => [f.household, f.messages.length])).to.deep.equal([
			['Amaro', 2],
			['Pham', 1]
		]);
		// A teacher sees own students’ families, and only the subjects of own dispatches.
		const own = await familiesOn(school.db, teacher, '2027-03-12');
		expect(own.families.map((f) => f.household)).to.deep.equal(['Amaro']);
		expect(own.families[0]!.messages[0]!.subject).to.equal('A message from another sender');
		const [best] = await suggestedMoves(
			school.db,
			coordinator,
			await loadWindow(school.db, localDays('2027-03-08', 7, zone))
		);
		expect([best!.dispatchId, best!.relief, best!.toLocal]).to.deep.equal([
			a,
			1,
			'2027-03-11T10:00'
		]);
		const effects = await moveEffects(school.db, coordinator, a, '2027-03-08');
		expect(effects[3]).to.deep.equal({ date: '2027-03-11', before: 0, after: 0, relief: 1 });
		expect(
			await suggestedMoves(
				school.db,
				teacher,
				await loadWindow(school.db, localDays('2027-03-08', 7, zone))
			)
		).to.deep.equal([]);
		// What turns out not to be needed burdens nobody.
		await school.db.run(`UPDATE delivery SET state = 'spared' WHERE dispatch_id = ${a}`);
		expect((await weekView(school.db, coordinator)).days[4]!.load).to.include({ most: 1, over: 0 });
	});

	it('everything is found again by words, sender, day and state, and can be made anew', async () => {
		const { dispatchId } = await atTime(
			'2027-03-12T14:15',
			{},
			{ subject: 'Ferry “Müller” late', body: 'Bring mittens.' }
		);
		await send(sheetOf({ subject: 'Now', audience: audienceOf([100]) }), teacher);
		const find = async (search: string, state: 'all' | 'scheduled' = 'all') =>
			(
				await dispatchList(school.db, coordinator, { search, state, page: 1, round: null })
			).lines.map((l) => l.subject);
		expect(await find('')).to.have.length(2);
		for (const words of ['muller ferry', 'mittens', 'drama', 'march 12', '2027-03-12', 'fri']) {
			expect(await find(words), words).to.deep.equal(['Ferry “Müller” late']);
		}
		expect(await find('okafor')).to.deep.equal(['Now']);
		expect(await find('nothing such')).to.deep.equal([]);
		expect(
			(await dispatchList(school.db, teacher, { search: '', state: 'all', page: 1, round: null }))
				.found
		).to.equal(1);
		const copy = await duplicate(school.db, coordinator, dispatchId);
		const draft = await readDraft(school.db, coordinator, copy!);
		expect([draft!.wording.words.subject, draft!.timing.when.kind]).to.deep.equal([
			'Ferry “Müller” late',
			'now'
		]);
		expect(await duplicate(school.db, teacher, dispatchId)).to.equal(null);
	});

	it('the pace gives no minute more than it may have', async () => {
		const p = pacer();
		let time = await now(school.db);
		expect(p.room('email', null, time)).to.equal(Infinity);
		// Empty at its start: a courier that is started anew gives the provider no second minute's worth.
		expect(p.room('email', 600, time)).to.equal(0);
		expect(p.room('email', 600, (time += 1_000))).to.equal(10);
		p.used('email', 10);
		expect(p.room('email', 600, time)).to.equal(0);
		// After a rest, a second's worth leaves at once, never a minute's.
		expect(p.room('email', 600, (time += 600_000))).to.equal(10);
		expect(p.room('email', 600, time - 86_400_000)).to.equal(10);
		// Whatever is asked when: no minute has more than its pace and one burst.
		let sent: number[] = [];
		for (let t = time; t < time + 300_000; t += 37 * ((t % 90) + 1)) {
			const n = p.room('text', 120, t);
			p.used('text', n);
			sent.push(...Array.from({ length: n }, () => t));
			sent = sent.filter((at) => at > t - 60_000);
			expect(sent.length).to.be.at.most(120 + burstOf(120));
		}
	});
});

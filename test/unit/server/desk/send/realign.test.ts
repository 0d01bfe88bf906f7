import { expect } from 'chai';
import { localOf, placeLocal } from '../../../../../src/lib/core/time/local';
import { moveTo } from '../../../../../src/lib/server/clock';
import { readDistrict, writeSetting } from '../../../../../src/lib/server/db/district';
import { addClosure, dropClosure } from '../../../../../src/lib/server/desk/calendar/closures';
import { followZone, replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import { resume } from '../../../../../src/lib/server/desk/send/resume';
import { leaveOut } from '../../../../../src/lib/server/desk/calendar/round-view';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { usualTiming, type When } from '../../../../../src/lib/core/time/timing';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const zone = 'America/New_York';

describe('what was planned follows the calendar and the zone', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		// Long enough a term for every date of the round.
		await school.db.run(`UPDATE term SET ends_on = '2027-06-30'`);
	});
	afterEach(() => school.close());

	const send = async (when: When) => {
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ timing: { ...usualTiming, when } }),
			5
		);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		return sent;
	};
	const weekly = (offDays: 'skip' | 'before' | 'after' | 'send') =>
		send({
			kind: 'round',
			first: '2027-03-10T10:00',
			rule: 'FREQ=WEEKLY;BYDAY=WE;COUNT=4',
			offDays
		});
	const storm = async (from: string, to = from) => {
		const added = await addClosure(school.db, coordinator, {
			name: 'Storm',
			startsOn: from,
			lastOn: to,
			schoolId: null,
			sure: false
		});
		expect(added.ok).to.equal(true);
		await replanAhead(school.db, key);
	};
	const open = async () => {
		const { id } = (await school.db.one<{ id: number }>('SELECT max(id) AS id FROM closure'))!;
		await dropClosure(school.db, coordinator, id);
		await replanAhead(school.db, key);
	};
	const dates = async () =>
		(
			await school.db.all<{ id: number; at: number; waits: string | null; n: number }>(
				`SELECT id, leaves_at AS at, waits, (SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS n
				FROM dispatch WHERE state = 'scheduled' ORDER BY leaves_at`
			)
		).map((d) => `${localOf(d.at, zone).slice(5)}${d.waits ? ' waits' : ''} ${d.n}`);

	it('a storm day moves the weekly date to the next school day, and back when it is called off', async () => {
		await weekly('after');
		const before = await dates();
		expect(before).to.deep.equal([
			'03-10T10:00 5',
			'03-17T10:00 5',
			'03-24T10:00 5',
			'03-31T10:00 5'
		]);
		await storm('2027-03-17');
		expect(await dates()).to.deep.equal([
			'03-10T10:00 5',
			'03-18T10:00 5',
			'03-24T10:00 5',
			'03-31T10:00 5'
		]);
		// Copies leave at the new time as well.
		const due = await school.db.all<{ at: number }>(
			'SELECT DISTINCT due_at AS at FROM delivery ORDER BY 1'
		);
		expect(due.map((d) => localOf(d.at, zone).slice(5, 10)))
			.to.include('03-18')
			.and.not.include('03-17');
		await open();
		expect(await dates()).to.deep.equal(before);
	});

	it('where such dates are left out it waits and says so, and goes on by itself when there is school again', async () => {
		await weekly('skip');
		await storm('2027-03-17');
		expect(await dates()).to.deep.equal([
			'03-10T10:00 5',
			'03-17T10:00 waits 0',
			'03-24T10:00 5',
			'03-31T10:00 5'
		]);
		const { id, waits } = (await school.db.one<{ id: number; waits: string }>(
			'SELECT id, waits FROM dispatch WHERE waits IS NOT NULL'
		))!;
		expect(waits).to.match(
			/^There is no school on Wed Mar 17, and its repetition leaves such a date out/
		);
		await open();
		expect(await dates()).to.not.match(/waits/);
		// Sent all the same, it is its sender's and waits no more.
		await storm('2027-03-17');
		expect((await resume(school.db, key, coordinator, id)).ok).to.equal(true);
		await replanAhead(school.db, key);
		expect((await dates()).some((d) => d.includes('waits'))).to.equal(false);
	});

	it('a date that had no school when the round was made comes back; one that was taken out does not', async () => {
		await storm('2027-03-17');
		await weekly('skip');
		expect(await dates()).to.deep.equal(['03-10T10:00 5', '03-24T10:00 5', '03-31T10:00 5']);
		const third = await school.db.one<{ id: number }>(
			`SELECT id FROM dispatch WHERE leaves_at = ${placeLocal('2027-03-24T10:00', zone).at}`
		);
		await leaveOut(school.db, coordinator, third!.id);
		await open();
		expect(await dates()).to.deep.equal(['03-10T10:00 5', '03-17T10:00 5', '03-31T10:00 5']);
		await replanAhead(school.db, key);
		expect(await dates()).to.have.length(3);
	});

	it('what would move into the past is not sent late: it waits', async () => {
		await weekly('before');
		await moveTo(school.db, placeLocal('2027-03-17T06:00', zone).at);
		await storm('2027-03-17');
		const [today] = (await dates()).filter((d) => d.includes('waits'));
		expect(today).to.match(/^03-16T10:00 waits/);
	});

	it('a dispatch that a closure leaves without a moment says that, not that nobody can be reached', async () => {
		const sheet = sheetOf({
			timing: {
				...usualTiming,
				when: { kind: 'at', at: '2027-03-17T10:00' },
				ends: { kind: 'at', at: '2027-03-18T10:00' }
			}
		});
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		expect(sent.ok).to.equal(true);
		await storm('2027-03-17', '2027-03-19');
		const row = await school.db.one<{ waits: string }>('SELECT waits FROM dispatch');
		expect(row!.waits).to.match(/^Days without school or quiet hours leave it no time/);
	});

	it('days without school that look like a slip of the pen are asked about first', async () => {
		const add = (startsOn: string, lastOn: string, sure = false) =>
			addClosure(school.db, coordinator, { name: 'x', startsOn, lastOn, schoolId: null, sure });
		expect(await add('2027-03-15', '2072-03-19')).to.deep.include({ ok: false, ask: true });
		expect(await add('2027-01-15', '2027-01-19')).to.deep.include({ ok: false, ask: true });
		expect(await add('2032-01-15', '2032-01-19')).to.deep.include({ ok: false, ask: true });
		expect(await add('2027-03-15', '2027-05-19', true)).to.deep.equal({ ok: true });
		expect(await add('2027-03-15', '2027-03-19')).to.deep.equal({ ok: true });
	});

	it('a changed zone moves what was planned by local time, events with their reminders among it', async () => {
		await followZone(school.db, key);
		await send({ kind: 'at', at: '2027-03-17T10:00' });
		await school.db
			.run(`INSERT INTO school_event (uid, title, starts_local, ends_local, all_day, starts_at, ends_at, place,
			school_ids, section_ids, state, made_by, changed_at) VALUES ('u', 'Concert', '2027-03-18T18:00', '2027-03-18T20:00',
			0, ${placeLocal('2027-03-18T18:00', zone).at}, ${placeLocal('2027-03-18T20:00', zone).at}, '', '[]', '[]', 'on', 90, 1)`);
		const { id } = (await school.db.one<{ id: number }>('SELECT id FROM school_event'))!;
		await send({
			kind: 'event',
			eventId: id,
			offsets: [{ amount: 3, unit: 'hours', side: 'before', of: 'start' }]
		});
		expect(await dates()).to.deep.equal(['03-17T10:00 5', '03-18T15:00 5']);
		await writeSetting(school.db, 'district', {
			...(await readDistrict(school.db)),
			zone: 'America/Chicago'
		});
		await followZone(school.db, key);
		// An hour later on the old zone's clock is the same local time in the new one.
		expect(await dates()).to.deep.equal(['03-17T11:00 5', '03-18T16:00 5']);
		const event = await school.db.one<{ at: number }>('SELECT starts_at AS at FROM school_event');
		expect(localOf(event!.at, 'America/Chicago')).to.equal('2027-03-18T18:00');
		await followZone(school.db, key);
		expect(await dates()).to.deep.equal(['03-17T11:00 5', '03-18T16:00 5']);
	});
});

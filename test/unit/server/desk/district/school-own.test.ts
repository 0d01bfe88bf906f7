import { expect } from 'chai';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { workClock, workSchool } from '../../../../../src/lib/server/access/work-clock';
import { readSchoolsOwn, usualTimeOf } from '../../../../../src/lib/server/db/school-own';
import { writeDistrict } from '../../../../../src/lib/server/db/district';
import { deliveryFacts } from '../../../../../src/lib/server/db/copy-facts';
import { makeChase } from '../../../../../src/lib/server/desk/reach/chase';
import { dispatchLetters } from '../../../../../src/lib/server/desk/sheet/letters';
import { ownChanged } from '../../../../../src/lib/server/db/roster';
import { saveEvent } from '../../../../../src/lib/server/desk/calendar/events';
import {
	changeChapter,
	chapterView,
	wanted
} from '../../../../../src/lib/server/desk/district/change';
import type { Values } from '../../../../../src/lib/server/desk/district/form';
import { effectsOf, movesScheduled } from '../../../../../src/lib/server/desk/district/effects';
import { schoolLines } from '../../../../../src/lib/server/desk/district/school-lines';
import { readSettled } from '../../../../../src/lib/server/desk/district/settled';
import { subjectOf } from '../../../../../src/lib/server/desk/district/subject';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { proofOf } from '../../../../../src/lib/server/desk/plan/proof';
import { moveDispatch } from '../../../../../src/lib/server/desk/send/move';
import { followZone, replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { clockChoices } from '../../../../../src/lib/server/desk/sheet/clock-choices';
import { weekView } from '../../../../../src/lib/server/desk/week/week';
import {
	coordinator,
	farPoint,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	whyOf,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const nothing = {
	...{ zone: '', textFrom: '', textTo: '', mailFrom: '', mailTo: '', dayBegins: '' },
	...{ schoolBegins: '', schoolEnds: '', eveningBegins: '', dayEnds: '' }
};
const iso = (at: number) => new Date(at).toISOString();

// The zones are those of the IANA data base: in March 2027 New York is five hours behind UTC until the 14th, Halifax four.
describe('what a school has of its own about time', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		await farPoint(school.db);
	});
	afterEach(() => school.close());

	const look = async (values: Values, code = 'school-1') =>
		wanted(school.db, coordinator, (await subjectOf(school.db, code))!, { ...nothing, ...values });
	async function change(values: Values, code = 'school-1', user = coordinator) {
		const subject = (await subjectOf(school.db, code))!;
		const { seen } = await chapterView(school.db, subject);
		const done = await changeChapter(
			...([school.db, user, subject, { ...nothing, ...values }, seen] as const)
		);
		return whyOf(done);
	}
	const at = (time: string, clock: number | null = null) => ({
		timing: { ...usualTiming, clock, when: { kind: 'at', at: time } as const }
	});
	const leaves = async () =>
		(await school.db.all<{ at: number }>('SELECT leaves_at AS at FROM dispatch ORDER BY id')).map(
			(row) => iso(row.at)
		);

	it('is the district’s until somebody says so, and is again when it is taken away', async () => {
		expect((await readSchoolsOwn(school.db)).size).to.equal(0);
		expect(await change({ zone: 'America/Halifax' })).to.equal('done');
		const times = await readSchoolsOwn(school.db);
		expect([...times]).to.deep.equal([
			[1, { zone: 'America/Halifax', quiet: null, marks: null, openBoards: null }]
		]);
		expect((await schoolLines(school.db)).map((s) => s.own)).to.deep.include.members([
			['by the clock of America/Halifax'],
			[]
		]);
		expect(await change({})).to.equal('done');
		expect((await readSchoolsOwn(school.db)).size).to.equal(0);
		const view = await chapterView(school.db, (await subjectOf(school.db, 'school-1'))!);
		expect(view.history.map((h) => h.changes)).to.deep.equal([
			[{ label: 'Zone of its clocks', before: 'America/Halifax', after: 'as in the district' }],
			[{ label: 'Zone of its clocks', before: 'as in the district', after: 'America/Halifax' }]
		]);
	});

	it('what cannot be is refused in words', async () => {
		const wrong: readonly (readonly [Values, RegExp])[] = [
			[{ zone: 'Brackwater/Quay' }, /zone/],
			[{ textFrom: '21:00' }, /all four quiet hours, or none/],
			[{ textFrom: '9 pm' }, /time of day, as 21:00, or empty/],
			[{ dayBegins: '06:00' }, /all five times/],
			[
				{
					...{ dayBegins: '06:00', schoolBegins: '09:00', schoolEnds: '08:00' },
					...{ eveningBegins: '18:00', dayEnds: '21:00' }
				},
				/each is later/
			]
		];
		for (const [values, why] of wrong) expect(await change(values)).to.match(why);
		expect(await change({ zone: 'America/Halifax' }, 'school-1', office)).not.to.equal('done');
		for (const code of ['school-99', 'school-0', 'school-1 ', 'school-', 'nothing'])
			expect(await subjectOf(school.db, code), code).to.equal(null);
	});

	it('whoever works there alone sees and plans by its clock; others by the district’s', async () => {
		await change({
			...{ zone: 'America/Halifax', dayBegins: '07:00', schoolBegins: '09:00' },
			...{ schoolEnds: '16:00', eveningBegins: '19:00', dayEnds: '21:00' }
		});
		expect(await workSchool(school.db, office)).to.equal(1);
		expect(await workSchool(school.db, teacher)).to.equal(1);
		expect(await workSchool(school.db, coordinator)).to.equal(null);
		expect((await workClock(school.db, teacher)).zone).to.equal('America/Halifax');
		expect((await workClock(school.db, coordinator)).zone).to.equal('America/New_York');
		expect((await weekView(school.db, office)).parts[1]).to.include({
			...{ fromMinute: 9 * 60, toMinute: 16 * 60 }
		});
		expect((await weekView(school.db, coordinator)).parts[1]).to.include({ fromMinute: 490 });
		const { own, clocks } = await clockChoices(school.db, office);
		expect(own).to.equal(1);
		expect(clocks.map((c) => c.zone)).to.deep.equal(['America/New_York', 'America/Halifax']);
	});

	it('a sheet leaves by the clock that it is meant by, and follows it to another zone', async () => {
		await followZone(school.db, key);
		await schedule(school.db, key, coordinator, sheetOf(at('2027-03-11T12:00', 1)), 5);
		await schedule(school.db, key, coordinator, sheetOf(at('2027-03-11T12:00')), 5);
		expect(await leaves()).to.deep.equal(['2027-03-11T17:00:00.000Z', '2027-03-11T17:00:00.000Z']);
		const asked = await look({ zone: 'America/Halifax' });
		if (!asked.ok) throw new Error(asked.why);
		expect((await effectsOf(school.db, asked.before, asked.after))[0]).to.equal(
			'1 scheduled dispatch moves, with 5 copies, and 0 events.'
		);
		await change({ zone: 'America/Halifax' });
		await replanAhead(school.db, key);
		expect(await leaves()).to.deep.equal(['2027-03-11T16:00:00.000Z', '2027-03-11T17:00:00.000Z']);
		// Whoever moves it says when by their own clock; it stays meant by the school's.
		const row = (await school.db.one<{ id: number; base: number }>(
			'SELECT id, changed_at AS base FROM dispatch ORDER BY id LIMIT 1'
		))!;
		const moved = await moveDispatch(
			...([school.db, key, coordinator, row.id, '2027-03-12T12:00', row.base] as const)
		);
		expect(whyOf(moved)).to.equal('done');
		const timing = await school.db.one<{ at: string }>(
			`SELECT timing ->> '$.when.at' AS at FROM dispatch WHERE id = $id`,
			{ id: row.id }
		);
		expect(timing!.at).to.equal('2027-03-12T13:00');
		expect((await leaves())[0]).to.equal('2027-03-12T17:00:00.000Z');
	});

	it('an event of the school is by its clock; one of several schools by the district’s', async () => {
		await change({ zone: 'America/Halifax' });
		const event = (schoolIds: number[]) => ({
			...{
				id: null,
				base: null,
				title: 'Fair',
				place: '',
				allDay: false,
				sectionIds: [],
				schoolIds
			},
			...{ startsLocal: '2027-03-20T10:00', endsLocal: '2027-03-20T12:00' }
		});
		for (const ids of [[1], [1, 2], []])
			expect((await saveEvent(school.db, key, coordinator, event(ids))).ok).to.equal(true);
		const starts = await school.db.all<{ at: number }>(
			'SELECT starts_at AS at FROM school_event ORDER BY id'
		);
		// Daylight time by then: three hours behind UTC, and four.
		expect(starts.map((s) => iso(s.at).slice(11, 16))).to.deep.equal(['13:00', '14:00', '14:00']);
	});

	it('its families’ quiet hours and letters are by its clock, unless they have one of their own', async () => {
		// 9:30 pm in Halifax is 8:30 pm in New York: quiet there, and not here.
		const sheet = sheetOf({
			...at('2027-03-11T20:30'),
			...{ ways: ['email'], body: 'Until {{date:2027-03-11T20:30}}.' }
		});
		const dueOf = async () => {
			const { manifest } = await planSheet(school.db, coordinator, sheet);
			return [...new Set(manifest.dueAt.map(iso))];
		};
		const wordsTo = async (person: number) => {
			const site = { publicUrl: 'http://x.example', returnDomain: 'x.example' };
			const proof = await proofOf(school.db, site, coordinator, sheet, person);
			return JSON.stringify(proof!.email);
		};
		const [reader] = (await planSheet(school.db, coordinator, sheet)).manifest.copies;
		expect(await dueOf()).to.deep.equal(['2027-03-12T01:30:00.000Z']);
		expect(await wordsTo(reader!.personId)).to.contain('8:30');
		await change({ zone: 'America/Halifax' });
		expect(await dueOf()).to.deep.equal(['2027-03-12T10:30:00.000Z']);
		expect(await wordsTo(reader!.personId)).to.match(/9:30.{1,3}PM \(AST\)/);
		expect((await usualTimeOf(school.db, reader!.personId)).zone).to.equal('America/Halifax');
		await school.db.run(`INSERT INTO own_time (person_id, zone) VALUES ($id, 'America/Chicago')`, {
			id: reader!.personId
		});
		await school.db.write((tx) => ownChanged(tx, [reader!.personId]));
		expect(await wordsTo(reader!.personId)).to.match(/7:30.{1,3}PM \(CST\)/);
	});

	it('its quiet hours hold for its families alone, and show on their page', async () => {
		const quiet = { textFrom: '22:00', textTo: '08:00', mailFrom: '20:00', mailTo: '06:00' };
		const sheet = sheetOf({ ...at('2027-03-11T20:30'), ways: ['email'] });
		await change(quiet);
		const { manifest } = await planSheet(school.db, coordinator, sheet);
		expect([...new Set(manifest.dueAt.map(iso))]).to.deep.equal(['2027-03-12T11:00:00.000Z']);
		const [reader] = manifest.copies;
		expect((await usualTimeOf(school.db, reader!.personId)).quiet.mail.fromMinute).to.equal(1200);
		expect((await usualTimeOf(school.db, 13)).quiet.mail.fromMinute).to.equal(1260);
		expect((await readSettled(school.db)).schools.get(1)!.quiet!.text.fromMinute).to.equal(1320);
	});

	it('parts of the day alone move nothing that is scheduled', async () => {
		const asked = await look({
			...{ dayBegins: '06:00', schoolBegins: '08:00', schoolEnds: '15:00' },
			...{ eveningBegins: '18:00', dayEnds: '21:00' }
		});
		if (!asked.ok) throw new Error(asked.why);
		expect(movesScheduled(asked.before, asked.after)).to.equal(false);
		expect(await effectsOf(school.db, asked.before, asked.after)).to.deep.equal([]);
	});

	it('a chase is meant by the clock of what it follows up', async () => {
		const sent = await schedule(
			...([school.db, key, coordinator, sheetOf(at('2027-03-11T12:00', 1)), 5] as const)
		);
		expect(sent.ok).to.equal(true);
		const { id } = (await school.db.one<{ id: number }>('SELECT id FROM dispatch'))!;
		await school.db.run(`UPDATE dispatch SET state = 'sent', sent_at = leaves_at`);
		const chase = await makeChase(school.db, coordinator, id);
		const { clock } = (await school.db.one<{ clock: number | null }>(
			`SELECT timing ->> '$.clock' AS clock FROM dispatch WHERE id != $id`,
			{ id }
		))!;
		expect(chase).not.to.equal(null);
		expect(clock).to.equal(1);
	});

	it('what is written out after another clock style was set has it, and what was kept ready before has not', async () => {
		const sheet = sheetOf({ ...at('2027-03-11T12:00'), body: 'Until {{date:2027-03-11T20:30}}.' });
		await schedule(...([school.db, key, coordinator, sheet, 5] as const));
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE way = 'email'`
		))!;
		const written = async () => {
			const { letters } = await dispatchLetters(school.db, 1);
			const { facts } = (await deliveryFacts(school.db, [id])).get(id)!;
			return letters.email({ facts, language: 'en', link: 'https://x.example/f/t', mayStop: true })
				.text;
		};
		expect(await written()).to.match(/8:30.{1,3}PM/);
		const { district } = await readSettled(school.db);
		await school.db.write((tx) => writeDistrict(tx, { ...district, clock: '24' }));
		expect(await written()).to.contain('20:30');
	});
});

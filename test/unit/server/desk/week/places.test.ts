import { expect } from 'chai';
import { DateTime } from 'luxon';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { setClock } from '../../../../../src/lib/server/clock';
import { moveOn } from '../../../../../src/lib/server/desk/office/bench-clock';
import { courierStatus } from '../../../../../src/lib/server/desk/office/courier-status';
import { findPeople } from '../../../../../src/lib/server/desk/people/find-people';
import { failingAddresses } from '../../../../../src/lib/server/desk/people/mend';
import type { Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { writeSetting } from '../../../../../src/lib/server/db/district';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { choices } from '../../../../../src/lib/server/desk/audience/choices';
import { namesBehind } from '../../../../../src/lib/server/desk/plan/tally';
import { monthView, weekView } from '../../../../../src/lib/server/desk/week/week';
import {
	as,
	coordinator,
	sheetOf,
	teacher,
	testDistrict,
	testSchool,
	type TestSchool
} from '../../database';
import { manifestView } from '../../../../../src/lib/server/desk/plan/manifest-view';
import {
	addressList,
	manifestCards,
	manifestCsv
} from '../../../../../src/lib/server/desk/plan/manifest-files';

const key = Buffer.alloc(32, 7);
const zone = 'America/New_York';
const tuesday = DateTime.fromISO('2027-03-09T07:40', { zone }).toMillis();

describe('the places of the application', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await setClock(school.db, tuesday);
		await school.db.write(async (tx) => {
			await tx.run(
				`INSERT INTO household (id, name) VALUES (1, 'Amaro'), (2, 'Pham'), (3, 'Quill')`
			);
			await tx.run(
				`INSERT INTO household_member VALUES (1, 1), (1, 2), (1, 10), (1, 11), (2, 3), (2, 12), (3, 90)`
			);
			await tx.run(
				`INSERT INTO school_group (id, name, kind, school_id) VALUES (50, 'North Run', 'ferry run', NULL)`
			);
			await tx.run(`INSERT INTO group_member (group_id, person_id) VALUES (50, 1), (50, 3)`);
			await tx.run(
				`INSERT INTO term VALUES (1, 'Fall', '2026-08-31', '2026-12-01'), (3, 'Spring', '2027-03-22', '2027-06-19')`
			);
		});
	});
	afterEach(() => school.close());
	const send = async (subject: string, sections: number[], over: Partial<Sheet> = {}) => {
		const sheet = sheetOf({
			audience: audienceOf(sections),
			ways: ['inbox'],
			...{ subject, holdMinutes: 5 },
			...over
		});
		const copies = (await manifestView(school.db, coordinator, sheet, ['en'])).tally.copies;
		const result = await schedule(school.db, key, coordinator, sheet, copies);
		if (!result.ok) throw new Error(result.checks.map((c) => c.text).join(' '));
	};

	it('Week: puts a dispatch into its day and part of day, and counts families once for each dispatch', async () => {
		await send('One', [100]);
		await send('Two', [100, 101]);
		const week = await weekView(school.db, coordinator);
		expect(week.days.map((d) => d.today)).to.deep.equal([
			false,
			true,
			false,
			false,
			false,
			false,
			false
		]);
		const today = week.days[1]!;
		expect(today.tags.before.map((t) => t.subject)).to.deep.equal(['One', 'Two']);
		// Amaro gets two, Pham one, Quill none.
		expect(today.load).to.deep.equal({ households: [1, 1, 1, 0], most: 2, over: 0, texts: 0 });
		expect(week.days[0]!.load).to.deep.include({ households: [3, 0, 0, 0], most: 0 });
		expect([week.dispatches, week.copies]).to.deep.equal([2, 3]);
	});

	it('Week and Month: of those that leave together, the one written first is first', async () => {
		const timing = { ...usualTiming, when: { kind: 'at', at: '2027-03-11T08:05' } } as const;
		for (const subject of ['One', 'Two', 'Three']) await send(subject, [100], { timing });
		const week = Object.values((await weekView(school.db, coordinator)).days[3]!.tags).flat();
		const month = (await monthView(school.db, coordinator)).days.flatMap((d) => d.lines);
		for (const lines of [week, month])
			expect(lines.map((l) => l.subject)).to.deep.equal(['One', 'Two', 'Three']);
	});

	it('Week: shows an hour in the night under quiet, and a teacher only what is theirs', async () => {
		await setClock(school.db, DateTime.fromISO('2027-03-10T22:15', { zone }).toMillis());
		await send('Late', [100]);
		const week = await weekView(school.db, coordinator);
		expect(week.days[2]!.tags.quiet.map((t) => t.subject)).to.deep.equal(['Late']);
		expect((await weekView(school.db, teacher)).dispatches).to.equal(0);
	});

	it('Week and Month begin with the day that the district has set', async () => {
		// March 2027 begins on a Monday and ends on a Wednesday (ISO 8601 calendar).
		const shown = async () => {
			const month = (await monthView(school.db, coordinator)).days;
			return [(await weekView(school.db, coordinator)).days[0]!, month[0]!, month.at(-1)!].map(
				(day) => day.date
			);
		};
		expect(await shown()).to.deep.equal(['2027-03-08', '2027-03-01', '2027-04-04']);
		const begins = (weekStart: 6 | 7) =>
			writeSetting(school.db, 'district', { ...testDistrict, weekStart });
		await begins(7);
		expect(await shown()).to.deep.equal(['2027-03-07', '2027-02-28', '2027-04-03']);
		await begins(6);
		expect(await shown()).to.deep.equal(['2027-03-06', '2027-02-27', '2027-04-02']);
	});

	it('the picker: opens on the current term, and gives a teacher own sections only', async () => {
		const all = await choices(school.db, coordinator);
		expect(all.terms.map((t) => [t.name, t.current])).to.deep.equal([
			['Fall', false],
			['Winter', true],
			['Spring', false]
		]);
		expect(all.sections[2]!.map((s) => [s.name, s.note, s.students])).to.deep.equal([
			['Drama 7-A', 'Heron, period 2', 1],
			['Mathematics 7-A', 'Heron, period 1, Okafor', 2]
		]);
		expect(all.groups).to.deep.equal([
			{ id: 50, name: 'North Run', note: 'ferry run', students: 2 }
		]);
		expect(all.grades.map((g) => [g.name, g.students])).to.deep.equal([['7', 3]]);
		const own = await choices(school.db, teacher);
		expect(own.sections[2]!.map((s) => s.name)).to.deep.equal(['Mathematics 7-A']);
		expect([own.groups, own.grades, own.schools]).to.deep.equal([[], [], []]);
	});

	it('the picker: between terms it opens on the next, after the last on the last', async () => {
		await school.db.run(`UPDATE term SET starts_on = '2027-04-01' WHERE id = 3`);
		await setClock(school.db, DateTime.fromISO('2027-03-25', { zone }).toMillis());
		expect((await choices(school.db, coordinator)).terms.find((t) => t.current)!.name).to.equal(
			'Spring'
		);
		await setClock(school.db, DateTime.fromISO('2028-01-01', { zone }).toMillis());
		expect((await choices(school.db, coordinator)).terms.find((t) => t.current)!.name).to.equal(
			'Spring'
		);
	});

	it('finding people: by the beginnings of names in any order, for the district office only', async () => {
		const names = async (q: string, user = coordinator) =>
			(await findPeople(school.db, user, q)).map((p) => `${p.name}: ${p.note}`);
		expect(await names('ama del')).to.deep.equal(['Delfina Amaro: mother of Ana, Rui']);
		expect(await names('linh')).to.deep.equal(['Linh Pham: Grade 7, Heron']);
		expect(await names('maro')).to.deep.equal([]);
		for (const odd of ['', '  ', '%', '_', '\\', "' OR 1=1 --", 'x'.repeat(500)])
			expect(await names(odd), odd).to.deep.equal([]);
		expect(await names('ama', teacher)).to.deep.equal([]);
	});

	it('the manifest: by household, and its files hold exactly its people', async () => {
		await school.db.run(`UPDATE person SET family_name = '=Amaro, "x"' WHERE id = 10`);
		await rosterChanged(school.db);
		const view = await manifestView(school.db, coordinator, sheetOf({ ways: ['email', 'text'] }), [
			'en'
		]);
		expect(view.households.map((h) => [h.name, h.people.length])).to.deep.equal([
			['Amaro', 2],
			['Pham', 1]
		]);
		const mother = view.households[0]!.people[0]!;
		expect(mother).to.deep.include({
			relation: 'mother of Ana and Rui',
			why: ['guardians of students in Mathematics 7-A and Drama 7-A']
		});
		expect(mother.copies[0]).to.deep.equal({
			way: 'email',
			reads: 'en',
			address: 'home@harbormail.example',
			sharedWith: 'Paulo Amaro',
			about: 'Ana and Rui',
			later: ''
		});
		const csv = manifestCsv(view).split('\r\n');
		expect(csv).to.have.length(1 + 4 + 1);
		expect(csv[1]).to.match(
			/^Amaro,"Delfina =Amaro, ""x""",mother of Ana and Rui,pt,Mathematics 7-A,email,home@harbormail\.example,/
		);
		expect(csv.join('\n')).to.contain("'+12075550101");
		expect(addressList(view)).to.equal('home@harbormail.example');
		expect(manifestCards(view).match(/BEGIN:VCARD/g)).to.have.length(3);
	});

	it('the manifest: shows a teacher nobody of another section', async () => {
		const view = await manifestView(school.db, teacher, sheetOf({ ways: ['text'] }), ['en']);
		expect(JSON.stringify(view)).not.to.contain('Pham');
	});

	it('the manifest: gives a teacher nothing of others, whatever the browser asks for', async () => {
		const hand = (personId: number, way: 'in' | 'out') => ({ personId, way, by: 'x', at: 0 });
		const audience = {
			...audienceOf([100, 101]),
			byHand: [hand(12, 'in'), hand(3, 'in'), hand(12, 'out')]
		};
		const line = { ...audience.lines[0]!, of: { kind: 'students' as const, ids: [1, 3] } };
		const asked = { ...audience, lines: [...audience.lines, line] };
		const sheet = sheetOf({ audience: asked, ways: ['text', 'inbox'] });
		const view = await manifestView(school.db, teacher, sheet, ['en']);
		const names = await namesBehind(school.db, teacher, sheet, 'people');
		for (const answer of [JSON.stringify(view), JSON.stringify(names), manifestCsv(view)]) {
			expect(answer)
				.to.contain('Delfina')
				.and.not.match(/Pham|Bao|Linh|0102/);
		}
	});

	it('addresses to mend: an office sees those of its school, a teacher those of own students', async () => {
		await school.db.run(`INSERT INTO school VALUES (9, 'Elsewhere', 'Elsewhere')`);
		await school.db.run(`UPDATE address SET failing = 'x', failing_since = 1 WHERE way = 'text'`);
		const seen = async (user: typeof teacher) =>
			(await failingAddresses(school.db, user)).addresses.map((f) => f.person);
		expect(await seen(coordinator)).to.have.members(['Delfina Amaro', 'Bao Pham']);
		expect(await seen(as(teacher, 'office', 1))).to.have.members(['Delfina Amaro', 'Bao Pham']);
		expect(await seen(as(teacher, 'office', 9))).to.deep.equal([]);
		expect(await seen(teacher)).to.deep.equal(['Delfina Amaro']);
		expect((await weekView(school.db, teacher)).waiting.mend).to.deep.equal({ email: 0, text: 1 });
	});

	it('the bench clock: moves by a minute, an hour, to the next thing due, and says when nothing is', async () => {
		const start = (await moveOn(school.db, 'minute')).now;
		expect(start - tuesday).to.be.within(60_000, 65_000);
		expect((await moveOn(school.db, 'hour')).now - start).to.be.within(3_600_000, 3_605_000);
		expect((await moveOn(school.db, 'next')).why).to.equal(
			'Nothing is due. Write something first.'
		);
		await send('Due', [100], { holdMinutes: 30 });
		const due = (await school.db.one<{ at: number }>('SELECT min(due_at) AS at FROM delivery'))!.at;
		expect((await moveOn(school.db, 'next')).now).to.equal(due);
	});

	it('the courier: is said to be away until it beats, and its ways to be down until they work', async () => {
		expect(await courierStatus(school.db)).to.deep.equal({
			atWork: false,
			down: [],
			held: false
		});
		await school.db.run(
			'INSERT INTO courier (id, instance, fence, beats, pid, beat_at, job_at) VALUES (1, $i, 1, 1, 1, $at, 0)',
			{
				i: 'x',
				at: Date.now()
			}
		);
		await school.db.run(
			`INSERT INTO courier_way (way, working, since, why) VALUES ('email', 0, 5, 'nothing answers'), ('text', 1, 5, '')`
		);
		expect(await courierStatus(school.db)).to.deep.equal({
			atWork: true,
			down: [{ way: 'email', why: 'nothing answers', since: 5, unset: false }],
			held: false
		});
		await school.db.run('UPDATE courier SET beat_at = $at', { at: Date.now() - 9_000 });
		expect((await courierStatus(school.db)).atWork).to.equal(false);
	});

	it('People: lists addresses that fail, the newest on top, with the students they are for', async () => {
		await school.db.run(
			`UPDATE address SET failing = 'the mailbox is full', failing_since = person_id WHERE way = 'email'`
		);
		expect(
			(await failingAddresses(school.db, coordinator)).addresses.map((f) => [f.person, f.students])
		).to.deep.equal([
			['Paulo Amaro', 'Ana, Rui'],
			['Delfina Amaro', 'Ana, Rui']
		]);
	});
});

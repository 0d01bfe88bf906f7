import { expect } from 'chai';
import { setClock } from '../../../../../src/lib/server/clock';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import {
	custodyAnswerSchema,
	sayCustody,
	saySame
} from '../../../../../src/lib/server/desk/roster/answers';
import { takeBack } from '../../../../../src/lib/server/desk/roster/take-back';
import { mayTake, takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import { dayHasTurned, turnDay } from '../../../../../src/lib/server/desk/roster/turn-day';
import { coordinator, teacher, testSchool, testStart, type TestSchool } from '../../database';
import { bring, everything, look, lookAgain, testKey } from './intake';
import { smallSchool, user } from './roster-files';

/** A cell of a table of the small school, by the line's sourcedId. */
function set(
	tables: Record<string, string[][]>,
	file: string,
	id: string,
	cells: Record<string, string>
) {
	const rows = tables[file]!;
	const row = rows.find((r) => r[0] === id)!;
	for (const [name, value] of Object.entries(cells)) row[rows[0]!.indexOf(name)] = value;
	return tables;
}
const drop = (tables: Record<string, string[][]>, file: string, ...ids: string[]) => {
	tables[file] = tables[file]!.filter((r) => !ids.includes(r[0]!));
	return tables;
};
const nothing = { people: 0, contacts: 0, enrolments: 0, sections: 0, staff: 0 };

describe('a roster taken in and taken back', () => {
	let school: TestSchool;
	const one = async <T extends object>(sql: string) => (await school.db.one<T>(sql))!;
	const ana = () =>
		one<{ id: number; email: string; given: string; gone: number | null }>(
			`SELECT person.id, value AS email, given_name AS given, gone_at AS gone FROM person
			LEFT JOIN address ON person_id = person.id AND way = 'email'
			WHERE person.id = (SELECT row_id FROM known_as WHERE kind = 'person' AND key = 'u-ana')`
		);
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());

	it('a first file puts everybody down, and taking it back leaves nothing', async () => {
		const before = await everything(school.db);
		const file = await bring(school, smallSchool());
		expect(file.looked.wrong).to.equal(0);
		expect(file.looked.counts.new).to.deep.equal({
			people: 6,
			contacts: 3,
			enrolments: 3,
			// The winter term is the one that is here already.
			sections: 5,
			staff: 3
		});
		const roster = await readRoster(school.db);
		const { id } = await one<{ id: number }>(`SELECT id FROM person WHERE identifier = '4410'`);
		expect(roster.contactsOf(id).map((c) => [c.relation, c.custody])).to.deep.equal([
			['parent', null]
		]);
		expect(roster.householdsOf(id)).to.have.length(1);
		expect(await takeBack(school.db, coordinator, file.id)).to.deep.equal({ ok: true });
		expect(await everything(school.db)).to.deep.equal(before);
		expect((await takeBack(school.db, coordinator, file.id)).ok).to.equal(false);
	});

	it('the same file again changes nothing', async () => {
		await bring(school, smallSchool());
		const { counts } = (await look(school, smallSchool())).looked;
		expect(counts).to.deep.equal({ new: nothing, changed: nothing, gone: nothing });
	});

	it('only the district office brings rosters in and takes them back', async () => {
		const file = await look(school, smallSchool());
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		expect((await takeIn(house, file.id, { user: teacher, typed: null }, () => {})).ok).to.equal(
			false
		);
		await takeIn(house, file.id, { user: coordinator, typed: null }, () => {});
		expect((await takeBack(school.db, teacher, file.id)).ok).to.equal(false);
		expect((await sayCustody(school.db, teacher, file.id, { said: {}, always: true })).ok).to.equal(
			false
		);
		// Nor is it taken in twice.
		expect(
			(await takeIn(house, file.id, { user: coordinator, typed: null }, () => {})).ok
		).to.equal(false);
	});

	it('what was mended here stays, until the file itself changes it; then the file counts and both are kept', async () => {
		await bring(school, smallSchool());
		const { id } = await ana();
		await school.db.run(
			`UPDATE address SET value = 'mended@harbormail.example' WHERE person_id = ${id} AND way = 'email'`
		);
		await school.db.run(`UPDATE person SET given_name = 'Anabela' WHERE id = ${id}`);
		const moved = set(smallSchool(), 'users.csv', 'u-ana', { familyName: 'Ferreira-Reis' });
		const first = await bring(school, moved);
		expect(first.looked).to.deep.include({ disputes: 0 });
		expect(await ana()).to.include({ email: 'mended@harbormail.example', given: 'Anabela' });
		const changed = await bring(
			school,
			set(moved, 'users.csv', 'u-ana', { email: 'new@harbormail.example' })
		);
		expect(changed.looked.disputes).to.equal(1);
		expect(await ana()).to.include({ email: 'new@harbormail.example', given: 'Anabela' });
		expect(
			await school.db.all(
				`SELECT field, before, after, disputed FROM person_change WHERE person_id = ${id} ORDER BY id`
			)
		).to.deep.equal([
			{ field: 'familyName', before: 'Ferreira', after: 'Ferreira-Reis', disputed: 0 },
			{
				field: 'email',
				before: 'mended@harbormail.example',
				after: 'new@harbormail.example',
				disputed: 1
			}
		]);
		// Taken back, the mended one is there again.
		await takeBack(school.db, coordinator, changed.id);
		expect(await ana()).to.include({ email: 'mended@harbormail.example' });
	});

	it('another number has not opted in, another mailbox is not the one that failed', async () => {
		await bring(school, smallSchool());
		const { id } = await ana();
		await school.db.run(
			`UPDATE address SET consent = 'in', failing = 'full' WHERE person_id = ${id}`
		);
		await bring(
			school,
			set(smallSchool(), 'users.csv', 'u-ana', {
				sms: '+12075550188',
				email: 'ana2@harbormail.example'
			})
		);
		expect(
			await school.db.all(
				`SELECT way, value, consent, failing FROM address WHERE person_id = ${id} ORDER BY way`
			)
		).to.deep.equal([
			{ way: 'email', value: 'ana2@harbormail.example', consent: 'in', failing: null },
			{ way: 'text', value: '+12075550188', consent: 'unknown', failing: null }
		]);
	});

	it('who is gone keeps the row and comes back as who they were; a hand’s end stays', async () => {
		await bring(school, smallSchool());
		const before = await ana();
		const without = drop(smallSchool(), 'users.csv', 'u-ana', 'u-marlo');
		drop(without, 'enrollments.csv', 'e1');
		const gone = await bring(school, without);
		expect(gone.looked.counts.gone).to.deep.equal({
			...nothing,
			people: 2,
			contacts: 1,
			enrolments: 1
		});
		expect((await ana()).gone).to.be.a('number');
		expect((await readRoster(school.db)).person(before.id)).to.equal(undefined);
		const back = await bring(school, smallSchool());
		expect(back.looked.counts.new).to.deep.equal({
			...nothing,
			people: 2,
			contacts: 1,
			enrolments: 1
		});
		expect(await ana()).to.deep.equal(before);
		await school.db.run(`UPDATE person SET gone_at = 5 WHERE id = ${before.id}`);
		const { looked } = await look(
			school,
			set(smallSchool(), 'users.csv', 'u-ana', { givenName: 'A.' })
		);
		expect(looked.counts.changed.people).to.equal(0);
	});

	it('a line that is wrong leaves its thing as it is, and does not make it gone', async () => {
		await bring(school, smallSchool());
		const wrong = set(smallSchool(), 'users.csv', 'u-ana', {
			givenName: '',
			email: 'other@x.example'
		});
		const { looked } = await bring(school, wrong);
		expect(looked.wrong).to.equal(1);
		expect(looked.counts).to.deep.equal({ new: nothing, changed: nothing, gone: nothing });
		expect(await ana()).to.include({ given: 'Ana', email: 'ana@harbormail.example' });
		// One cell that is wrong leaves what is known in its place.
		const cell = set(smallSchool(), 'users.csv', 'u-ana', { email: 'kelp garden' });
		const partly = await bring(school, cell);
		expect([partly.looked.wrong, partly.looked.partly]).to.deep.equal([0, 1]);
		expect(await ana()).to.include({ email: 'ana@harbormail.example' });
	});

	it('changes alone (delta) touch nobody else', async () => {
		await bring(school, smallSchool());
		const all = smallSchool();
		const changed = (file: string, ids: string[], cells: Record<string, string>) => {
			for (const id of ids)
				set(all, file, id, { dateLastModified: '2027-03-08T01:00:00Z', ...cells });
			all[file] = [all[file]![0]!, ...all[file]!.filter((r) => ids.includes(r[0]!))];
		};
		changed('users.csv', ['u-bao'], { status: 'active', email: 'bao@islandpost.example' });
		changed('enrollments.csv', ['e3'], { status: 'tobedeleted' });
		for (const file of ['orgs.csv', 'academicSessions.csv', 'courses.csv', 'classes.csv'])
			delete all[file];
		all['manifest.csv'] = all['manifest.csv']!.map(([name, value]) => [
			name!,
			['file.users', 'file.enrollments'].includes(name!)
				? 'delta'
				: name!.startsWith('file.')
					? 'absent'
					: value!
		]);
		const { looked } = await bring(school, all);
		expect(looked.counts).to.deep.equal({
			new: nothing,
			changed: { ...nothing, people: 1 },
			gone: { ...nothing, enrolments: 1 }
		});
	});

	it('too much at once has to be typed', async () => {
		const all = smallSchool();
		for (let i = 0; i < 40; i += 1) {
			all['users.csv']!.push(
				all['users.csv']![0]!.map(
					(name) =>
						(user(`s${i}`, 'student', 'Student', `No ${i}`) as Record<string, string>)[name] ?? ''
				)
			);
		}
		await bring(school, all);
		const fewer = await look(school, drop(all, 'users.csv', 's1', 's2', 's3', 's4', 's5', 's6'));
		const taker = { user: coordinator, typed: null };
		const refused = mayTake(fewer.looked, taker);
		expect(refused.ok ? '' : refused.why).to.equal(
			'6 of 42 students would go or change, over 10 % at once. If that is meant, type 6.'
		);
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		expect((await takeIn(house, fewer.id, { ...taker, typed: 5 }, () => {})).ok).to.equal(false);
		expect((await takeIn(house, fewer.id, { ...taker, typed: 6 }, () => {})).ok).to.equal(true);
	});

	it('what changed after it was looked at has it looked at again; nothing comes in', async () => {
		const file = await look(school, smallSchool());
		await school.db.write(async (tx) => {
			await tx.run(`UPDATE person SET given_name = 'X' WHERE id = 1`);
			await tx.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
		});
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		const taken = await takeIn(house, file.id, { user: coordinator, typed: null }, () => {});
		expect(taken.ok ? '' : taken.why).to.match(/changed since this was looked at/);
		expect(await one(`SELECT state FROM roster_file WHERE id = ${file.id}`)).to.deep.equal({
			state: 'looking'
		});
		expect(await one('SELECT count(*) AS n FROM known_as')).to.deep.equal({ n: 0 });
		const again = await lookAgain(school, file.id);
		expect(again.row.state).to.equal('looked');
	});

	it('custody is what somebody says, for a relation, for this file or for all that follow', async () => {
		const file = await look(school, smallSchool());
		expect(file.looked.unsaid).to.deep.equal([{ relation: 'parent', contacts: 2 }]);
		const answer = custodyAnswerSchema.parse({
			said: { parent: 'yes', relative: 'no' },
			always: true
		});
		await sayCustody(school.db, coordinator, file.id, answer);
		const said = await lookAgain(school, file.id);
		expect(said.looked.unsaid).to.deep.equal([]);
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		await takeIn(house, file.id, { user: coordinator, typed: null }, () => {});
		expect(
			await school.db.all(
				`SELECT relation, custody FROM contact WHERE since IS NOT NULL ORDER BY relation, person_id`
			)
		).to.deep.equal([
			{ relation: 'parent', custody: 1 },
			{ relation: 'parent', custody: 1 },
			{ relation: 'relative', custody: 0 }
		]);
	});

	it('the district’s own number tells the same; the same name and mailbox is asked about', async () => {
		await school.db.run(`UPDATE person SET identifier = '4410' WHERE id = 1`);
		const all = set(smallSchool(), 'users.csv', 'u-ana', {
			givenName: 'Delfina',
			familyName: 'AMARO',
			email: 'Home@harbormail.example'
		});
		const file = await look(school, all);
		expect(file.looked.counts.new.people).to.equal(5);
		expect(file.looked.questions).to.equal(1);
		await saySame(school.db, coordinator, file.id, [{ key: 'u-ana', personId: 10, same: true }]);
		const again = await lookAgain(school, file.id);
		expect([again.looked.questions, again.looked.counts.new.people]).to.deep.equal([0, 4]);
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		await takeIn(house, file.id, { user: coordinator, typed: null }, () => {});
		const roster = await readRoster(school.db);
		expect(roster.person(1)).to.include({ givenName: 'Marlo', language: 'pt' });
		expect(roster.contactsOf(1).map((c) => [c.personId, c.relation, c.custody])).to.deep.equal([
			// What was known of the tie says more than the file.
			[10, 'mother', true],
			[11, 'father', true]
		]);
	});

	it('a new day: what begins comes in, what ends goes, and taking the file back undoes that too', async () => {
		const dated = set(smallSchool(), 'enrollments.csv', 'e3', { beginDate: '2027-03-11' });
		set(dated, 'enrollments.csv', 'e1', { endDate: '2027-03-10' });
		const before = await everything(school.db);
		const file = await bring(school, dated);
		const sections = async () =>
			(
				await school.db.all<{ name: string; family: string }>(
					`SELECT section.name, family_name AS family FROM enrolment_now AS enrolment
					JOIN section ON section.id = section_id JOIN person ON person.id = student_id
					WHERE enrolment.since IS NOT NULL ORDER BY section.name, family_name`
				)
			).map((r) => `${r.name} ${r.family}`);
		expect(await sections()).to.deep.equal(['Homeroom 4-A Ferreira', 'Homeroom 4-A Pham']);
		expect(await dayHasTurned(school.db)).to.equal(false);
		for (const [day, there] of [
			[1, ['Homeroom 4-A Pham']],
			[2, ['Boats 1-A Pham', 'Homeroom 4-A Pham']]
		] as const) {
			await setClock(school.db, testStart + day * 86_400_000);
			expect(await dayHasTurned(school.db)).to.equal(true);
			expect(await turnDay({ db: school.db, key: testKey })).to.equal(1);
			expect(await sections()).to.deep.equal(there);
			expect(await dayHasTurned(school.db)).to.equal(false);
		}
		await takeBack(school.db, coordinator, file.id);
		expect(await everything(school.db)).to.deep.equal(before);
	});

	it('taken back: what a hand has changed since stays, who was written to since has gone, others leave no trace', async () => {
		const file = await bring(school, smallSchool());
		const { id } = await ana();
		await school.db.run(
			`INSERT INTO person_change (at, by_id, person_id, field) VALUES (1, 90, ${id}, 'givenName')`
		);
		const second = await bring(
			school,
			set(smallSchool(), 'users.csv', 'u-bao', { givenName: 'Bảo', email: 'b2@ferrynet.example' })
		);
		await school.db.run(`UPDATE person SET given_name = 'By hand' WHERE given_name = 'Bảo'`);
		await takeBack(school.db, coordinator, second.id);
		expect(
			await one(
				`SELECT given_name AS given, value FROM person JOIN address ON person_id = person.id WHERE given_name = 'By hand'`
			)
		).to.deep.equal({ given: 'By hand', value: 'b.pham@ferrynet.example' });
		// Only the newest of a source can be taken back.
		expect((await takeBack(school.db, coordinator, file.id)).ok).to.equal(false);
	});

	it('somebody who is named by something else stays and has gone; the next file finds them again', async () => {
		const file = await bring(school, smallSchool());
		const { id } = await ana();
		await school.db.run(
			`INSERT INTO person_change (at, by_id, person_id, field) VALUES (1, 90, ${id}, 'note')`
		);
		await takeBack(school.db, coordinator, file.id);
		expect((await ana()).gone).to.be.a('number');
		expect(
			await one(`SELECT count(*) AS n FROM person WHERE family_name = 'Pham' AND id > 100`)
		).to.deep.equal({ n: 0 });
		await bring(school, smallSchool());
		expect(await ana()).to.include({ id, gone: null });
	});
});

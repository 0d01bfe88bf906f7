import { expect } from 'chai';
import fc from 'fast-check';
import { emptyBook } from '../../../../../src/lib/core/format/oneroster/book';
import { lookUp } from '../../../../../src/lib/core/format/oneroster/look-up';
import { thingsOf } from '../../../../../src/lib/core/roster/from-oneroster';
import type { Db } from '../../../../../src/lib/server/db/open';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { readOneRoster } from '../../../../../src/lib/server/reading/roster/oneroster';
import { partsIn } from '../../../../../src/lib/server/reading/roster/parts';
import { takeBack } from '../../../../../src/lib/server/desk/roster/take-back';
import { coordinator, testSchool, type TestSchool } from '../../database';
import { bring, everything, look } from './intake';
import { smallSchool, user } from './roster-files';

/**
 * Rosters of a small district: which of some people, classes and enrolments there are, and what is said of
 * them. What names what is not there is wrong, and stays out: that belongs to it.
 */
const students = ['a', 'b', 'c', 'd', 'e'];
const adults = ['m', 'f', 'g', 't'];
const roster = fc
	.record({
		students: fc.subarray(students, { minLength: 1 }),
		adults: fc.subarray(adults),
		agents: fc.array(fc.constantFrom('m', 'f', 'g', 't', 'm,f', ''), {
			minLength: 5,
			maxLength: 5
		}),
		names: fc.array(fc.constantFrom('Amaro', 'Pham', 'Reis'), { minLength: 9, maxLength: 9 }),
		mails: fc.array(fc.constantFrom('x@x.example', 'y@x.example', ''), {
			minLength: 4,
			maxLength: 4
		}),
		roles: fc.array(fc.constantFrom('parent', 'guardian', 'teacher', 'relative'), {
			minLength: 4,
			maxLength: 4
		}),
		classes: fc.subarray(['s-4a', 's-boats']),
		ends: fc.constantFrom('', '2027-03-09', '2027-03-20'),
		/** Whether lines are left in that name what is not there. */
		sound: fc.boolean(),
		enrolled: fc.subarray(
			students
				.flatMap((s) => [`s-4a ${s} student`, `s-boats ${s} student`])
				.concat('s-4a t teacher')
		)
	})
	.map((r) => {
		const all = smallSchool();
		const there = (ids: string) =>
			r.sound
				? ids
						.split(',')
						.filter((id) => (r.adults as string[]).includes(id))
						.join(',')
				: ids;
		const [heading] = all['users.csv']!;
		const line = (cells: Record<string, string>) => heading!.map((name) => cells[name] ?? '');
		all['users.csv'] = [
			heading!,
			...r.students.map((id) => {
				const i = students.indexOf(id);
				return line(
					user(id, 'student', 'S', r.names[i]!, { agentSourcedIds: there(r.agents[i]!) })
				);
			}),
			...r.adults.map((id) => {
				const i = adults.indexOf(id);
				return line(user(id, r.roles[i]!, 'A', r.names[5 + i]!, { email: r.mails[i]! }));
			})
		];
		all['classes.csv'] = all['classes.csv']!.filter((c, i) => i === 0 || r.classes.includes(c[0]!));
		all['enrollments.csv'] = [
			all['enrollments.csv']![0]!,
			...r.enrolled
				.filter((e) => {
					const [section, person] = e.split(' ') as [string, string];
					const people: string[] = [...r.students, ...r.adults];
					return !r.sound || (r.classes.includes(section) && people.includes(person));
				})
				.map((e, i) => {
					const [section, person, role] = e.split(' ') as [string, string, string];
					return [e, '', '', section, 'o-heron', person, role, '', '', i % 2 === 0 ? r.ends : ''];
				})
		];
		return all;
	});

/** What is here of the source, in its own names. */
async function heldHere(db: Db): Promise<Record<string, string[]>> {
	const lines = async (sql: string) =>
		(await db.all<{ line: string }>(sql)).map((r) => r.line).sort();
	const key = (kind: string, id: string) =>
		`(SELECT key FROM known_as WHERE kind = '${kind}' AND row_id = ${id})`;
	const known = (kind: string, id: string) =>
		`${id} IN (SELECT row_id FROM known_as WHERE kind = '${kind}')`;
	return {
		people: await lines(
			`SELECT ${key('person', 'person.id')} || ' ' || kind || ' ' || family_name || ' ' ||
				coalesce((SELECT value FROM address WHERE person_id = person.id AND way = 'email'), '') AS line
			FROM person_now AS person WHERE ${known('person', 'person.id')}`
		),
		contacts: await lines(
			`SELECT ${key('person', 'student_id')} || ' ' || ${key('person', 'person_id')} || ' ' || relation AS line
			FROM contact_now WHERE ${known('person', 'student_id')}`
		),
		sections: await lines(
			`SELECT ${key('section', 'section.id')} AS line FROM section_now AS section WHERE ${known('section', 'section.id')}`
		),
		enrolments: await lines(
			`SELECT ${key('section', 'section_id')} || ' ' || ${key('person', 'student_id')} AS line
			FROM enrolment_now WHERE ${known('section', 'section_id')}`
		),
		sectionStaff: await lines(
			`SELECT ${key('section', 'section_id')} || ' ' || ${key('person', 'person_id')} AS line
			FROM section_staff WHERE ${known('section', 'section_id')}`
		),
		householdMember: await lines(
			`SELECT ${key('household', 'household_id')} || ' ' || ${key('person', 'person_id')} AS line
			FROM household_member WHERE ${known('household', 'household_id')}`
		)
	};
}

/** What a file says by itself, whatever came before it. */
async function saidIn(folder: string, fileId: number): Promise<Record<string, string[]>> {
	const { came } = await readOneRoster(await partsIn(tablesFolder(folder, fileId)), 'US');
	const things = thingsOf(lookUp(emptyBook(), came).book, '2027-03-09');
	const lines = <T>(all: ReadonlyMap<string, T>, line: (thing: T, key: string) => string) =>
		[...all].map(([key, thing]) => line(thing, key)).sort();
	return {
		people: lines(things.person, (p, k) => `${k} ${p.kind} ${p.familyName} ${p.email ?? ''}`),
		contacts: lines(things.contact, (c) => `${c.student} ${c.person} ${c.relation}`),
		sections: lines(things.section, (_, k) => k),
		enrolments: lines(things.enrolment, (e) => `${e.section} ${e.student}`),
		sectionStaff: lines(things.sectionStaff, (t) => `${t.section} ${t.person}`),
		householdMember: lines(things.householdMember, (l) => `${l.household} ${l.person}`)
	};
}

describe('any two rosters, one after the other', () => {
	let school: TestSchool;
	before(async () => {
		school = await testSchool();
	});
	after(() => school.close());

	it('the second leaves nothing to be done, and taken back everything is as it was (200 pairs)', async () => {
		let whole = 0;
		await fc.assert(
			fc.asyncProperty(roster, roster, async (first, second) => {
				const all = 10_000;
				// However much goes at once: that is another matter.
				await school.db.run('UPDATE roster_source SET most_share = 1');
				await bring(school, first, all);
				const before = await everything(school.db);
				const file = await bring(school, second, all);
				const { counts, homes } = (await look(school, second)).looked;
				for (const what of ['new', 'changed', 'gone'] as const)
					expect(counts[what], what).to.deep.equal({
						people: 0,
						contacts: 0,
						enrolments: 0,
						sections: 0,
						staff: 0
					});
				expect(homes).to.equal(0);
				// Where nothing had to stay out, what is here is what the file alone comes to.
				if (file.looked.wrong + file.looked.partly === 0) {
					whole += 1;
					expect(await heldHere(school.db)).to.deep.equal(await saidIn(school.folder, file.id));
				}
				expect(await takeBack(school.db, coordinator, file.id)).to.deep.equal({ ok: true });
				expect(await everything(school.db)).to.deep.equal(before);
			}),
			{ numRuns: 200, seed: 2027, endOnFailure: true }
		);
		expect(whole).to.be.above(40);
	});
});

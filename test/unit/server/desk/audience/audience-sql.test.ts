import { expect } from 'chai';
import {
	audienceSchema,
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type Condition,
	type MeantKind,
	type People,
	type StudentSet
} from '../../../../../src/lib/core/audience/audience';
import { resolveAudience } from '../../../../../src/lib/core/audience/resolve';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import type { Random } from '../../../../../demo/random';
import { permitted } from '../../../../../src/lib/server/desk/audience/permitted';
import { draws } from '../../../random';
import { coordinator, districtDatabase, type FreshDatabase } from '../../database';

/**
 * The same audiences computed a second time by SQL that is written for this test alone and shares
 * nothing with the index or the resolver.
 */
const list = (ids: readonly (number | string)[]) =>
	`(${ids.map((i) => (typeof i === 'number' ? i : `'${i}'`)).join(', ') || 'NULL'})`;

function studentsSql(set: StudentSet): string {
	switch (set.kind) {
		case 'sections':
			return `SELECT student_id AS s FROM enrolment WHERE section_id IN ${list(set.ids)}`;
		case 'courses':
			return `SELECT student_id AS s FROM enrolment JOIN section ON section.id = section_id WHERE course_id IN ${list(set.ids)} AND term_id = ${set.termId}`;
		case 'terms':
			return `SELECT student_id AS s FROM enrolment JOIN section ON section.id = section_id WHERE term_id IN ${list(set.ids)}`;
		case 'schools':
			return `SELECT id AS s FROM person WHERE kind = 'student' AND school_id IN ${list(set.ids)}`;
		case 'grades':
			return `SELECT id AS s FROM person WHERE kind = 'student' AND grade_level IN ${list(set.levels)}`;
		case 'groups':
			return `SELECT person_id AS s FROM group_member WHERE group_id IN ${list(set.ids)}`;
		case 'students':
			return `SELECT id AS s FROM person WHERE kind = 'student' AND id IN ${list(set.ids)}`;
		case 'uncovered':
			throw new Error('not drawn here');
		case 'any':
			return (
				set.of.map((p) => `SELECT s FROM (${studentsSql(p)})`).join(' UNION ') ||
				'SELECT NULL AS s WHERE 0'
			);
		case 'all':
			return (
				set.of.map((p) => `SELECT s FROM (${studentsSql(p)})`).join(' INTERSECT ') ||
				'SELECT NULL AS s WHERE 0'
			);
		case 'except':
			return `SELECT s FROM (${studentsSql(set.from)}) EXCEPT SELECT s FROM (${studentsSql(set.minus)})`;
	}
}

function pairsSql(to: MeantKind, students: string): string {
	const contact = (where: string) =>
		`SELECT person_id AS p, student_id AS s FROM contact WHERE student_id IN (${students}) AND ${where}`;
	switch (to.kind) {
		case 'students':
			return `SELECT s AS p, s FROM (${students})`;
		case 'guardians':
			return contact('guardian AND custody AND correspondence');
		case 'all-guardians':
			return contact('guardian');
		case 'relation':
			return contact(`relation = '${to.relation}' AND custody AND correspondence`);
		case 'emergency':
			return contact('emergency');
		case 'other-contacts':
			return contact('NOT guardian AND NOT emergency');
		case 'section-staff':
			throw new Error('not drawn here');
	}
}

function conditionSql(c: Condition): string {
	switch (c.kind) {
		case 'language':
			return `(SELECT language FROM person WHERE id = p) IN ${list(c.tags)}`;
		case 'email':
			return `${c.works ? '' : 'NOT '}EXISTS (SELECT 1 FROM address WHERE person_id = p AND way = 'email' AND failing IS NULL)`;
		case 'text':
			return `${c.optedIn ? '' : 'NOT '}EXISTS (SELECT 1 FROM address WHERE person_id = p AND way = 'text' AND consent = 'in')`;
		case 'household':
			return `${c.shared ? '' : 'NOT '}EXISTS (SELECT 1 FROM household_member AS a JOIN household_member AS b USING (household_id) WHERE a.person_id = p AND b.person_id = s)`;
		case 'marker': {
			const value = `(SELECT value FROM marked WHERE marker_id = ${c.markerId} AND student_id = s)`;
			const { is } = c;
			if ('value' in is) return `${value} = '${is.value}' COLLATE NOCASE`;
			return 'day' in is
				? `${value} ${is.test === 'before' ? '<' : '>='} '${is.day}'`
				: `s IS NOT NULL AND ${value} IS ${is.test === 'has' ? 'NOT ' : ''}NULL`;
		}
		case 'outcome':
		case 'coming':
			throw new Error('not drawn here');
	}
}

function peopleSql(people: People): string {
	switch (people.kind) {
		case 'staff':
			return `SELECT person_id AS p, NULL AS s FROM staff WHERE
				${people.roles.length ? `role IN ${list(people.roles)}` : '1'} AND ${people.schoolIds.length ? `school_id IN ${list(people.schoolIds)}` : '1'}`;
		case 'named':
			return `SELECT id AS p, NULL AS s FROM person WHERE id IN ${list(people.ids)}`;
		case 'joined':
		case 'list':
			throw new Error('not drawn here');
	}
}

const audienceSql = (a: Audience): string =>
	a.lines.reduce((before, line) => {
		if (isPeopleLine(line)) {
			const found = `SELECT p FROM (${peopleSql(line.people)}) WHERE 1${line.only.map((c) => ` AND ${conditionSql(c)}`).join('')}`;
			// Someone picked for themselves is taken out for everyone, and is in for no student.
			return line.verb === 'and'
				? `SELECT p, s FROM (${before}) UNION SELECT p, NULL FROM (${found})`
				: `SELECT p, s FROM (${before}) WHERE p NOT IN (${found})`;
		}
		const students = studentsSql(line.of);
		const only = line.only.map((c) => ` AND ${conditionSql(c)}`).join('');
		const pairs = line.to
			.map((t) => `SELECT p, s FROM (${pairsSql(t, students)}) WHERE 1${only}`)
			.join(' UNION ');
		return `SELECT p, s FROM (${before}) ${line.verb === 'and' ? 'UNION' : 'EXCEPT'} SELECT p, s FROM (${pairs})`;
	}, 'SELECT NULL AS p, NULL AS s WHERE 0');

function drawSet(r: Random, depth: number): StudentSet {
	const ids = (most: number, max: number) =>
		Array.from({ length: r.int(0, most) }, () => r.int(1, max));
	if (depth > 0 && r.chance(0.45)) {
		if (r.chance(0.3))
			return { kind: 'except', from: drawSet(r, depth - 1), minus: drawSet(r, depth - 1) };
		return {
			kind: r.pick(['any', 'all'] as const),
			of: Array.from({ length: r.int(0, 3) }, () => drawSet(r, depth - 1))
		};
	}
	switch (r.int(0, 6)) {
		case 0:
			return { kind: 'sections', ids: ids(6, 120) };
		case 1:
			return { kind: 'courses', ids: ids(5, 64), termId: r.int(1, 3) };
		case 2:
			return { kind: 'terms', ids: ids(2, 4) };
		case 3:
			return { kind: 'schools', ids: ids(2, 4) };
		case 4:
			return {
				kind: 'grades',
				levels: Array.from({ length: r.int(0, 4) }, () =>
					r.pick(['K', '1', '4', '7', '9', '12', '13'])
				)
			};
		case 5:
			return { kind: 'groups', ids: ids(3, 8) };
		default:
			return { kind: 'students', ids: ids(9, 2300) };
	}
}

function drawAudience(r: Random): Audience {
	const kinds: MeantKind[] = [
		{ kind: 'students' },
		{ kind: 'guardians' },
		{ kind: 'all-guardians' },
		{ kind: 'emergency' },
		{ kind: 'other-contacts' },
		{ kind: 'relation', relation: 'mother' },
		{ kind: 'relation', relation: 'grandmother' }
	];
	const conditions: Condition[] = [
		{ kind: 'language', tags: ['pt', 'vi'] },
		{ kind: 'language', tags: ['en'] },
		{ kind: 'email', works: true },
		{ kind: 'email', works: false },
		{ kind: 'text', optedIn: true },
		{ kind: 'text', optedIn: false },
		{ kind: 'household', shared: true },
		{ kind: 'household', shared: false },
		{ kind: 'marker', markerId: 1, is: { test: 'has' } },
		{ kind: 'marker', markerId: 1, is: { test: 'lacks' } },
		{ kind: 'marker', markerId: 2, is: { test: 'is', value: 'Red' } },
		{ kind: 'marker', markerId: 3, is: { test: 'before', day: '2027-06-15' } },
		{ kind: 'marker', markerId: 3, is: { test: 'from', day: '2027-06-15' } }
	];
	const people = (): People =>
		r.chance(0.5)
			? {
					kind: 'staff',
					roles: r.shuffle(['teacher', 'aide', 'school office', 'pilot']).slice(0, r.int(0, 2)),
					schoolIds: r.shuffle([1, 2, 3, 4]).slice(0, r.int(0, 2))
				}
			: { kind: 'named', ids: Array.from({ length: r.int(0, 40) }, () => r.int(1, 2000)) };
	return {
		version: 2,
		lines: Array.from({ length: r.int(1, 4) }, (_, i): AudienceLine => {
			const verb = i > 0 && r.chance(0.4) ? 'but-not' : 'and';
			const only = r.chance(0.4) ? [r.pick(conditions)] : [];
			return r.chance(0.2)
				? { verb, people: people(), only }
				: { verb, to: r.shuffle(kinds).slice(0, r.int(1, 3)), of: drawSet(r, 3), only };
		}),
		byHand: []
	};
}

describe('audiences against independent SQL', () => {
	let district: FreshDatabase;
	before(async () => {
		district = await districtDatabase(11);
		await district.db.write(async (tx) => {
			// Every other student has the first marker, one in three is red or green by the second, and every fourth has a day.
			await tx.run(`INSERT INTO marker (id, name, kind, made_by, made_at) VALUES
				(1, 'museum slip', 'yes-no', 1, 0), (2, 'bus', 'text', 1, 0), (3, 'passport', 'date', 1, 0)`);
			for (const [marker, value, every] of [
				[1, `'yes'`, 2],
				[2, `CASE id % 2 WHEN 0 THEN 'red' ELSE 'green' END`, 3],
				[3, `CASE id % 8 WHEN 0 THEN '2027-06-14' ELSE '2027-06-15' END`, 4]
			] as const)
				await tx.run(`INSERT INTO marked (marker_id, student_id, value, how, since, by_id)
					SELECT ${marker}, id, ${value}, 'list', 0, 1 FROM person WHERE kind = 'student' AND id % ${every} = 0`);
		});
	});
	after(() => district.close());

	it('come to the same pairs of person and student, over 300 random expressions', async () => {
		const { db } = district;
		const roster = await readRoster(db);
		const r = draws(12);
		let several = 0;
		for (let i = 0; i < 300; i += 1) {
			const audience = drawAudience(r);
			expect(audienceSchema.safeParse(audience).success).to.equal(true);
			const { facts } = await permitted(db, coordinator, audience);
			const ours = resolveAudience(roster, audience, facts)
				.meant.flatMap((m) => m.because.map((b) => `${m.personId} for ${b.studentId}`))
				.sort();
			const theirs = (await db.all<{ p: number; s: number }>(audienceSql(audience)))
				.map((x) => `${x.p} for ${x.s}`)
				.sort();
			expect(ours, JSON.stringify(audience)).to.deep.equal(theirs);
			if (ours.length > 20) several += 1;
		}
		// The draw is only worth something if most audiences come to somebody.
		expect(several).to.be.above(120);
	});
});

import { expect } from 'chai';
import {
	audienceOf,
	audienceSchema,
	type Audience,
	type AudienceLine,
	type ComingState,
	type MeantKind,
	type StudentLine,
	type StudentSet
} from '../../../../src/lib/core/audience/audience';
import { noFacts, type Facts } from '../../../../src/lib/core/audience/facts';
import { resolveAudience } from '../../../../src/lib/core/audience/resolve';
import {
	audienceWords,
	type Name,
	type NameBook
} from '../../../../src/lib/core/audience/sentence';
import { nameOf, relationPhrase } from '../../../../src/lib/core/roster/relation';
import { familyRoster } from '../fixture';

const line = (over: Partial<StudentLine>): StudentLine => ({
	verb: 'and',
	to: [{ kind: 'guardians' }],
	of: { kind: 'sections', ids: [101] },
	only: [],
	...over
});
const audience = (lines: AudienceLine[], byHand: Audience['byHand'] = []): Audience => ({
	version: 2,
	lines,
	byHand
});
const people = (a: Audience) =>
	resolveAudience(familyRoster, a)
		.meant.map((m) => m.personId)
		.sort((x, y) => x - y);
const to = (...kinds: MeantKind['kind'][]) => kinds.map((kind) => ({ kind }) as MeantKind);

describe('an audience', () => {
	it('brings in by default guardians with custody and correspondence only (common practice)', () => {
		expect(people(audience([line({})]))).to.deep.equal([10, 11, 13]);
	});

	it('brings in emergency contacts, other relations and staff only where they are asked for', () => {
		expect(people(audience([line({ to: to('emergency') })]))).to.deep.equal([12]);
		expect(
			people(audience([line({ to: [{ kind: 'relation', relation: 'father' }] })]))
		).to.deep.equal([11, 13]);
		expect(people(audience([line({ to: to('section-staff') })]))).to.deep.equal([14]);
		expect(people(audience([line({ to: to('students') })]))).to.deep.equal([1, 2, 3]);
	});

	it('reaches guardians without custody only through all guardians', () => {
		const rui: StudentSet = { kind: 'students', ids: [2] };
		expect(people(audience([line({ of: rui })]))).to.deep.equal([10]);
		expect(people(audience([line({ of: rui, to: to('all-guardians') })]))).to.deep.equal([10, 11]);
		const resolved = resolveAudience(familyRoster, audience([line({ of: rui })]));
		expect(resolved.excluded).to.deep.equal([
			{ personId: 11, studentId: 2, reason: { code: 'no-custody' } }
		]);
		// Meant by another line for the same student, they are not passed over.
		const both = resolveAudience(
			familyRoster,
			audience([line({ of: rui }), line({ of: rui, to: to('all-guardians') })])
		);
		expect(both.excluded).to.deep.equal([]);
	});

	it('takes people out again for the students of a but-not line, and leaves them in for the others', () => {
		const a = audience([line({}), line({ verb: 'but-not', of: { kind: 'groups', ids: [50] } })]);
		const resolved = resolveAudience(familyRoster, a);
		expect(resolved.students).to.deep.equal([1]);
		expect(
			resolved.meant.map((m) => [m.personId, m.because.map((b) => b.studentId)])
		).to.deep.equal([
			[10, [1]],
			[11, [1]]
		]);
		expect(resolved.byLine.map((l) => l.people)).to.deep.equal([3, 2]);
	});

	it('keeps to its conditions', () => {
		expect(people(audience([line({ only: [{ kind: 'text', optedIn: true }] })]))).to.deep.equal([
			10
		]);
		expect(people(audience([line({ only: [{ kind: 'text', optedIn: false }] })]))).to.deep.equal([
			11, 13
		]);
		expect(
			people(
				audience([
					line({
						only: [
							{ kind: 'language', tags: ['pt'] },
							{ kind: 'email', works: true }
						]
					})
				])
			)
		).to.deep.equal([10, 11, 13]);
		expect(people(audience([line({ only: [{ kind: 'language', tags: ['p'] }] })]))).to.deep.equal(
			[]
		);
	});

	it('tells who shares a household with the student from who lives elsewhere', () => {
		const home = (shared: boolean) => line({ only: [{ kind: 'household', shared }] });
		// Ana has two homes, Rui one: their father lives in hers and not in his.
		expect(people(audience([home(true)]))).to.deep.equal([10, 11]);
		const ruis = line({
			of: { kind: 'students', ids: [2] },
			to: to('all-guardians'),
			only: [{ kind: 'household', shared: false }]
		});
		expect(people(audience([ruis]))).to.deep.equal([11]);
	});

	it('counts with conditions only the students who have somebody that fits, without them all', () => {
		const resolved = (only: AudienceLine['only']) =>
			resolveAudience(familyRoster, audience([line({ only })]));
		expect(resolved([{ kind: 'text', optedIn: true }]).students).to.deep.equal([1, 2]);
		expect(resolved([]).students).to.deep.equal([1, 2, 3]);
	});

	it('takes in staff by role and school, and people by name, for themselves', () => {
		const staff = (roles: string[], schoolIds: number[]): AudienceLine => ({
			verb: 'and',
			people: { kind: 'staff', roles, schoolIds },
			only: []
		});
		expect(people(audience([staff([], [])]))).to.deep.equal([14, 15, 16]);
		expect(people(audience([staff(['teacher'], [])]))).to.deep.equal([14, 15]);
		expect(people(audience([staff(['teacher'], [2])]))).to.deep.equal([15]);
		expect(people(audience([staff(['aide'], [1])]))).to.deep.equal([]);
		const named: AudienceLine = { verb: 'and', people: { kind: 'named', ids: [13, 12] }, only: [] };
		const resolved = resolveAudience(familyRoster, audience([named]));
		expect(resolved.students).to.deep.equal([]);
		expect(resolved.meant[0]!.because[0]).to.include({ studentId: null, as: 'name', word: null });
		const without: AudienceLine = {
			verb: 'but-not',
			people: { kind: 'named', ids: [10] },
			only: []
		};
		expect(people(audience([line({}), without]))).to.deep.equal([11, 13]);
	});

	it('asks about an earlier dispatch: students it does not cover, people who have not read it', () => {
		const facts: Facts = {
			...noFacts,
			uncovered: (id) => (id === 7 ? [2, 3] : []),
			hasRead: (id, personId) => id === 7 && personId === 10
		};
		const resolve = (l: AudienceLine) => resolveAudience(familyRoster, audience([l]), facts);
		const chase = resolve(line({ of: { kind: 'uncovered', ids: [7] } }));
		expect(chase.students).to.deep.equal([2, 3]);
		const unread = resolve(line({ only: [{ kind: 'outcome', dispatchId: 7, read: false }] }));
		expect(unread.meant.map((m) => m.personId)).to.deep.equal([11, 13]);
		expect(unread.students).to.deep.equal([1, 2, 3]);
	});

	it('asks how somebody stands with an invitation: who has said nothing has not answered', () => {
		const facts: Facts = {
			...noFacts,
			coming: (id, personId) => (id === 7 && personId === 10 ? 'comes' : 'unsaid')
		};
		const peopleOf = (is: ComingState, dispatchId = 7) =>
			resolveAudience(
				familyRoster,
				audience([line({ only: [{ kind: 'coming', dispatchId, is }] })]),
				facts
			).meant.map((m) => m.personId);
		expect(peopleOf('comes')).to.deep.equal([10]);
		expect(peopleOf('unsaid')).to.deep.equal([11, 13]);
		expect(peopleOf('waits')).to.deep.equal([]);
		expect(peopleOf('unsaid', 8)).to.deep.equal([10, 11, 13]);
	});

	it('uses a fixed list as it was kept, but not against custody that has been lost since', () => {
		const entries = [
			{ personId: 10, studentId: 1, explicit: false },
			// The father has no custody of Rui: kept before that, and by explicit choice.
			{ personId: 11, studentId: 2, explicit: false },
			{ personId: 12, studentId: 1, explicit: true },
			{ personId: 13, studentId: 1, explicit: false },
			{ personId: 14, studentId: 3, explicit: false },
			{ personId: 16, studentId: null, explicit: false }
		];
		const facts: Facts = { ...noFacts, list: (id) => (id === 3 ? entries : undefined) };
		const list = (keptId: number): AudienceLine => ({
			verb: 'and',
			people: { kind: 'list', keptId },
			only: []
		});
		const resolved = resolveAudience(familyRoster, audience([list(3)]), facts);
		expect(resolved.meant.map((m) => m.personId)).to.deep.equal([10, 12, 14, 16]);
		expect(resolved.excluded.map((e) => [e.personId, e.reason.code])).to.deep.equal([
			[11, 'no-custody'],
			[13, 'no-longer-tied']
		]);
		expect(resolveAudience(familyRoster, audience([list(4)]), facts).meant).to.deep.equal([]);
	});

	it('says which lines mean the same person for the same student, and counts them', () => {
		const drama = line({});
		const maths = line({ of: { kind: 'sections', ids: [100] } });
		const resolved = resolveAudience(familyRoster, audience([drama, maths]));
		expect(resolved.byLine).to.deep.equal([
			{ people: 3, already: 0 },
			{ people: 2, already: 2 }
		]);
		const mother = resolved.meant.find((m) => m.personId === 10)!;
		expect(mother.because.map((b) => [b.studentId, b.line, b.also])).to.deep.equal([
			[1, 0, [1]],
			[2, 0, []]
		]);
	});

	it('lets a hand outweigh every line, and says so', () => {
		const hand = (personId: number, way: 'in' | 'out') => ({
			personId,
			way,
			by: 'Maren Quill',
			at: 0
		});
		const resolved = resolveAudience(
			familyRoster,
			audience([line({})], [hand(12, 'in'), hand(10, 'out')])
		);
		expect(resolved.meant.map((m) => m.personId)).to.deep.equal([11, 13, 12]);
		expect(resolved.meant[2]!.because).to.deep.equal([
			{ studentId: null, as: 'hand', word: null, line: null, also: [] }
		]);
		expect(
			resolved.excluded.filter((e) => e.reason.code === 'by-hand').map((e) => e.studentId)
		).to.deep.equal([1, 2]);
	});

	it('comes to nobody for empty picks; all of nothing is not everyone', () => {
		for (const of of [
			{ kind: 'any', of: [] },
			{ kind: 'all', of: [] },
			{ kind: 'sections', ids: [] },
			{ kind: 'groups', ids: [999] },
			{ kind: 'students', ids: [10] }
		] as StudentSet[]) {
			expect(people(audience([line({ of })])), JSON.stringify(of)).to.deep.equal([]);
		}
	});
});

describe('what a person is to some students', () => {
	it('is said once for each relation, and by name', () => {
		expect(relationPhrase(familyRoster, 10, [1, 2])).to.equal('mother of Ana and Rui');
		expect(relationPhrase(familyRoster, 1, [1])).to.equal('student');
		expect(relationPhrase(familyRoster, 14, [3])).to.equal('teacher of Lia');
		expect(relationPhrase(familyRoster, 10, [])).to.equal('');
		expect(nameOf(familyRoster, 10)).to.equal('Delfina Amaro');
		expect(nameOf(familyRoster, 999)).to.equal('No longer on the roster');
	});
});

describe('an audience as data', () => {
	const book: NameBook = {
		nameOf: (kind, id) => names[`${kind} ${id}`],
		language: (tag) => ({ pt: 'Portuguese', vi: 'Vietnamese' })[tag] ?? tag
	};
	const plain = (name: string) => ({ name, apart: [] });
	const names: Record<string, Name> = {
		'section 100': plain('Mathematics 7-A'),
		'section 101': plain('Drama 7-A'),
		'section 102': { name: 'Diesel and Electrics', apart: ['Fall 2026'] },
		'course 1': plain('Drama 7'),
		'term 2': plain('Winter 2026–27'),
		'school 1': plain('Heron Landing'),
		'group 50': plain('North Run'),
		'person 10': plain('Delfina Amaro'),
		'person 11': { name: 'Paulo "Pip" Amaro', apart: ['#11'] },
		'dispatch 7': { name: 'Kelp walk, Friday', apart: ['#7'] },
		'list 3': plain('Crew parents')
	};

	it('reads as a sentence', () => {
		expect(audienceWords(audienceOf([100, 101]), book)).to.equal(
			'Guardians of students in Mathematics 7-A and Drama 7-A'
		);
		expect(audienceWords(audienceOf([100], ['students']), book)).to.equal(
			'Students in Mathematics 7-A'
		);
		const all = audience(
			[
				line({
					to: to('guardians', 'section-staff'),
					of: {
						kind: 'except',
						from: { kind: 'grades', levels: ['K', '1'] },
						minus: { kind: 'groups', ids: [50, 51] }
					}
				}),
				line({
					verb: 'but-not',
					of: { kind: 'schools', ids: [1] },
					only: [{ kind: 'text', optedIn: false }]
				})
			],
			[{ personId: 10, way: 'out', by: 'x', at: 0 }]
		);
		expect(audienceWords(all, book)).to.equal(
			'Guardians and teachers of students in (grade K and 1) except (group North Run and #51 (no longer there)), but not guardians of students in school Heron Landing, who have not opted in to text, without Delfina Amaro by hand'
		);
		expect(audienceWords(audienceOf([100], ['students', 'guardians']), book)).to.equal(
			'Students, and guardians of students, in Mathematics 7-A'
		);
		expect(audienceWords(audience([]), book)).to.equal('Nobody yet');
	});

	it('of version 1 is read as the present one', () => {
		const old = { version: 1, lines: [{ to: ['guardians', 'students'], sectionIds: [100] }] };
		expect(audienceSchema.parse(old)).to.deep.equal(audienceOf([100], ['guardians', 'students']));
	});

	it('is refused when broken by hand, with the place', () => {
		const bad = (value: unknown) => audienceSchema.safeParse(value).error!.issues[0]!;
		expect(bad({ version: 3, lines: [] }).path).to.deep.equal(['version']);
		expect(bad(audience([line({ to: [] })])).message).to.match(/^Choose who is meant/);
		expect(bad(audience([line({ of: { kind: 'sections', ids: [-1] } })])).path).to.deep.equal([
			'lines',
			0,
			'of',
			'ids',
			0
		]);
		expect(
			bad(audience([line({ of: { kind: 'ferries', ids: [1] } as never })])).path.slice(0, 3)
		).to.deep.equal(['lines', 0, 'of']);
		const many = Array.from({ length: 5001 }, (_, i) => i + 1);
		expect(bad(audience([line({ of: { kind: 'sections', ids: many } })])).message).to.equal(
			'A line holds 5,000 picks at most.'
		);
		let deep: StudentSet = { kind: 'sections', ids: [1] };
		for (let i = 0; i < 12; i += 1) deep = { kind: 'any', of: [deep] };
		expect(audienceSchema.safeParse(audience([line({ of: deep })])).success).to.equal(false);
	});
});

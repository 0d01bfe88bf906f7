import { expect } from 'chai';
import type {
	AudienceLine,
	Condition,
	MeantKind,
	StudentSet
} from '../../../../src/lib/core/audience/audience';
import { noFacts, type Facts } from '../../../../src/lib/core/audience/facts';
import { resolveAudience } from '../../../../src/lib/core/audience/resolve';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import { adult, email, family, phone } from '../fixture';

/** The family, with a neighbour, staff in two terms, and addresses of every kind. */
const roster = makeRoster({
	...family,
	people: [
		...family.people,
		...[14, 15, 16].map((id) => adult(id, `Staff ${id}`)),
		{ ...adult(17, 'Noor'), language: 'ar' },
		adult(18, 'Abel')
	],
	addresses: [
		...family.addresses,
		email(17, 'noor@harbormail.example', { failing: 'the mailbox does not exist' }),
		phone(18, '+12075550118')
	],
	contacts: [
		...family.contacts,
		{
			studentId: 1,
			personId: 17,
			relation: 'neighbour',
			guardian: false,
			custody: false,
			correspondence: false,
			emergency: false
		}
	],
	sections: [
		...family.sections,
		{ id: 201, courseId: 2, schoolId: 1, termId: 1, name: 'Drama 7-A' }
	],
	enrolments: [...family.enrolments, { sectionId: 201, studentId: 1 }],
	sectionStaff: [
		{ sectionId: 101, personId: 14 },
		{ sectionId: 201, personId: 15 }
	]
});

const sections = (...ids: number[]): StudentSet => ({ kind: 'sections', ids });
const resolved = (lines: AudienceLine[], facts: Facts = noFacts) =>
	resolveAudience(roster, { version: 2, lines, byHand: [] }, facts);
const line = (to: MeantKind[], of: StudentSet, only: Condition[] = []): AudienceLine => ({
	verb: 'and',
	to,
	of,
	only
});
/** "person for student, as what (the roster's word)". */
const said = (lines: AudienceLine[], facts?: Facts) =>
	resolved(lines, facts).meant.flatMap((m) =>
		m.because.map((b) => `${m.personId} for ${b.studentId}, ${b.as} (${b.word})`)
	);

describe('whom each kind comes to', () => {
	for (const [kind, wanted] of [
		['students', ['1 for 1, self (null)']],
		['guardians', ['10 for 1, contact (mother)', '11 for 1, contact (father)']],
		['all-guardians', ['10 for 1, contact (mother)', '11 for 1, contact (father)']],
		['emergency', ['12 for 1, contact (aunt)']],
		// Neither guardian nor named for emergencies.
		['other-contacts', ['17 for 1, contact (neighbour)']],
		['section-staff', ['15 for 1, teacher (null)']]
	] as const) {
		it(`${kind}, each with what they are to the student`, () => {
			expect(said([line([{ kind }], sections(201))])).to.deep.equal(wanted);
		});
	}

	it('teachers are those of the terms that were picked, and of every term where none was', () => {
		const staff = (of: StudentSet) => said([line([{ kind: 'section-staff' }], of)]);
		expect(staff(sections(100))).to.deep.equal(['14 for 1, teacher (null)']);
		expect(staff({ kind: 'courses', ids: [2], termId: 1 })).to.deep.equal([
			'15 for 1, teacher (null)'
		]);
		expect(staff({ kind: 'students', ids: [1] })).to.deep.equal([
			'14 for 1, teacher (null)',
			'15 for 1, teacher (null)'
		]);
		// Beside another kind they keep to the terms as well.
		expect(
			said([line([{ kind: 'emergency' }, { kind: 'section-staff' }], sections(201))])
		).to.deep.equal(['12 for 1, contact (aunt)', '15 for 1, teacher (null)']);
	});

	it('people who are picked for themselves are in as staff or by name', () => {
		const people = (of: Extract<AudienceLine, { people: unknown }>['people']): AudienceLine => ({
			verb: 'and',
			people: of,
			only: []
		});
		expect(said([people({ kind: 'staff', roles: ['teacher'], schoolIds: [1] })])).to.deep.equal([
			'14 for null, staff (teacher)'
		]);
		// Whoever belongs to no school is at none that was picked.
		expect(said([people({ kind: 'staff', roles: [], schoolIds: [2] })])).to.deep.equal([
			'15 for null, staff (teacher)'
		]);
		expect(said([people({ kind: 'staff', roles: [], schoolIds: [] })])).to.have.length(3);
		expect(said([people({ kind: 'named', ids: [16] })])).to.deep.equal([
			'16 for null, name (null)'
		]);
	});

	it('of a fixed list each is what they still are, or passed over', () => {
		const entries = [
			{ personId: 16, studentId: null, explicit: false },
			{ personId: 1, studentId: 1, explicit: false },
			{ personId: 10, studentId: 1, explicit: false },
			{ personId: 11, studentId: 2, explicit: false },
			{ personId: 14, studentId: 1, explicit: false },
			{ personId: 18, studentId: 1, explicit: false }
		];
		const list: AudienceLine = { verb: 'and', people: { kind: 'list', keptId: 7 }, only: [] };
		const facts: Facts = { ...noFacts, list: (id) => (id === 7 ? entries : undefined) };
		expect(said([list], facts)).to.deep.equal([
			'16 for null, name (null)',
			'1 for 1, self (null)',
			'10 for 1, contact (mother)',
			'14 for 1, teacher (null)'
		]);
		expect(resolved([list], facts).excluded).to.deep.equal([
			{ personId: 11, studentId: 2, reason: { code: 'no-custody' } },
			{ personId: 18, studentId: 1, reason: { code: 'no-longer-tied' } }
		]);
	});
});

describe('conditions on whom a line means', () => {
	const everyone: MeantKind[] = [
		{ kind: 'guardians' },
		{ kind: 'emergency' },
		{ kind: 'other-contacts' }
	];
	const who = (...only: Condition[]) =>
		resolved([line(everyone, sections(100), only)]).meant.map((m) => m.personId);

	it('a working email: one that fails is none, and a phone is none', () => {
		expect(who({ kind: 'email', works: true })).to.deep.equal([10, 11]);
		expect(who({ kind: 'email', works: false })).to.deep.equal([12, 17]);
	});

	it('opted in to text: a number by itself is not enough, and a mailbox is none', () => {
		expect(who({ kind: 'text', optedIn: true })).to.deep.equal([10, 12]);
		expect(who({ kind: 'text', optedIn: false })).to.deep.equal([11, 17]);
	});

	it('any of several languages, and all of several conditions', () => {
		expect(who({ kind: 'language', tags: ['vi', 'ar'] })).to.deep.equal([17]);
		expect(
			who({ kind: 'language', tags: ['vi', 'pt'] }, { kind: 'text', optedIn: true })
		).to.deep.equal([10, 12]);
	});

	it('who is not on the roster fits none', () => {
		const gone: AudienceLine = {
			verb: 'and',
			people: { kind: 'named', ids: [999] },
			only: [{ kind: 'email', works: false }]
		};
		expect(resolved([gone]).meant).to.deep.equal([]);
	});

	it('whoever is picked for themselves lives with no student', () => {
		const named = (shared: boolean): AudienceLine => ({
			verb: 'and',
			people: { kind: 'named', ids: [10] },
			only: [{ kind: 'household', shared }]
		});
		expect(resolved([named(true)]).meant).to.deep.equal([]);
		expect(resolved([named(false)]).meant).to.have.length(1);
	});
});

describe('students that a line drops', () => {
	it('are out by the line that takes all the kinds they were picked for, and by no other', () => {
		// Rui has no emergency contact: nobody was ever meant for him.
		const emergency: MeantKind[] = [{ kind: 'emergency' }];
		const of: StudentSet = { kind: 'students', ids: [2] };
		const drop = (to: MeantKind[], only: Condition[] = []): AudienceLine => ({
			verb: 'but-not',
			to,
			of,
			only
		});
		const takenOut = (...lines: AudienceLine[]) =>
			resolved([line(emergency, of), ...lines]).takenOut;
		expect(takenOut()).to.deep.equal([]);
		expect(takenOut(drop(emergency))).to.deep.equal([{ studentId: 2, by: 1 }]);
		expect(takenOut(drop([{ kind: 'guardians' }]))).to.deep.equal([]);
		expect(takenOut(drop(emergency, [{ kind: 'email', works: true }]))).to.deep.equal([]);
		// Of two lines that take them out the first is named; picked again they are in.
		expect(takenOut(drop([{ kind: 'guardians' }]), drop(emergency), drop(emergency))).to.deep.equal(
			[{ studentId: 2, by: 2 }]
		);
		expect(takenOut(drop(emergency), line(emergency, of))).to.deep.equal([]);
		const named: AudienceLine = {
			verb: 'but-not',
			people: { kind: 'named', ids: [10] },
			only: []
		};
		expect(takenOut(named)).to.deep.equal([]);
	});
});

import { expect } from 'chai';
import {
	audienceOf,
	audienceSchema,
	pickCount,
	picksIn,
	type Audience,
	type AudienceLine,
	type StudentSet
} from '../../../../src/lib/core/audience/audience';
import {
	dispatchesOf,
	listsOf,
	picksBringing,
	picksOf,
	sectionsOf
} from '../../../../src/lib/core/audience/named';
import { noFacts } from '../../../../src/lib/core/audience/facts';
import {
	atMost,
	studentsInSeveralTerms,
	studentsOfSet
} from '../../../../src/lib/core/audience/students';
import { termsOf } from '../../../../src/lib/core/audience/pairs';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import { family, student } from '../fixture';

/** Ana and Rui do Drama in the fall as well; Noor is at another school. */
const roster = () =>
	makeRoster({
		...family,
		people: [...family.people, { ...student(4, 'Noor'), schoolId: 2, gradeLevel: '8' }],
		sections: [
			...family.sections,
			{ id: 201, courseId: 2, schoolId: 1, termId: 1, name: 'Drama 7-A' },
			{ id: 202, courseId: 2, schoolId: 1, termId: 3, name: 'Drama 7-B' }
		],
		enrolments: [
			...family.enrolments,
			{ sectionId: 201, studentId: 1 },
			{ sectionId: 201, studentId: 4 },
			{ sectionId: 202, studentId: 2 }
		]
	});
const sections = (...ids: number[]): StudentSet => ({ kind: 'sections', ids });
const students = (...ids: number[]): StudentSet => ({ kind: 'students', ids });

describe('the students of a set', () => {
	const of = (set: StudentSet) =>
		[
			...studentsOfSet(roster(), set, { ...noFacts, uncovered: (id) => (id === 9 ? [2, 3] : []) })
		].sort((a, b) => a - b);

	for (const [set, ids] of [
		[sections(100), [1]],
		[sections(100, 201), [1, 4]],
		[sections(999), []],
		// A course is picked in one term, whatever else it is held in.
		[{ kind: 'courses', ids: [2], termId: 2 }, [1, 2, 3]],
		[{ kind: 'courses', ids: [2], termId: 1 }, [1, 4]],
		[{ kind: 'courses', ids: [1, 2], termId: 3 }, [2]],
		[{ kind: 'terms', ids: [1, 3] }, [1, 2, 4]],
		[{ kind: 'schools', ids: [2] }, [4]],
		[{ kind: 'schools', ids: [1, 2] }, [1, 2, 3, 4]],
		[{ kind: 'grades', levels: ['8'] }, [4]],
		[{ kind: 'groups', ids: [50] }, [2, 3]],
		// Only students: not their mother, not whom nobody knows.
		[students(1, 10, 999), [1]],
		[{ kind: 'uncovered', ids: [9] }, [2, 3]],
		[{ kind: 'uncovered', ids: [8] }, []],
		[{ kind: 'any', of: [sections(100), students(3)] }, [1, 3]],
		[{ kind: 'all', of: [sections(101), sections(100)] }, [1]],
		[{ kind: 'all', of: [sections(101)] }, [1, 2, 3]],
		// All of nothing is nobody.
		[{ kind: 'all', of: [] }, []],
		[{ kind: 'any', of: [] }, []],
		[{ kind: 'except', from: sections(101), minus: students(2) }, [1, 3]],
		[{ kind: 'except', from: sections(101), minus: sections(999) }, [1, 2, 3]]
	] as const satisfies readonly (readonly [unknown, readonly number[]])[]) {
		it(`${JSON.stringify(set)} is ${ids.join(', ') || 'nobody'}`, () => {
			expect(of(set as StudentSet)).to.deep.equal(ids);
			// Said beforehand, without working it out: never too few, but for those of earlier dispatches.
			const known = studentsOfSet(roster(), set as StudentSet, noFacts).size;
			expect(atMost(roster(), set as StudentSet)).to.be.at.least(known);
		});
	}

	it('is at most as large as its picks together, or as the smallest of what all must be in', () => {
		expect(atMost(roster(), sections(100, 101))).to.equal(4);
		expect(atMost(roster(), { kind: 'courses', ids: [2], termId: 1 })).to.equal(2);
		expect(atMost(roster(), { kind: 'terms', ids: [2] })).to.equal(4);
		expect(atMost(roster(), { kind: 'schools', ids: [1, 2] })).to.equal(4);
		expect(atMost(roster(), { kind: 'grades', levels: ['7', '8'] })).to.equal(4);
		expect(atMost(roster(), { kind: 'all', of: [sections(101), sections(100)] })).to.equal(1);
		expect(
			atMost(roster(), { kind: 'except', from: sections(101), minus: sections(101) })
		).to.equal(3);
		expect(atMost(roster(), { kind: 'uncovered', ids: [9] })).to.equal(0);
	});
});

describe('the terms that picks speak of', () => {
	it('count who is in more than one of them', () => {
		const several = (terms: number[], ...sets: StudentSet[]) =>
			studentsInSeveralTerms(roster(), sets, new Set(terms));
		expect(several([1, 2], sections(101, 201))).to.equal(1);
		expect(several([2], sections(101, 201))).to.equal(0);
		expect(several([1, 2, 3], sections(101, 201), sections(202))).to.equal(2);
		expect(several([1, 2], { kind: 'terms', ids: [1, 2] })).to.equal(1);
		expect(
			several(
				[1, 2],
				{ kind: 'courses', ids: [2], termId: 1 },
				{ kind: 'courses', ids: [2], termId: 2 }
			)
		).to.equal(1);
		expect(several([1, 2], { kind: 'courses', ids: [2], termId: 1 })).to.equal(0);
		// A school speaks of no term, and the same section twice is one.
		expect(several([1, 2, 3], { kind: 'schools', ids: [1] })).to.equal(0);
		expect(several([1, 2], sections(101), sections(101, 999))).to.equal(0);
	});

	it('are those of what brings students in: a section that is excepted has no say', () => {
		const terms = (set: StudentSet) => [...termsOf(roster(), set)].sort();
		expect(terms(sections(101, 201))).to.deep.equal([1, 2]);
		expect(terms({ kind: 'except', from: sections(101), minus: sections(201) })).to.deep.equal([2]);
		expect(terms({ kind: 'any', of: [{ kind: 'terms', ids: [3] }, sections(999)] })).to.deep.equal([
			3
		]);
		expect(terms({ kind: 'courses', ids: [2], termId: 1 })).to.deep.equal([1]);
		expect(terms({ kind: 'schools', ids: [1] })).to.deep.equal([]);
	});
});

describe('an audience as data', () => {
	const line = (of: StudentSet): AudienceLine => ({
		verb: 'and',
		to: [{ kind: 'guardians' }],
		of,
		only: []
	});
	const audience = (...lines: AudienceLine[]): Audience => ({ version: 2, lines, byHand: [] });
	const nested: StudentSet = {
		kind: 'except',
		from: { kind: 'any', of: [sections(1, 2), { kind: 'all', of: [sections(2, 3)] }] },
		minus: { kind: 'uncovered', ids: [9] }
	};

	it('has its picks, whatever they are nested in; what is excepted brings nobody', () => {
		expect(picksIn(nested).map((p) => p.kind)).to.deep.equal(['sections', 'sections', 'uncovered']);
		expect(picksBringing(nested)).to.have.length(2);
		expect(sectionsOf(audience(line(nested)))).to.deep.equal([1, 2, 3]);
		expect(dispatchesOf(audience(line(nested), line(nested)))).to.deep.equal([9]);
		const people: AudienceLine = {
			verb: 'and',
			people: { kind: 'list', keptId: 5 },
			only: [{ kind: 'outcome', dispatchId: 7, read: false }]
		};
		const named: AudienceLine = { verb: 'and', people: { kind: 'named', ids: [1, 2] }, only: [] };
		expect(listsOf(audience(people, named, people))).to.deep.equal([5]);
		expect(dispatchesOf(audience(people))).to.deep.equal([7]);
		expect(picksOf(audience(people, line(sections(1))))).to.have.length(1);
		expect([people, named, line(nested)].map(pickCount)).to.deep.equal([1, 2, 5]);
		expect(pickCount(line({ kind: 'grades', levels: ['7', '8'] }))).to.equal(2);
	});

	it('is read from version 1 as what it meant', () => {
		expect(
			audienceSchema.parse({ version: 1, lines: [{ to: ['guardians'], sectionIds: [100] }] })
		).to.deep.equal(audienceOf([100]));
	});

	it('is no larger than anybody picks, with what is wrong at its place', () => {
		const refused = (value: unknown) => {
			const read = audienceSchema.safeParse(value);
			return read.success
				? null
				: read.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`);
		};
		const many = (n: number) => sections(...Array.from({ length: n }, (_, i) => i + 1));
		expect(refused(audience(...Array<AudienceLine>(4).fill(line(many(5_000)))))).to.equal(null);
		expect(
			refused(audience(...Array<AudienceLine>(4).fill(line(many(5_000))), line(sections(1))))
		).to.deep.equal([
			'lines: An audience holds 20,000 picks at most. Pick schools or grades instead of students.'
		]);
		const parts = (n: number): AudienceLine =>
			line({ kind: 'any', of: Array<StudentSet>(n - 1).fill(sections(1)) });
		expect(refused(audience(...Array<AudienceLine>(40).fill(parts(10))))).to.equal(null);
		expect(
			refused(audience(...Array<AudienceLine>(40).fill(parts(10)), line(sections(1))))
		).to.deep.equal(['lines: An audience is put together from 400 parts at most.']);
		expect(refused(audience({ ...line(sections(1)), to: [] }))!.join()).to.match(
			/lines\.0\.to: Choose who is meant/
		);
		expect(
			refused(audience({ verb: 'and', people: { kind: 'named', ids: [-1] }, only: [] }))!.join()
		).to.match(/lines\.0\.people\.ids\.0/);
		expect(
			refused(audience(...Array<AudienceLine>(51).fill(line(sections(1)))))!.join()
		).to.contain('50 lines at most');
	});
});

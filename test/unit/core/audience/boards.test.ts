import { expect } from 'chai';
import {
	audienceOf,
	type Audience,
	type AudienceLine,
	type StudentSet
} from '../../../../src/lib/core/audience/audience';
import { boardsOf } from '../../../../src/lib/core/audience/boards';

const line = (of: StudentSet, over: Partial<AudienceLine> = {}): AudienceLine =>
	({ verb: 'and', to: [{ kind: 'guardians' }], of, only: [], ...over }) as AudienceLine;
const to = (...lines: AudienceLine[]): Audience => ({ version: 2, lines, byHand: [] }) as Audience;
const sections = (...ids: number[]): StudentSet => ({ kind: 'sections', ids });
const nowhere = { district: false, schools: [], sections: [], courses: [], groups: [] };

describe('the boards of an audience', () => {
	it('are those of what it names as a whole', () => {
		expect(boardsOf(audienceOf([7, 3]))).to.deep.equal({
			...{ ...nowhere, sections: [3, 7], notFor: [] }
		});
		const any: StudentSet = {
			kind: 'any',
			of: [
				sections(3),
				{ kind: 'groups', ids: [5] },
				{ kind: 'schools', ids: [2, 1] },
				{ kind: 'courses', ids: [9], termId: 4 }
			]
		};
		expect(boardsOf(to(line(any), line(sections(3, 8))))).to.deep.equal({
			...{ district: false, schools: [1, 2], sections: [3, 8], groups: [5] },
			...{ courses: [{ id: 9, termId: 4 }], notFor: [] }
		});
		expect(boardsOf(to(line({ kind: 'terms', ids: [1] }))).district).to.equal(true);
	});

	it('what is meant for some of a place stands on none: nobody else is told of it', () => {
		const some: readonly (readonly [AudienceLine[], string])[] = [
			[[line({ kind: 'students', ids: [1] })], 'students'],
			[[line({ kind: 'uncovered', ids: [1] })], 'uncovered'],
			[[line({ kind: 'grades', levels: ['8'] })], 'grades'],
			[[line({ kind: 'all', of: [sections(1), sections(2)] })], 'narrowed'],
			[[line({ kind: 'except', from: sections(1), minus: sections(2) })], 'narrowed'],
			[
				[line(sections(1), { only: [{ kind: 'marker', markerId: 2, is: { test: 'lacks' } }] })],
				'narrowed'
			],
			[[line(sections(1)), line(sections(2), { verb: 'but-not' })], 'narrowed'],
			[[{ verb: 'and', people: { kind: 'named', ids: [4] }, only: [] } as AudienceLine], 'people']
		];
		for (const [lines, why] of some)
			expect(boardsOf(to(...lines)), why).to.deep.equal({ ...nowhere, notFor: [why] });
	});

	it('of several lines each stands where it may; who is taken out by name takes no board away', () => {
		const out = { verb: 'but-not', people: { kind: 'named', ids: [4] }, only: [] } as AudienceLine;
		expect(
			boardsOf(to(line(sections(1)), line({ kind: 'students', ids: [9] }), out))
		).to.deep.equal({ ...nowhere, sections: [1], notFor: ['students'] });
		// All of one thing is that thing.
		expect(boardsOf(to(line({ kind: 'all', of: [sections(6)] }))).sections).to.deep.equal([6]);
	});
});

import { expect } from 'chai';
import { isBlocked } from '../../../../src/lib/core/plan/check';
import { standingCheck, type CheckInput } from '../../../../src/lib/core/plan/standing-check';
import { byWays } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { familyRoster } from '../fixture';

const tally = tallyOf(planManifest(familyRoster, audienceOf([100]), byWays(['email'])));
const nobody = tallyOf(planManifest(familyRoster, audienceOf([]), byWays(['email'])));
const good: CheckInput = {
	pickCount: 1,
	byHandIn: 0,
	mayAddByHand: true,
	maySend: true,
	notToSend: 0,
	forbiddenStudents: 0,
	keptToOwn: false,
	terms: { names: ['Winter'], studentsInSeveral: 0 },
	explicit: [],
	forbidden: [],
	missing: 0,
	wayCount: 1,
	boardCount: 0,
	board: [],
	feed: [],
	invitation: [],
	event: [],
	wording: [],
	timing: [],
	sectionsWithNobody: [],
	heavyDay: { people: 0, messages: 3, day: 'Tue Mar 9' },
	gone: [],
	forbiddenPeople: false,
	notStaff: 0,
	withoutCustody: 0,
	tally
};
const blocks = (over: Partial<CheckInput>) =>
	standingCheck({ ...good, ...over })
		.filter((c) => c.level === 'block')
		.map((c) => `${c.where}: ${c.text}`);

describe('the standing check', () => {
	it('has nothing against a good sheet', () => {
		const checks = standingCheck(good);
		expect(isBlocked(checks)).to.equal(false);
		expect(checks.map((c) => c.level)).to.deep.equal(['fine']);
	});

	for (const [name, over, wanted] of [
		['nobody picked', { pickCount: 0, tally: nobody }, /^who: Nobody is picked\./],
		['no way', { wayCount: 0, tally: nobody }, /^ways: No way is chosen\./],
		[
			"another teacher's section",
			{ forbidden: ['Drama 7-A'] },
			/^who: You may not write to Drama 7-A\./
		],
		[
			"students who are not the writer's",
			{ forbiddenStudents: 2 },
			/^who: You may not write to 2 students that are picked one by one/
		],
		[
			'a person put in by one who may not',
			{ byHandIn: 1, mayAddByHand: false },
			/^who: Only the district office/
		],
		[
			'a section that is gone',
			{ missing: 1 },
			/^who: 1 of what is picked is no longer on the roster\. Take it out/
		],
		[
			'two groups that are gone',
			{ missing: 2 },
			/^who: 2 of what is picked are no longer on the roster\. Take them out/
		],
		[
			'a fixed list that is gone',
			{ gone: ['The fixed list #3'] },
			/^who: The fixed list #3 is no longer there\. Take it out/
		],
		[
			'people the writer may not write to',
			{ forbiddenPeople: true },
			/^who: You may not write to these staff or people/
		],
		[
			'a copy for information to a parent',
			{ notStaff: 1 },
			/^result: Copies for information go to staff only/
		],
		['nobody reached', { tally: nobody }, /^result: No student is enrolled/]
	] as const) {
		it(`blocks ${name}, says where and what to do`, () => {
			expect(blocks(over).join('\n')).to.match(wanted);
		});
	}

	it('takes in what is to be said of the wording, each at its level', () => {
		const wording = (['fine', 'caution', 'block'] as const).map((level) => ({
			level,
			where: 'body' as const,
			text: level
		}));
		const checks = standingCheck({ ...good, wording });
		const levels = checks.map((c) => c.level);
		expect(levels).to.deep.equal(['block', 'caution', 'fine', 'fine']);
		expect(isBlocked(checks)).to.equal(true);
	});

	it('points out students with nobody, more than a third and left out by one reason', () => {
		const cautions = standingCheck({
			...good,
			tally: {
				...tally,
				studentsWithNobody: 2,
				leftOut: 3,
				people: 2,
				leftOutBy: [
					{ text: 'No number on file', people: 2 },
					{ text: 'Has not opted in to text', people: 1 }
				]
			}
		})
			.filter((c) => c.level === 'caution')
			.map((c) => c.text);
		expect(cautions).to.have.length(2);
		expect(cautions[0]).to.match(/^For 2 students nobody gets a copy/);
		// One of five is no third.
		expect(cautions[1]).to.equal(
			'More than a third are left out by one reason, 2 of 5: No number on file. See whether another way reaches them.'
		);
	});

	it('says that of groups and schools only the writer’s own students are written to, and not how many others there are', () => {
		const cautions = standingCheck({ ...good, keptToOwn: true }).filter(
			(c) => c.level === 'caution'
		);
		expect(cautions.map((c) => `${c.where}: ${c.text}`).join()).to.match(
			/^who: Of the groups, schools, grades and courses picked, only your own students are written to/
		);
		expect(cautions[0]!.text).not.to.match(/\d/);
	});

	it('points out picks from two terms, and people who come in only by choice', () => {
		const cautions = standingCheck({
			...good,
			terms: { names: ['Fall', 'Winter'], studentsInSeveral: 23 },
			explicit: ['emergency contacts']
		}).filter((c) => c.level === 'caution');
		expect(cautions.map((c) => c.text)).to.deep.equal([
			'Picks from Fall and Winter: 23 students in more than one of them, each counted once.',
			'The list takes in emergency contacts, by your choice.'
		]);
	});

	it('points out people without custody, a section nobody can be reached in, and a full day', () => {
		const cautions = standingCheck({
			...good,
			withoutCustody: 1,
			sectionsWithNobody: ['Drama 7-A', 'Art 6-A', 'Art 6-B', 'Art 6-C', 'Art 6-D'],
			heavyDay: { people: 14, messages: 3, day: 'Tue Mar 9' }
		}).filter((c) => c.level === 'caution');
		expect(cautions.map((c) => c.text)).to.deep.equal([
			'1 person without custody is in, by your choice. Look at them in the manifest.',
			'Nobody can be reached in Drama 7-A, Art 6-A, Art 6-B and 2 more.',
			'14 people have 3 messages or more on Tue Mar 9 already. See whether it can go on another day.'
		]);
	});

	it('does not call exactly a third more than a third', () => {
		const leftOutBy = [{ text: 'No number on file', people: 1 }];
		const cautions = standingCheck({
			...good,
			tally: { ...tally, leftOut: 1, people: 2, leftOutBy }
		}).filter((c) => c.level === 'caution');
		expect(cautions).to.deep.equal([]);
	});

	const lines = (over: Partial<CheckInput>) =>
		standingCheck({ ...good, ...over }).map((c) => `${c.level} ${c.where}: ${c.text}`);

	it('says one and more of each as people say them, and where', () => {
		expect(blocks({ forbidden: ['Art 6-A', 'Art 6-B'] })[0]).to.match(
			/^who: You may not write to Art 6-A, Art 6-B\. Take it out/
		);
		expect(blocks({ forbiddenStudents: 1 })[0]).to.match(
			/^who: You may not write to 1 student that is picked one by one/
		);
		const withNobody = { ...tally, studentsWithNobody: 1 };
		expect(lines({ tally: withNobody })).to.deep.equal([
			'caution result: For 1 student nobody gets a copy. Each stands in the tally with the reason.'
		]);
		expect(lines({ withoutCustody: 2 })[0]).to.equal(
			'caution who: 2 people without custody are in, by your choice. Look at them in the manifest.'
		);
		expect(lines({ heavyDay: { people: 1, messages: 4, day: 'Tue Mar 9' } })[0]).to.equal(
			'caution when: 1 person has 4 messages or more on Tue Mar 9 already. See whether it can go on another day.'
		);
		expect(lines({ terms: { names: ['Fall', 'Winter'], studentsInSeveral: 1 } })[0]).to.match(
			/^caution who: Picks from Fall and Winter: 1 student in more/
		);
		expect(lines({ explicit: ['aunts'] })[0]).to.match(/^caution who: The list takes in aunts/);
		expect(lines({ sectionsWithNobody: ['Drama 7-A'] })[0]).to.equal(
			'caution result: Nobody can be reached in Drama 7-A.'
		);
		const leftOutBy = [{ text: 'No number on file', people: 2 }];
		expect(lines({ tally: { ...tally, leftOut: 3, people: 2, leftOutBy } })[0]).to.match(
			/^caution result: More than a third/
		);
		expect(lines({})).to.deep.equal(['fine result: Every student has somebody who gets a copy.']);
	});

	it('is asked of whoever is put in by hand as of what is picked', () => {
		const byHand = { pickCount: 0, byHandIn: 1 };
		expect(blocks(byHand)).to.deep.equal([]);
		expect(blocks({ byHandIn: 0, mayAddByHand: false })).to.deep.equal([]);
		const unreached = { ...nobody, students: 4 };
		expect(blocks({ ...byHand, tally: unreached })).to.deep.equal([
			'result: Nobody can be reached this way. Choose another way, or look at who is left out.'
		]);
		// One thing at a time: where nobody is picked or no way is chosen, that is what is said.
		expect(blocks({ pickCount: 0, tally: nobody })).to.have.length(1);
		expect(blocks({ wayCount: 0, tally: nobody })).to.have.length(1);
	});

	it('says of a sheet without a copy only what stands in its way', () => {
		const empty = { ...nobody, studentsWithNobody: 3 };
		const over = { tally: empty, sectionsWithNobody: ['Drama 7-A'] };
		expect(lines(over).map((l) => l.split(' ')[0])).to.deep.equal(['block']);
		// To people alone no student need be reached.
		const peopleOnly = { ...tally, students: 0, studentsWithNobody: 0 };
		expect(lines({ tally: peopleOnly })).to.deep.equal([]);
	});
});

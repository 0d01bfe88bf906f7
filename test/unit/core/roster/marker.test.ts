import { expect } from 'chai';
import { markerField, markerOfField, isField } from '../../../../src/lib/core/copy/fields';
import { markHolds, markStep, readMark } from '../../../../src/lib/core/roster/marker';
import { readTemplate } from '../../../../src/lib/core/copy/template';
import { copyFacts, copyValues } from '../../../../src/lib/core/copy/values';

describe('what a marker says', () => {
	const read = (...args: Parameters<typeof readMark>) => {
		const done = readMark(...args);
		return done.ok ? done.value : `! ${done.why}`;
	};

	// The ways offices write yes, no and days in lists: common practice.
	it('reads a yes, a day and words as lists have them; an empty cell and a no say that it lacks', () => {
		for (const yes of ['yes', 'Y', 'x', '1', 'SÍ', ' true '])
			expect(read('yes-no', yes, 'month-first'), yes).to.equal('yes');
		for (const no of ['', '  ', 'no', 'N', '0'])
			expect(read('yes-no', no, 'month-first'), no).to.equal(null);
		expect(read('yes-no', 'maybe', 'month-first')).to.contain('neither a yes nor a no');
		expect(read('date', '3/4/2027', 'month-first')).to.equal('2027-03-04');
		expect(read('date', '3/4/2027', 'day-first')).to.equal('2027-04-03');
		expect(read('date', '2027-02-30', 'month-first')).to.contain('is no day');
		expect(read('text', '  bus   7 ', 'month-first')).to.equal('bus 7');
		expect(read('text', 'x'.repeat(121), 'month-first')).to.contain('over 120 characters');
		expect(read('text', 'ab\u202edc', 'month-first')).to.contain('cannot be seen');
	});

	it('is asked for having, lacking, words and days', () => {
		expect(markHolds({ test: 'has' }, 'yes')).to.equal(true);
		expect(markHolds({ test: 'lacks' }, null)).to.equal(true);
		expect(markHolds({ test: 'is', value: 'RED' }, 'red')).to.equal(true);
		expect(markHolds({ test: 'is', value: 'red' }, null)).to.equal(false);
		expect(markHolds({ test: 'before', day: '2027-03-04' }, '2027-03-04')).to.equal(false);
		expect(markHolds({ test: 'from', day: '2027-03-04' }, '2027-03-04')).to.equal(true);
		expect(markHolds({ test: 'before', day: '2027-03-04' }, null)).to.equal(false);
	});

	it('stays as a hand has set it until the list itself says something else', () => {
		const hand = (value: string | null, listed: string | null) => ({ value, listed, byHand: true });
		expect(markStep(null, 'yes')).to.equal('set');
		expect(markStep(null, null)).to.equal('same');
		expect(markStep(hand('no bus', 'bus 7'), 'bus 7')).to.equal('stays');
		expect(markStep(hand('no bus', 'bus 7'), 'bus 8')).to.equal('set');
		expect(markStep(hand(null, 'yes'), 'yes')).to.equal('stays');
		expect(markStep(hand(null, 'yes'), null)).to.equal('same');
		expect(markStep({ value: 'bus 7', listed: 'bus 7', byHand: false }, 'bus 8')).to.equal('set');
	});

	it('can be said in a wording, whatever its name holds', () => {
		for (const name of ['museum slip', 'Fee {paid}', 'a.b/c', '<b>&"quoted"', '...']) {
			const field = markerField(12, name);
			expect(markerOfField(field)?.id, field).to.equal(12);
			const template = readTemplate(`Bus: {{${field}}}.`, 'html');
			expect(template.problems, field).to.deep.equal([]);
			expect(
				template.render((name) => (name === field ? '<7>' : '')),
				field
			).to.equal('Bus: &lt;7&gt;.');
		}
		for (const none of ['marker:12', 'marker:x y', 'marker:1 a}b', 'marker:1 '])
			expect(isField(none), none).to.equal(false);
	});

	it('is said in the reader’s language, for each student that a copy speaks of', () => {
		const student = (id: number, said: string | null) => ({
			...{ id, given: 'A', full: 'A B', grade: null, school: null, section: null, own: false },
			marks: new Map(said === null ? [] : [[12, said]])
		});
		const name = markerField(12, 'slip');
		const words = (language: string, ...said: (string | null)[]) =>
			copyValues(
				copyFacts(
					{ givenName: 'D', familyName: 'A' },
					said.map((value, i) => student(i, value))
				),
				() => '',
				language
			)(name);
		expect(words('pt', 'yes')).to.equal('sim');
		expect(words('en', '2027-03-12')).to.equal('Friday, March 12, 2027');
		expect(words('en', 'red', null, 'green', 'red')).to.equal('red and green');
		expect(words('en', null)).to.equal('');
	});
});

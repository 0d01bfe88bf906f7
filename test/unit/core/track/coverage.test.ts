import { expect } from 'chai';
import {
	coverageOf,
	coverageSentence,
	CoverageKept,
	coveredWords,
	coverRules,
	isCovered,
	type CoverRule,
	type StudentDelivery
} from '../../../../src/lib/core/track/coverage';
import type { DeliveryState } from '../../../../src/lib/core/track/evidence';
import { draws } from '../../random';

const copy = (
	studentId: number,
	readers: readonly number[],
	state: DeliveryState,
	readAt: number | null = null,
	toAdult = true
): StudentDelivery => ({ studentId, readers, state, toAdult, readAt });
const adult = (studentId: number, state: DeliveryState) => copy(studentId, [900], state);

describe('coverage', () => {
	it('counts a student as covered when one adult has read, whatever became of the other copies', () => {
		const c = coverageOf(
			[1, 2, 3, 4],
			[
				adult(1, 'failed'),
				adult(1, 'read'),
				adult(2, 'delivered'),
				adult(2, 'failed'),
				adult(3, 'failed')
			]
		);
		expect(c).to.include({ students: 4, covered: 1, waiting: 1, unreachable: 2 });
		expect([...c.standing]).to.deep.equal([
			[1, 'read'],
			[2, 'delivered'],
			[3, 'failed'],
			[4, 'nobody']
		]);
		expect(coverageSentence(c)).to.equal('1 of 4 students covered, 1 waiting, 2 cannot be reached');
	});

	it('counts people by the furthest of their copies where no student is spoken of', () => {
		const own = (personId: number, state: StudentDelivery['state']) =>
			copy(personId, [personId], state);
		const all = [own(1, 'failed'), own(1, 'read'), own(2, 'delivered'), own(3, 'failed')];
		expect(coverageSentence(coverageOf([1, 2, 3], all), 'people')).to.equal(
			'1 of 3 people have read it, 1 waiting, 1 cannot be reached'
		);
		expect(coverageSentence(coverageOf([1], [own(1, 'sent')]), 'people')).to.equal(
			'0 of 1 person has read it, 1 waiting'
		);
	});

	it("does not take a student's own reading for an adult's", () => {
		const c = coverageOf([1], [copy(1, [1], 'read', 1, false), adult(1, 'delivered')]);
		expect(c.covered).to.equal(0);
	});

	it("takes the student's reading where only students are written to, whatever the rule", () => {
		for (const rule of ['adult', 'households', 'student-too'] as const) {
			expect(coverageOf([1], [copy(1, [1], 'read', 1, false)], rule).covered).to.equal(1);
		}
	});

	it('says nothing by a copy that was not needed', () => {
		const c = coverageOf([1, 2], [adult(1, 'spared'), adult(1, 'read'), adult(2, 'spared')]);
		expect([...c.standing]).to.deep.equal([
			[1, 'read'],
			[2, 'nobody']
		]);
	});

	it('puts every student into exactly one of covered, waiting, unreachable (300 random)', () => {
		const r = draws(6);
		for (let i = 0; i < 300; i += 1) {
			const ids = Array.from({ length: r.int(0, 12) }, (_, n) => n);
			const c = coverageOf(
				ids,
				Array.from({ length: r.int(0, 30) }, () =>
					copy(
						r.int(0, 14),
						[r.int(100, 104)],
						r.pick(['held', 'sent', 'delivered', 'failed', 'read'] as const)
					)
				),
				r.pick(['adult', 'households', 'student-too'] as const),
				() => [[100, 101], [102], []]
			);
			expect(c.covered + c.waiting + c.unreachable).to.equal(ids.length);
		}
	});
});

describe('coverage by rule', () => {
	/** Student 1 has two homes: mother 10 and her partner 11; father 12. */
	const homes = () => [[10, 11], [12], []];
	const rule = (deliveries: readonly StudentDelivery[]) =>
		coverageOf([1], deliveries, 'households', homes).standing.get(1);

	it('asks one adult of each household', () => {
		expect(rule([copy(1, [10], 'read'), copy(1, [12], 'delivered')])).to.equal('delivered');
		expect(rule([copy(1, [11], 'read'), copy(1, [12], 'answered')])).to.equal('read');
		expect(rule([copy(1, [10], 'read'), copy(1, [11], 'failed'), copy(1, [12], 'read')])).to.equal(
			'read'
		);
	});

	it('says that a student cannot be reached whose one home cannot', () => {
		expect(rule([copy(1, [10], 'read')])).to.equal('nobody');
		expect(rule([copy(1, [10], 'read'), copy(1, [12], 'failed')])).to.equal('failed');
	});

	it('takes a copy at a shared address for both who read there', () => {
		expect(rule([copy(1, [10, 12], 'read')])).to.equal('read');
	});

	it('is any adult where they share no household with the student', () => {
		const c = coverageOf([1], [copy(1, [50], 'read')], 'households', () => []);
		expect(c.covered).to.equal(1);
	});

	it('asks an adult and the student', () => {
		const both = (...deliveries: StudentDelivery[]) =>
			coverageOf([1], deliveries, 'student-too').standing.get(1);
		const own = (state: DeliveryState) => copy(1, [1], state, null, false);
		expect(both(copy(1, [10], 'read'), own('delivered'))).to.equal('delivered');
		expect(both(copy(1, [10], 'sent'), own('read'))).to.equal('sent');
		expect(both(copy(1, [10], 'read'), own('read'))).to.equal('read');
		expect(both(copy(1, [10], 'read'))).to.equal('nobody');
		expect(both(copy(1, [10, 1], 'read'))).to.equal('read');
	});

	it('knows when each came to be covered, by the same rule', () => {
		const deliveries = [
			copy(1, [10], 'read', 50),
			copy(1, [11], 'read', 20),
			copy(1, [12], 'read', 90)
		];
		const { times } = new CoverageKept([1, 2], deliveries);
		expect([times.get(1), times.get(2)]).to.deep.equal([20, Infinity]);
		expect(new CoverageKept([1], deliveries, 'households', homes).times.get(1)).to.equal(90);
	});

	it('agrees with itself: covered are those with a time, by every rule (200 random)', () => {
		const r = draws(8);
		for (let i = 0; i < 200; i += 1) {
			const deliveries = Array.from({ length: r.int(0, 20) }, () => {
				const state = r.pick(['sent', 'failed', 'read'] as const);
				return copy(r.int(1, 5), [r.int(1, 14)], state, state === 'read' ? r.int(1, 99) : null);
			});
			for (const by of ['adult', 'households', 'student-too'] as const) {
				const ids = [1, 2, 3, 4, 5];
				const { times, coverage } = new CoverageKept(ids, deliveries, by, homes);
				expect([...times.values()].filter(Number.isFinite).length).to.equal(coverage.covered);
			}
		}
	});

	it('kept while copies change is what it is counted from nothing, by every rule (200 random)', () => {
		const r = draws(9);
		const ids = [1, 2, 3, 4, 5];
		const states = ['planned', 'sent', 'failed', 'delivered', 'read', 'spared'] as const;
		for (let i = 0; i < 200; i += 1) {
			const rule = r.pick(['adult', 'households', 'student-too'] as const);
			const deliveries = Array.from({ length: r.int(1, 20) }, () => ({
				...copy(r.int(1, 5), [r.int(1, 14)], 'planned', null, r.int(0, 2) > 0)
			}));
			const kept = new CoverageKept(ids, deliveries, rule, homes);
			const [before, times] = [kept.coverage, kept.times];
			const words = JSON.stringify([[...before.standing], [...times]]);
			const ordered = kept.timesInOrder;
			const seen = { at: kept.changes, standing: new Map(before.standing) };
			for (let turn = 0; turn < 3; turn += 1) {
				const changed = r.pick(deliveries);
				const state = r.pick(states);
				Object.assign(changed, { state, readAt: state === 'read' ? r.int(1, 99) : null });
				kept.countAnew([changed.studentId]);
				const anew = new CoverageKept(ids, deliveries, rule, homes);
				const said = ({ coverage: { standing, ...numbers }, times: all }: CoverageKept) => [
					...[numbers, [...standing], [...all]]
				];
				expect(said(kept)).to.deep.equal(said(anew));
				expect(kept.timesInOrder).to.deep.equal(anew.timesInOrder);
			}
			// Only of whom it says that they changed something is another.
			const now = kept.coverage.standing;
			for (const id of kept.changedSince(seen.at)) seen.standing.set(id, now.get(id)!);
			expect([...seen.standing]).to.deep.equal([...now]);
			// Whoever looked before has what they looked at.
			expect(ordered).to.deep.equal(
				[...times.values()].filter(Number.isFinite).sort((a, b) => a - b)
			);
			expect(JSON.stringify([[...before.standing], [...times]])).to.equal(words);
		}
	});

	it('says nothing by what was spared, and counts by the rule alone', () => {
		const of = (
			state: StudentDelivery['state'],
			readers: readonly number[],
			toAdult = true
		): StudentDelivery => ({ studentId: 1, state, readers, toAdult, readAt: null });
		const standing = (rule: CoverRule, homes: number[][], ...list: StudentDelivery[]) =>
			coverageOf([1], list, rule, () => homes).standing.get(1);
		expect(standing('adult', [], of('spared', [10]))).to.equal('nobody');
		expect(standing('adult', [], of('spared', [10]), of('failed', [11]))).to.equal('failed');
		// The student's own copy, and the second home, count only where they are asked for.
		const both = [of('read', [10]), of('sent', [1], false)];
		expect(standing('adult', [[10]], ...both)).to.equal('read');
		expect(standing('student-too', [], ...both)).to.equal('sent');
		expect(standing('student-too', [], of('read', [10]))).to.equal('nobody');
		const homes = [of('read', [10]), of('sent', [11])];
		expect(standing('adult', [[10], [11]], ...homes)).to.equal('read');
		expect(standing('households', [[10], [11]], ...homes)).to.equal('sent');
		expect(standing('student-too', [[10], [11]], ...homes)).to.equal('nobody');
		// To students only, their own reading is all there is, whatever the rule.
		for (const rule of coverRules)
			expect(standing(rule, [[10]], of('answered', [1], false))).to.equal('answered');
		expect(isCovered('answered')).to.equal(true);
		expect(isCovered('delivered')).to.equal(false);
	});

	it('is said with the numbers first, one as one, and only what is not zero', () => {
		expect(coveredWords(1, 1, 'students')).to.equal('1 of 1 student covered');
		expect(coveredWords(2, 1_200, 'students')).to.equal('2 of 1,200 students covered');
		expect(coveredWords(0, 1, 'people')).to.equal('0 of 1 person has read it');
		expect(coveredWords(1, 2, 'people')).to.equal('1 of 2 people have read it');
		const all = { students: 3, covered: 3, waiting: 0, unreachable: 0, standing: new Map() };
		expect(coverageSentence(all)).to.equal('3 of 3 students covered');
		expect(coverageSentence({ ...all, covered: 1, waiting: 1, unreachable: 1 })).to.equal(
			'1 of 3 students covered, 1 waiting, 1 cannot be reached'
		);
	});
});

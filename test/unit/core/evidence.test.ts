import { expect } from 'chai';
import { stateOf, type EventKind, type Evidence } from '../../../src/lib/core/track/evidence';
import {
	coverageOf,
	coverageOfPeople,
	coverageSentence
} from '../../../src/lib/core/track/coverage';
import { draws } from '../random';

const kinds: EventKind[] = [
	'scheduled',
	'accepted',
	'deferred',
	'delivered',
	'failed',
	'link-followed',
	'opened',
	'acknowledged',
	'answered'
];
const events = (...list: EventKind[]): Evidence[] =>
	list.map((kind, at) => ({ kind, at, detail: '' }));

describe('evidence to state', () => {
	for (const [list, state] of [
		[[], 'held'],
		[['scheduled', 'deferred'], 'held'],
		[['scheduled', 'accepted'], 'sent'],
		[['scheduled', 'accepted', 'delivered'], 'delivered'],
		[['scheduled', 'delivered', 'accepted'], 'delivered'],
		[['scheduled', 'accepted', 'failed'], 'failed'],
		[['scheduled', 'accepted', 'delivered', 'failed'], 'failed'],
		[['scheduled', 'accepted', 'opened', 'failed'], 'read'],
		[['scheduled', 'acknowledged', 'delivered'], 'read'],
		[['answered', 'opened'], 'answered']
	] as const) {
		it(`${list.join(', ') || 'nothing'} is ${state}`, () => {
			expect(stateOf(events(...list), 'held')).to.equal(state);
		});
	}

	it('does not depend on order or repetition (500 random sets)', () => {
		const r = draws(4);
		for (let i = 0; i < 500; i += 1) {
			const list = Array.from({ length: r.int(1, 8) }, () => r.pick(kinds));
			const state = stateOf(events(...list), 'planned');
			expect(stateOf(events(...r.shuffle([...list, ...list])), 'planned')).to.equal(state);
		}
	});

	it('never goes back as events come in (500 random runs)', () => {
		const order = ['planned', 'sent', 'delivered', 'failed', 'read', 'answered'];
		const r = draws(5);
		for (let i = 0; i < 500; i += 1) {
			const list = Array.from({ length: 10 }, () => r.pick(kinds));
			let before = 0;
			for (let n = 1; n <= list.length; n += 1) {
				const now = order.indexOf(stateOf(events(...list.slice(0, n)), 'planned'));
				expect(now).to.be.at.least(before);
				before = now;
			}
		}
	});
});

describe('coverage', () => {
	const adult = (studentId: number, state: 'held' | 'sent' | 'delivered' | 'failed' | 'read') => ({
		studentId,
		state,
		toAdult: true
	});

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
		const c = coverageOfPeople([
			{ personId: 1, state: 'failed' },
			{ personId: 1, state: 'read' },
			{ personId: 2, state: 'delivered' },
			{ personId: 3, state: 'failed' }
		]);
		expect(coverageSentence(c, 'people')).to.equal(
			'1 of 3 people have read it, 1 waiting, 1 cannot be reached'
		);
		expect(coverageSentence(coverageOfPeople([{ personId: 1, state: 'sent' }]), 'people')).to.equal(
			'0 of 1 person has read it, 1 waiting'
		);
	});

	it("does not take a student's own reading for an adult's", () => {
		const c = coverageOf(
			[1],
			[{ studentId: 1, state: 'read', toAdult: false }, adult(1, 'delivered')]
		);
		expect(c.covered).to.equal(0);
	});

	it("takes the student's reading where only students are written to", () => {
		expect(coverageOf([1], [{ studentId: 1, state: 'read', toAdult: false }]).covered).to.equal(1);
	});

	it('puts every student into exactly one of covered, waiting, unreachable (300 random)', () => {
		const r = draws(6);
		for (let i = 0; i < 300; i += 1) {
			const ids = Array.from({ length: r.int(0, 12) }, (_, n) => n);
			const c = coverageOf(
				ids,
				Array.from({ length: r.int(0, 30) }, () =>
					adult(r.int(0, 14), r.pick(['held', 'sent', 'delivered', 'failed', 'read'] as const))
				)
			);
			expect(c.covered + c.waiting + c.unreachable).to.equal(ids.length);
		}
	});
});

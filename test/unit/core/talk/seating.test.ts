import { expect } from 'chai';
import {
	canChange,
	comeIn,
	placesLeft,
	standBefore,
	type Party,
	type Places
} from '../../../../src/lib/core/talk/seating';
import { draws, often } from '../../random';

const party = (id: number, people: number, more: Partial<Party> = {}): Party => ({
	...{ id, slot: 1, people, turn: id, seated: false },
	...more
});
const one = (overall: number | null, inSlot: number | null = null): Places => ({
	overall,
	slots: new Map([[1, inSlot]])
});
const seat = (parties: readonly Party[], ids: readonly number[]): Party[] =>
	parties.map((p) => (ids.includes(p.id) ? { ...p, seated: true } : p));

describe('places at an invitation', () => {
	it('go to who comes first, and the last to exactly one', () => {
		expect(comeIn([party(2, 1), party(1, 1)], one(1))).to.deep.equal([1]);
		expect(comeIn([party(1, 1), party(2, 1)], one(null, 1))).to.deep.equal([1]);
		expect(comeIn([party(1, 2), party(2, 9)], one(null))).to.deep.equal([1, 2]);
	});

	it('are not taken past who waits for them, in the same slot or over all', () => {
		const waiting = [party(1, 3, { seated: true }), party(2, 4), party(3, 1)];
		expect(comeIn(waiting, one(null, 6))).to.deep.equal([]);
		expect(standBefore(waiting, 3)).to.equal(1);
		// Another slot’s line goes on.
		const slots: Places = {
			overall: null,
			slots: new Map([
				[1, 6],
				[2, 2]
			])
		};
		expect(comeIn([...waiting, party(4, 2, { slot: 2 })], slots)).to.deep.equal([4]);
		expect(comeIn([...waiting, party(4, 2, { slot: 2 })], { ...slots, overall: 6 })).to.deep.equal(
			[]
		);
	});

	it('are nobody’s to lose where there are fewer than were given', () => {
		const seated = [party(1, 5, { seated: true }), party(2, 1)];
		expect(placesLeft(seated, one(3), 1)).to.equal(0);
		expect(comeIn(seated, one(3))).to.deep.equal([]);
		expect(placesLeft(seated, one(null), 9)).to.equal(0);
	});

	it('can be changed for fewer always, for more only where nobody waits', () => {
		const seated = [party(1, 2, { seated: true }), party(2, 3, { seated: true })];
		expect(canChange(seated, one(6), { id: 1, slot: 1, people: 1 })).to.equal(true);
		expect(canChange(seated, one(6), { id: 1, slot: 1, people: 3 })).to.equal(true);
		expect(canChange(seated, one(6), { id: 1, slot: 1, people: 4 })).to.equal(false);
		expect(canChange([...seated, party(3, 4)], one(6), { id: 1, slot: 1, people: 3 })).to.equal(
			false
		);
		expect(canChange(seated, one(6), { id: 9, slot: 1, people: 1 })).to.equal(false);
	});

	it('are never more than there are, never passed over, and never left over (random comings and goings)', () => {
		for (let seed = 1; seed <= often(120); seed += 1) {
			const draw = draws(seed);
			const places: Places = {
				overall: draw.int(0, 3) === 0 ? null : draw.int(0, 30),
				slots: new Map([1, 2, 3].map((s) => [s, draw.int(0, 3) === 0 ? null : draw.int(0, 12)]))
			};
			let parties: Party[] = [];
			for (let step = 1; step <= 24; step += 1) {
				if (draw.int(0, 2) > 0 || parties.length === 0)
					parties.push(party(step, draw.int(1, 6), { slot: draw.int(1, 3) }));
				else parties = parties.filter((_, i) => i !== draw.int(0, parties.length - 1));
				const before = parties;
				const came = comeIn(parties, places);
				parties = seat(parties, came);
				const seated = parties.filter((p) => p.seated);
				const people = (of: Party[]) => of.reduce((n, p) => n + p.people, 0);
				expect(people(seated)).to.be.at.most(places.overall ?? Infinity);
				for (const [slot, most] of places.slots)
					expect(people(seated.filter((p) => p.slot === slot))).to.be.at.most(most ?? Infinity);
				// Whoever came in had nobody of the same slot before them in line who waits still.
				for (const id of came) {
					const { slot, turn } = before.find((p) => p.id === id)!;
					expect(parties.some((p) => !p.seated && p.slot === slot && p.turn < turn)).to.equal(
						false
					);
				}
				// Asked again, nobody comes in; and the first of all in line does not find places.
				expect(comeIn(parties, places)).to.deep.equal([]);
				const [first] = parties.filter((p) => !p.seated).sort((a, b) => a.turn - b.turn);
				if (first) expect(placesLeft(parties, places, first.slot)).to.be.below(first.people);
			}
		}
	});
});

import { expect } from 'chai';
import {
	fitted,
	isLimited,
	onlySlot,
	placesOf,
	slotsBetween
} from '../../../../src/lib/core/talk/invitation';
import { invitationSchema, type Slot } from '../../../../src/lib/core/talk/invitation-schema';
import { comeIn } from '../../../../src/lib/core/talk/seating';

const slot = (id: number, places: number | null = 2): Slot => ({
	id,
	at: id * 1000,
	words: '',
	places
});
const yes = { comes: true, adults: 2, students: 1, slot: null };

describe('an invitation', () => {
	it('takes who comes and how many, at a time that is there', () => {
		const asking = { slots: [], most: 4 };
		expect(fitted(asking, yes)).to.deep.equal({
			ok: true,
			said: { comes: true, people: 3, students: 1, slot: onlySlot }
		});
		expect(fitted(asking, { ...yes, students: null })).to.nested.include({ 'said.students': null });
		expect(fitted(asking, { ...yes, adults: 4 })).to.include({ why: 'too-many' });
		expect(fitted(asking, { ...yes, adults: 0, students: 0 })).to.include({ why: 'no-people' });
		const timed = { slots: [slot(3)], most: 4 };
		expect(fitted(timed, yes)).to.include({ why: 'no-slot' });
		expect(fitted(timed, { ...yes, slot: 3 })).to.nested.include({ 'said.slot': 3 });
		// Whoever does not come need say nothing else.
		expect(fitted(timed, { ...yes, comes: false })).to.deep.equal({
			ok: true,
			said: { comes: false, people: 0, students: null, slot: onlySlot }
		});
	});

	it('without times to choose from everybody comes to the one there is, within the places over all', () => {
		const places = placesOf({ places: 3, slots: [] });
		const party = (id: number, people: number) => ({
			id,
			slot: onlySlot,
			people,
			turn: id,
			seated: false
		});
		expect(comeIn([party(1, 2), party(2, 1), party(3, 1)], places)).to.deep.equal([1, 2]);
		expect(isLimited({ places: null, slots: [] })).to.equal(false);
		expect(isLimited({ places: null, slots: [slot(1, null), slot(2)] })).to.equal(true);
	});

	it('times of one length follow each other, and are numbered on', () => {
		const made = slotsBetween({ from: 0, to: 61 * 60_000, minutes: 15, places: 1 }, [slot(7)]);
		expect(made.map((s) => [s.id, s.at! / 60_000])).to.deep.equal([
			...[
				[8, 0],
				[9, 15],
				[10, 30],
				[11, 45]
			]
		]);
		for (const minutes of [0, -5])
			expect(slotsBetween({ from: 0, to: 1e9, minutes, places: 1 })).to.deep.equal([]);
		expect(slotsBetween({ from: 0, to: 1e12, minutes: 1, places: 1 })).to.have.length(200);
	});

	it('what no browser of ours sends is refused', () => {
		const asks = { kind: 'asks', until: 5, slots: [] };
		expect(invitationSchema.parse(undefined)).to.equal(null);
		expect(invitationSchema.parse(asks)).to.include({ most: 10, anybody: false, places: null });
		for (const bad of [
			...[
				{ ...asks, most: 0 },
				{ ...asks, most: 21 },
				{ ...asks, places: 0 },
				{ ...asks, places: 1.5 }
			],
			...[
				{ ...asks, slots: [{ id: 0 }] },
				{ ...asks, slots: [{ id: 1, places: -1 }] }
			],
			...[{ kind: 'about', dispatchId: 0 }, { kind: 'about' }, { kind: 'other' }, []]
		])
			expect(invitationSchema.safeParse(bad).success, JSON.stringify(bad)).to.equal(false);
	});
});

import { expect } from 'chai';
import {
	bestMoves,
	dayLoad,
	effectOf,
	loadOf,
	mostLoaded,
	type LoadEntry,
	type Movable
} from '../../../../src/lib/core/plan/load';
import { draws } from '../../random';

const entry = (dispatchId: number, day: number, households: number[], texts = 0): LoadEntry => ({
	dispatchId,
	day,
	households: Uint32Array.from(households),
	digest: Uint32Array.of(),
	texts: texts * households.length
});
const range = (n: number) => Array.from({ length: n }, (_, i) => i);

describe('family load', () => {
	const entries = [
		entry(1, 0, [0, 1, 2, 3], 1),
		entry(2, 0, [0, 1]),
		entry(3, 0, [0, 1, 5]),
		entry(4, 0, [0]),
		entry(5, 1, [5])
	];
	const load = loadOf(entries, 3, 10);

	it('a household’s digest of a day is one message, whatever it holds', () => {
		const of = (dispatchId: number, day: number, households: number[], digest: number[]) => ({
			...entry(dispatchId, day, households),
			digest: Uint32Array.from(digest)
		});
		const { messages } = loadOf(
			[of(1, 0, [0], [1, 2]), of(2, 0, [1], [2]), of(3, 1, [], [2])],
			2,
			3
		);
		expect(messages.map((m) => [...m])).to.deep.equal([
			[1, 2, 1],
			[0, 0, 1]
		]);
	});

	it('counts messages and texts for each household and day', () => {
		expect(dayLoad(load, 0, 3)).to.deep.equal({
			households: [5, 3, 0, 2],
			most: 4,
			over: 1,
			texts: 4
		});
		expect(dayLoad(load, 1, 3)).to.deep.equal({
			households: [9, 1, 0, 0],
			most: 1,
			over: 0,
			texts: 0
		});
		expect(mostLoaded(load, 0, 3, 5)).to.deep.equal([0, 1]);
		expect(mostLoaded(load, 2, 1, 5)).to.deep.equal([]);
	});

	it('names the most loaded households first, equals in their order, and so many', () => {
		const order = [entry(1, 0, [4, 7, 2]), entry(2, 0, [7, 2, 9]), entry(3, 0, [2])];
		const busy = loadOf(order, 1, 10);
		expect(mostLoaded(busy, 0, 0, 9)).to.deep.equal([2, 7, 4, 9]);
		expect(mostLoaded(busy, 0, 1, 3)).to.deep.equal([2, 7, 4]);
	});

	it('stays at 255 where more are counted, and adds the texts of a day up', () => {
		const many = range(300).map((id) => entry(id, 0, [0], 1));
		const busy = loadOf(many, 2, 2);
		expect([...busy.messages[0]!]).to.deep.equal([255, 0]);
		expect(busy.texts).to.deep.equal([300, 0]);
	});

	it('orders moves by relief, then evenness, then the shorter way, then the earlier; at most so many', () => {
		const over = range(5).map((id) => entry(id, 3, [0, 1]));
		const wide = entry(9, 3, [0, 1, 2]);
		const full = [...over, wide, entry(20, 4, [0]), entry(21, 2, [0])];
		const load = loadOf(full, 7, 3);
		const movable = (e: LoadEntry, ...byDays: number[]): Movable => ({
			dispatchId: e.dispatchId,
			entries: [e],
			byDays
		});
		// Days 2 and 4 hold a message of one of them: day 1 and day 5 are as near and more even.
		expect(bestMoves(load, [movable(over[0]!, 1, 2, -1, -2)], 3)[0]).to.deep.include({
			byDays: -2,
			relief: 2
		});
		expect(bestMoves(load, [movable(over[0]!, 3, 2)], 3)[0]!.byDays).to.equal(2);
		const best = bestMoves(
			load,
			[movable(over[0]!, 1), movable(wide, 2), movable(over[1]!, 2), movable(over[2]!, -2)],
			3
		);
		expect(best.map((m) => m.dispatchId)).to.deep.equal([2, 9, 1]);
		expect(
			bestMoves(
				load,
				over.map((e) => movable(e, 2)),
				3,
				2
			)
		).to.have.length(2);
		// At the limit and not over it nothing is to be taken away.
		expect(bestMoves(load, [movable(over[0]!, 1)], 6)).to.deep.equal([]);
		expect(effectOf(load, movable(wide), 9, 3)).to.deep.equal({
			dispatchId: 9,
			byDays: 9,
			relief: 2,
			evenness: 2 * 6 - 1 + (2 * 6 - 1) + (2 * 1 - 1)
		});
	});

	it('counts what is moved out of the window as gone from it', () => {
		const movable: Movable = { dispatchId: 1, entries: [entries[0]!], byDays: [] };
		expect(effectOf(load, movable, -1, 3).relief).to.equal(1);
		expect(effectOf(load, movable, 7, 3).relief).to.equal(1);
		const two: Movable = {
			dispatchId: 1,
			entries: [entries[0]!, entry(1, 2, [9])],
			byDays: []
		};
		expect(effectOf(load, two, -1, 3).relief).to.equal(1);
	});

	it('proposes the move that takes most messages over the limit away', () => {
		const movable = (e: LoadEntry, ...byDays: number[]): Movable => ({
			dispatchId: e.dispatchId,
			entries: [e],
			byDays
		});
		const moves = bestMoves(load, [movable(entries[0]!, 1, 2), movable(entries[4]!, 1)], 3);
		expect(moves).to.have.length(1);
		// On day 1 household 5 is busy already, but not with these: both days relieve one; day 1 is nearer and as even.
		expect(moves[0]).to.deep.include({ dispatchId: 1, byDays: 1, relief: 1 });
		expect(bestMoves(load, [movable(entries[0]!)], 3)).to.deep.equal([]);
	});

	it('agrees with counting everything anew, over 200 random weeks', () => {
		const r = draws(31);
		for (let round = 0; round < 200; round += 1) {
			const days = r.int(2, 7);
			const homes = r.int(3, 30);
			const limit = r.int(1, 3);
			const all = range(r.int(2, 12)).map((id) => {
				const first = r.int(0, days - 1);
				const some = () => range(homes).filter(() => r.chance(0.5));
				// Quiet hours can split a dispatch over two days.
				return r.chance(0.2) && first + 1 < days
					? [entry(id, first, some()), entry(id, first + 1, some())]
					: [entry(id, first, some())];
			});
			const load = loadOf(all.flat(), days, homes);
			const over = (entries: LoadEntry[]) => {
				const { messages } = loadOf(entries, days, homes);
				return messages.reduce(
					(sum, m) => sum + m.reduce((s, n) => s + Math.max(0, n - limit), 0),
					0
				);
			};
			/** Every message weighed by how many come that day. */
			const squares = (entries: LoadEntry[]) =>
				loadOf(entries, days, homes).messages.reduce(
					(sum, m) => sum + m.reduce((s, n) => s + n * n, 0),
					0
				);
			const before = over(all.flat());
			const movables = all.map((own, id): Movable => ({
				dispatchId: id,
				entries: own,
				byDays: range(2 * days)
					.map((n) => n - days)
					.filter((n) => n !== 0 && own.every((e) => e.day + n >= 0 && e.day + n < days))
			}));
			let best = 0;
			for (const m of movables) {
				for (const n of m.byDays) {
					const moved = all.map((own, id) =>
						id === m.dispatchId ? own.map((e) => ({ ...e, day: e.day + n })) : own
					);
					const relief = before - over(moved.flat());
					const evenness = squares(all.flat()) - squares(moved.flat());
					expect(effectOf(load, m, n, limit)).to.deep.include({ relief, evenness });
					best = Math.max(best, relief);
				}
			}
			expect(bestMoves(load, movables, limit)[0]?.relief ?? 0).to.equal(best);
		}
	});
});

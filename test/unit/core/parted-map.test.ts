import { expect } from 'chai';
import { PartedMap } from '../../../src/lib/core/parted-map';
import { draws, often } from '../random';

describe('values in parts', () => {
	it('say what a map says that is written over, and whoever holds an older one sees that (200 random)', () => {
		const r = draws(52);
		for (let i = 0; i < often(200); i += 1) {
			const ids = Array.from({ length: r.int(0, 700) }, () => r.int(1, 1_000));
			const plain = new Map(ids.map((id) => [id, id % 7]));
			let parted = PartedMap.of(ids, (id) => id % 7);
			const held: [PartedMap<number>, string][] = [];
			for (let turn = 0; turn < 4; turn += 1) {
				held.push([parted, JSON.stringify([...plain])]);
				const changes = new Map(
					Array.from({ length: r.int(0, 5) }, () => [r.int(1, 1_000), r.int(10, 99)])
				);
				parted = parted.with(changes);
				for (const [id, value] of changes) if (plain.has(id)) plain.set(id, value);
				expect([...parted]).to.deep.equal([...plain]);
			}
			for (const [map, words] of held) expect(JSON.stringify([...map])).to.equal(words);
			expect(parted.size).to.equal(plain.size);
			const some = r.int(1, 1_000);
			expect([parted.get(some), parted.has(some)]).to.deep.equal([
				plain.get(some),
				plain.has(some)
			]);
			expect([...parted.keys()]).to.deep.equal([...plain.keys()]);
			expect([...parted.values()]).to.deep.equal([...plain.values()]);
			const each: [number, number][] = [];
			parted.forEach((value, id) => each.push([id, value]));
			expect(each).to.deep.equal([...plain]);
		}
	});
});

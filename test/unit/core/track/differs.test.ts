import { expect } from 'chai';
import { chanceOfDifference, corrected, standingOut } from '../../../../src/lib/core/track/differs';
import { draws } from '../../random';

describe('whether parts differ by more than chance', () => {
	// Source: Fisher's tea tasting (The Design of Experiments, chapter 2): three of four cups right, 17/70 one-sided, 34/70 two-sided;
	// his convictions of twins (as R's documentation of fisher.test has them), two-sided p-value 0.0005367: from memory.
	it('is as the published examples say', () => {
		expect(chanceOfDifference({ of: 4, count: 3 }, { of: 4, count: 1 })).to.be.closeTo(
			34 / 70,
			1e-9
		);
		const twins = chanceOfDifference({ of: 12, count: 2 }, { of: 18, count: 15 });
		expect(twins).to.be.closeTo(0.0005367, 5e-7);
	});

	it('is one where nothing differs, the same from both sides, and small for what differs much in a whole district', () => {
		expect(chanceOfDifference({ of: 10, count: 5 }, { of: 20, count: 10 })).to.be.closeTo(1, 1e-9);
		const r = draws(31);
		for (let i = 0; i < 100; i += 1) {
			const [a, b] = [r.int(1, 60), r.int(1, 60)];
			const one = { of: a, count: r.int(0, a) };
			const other = { of: b, count: r.int(0, b) };
			const p = chanceOfDifference(one, other);
			expect(chanceOfDifference(other, one)).to.be.closeTo(p, 1e-9);
			expect(p).to.be.within(0, 1);
		}
		expect(chanceOfDifference({ of: 3000, count: 300 }, { of: 22_000, count: 1100 })).to.be.below(
			1e-6
		);
	});

	// By how it is made (Holm 1979): the least of n times n, the next times n − 1, and none less than the one before it.
	it('is corrected for how many are looked at', () => {
		const adjusted = corrected([0.04, 0.01, 0.03, 0.5]);
		[0.09, 0.04, 0.09, 0.5].forEach((p, i) => expect(adjusted[i]).to.be.closeTo(p, 1e-12));
		expect(corrected([0.6, 0.7])).to.deep.equal([1, 1]);
	});

	it('is not said of schools that differ by chance alone, more often than one time in twenty (300 made-up districts)', () => {
		const r = draws(32);
		let said = 0;
		for (let i = 0; i < 300; i += 1) {
			const schools = Array.from({ length: 12 }, () => {
				const of = r.int(40, 120);
				const count = Array.from({ length: of }, () => r.int(1, 100) <= 12).filter(Boolean).length;
				return { of, count };
			});
			if (standingOut([schools]).length > 0) said += 1;
		}
		expect(said).to.be.at.most(24);
		const worse = { of: 200, count: 60, name: 'worse' };
		const schools = [worse, { of: 300, count: 30, name: 'a' }, { of: 300, count: 33, name: 'b' }];
		const found = standingOut([schools]);
		expect(found.find((f) => f.group.name === 'worse')).to.include({ more: true });
		// The more that are compared besides, the less is said of it.
		const alike = Array.from({ length: 30 }, (_, i) => ({ of: 100, count: 12, name: `${i}` }));
		const among = standingOut([schools, alike]).find((f) => f.group.name === 'worse')!;
		expect(among.chance).to.be.above(found.find((f) => f.group.name === 'worse')!.chance);
		expect(standingOut([[worse]])).to.deep.equal([]);
	});
});

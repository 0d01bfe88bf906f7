import { expect } from 'chai';
import { boardAt, nextChange, usualFront, type Posted } from '../../../../src/lib/core/plan/board';
import { draws } from '../../random';

const post = (id: number, from: number, over: Partial<Posted> = {}): Posted => ({
	...{ id, from, until: null, pinned: false },
	...over
});
const ids = (posts: readonly Posted[]) => posts.map((p) => p.id);

describe('what stands on a board', () => {
	it('pinned ones first, then the newest three, the rest behind them', () => {
		const posts = [1, 2, 3, 4, 5].map((id) => post(id, id * 10));
		const board = boardAt([...posts, post(6, 5, { pinned: true })], 100);
		expect(ids(board.pinned)).to.deep.equal([6]);
		expect(ids(board.front)).to.deep.equal([5, 4, 3]);
		expect(ids(board.earlier)).to.deep.equal([2, 1]);
		expect(ids(boardAt(posts, 100, 2).front)).to.deep.equal([5, 4]);
	});

	it('from its start to its end, half-open; what is pinned ends too', () => {
		const one = [post(1, 10, { until: 20, pinned: true })];
		expect([9, 10, 19, 20].map((now) => boardAt(one, now).pinned.length)).to.deep.equal([
			0, 1, 1, 0
		]);
		expect([9, 10, 20].map((now) => nextChange(one, now))).to.deep.equal([10, 20, null]);
	});

	it('whatever stands is in one place and once, by 500 boards at any moment; nothing changes before the next change', () => {
		const r = draws(16);
		for (let i = 0; i < 500; i += 1) {
			const posts = Array.from({ length: r.int(0, 12) }, (_, id) =>
				post(id, r.int(0, 50), {
					until: r.int(0, 3) === 0 ? null : r.int(0, 60),
					pinned: r.int(0, 4) === 0
				})
			);
			const now = r.int(0, 60);
			const { pinned, front, earlier } = boardAt(posts, now);
			const shown = ids([...pinned, ...front, ...earlier]);
			const standing = posts.filter((p) => p.from <= now && (p.until === null || p.until > now));
			expect(shown.slice().sort((a, b) => a - b)).to.deep.equal(ids(standing));
			expect(front.length).to.be.at.most(usualFront);
			if (earlier.length > 0) expect(front.length).to.equal(usualFront);
			expect(
				pinned.every((p) => p.pinned) && [...front, ...earlier].every((p) => !p.pinned)
			).to.equal(true);
			const next = nextChange(posts, now);
			for (let at = now; at < (next ?? 70); at += 1)
				expect(boardAt(posts, at)).to.deep.equal({ pinned, front, earlier });
		}
	});
});

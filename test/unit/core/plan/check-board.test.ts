import { expect } from 'chai';
import { boardChecks, type BoardInput } from '../../../../src/lib/core/plan/check-board';

const stands: BoardInput = {
	...{ names: ['Boats 7-A'], notFor: [], standsOnly: false, picked: true },
	...{ from: 100, until: null, now: 50 }
};
const said = (over: Partial<BoardInput>) =>
	boardChecks({ ...stands, ...over }).map((c) => `${c.level} ${c.where}: ${c.text}`);

describe('the check of the boards', () => {
	it('says on which they are, and that it only stands there', () => {
		expect(said({})).to.deep.equal(['fine board: Stands on the board of Boats 7-A.']);
		expect(said({ names: ['A', 'B', 'C', 'D', 'E'], standsOnly: true })).to.deep.equal([
			'fine board: Only stands on 5 boards: A, B, C and 2 more.'
		]);
		expect(said({ names: null })).to.deep.equal([]);
	});
	it('says why it stands on none, or on fewer than it is meant for', () => {
		expect(said({ names: [], notFor: ['students', 'narrowed'] })[0]).to.match(
			/^caution board: It stands on no board: students are picked one by one; it is meant for some/
		);
		expect(said({ notFor: ['not-own'] })[0]).to.match(
			/^caution board: Stands on the board of Boats 7-A, and not/
		);
		// Nobody is picked yet, or no way is chosen either: that is said elsewhere.
		expect(said({ names: [], notFor: [], picked: false })).to.deep.equal([]);
		expect(said({ names: [], notFor: ['grades'], standsOnly: true })).to.deep.equal([]);
	});
	it('blocks a time that is none', () => {
		expect(said({ until: 100 })[0]).to.match(/^block board: It would leave the boards before/);
		expect(said({ from: 10, until: 50 })[0]).to.match(
			/^block board: Its time on the boards is past/
		);
		expect(said({ until: 101 })[0]).to.match(/^fine/);
	});
});

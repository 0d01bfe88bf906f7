import { expect } from 'chai';
import { isOver, overAt, type Ending } from '../../../../src/lib/core/track/over';

const day = 86_400_000;
const sent = (over: Partial<Ending> = {}): Ending => ({
	state: 'sent',
	endsAt: null,
	sentAt: 10 * day,
	...over
});

describe('when a dispatch is over', () => {
	it('is at its end time, be it sooner or later than its reading', () => {
		expect(overAt(sent({ endsAt: 11 * day }))).to.equal(11 * day);
		expect(overAt(sent({ endsAt: 40 * day }))).to.equal(40 * day);
	});
	it('is else three days after its last copy has left', () => {
		expect(isOver(sent(), 13 * day - 1)).to.equal(false);
		expect(isOver(sent(), 13 * day)).to.equal(true);
	});
	it('is never while copies are still to leave', () => {
		for (const state of ['draft', 'scheduled'] as const) {
			expect(isOver(sent({ state, endsAt: day }), 99 * day), state).to.equal(false);
		}
		expect(overAt(sent({ sentAt: null }))).to.equal(null);
	});
});

import { expect } from 'chai';
import { audienceOf } from '../../../src/lib/core/audience/audience';
import { record } from '../../../src/lib/server/desk/track/record';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { listen } from '../../../src/lib/server/live/dispatch';
import { coordinator, sheetOf, testSchool } from './database';

/** Waits until something is so; the test's own time is the bound. */
async function until(is: () => boolean): Promise<void> {
	while (!is()) await new Promise((resolve) => setTimeout(resolve, 10));
}

describe('live pages', () => {
	it('are told once on joining, then of each change, and of no other dispatch’s', async () => {
		const school = await testSchool();
		try {
			const sheet = sheetOf({ audience: audienceOf([100]), ways: ['inbox'] });
			const sent = await schedule(school.db, Buffer.alloc(32), coordinator, sheet, 1);
			const id = sent.ok ? sent.dispatchId : 0;
			let mine = 0;
			let others = 0;
			const stop = listen(school.db, id, () => (mine += 1));
			const stopOther = listen(school.db, id + 1, () => (others += 1));
			// What came between the page and the line is fetched by this one telling.
			await until(() => mine > 0 && others > 0);
			expect([mine, others]).to.deep.equal([1, 1]);
			await school.db.write((tx) =>
				record(tx, [
					{ deliveryId: 1, at: 1, kind: 'delivered', source: 'courier', detail: 'there' }
				])
			);
			await until(() => mine > 1);
			expect([mine, others]).to.deep.equal([2, 1]);
			stop();
			stopOther();
		} finally {
			await school.close();
		}
	});
});

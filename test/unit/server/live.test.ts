import { expect } from 'chai';
import { audienceOf } from '../../../src/lib/core/audience/audience';
import { record } from '../../../src/lib/server/desk/track/record';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { listenToEvidence } from '../../../src/lib/server/live/dispatch';
import { followReach, type NewsSince } from '../../../src/lib/server/live/reach';
import { newestEvent } from '../../../src/lib/server/db/newest-event';
import { reachNews } from '../../../src/lib/server/desk/reach/change';
import type { ReachChange } from '../../../src/lib/server/desk/reach/types';
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
			const stop = listenToEvidence(school.db, id, () => (mine += 1));
			const stopOther = listenToEvidence(school.db, id + 1, () => (others += 1));
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

	it('of one dispatch are told what has changed, worked out once for all of them; who comes in later is told what they miss', async () => {
		const school = await testSchool();
		try {
			const sheet = sheetOf({ audience: audienceOf([100]), ways: ['inbox'] });
			const sent = await schedule(school.db, Buffer.alloc(32), coordinator, sheet, 1);
			const id = sent.ok ? sent.dispatchId : 0;
			const since = await newestEvent(school.db);
			let asked = 0;
			const newsSince: NewsSince = (...of) => {
				asked += 1;
				return reachNews(school.db, ...of);
			};
			const heard: { line: number; event: string; change: ReachChange | null }[] = [];
			const watch = (line: number, from: number) =>
				followReach(
					school.db,
					{ id, since: from },
					{
						say: (event, data) =>
							heard.push({ line, event, change: JSON.parse(data ?? 'null') as ReachChange | null })
					},
					newsSince
				);
			const stops = Array.from({ length: 20 }, (_, line) => watch(line, since));
			await until(() => asked === 1);
			const reads = (at: number) =>
				school.db.write((tx) =>
					record(tx, [{ deliveryId: 1, at, kind: 'acknowledged', source: 'inbox', detail: 'seen' }])
				);
			await reads(1);
			await until(() => heard.length === 20);
			expect(asked).to.equal(2);
			const [{ change }] = heard as [(typeof heard)[number]];
			expect(change!.touched).to.deep.equal([1]);
			expect(change!.lines.map((l) => l.state)).to.deep.equal(['read']);
			expect(change!.coverage.covered).to.equal(2);
			expect(heard.every((h) => h.event === 'change' && h.change!.since === since)).to.equal(true);
			// One that comes back with what it knew before.
			stops.push(watch(20, since));
			await until(() => heard.length === 21);
			expect(heard.at(-1)).to.deep.equal({ line: 20, event: 'change', change });
			// A number from a database that is not this one any more: the page is asked for anew.
			stops.push(watch(21, since + 1_000));
			await reads(2);
			await until(() => heard.length > 40);
			expect(heard.at(-1)!.change!.since).to.equal(change!.asOf.event);
			stops.forEach((stop) => stop());
		} finally {
			await school.close();
		}
	});
});

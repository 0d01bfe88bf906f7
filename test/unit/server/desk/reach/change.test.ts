import { expect } from 'chai';
import { now } from '../../../../../src/lib/server/clock';
import { reachNews } from '../../../../../src/lib/server/desk/reach/change';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import type { DispatchReach, ReachChange } from '../../../../../src/lib/server/desk/reach/types';
import { record, type Happening } from '../../../../../src/lib/server/desk/track/record';
import { changedReach, fits, missesLines } from '../../../../../src/lib/ui/reach/changed-reach';
import { draws } from '../../../random';
import { testStart } from '../../database';
import { sentDistrict } from '../track/sent-district';

const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('what has changed of a dispatch', () => {
	let house: Awaited<ReturnType<typeof sentDistrict>>;
	let id: number;
	let copies: number[];
	before(async () => {
		house = await sentDistrict(8, 6);
		const { db } = house;
		id = house.dispatchId;
		copies = (
			await db.all<{ id: number }>('SELECT id FROM delivery WHERE dispatch_id = $id', { id })
		).map((d) => d.id);
	});
	after(() => house.close());

	const page = async (): Promise<DispatchReach> =>
		(await dispatchReach(house.db, house.user, id, everything))!;
	async function changeSince({ asOf }: DispatchReach): Promise<ReachChange> {
		const news = await reachNews(house.db, id, asOf.event);
		if (news.is !== 'change') throw new Error(`it is said to be ${news.is}`);
		return news.change;
	}
	/** As it is compared: growth ends at the moment it is asked for. */
	const plain = ({ asOf: _, coverage, ...reach }: DispatchReach) => ({
		...reach,
		coverage: { ...coverage, growth: null }
	});

	it('laid over the page of before is the page of now, whatever happened between (40 random pieces of news)', async () => {
		const r = draws(18);
		let seen = await page();
		let all = 0;
		for (let i = 0; i < 40; i += 1) {
			const time = await now(house.db);
			const happened = (): Happening => ({
				...{ deliveryId: r.pick(copies), at: time + i, source: 'mail server' },
				...r.pick<Pick<Happening, 'kind' | 'detail'>>([
					{ kind: 'accepted', detail: 'taken' },
					{ kind: 'delivered', detail: 'there' },
					{ kind: 'failed', detail: 'no such mailbox' },
					{ kind: 'opened', detail: 'opened' },
					{ kind: 'picture-loaded', detail: 'a picture was loaded' }
				])
			});
			await house.db.write((tx) =>
				record(
					tx,
					Array.from({ length: r.int(1, 30) }, () => happened())
				)
			);
			const change = await changeSince(seen);
			const fresh = await page();
			expect(change.asOf).to.deep.equal(fresh.asOf);
			if (!fits(seen, change)) {
				// Only once is it another: when the last copy has left.
				expect([seen.dispatch.state, change.state]).to.deep.equal(['scheduled', 'sent']);
				seen = fresh;
				continue;
			}
			const laid = changedReach(seen, change);
			if (missesLines(seen, change))
				expect({ ...plain(laid), copies: null }).to.deep.equal({ ...plain(fresh), copies: null });
			else {
				expect(plain(laid)).to.deep.equal(plain(fresh));
				all += 1;
			}
			seen = fresh;
		}
		expect(all).to.be.above(15);
	});

	it('is nothing where nothing came, and not said where it is too much, the database was put back, or the dispatch is gone', async () => {
		const { event } = (await page()).asOf;
		const news = (since: number, of = id) => reachNews(house.db, of, since);
		expect(await news(event)).to.deep.equal({ is: 'nothing' });
		const anew = { is: 'anew', event };
		expect(await news(event + 1)).to.deep.equal(anew);
		expect(await news(event - 30_000)).to.deep.equal(anew);
		expect(await news(event, 999_999)).to.deep.equal(anew);
	});

	it('that somebody answered in words is said, since other parts of the page say so too', async () => {
		const seen = await page();
		await house.db.write((tx) =>
			record(tx, [
				{
					...{ deliveryId: copies[0]!, at: testStart, kind: 'answered', source: 'mail server' },
					detail: 'answered'
				}
			])
		);
		const change = await changeSince(seen);
		expect(change.answered).to.equal(true);
		expect(fits(seen, change)).to.equal(false);
	});
});

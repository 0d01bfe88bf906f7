import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { now, setClock } from '../../../../../src/lib/server/clock';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { reachNews } from '../../../../../src/lib/server/desk/reach/change';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import type { DispatchReach } from '../../../../../src/lib/server/desk/reach/types';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { sheetWith } from '../../../../../src/lib/server/desk/sheet/sheet';
import { record, type Happening } from '../../../../../src/lib/server/desk/track/record';
import { changedReach, fits, missesLines } from '../../../../../src/lib/ui/reach/changed-reach';
import { draws } from '../../../random';
import { districtWithCoordinator, testStart } from '../../database';

const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('what has changed of a dispatch', () => {
	let house: Awaited<ReturnType<typeof districtWithCoordinator>>;
	let id: number;
	let copies: number[];
	before(async () => {
		house = await districtWithCoordinator(8);
		const { db, user } = house;
		await setClock(db, testStart);
		const sections = await db.all<{ id: number }>(
			'SELECT id FROM section WHERE term_id = 2 ORDER BY id LIMIT 6'
		);
		const sheet = sheetWith({
			sheetKey: crypto.randomUUID(),
			audience: audienceOf(sections.map((s) => s.id)),
			wording: wordingOf('Boats', 'The boat is late.'),
			...{ ways: ['email', 'text', 'inbox'], holdMinutes: 0 }
		});
		const { tally } = await landing(db, user, sheet);
		const sent = await schedule(db, Buffer.alloc(32, 7), user, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		id = sent.dispatchId;
		copies = (
			await db.all<{ id: number }>('SELECT id FROM delivery WHERE dispatch_id = $id', { id })
		).map((d) => d.id);
	});
	after(() => house.close());

	const page = async (): Promise<DispatchReach> =>
		(await dispatchReach(house.db, house.user, id, everything))!;
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
			const { change } = await reachNews(house.db, id, seen.asOf.event);
			const fresh = await page();
			expect(change!.asOf).to.deep.equal(fresh.asOf);
			if (!fits(seen, change!)) {
				// Only once is it another: when the last copy has left.
				expect([seen.dispatch.state, change!.state]).to.deep.equal(['scheduled', 'sent']);
				seen = fresh;
				continue;
			}
			const laid = changedReach(seen, change!);
			if (missesLines(seen, change!))
				expect({ ...plain(laid), copies: null }).to.deep.equal({ ...plain(fresh), copies: null });
			else {
				expect(plain(laid)).to.deep.equal(plain(fresh));
				all += 1;
			}
			seen = fresh;
		}
		expect(all).to.be.above(15);
	});

	it('is not said where it is too much, the database was put back, or the dispatch is gone', async () => {
		const { asOf } = await page();
		expect(await reachNews(house.db, id, asOf.event + 1)).to.deep.equal({
			event: asOf.event,
			change: null
		});
		expect(await reachNews(house.db, id, asOf.event - 30_000)).to.deep.equal({
			event: asOf.event,
			change: null
		});
		expect(await reachNews(house.db, 999_999, 7)).to.deep.equal({ event: 7, change: null });
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
		const { change } = await reachNews(house.db, id, seen.asOf.event);
		expect(change!.answered).to.equal(true);
		expect(fits(seen, change!)).to.equal(false);
	});
});

import { expect } from 'chai';
import {
	addressesFail,
	failAgainAndAgain,
	failInTheEnd,
	recordWithFaults
} from '../../../courier/failing-addresses';
import { now } from '../../../src/lib/server/clock';
import type { Db } from '../../../src/lib/server/db/open';
import { changedSince, rosterVersion } from '../../../src/lib/server/db/roster';
import { mendAddress } from '../../../src/lib/server/desk/people/mend';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { record, type Happening } from '../../../src/lib/server/desk/track/record';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../server/database';

const key = Buffer.alloc(32, 7);

describe('an address that does not take what is sent', () => {
	let school: TestSchool;
	let sent: number;
	beforeEach(async () => {
		school = await testSchool();
		const made = await schedule(school.db, key, coordinator, sheetOf(), 5);
		sent = made.ok ? made.dispatchId : 0;
	});
	afterEach(() => school.close());
	const failing = async () =>
		(await school.db.one<{ failing: string | null }>(
			`SELECT failing FROM address WHERE person_id = 10 AND way = 'text'`
		))!.failing;

	it('is one to mend after three copies in a row, and not while one arrived between, in steps and at once', async () => {
		const { db } = school;
		const fail = async (states: readonly string[]) => {
			await db.run('DELETE FROM delivery');
			for (const [i, state] of states.entries()) {
				await db.run(
					`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at)
					VALUES (${i + 1}, ${sent}, 10, 'text', '+12075550101', '${state}', 0, 0)`
				);
				await db.run(
					`INSERT INTO event (delivery_id, at, kind, detail, said, tries)
						VALUES (${i + 1}, 0, 'failed', 'the phone was off', 'receipt, EXPIRED', 10)`
				);
			}
			const found: (string | null)[] = [];
			for (const way of [
				() => db.write((tx) => failAgainAndAgain(tx, [states.length], 5)),
				() => failInTheEnd(db, [states.length], 5)
			]) {
				await db.run('UPDATE address SET failing = NULL');
				await way();
				found.push(await failing());
			}
			expect(found[1]).to.equal(found[0]);
			return found[0];
		};
		expect(await fail(['failed', 'failed'])).to.equal(null);
		expect(await fail(['failed', 'delivered', 'failed', 'failed'])).to.equal(null);
		expect(await fail(['read', 'failed', 'failed', 'failed'])).to.equal(
			'3 in a row did not arrive, the last: the phone was off'
		);
	});

	/** The text of person 10, refused with its number at fault. */
	const refused = async () => {
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE person_id = 10 AND way = 'text'`
		))!;
		const happening: Happening = {
			...{ deliveryId: id, at: 9, kind: 'failed', source: 'text exchange' },
			detail: 'the exchange refused it'
		};
		return { happenings: [happening], faults: [{ deliveryId: id, why: 'no such phone' }] };
	};
	const states = () =>
		school.db.all<object>(
			`SELECT state, (SELECT count(*) FROM event WHERE delivery_id = delivery.id AND kind = 'failed') AS failed
			FROM delivery WHERE person_id = 10 AND way = 'text'`
		);

	it('is marked with what is written down of its copy, and whoever holds the roster hears of it', async () => {
		const before = await rosterVersion(school.db);
		expect(await recordWithFaults(school.db, await refused(), 9, {})).to.equal(true);
		expect(await failing()).to.equal('no such phone');
		expect(await states()).to.deep.equal([{ state: 'failed', failed: 1 }]);
		expect([...(await changedSince(school.db, before))]).to.include(10);
	});

	it('put right while that is worked out, it is not marked by what was said of the old one; nothing is half written', async () => {
		const mended: Db = {
			...school.db,
			writeAtOnce: async (stands, deeds) => {
				await school.db.run(
					`UPDATE address SET value = '+12075550177' WHERE person_id = 10 AND way = 'text'`
				);
				return school.db.writeAtOnce(stands, deeds);
			}
		};
		const said = await refused();
		expect(await recordWithFaults(mended, said, 9, {})).to.equal(false);
		expect(await states()).to.deep.equal([{ state: 'held', failed: 0 }]);
		// Then it is done in steps, by what holds now.
		await school.db.write(async (tx) => {
			await record(tx, said.happenings);
			await addressesFail(tx, said.faults, 9);
		});
		expect(await failing()).to.equal(null);
		expect(await states()).to.deep.equal([{ state: 'failed', failed: 1 }]);
	});

	it('used again after it was put right, it is not marked by what is said again of a copy that left before', async () => {
		const { db } = school;
		const said = await refused();
		const leaves = async (at: number) => {
			await db.run('DELETE FROM event');
			const { deliveryId } = said.happenings[0]!;
			const taken = { kind: 'accepted', source: 'text exchange', detail: 'taken' } as const;
			await db.write((tx) => record(tx, [{ deliveryId, at, ...taken }]));
		};
		const time = Math.round(await now(db));
		await leaves(time - 60_000);
		expect(await recordWithFaults(db, said, time, { once: true })).to.equal(true);
		expect(await failing()).to.equal('no such phone');
		const { id } = (await db.one<{ id: number }>(
			`SELECT id FROM address WHERE person_id = 10 AND way = 'text'`
		))!;
		expect(await mendAddress(db, coordinator, { id, value: '' })).to.include({ ok: true });
		expect(await recordWithFaults(db, said, time, { once: true })).to.equal(true);
		expect(await failing()).to.equal(null);
		// A copy that leaves after it says how it is now.
		await leaves((await now(db)) + 60_000);
		expect(await recordWithFaults(db, said, time, { once: true })).to.equal(true);
		expect(await failing()).to.equal('no such phone');
	});
});

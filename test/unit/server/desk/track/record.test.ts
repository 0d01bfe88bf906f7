import { expect } from 'chai';
import type { EventKind } from '../../../../../src/lib/core/track/evidence';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	record,
	recordAtOnce,
	type Happening
} from '../../../../../src/lib/server/desk/track/record';
import { draws } from '../../../random';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

describe('evidence that is written down in one go', () => {
	const key = Buffer.alloc(32, 5);
	const schools: TestSchool[] = [];
	afterEach(async () => {
		for (const school of schools.splice(0)) await school.close();
	});
	async function sentSchool(): Promise<TestSchool & { copies: number[] }> {
		const school = await testSchool();
		schools.push(school);
		const sheet = sheetOf({ holdMinutes: 0 });
		const { tally } = await landing(school.db, coordinator, sheet);
		const sent = await schedule(school.db, key, coordinator, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		// Each by its own clock, and held against each other.
		await school.db.run('UPDATE event SET at = 1');
		await school.db.run('UPDATE delivery SET state_at = 1, due_at = 1');
		const rows = await school.db.all<{ id: number }>('SELECT id FROM delivery ORDER BY id');
		return { ...school, copies: rows.map((r) => r.id) };
	}
	/** All that evidence changes. */
	const stateOf = async ({ db }: TestSchool) => ({
		copies: await db.all(
			`SELECT id, state, strength, state_at, left_at, read_at, claimed_by, attempts, unanswered, due_at, provider_ref, parts
			FROM delivery ORDER BY id`
		),
		events: await db.all('SELECT * FROM event ORDER BY id'),
		dispatches: await db.all('SELECT id, state, sent_at, evidence FROM dispatch ORDER BY id')
	});

	it('is the same rows as step by step, over 300 random groups with what comes twice and claims given up', async () => {
		const r = draws(18);
		const [one, other] = [await sentSchool(), await sentSchool()];
		const kinds: readonly EventKind[] = [
			...(['accepted', 'deferred', 'delivered', 'failed', 'noted'] as const),
			...(['opened', 'receipt', 'unanswered', 'acknowledged'] as const)
		];
		for (let group = 0; group < 300; group += 1) {
			const happenings = Array.from({ length: r.int(0, 6) }, (): Happening => ({
				deliveryId: r.pick([...one.copies, 999_999]),
				at: 1_804_000_000_000 + group * 60_000,
				kind: r.pick(kinds),
				source: 'courier',
				detail: r.pick(["it's so", 'so', '']),
				...(r.int(0, 1) ? { said: r.pick(['250 ok', "'; --"]) } : {})
			}));
			const freed = new Map(
				r.int(0, 1)
					? [
							[
								r.pick(one.copies),
								{
									...{ fence: r.int(0, 2), attempts: r.int(0, 3), unanswered: 0 },
									...{ providerRef: r.pick([null, `ref-${group}`]), dueAt: r.pick([null, 5]) },
									parts: null
								}
							] as const
						]
					: []
			);
			const options = { once: r.int(0, 1) === 1, freed };
			const fence = r.int(0, 2);
			for (const { db } of [one, other])
				await db.run(`UPDATE delivery SET claimed_by = $fence WHERE id % 2`, { fence });
			await one.db.write((tx) => record(tx, happenings, options));
			expect(await recordAtOnce(other.db, happenings, options)).to.equal(true);
		}
		const [mine, theirs] = [await stateOf(one), await stateOf(other)];
		expect(mine.events.length).to.be.greaterThan(300);
		expect(theirs).to.deep.equal(mine);
	});

	it('is not written where something became of a copy after it was read, and where what it rests on does not hold', async () => {
		const school = await sentSchool();
		const [copy] = school.copies;
		const happening = (kind: EventKind): Happening => ({
			...{ deliveryId: copy!, at: 1_804_000_000_000, kind, source: 'courier', detail: 'so' }
		});
		// Somebody else is first with the lock, when the copy has been read already.
		const between: typeof school.db = {
			...school.db,
			writeAtOnce: async (stands, deeds) => {
				await school.db.write((tx) => record(tx, [happening('stopped')]));
				return school.db.writeAtOnce(stands, deeds);
			}
		};
		expect(await recordAtOnce(between, [happening('accepted')])).to.equal(false);
		const kept = () => school.db.all(`SELECT kind FROM event WHERE kind != 'scheduled'`);
		expect(await kept()).to.deep.equal([{ kind: 'stopped' }]);
		const never = { sql: '$n > 1', bind: { n: 1 } };
		expect(await recordAtOnce(school.db, [happening('noted')], { stands: never })).to.equal(false);
		expect(await kept()).to.deep.equal([{ kind: 'stopped' }]);
	});
});

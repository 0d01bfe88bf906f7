import { expect } from 'chai';
import { heaviestDay } from '../../../../../src/lib/server/desk/load/load';
import { draws } from '../../../random';
import { testSchool, type TestSchool } from '../../database';

describe('the day on which most readers have messages already', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const day = Date.parse('2027-03-12T05:00:00Z');
	const people = Array.from({ length: 60 }, (_, i) => 500 + i);

	it('is the same whether some people are looked up or all that is due is read', async () => {
		const r = draws(5);
		await school.db.write(async (tx) => {
			for (const id of people)
				await tx.run(
					`INSERT INTO person (id, kind, given_name, family_name, language, has_inbox) VALUES (${id}, 'adult', 'Reader', '${id}', 'en', 0)`
				);
			for (let d = 1; d <= 6; d += 1) {
				await tx.run(
					`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, leaves_at, last_due, kind, changed_at)
					VALUES (${900 + d}, 'k${d}', 's', 'b', '{}', '', '[]', 0, 90, 'scheduled', ${day + d * 3_600_000}, ${day + d * 3_600_000}, '${d === 6 ? 'answer' : 'message'}', 0)`
				);
				for (const id of people) {
					if (r.int(0, 2) === 0) continue;
					const key = d * 10_000 + id;
					await tx.run(
						`INSERT INTO delivery (id, dispatch_id, person_id, way, state, state_at, due_at, in_digest)
						VALUES (${key}, ${900 + d}, ${id}, 'inbox', '${r.pick(['sent', 'spared', 'planned'])}', 0, ${day + d * 3_600_000}, ${r.int(0, 1)})`
					);
					if (r.int(0, 3) === 0)
						await tx.run(
							`INSERT INTO delivery_also (delivery_id, person_id) VALUES (${key}, ${r.pick(people)})`
						);
				}
			}
		});
		const found = new Set<number>();
		for (let round = 0; round < 60; round += 1) {
			const readers = people.filter(() => r.int(0, 2) > 0);
			const copies = readers.map((personId) => ({ personId, alsoFor: [] }));
			const manifest = { copies, dueAt: readers.map(() => day + 40_000_000) } as never;
			const limit = r.int(1, 4);
			const [few, whole] = await Promise.all(
				[1_000, 0].map((most) => heaviestDay(school.db, manifest, limit, 'America/New_York', most))
			);
			expect(few).to.deep.equal(whole);
			found.add(few?.people ?? 0);
		}
		// It is no comparison of nothing with nothing.
		expect(found.size).to.be.above(5);
	});
});

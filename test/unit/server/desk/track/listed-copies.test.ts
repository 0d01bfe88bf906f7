import { expect } from 'chai';
import { isCovered } from '../../../../../src/lib/core/track/coverage';
import { isUnsure } from '../../../../../src/lib/server/db/copy-state';
import { countedBy } from '../../../../../src/lib/server/desk/track/coverage';
import {
	deliveryPage,
	type DeliveryFilter
} from '../../../../../src/lib/server/desk/track/listed-copies';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { readByHabit } from '../../../../read-by-habit';
import { testStart } from '../../database';
import { sentDistrict } from './sent-district';

const everything: DeliveryFilter = { way: 'all', state: 'all', section: 0, search: '', page: 1 };

describe('the copies of a dispatch, counted and listed in memory', () => {
	let house: Awaited<ReturnType<typeof sentDistrict>>;
	let id: number;
	let section: number;
	before(async () => {
		house = await sentDistrict(5, 8);
		section = house.sections[3]!;
		id = house.dispatchId;
		await readByHabit(house.db, id, 'listed');
	});
	after(() => house.close());

	/** The same asked of the rows. */
	async function byRows({ way, state, section: of, search, page }: DeliveryFilter) {
		const { coverage } = (await countedBy(house.db, [id])).get(id)!;
		const open = [...coverage.standing].flatMap(([s, standing]) =>
			isCovered(standing) ? [] : [s]
		);
		const students = (which: string) =>
			`EXISTS (SELECT 1 FROM delivery_student JOIN person AS student ON student.id = student_id WHERE delivery_id = delivery.id AND ${which})`;
		const states: Record<string, string> = {
			all: '1',
			weak: `strength = 'weak'`,
			unsure: isUnsure,
			'not-covered': students('student_id IN (SELECT value FROM json_each($open))')
		};
		const rows = await house.db.all<{ id: number }>(
			`SELECT delivery.id FROM delivery JOIN person ON person.id = person_id WHERE dispatch_id = $id
				AND $way IN ('all', way) AND ${states[state] ?? 'state = $state'} AND $state != '' AND $open != ''
				AND ($section = 0 OR ${students('student_id IN (SELECT student_id FROM dispatch_student WHERE dispatch_id = $id AND section_id = $section)')})
				AND (person.given_name || ' ' || person.family_name LIKE $search OR ${students(`student.given_name || ' ' || student.family_name LIKE $search`)})
			ORDER BY person.family_name, person.given_name, person_id, step, way, delivery.id`,
			{ id, way, state, section: of, search: `%${search}%`, open: JSON.stringify(open) }
		);
		return { found: rows.length, ids: rows.slice((page - 1) * 50, page * 50).map((r) => r.id) };
	}
	async function agrees(filter: Partial<DeliveryFilter>): Promise<number> {
		const asked = { ...everything, ...filter };
		const counted = (await countedBy(house.db, [id])).get(id)!;
		const page = await deliveryPage(house.db, id, counted, asked);
		expect(
			{ found: page.found, ids: page.deliveries.map((d) => d.id) },
			JSON.stringify(filter)
		).to.deep.equal(await byRows(asked));
		return page.found;
	}
	/** What is kept beside the copies, and the same counted of the rows. */
	async function countsAgree() {
		const { counts } = (await countedBy(house.db, [id])).get(id)!;
		const rows = await house.db.all<object>(
			`SELECT way, state, count(*) AS n, count(left_at) AS left FROM delivery WHERE dispatch_id = $id GROUP BY way, state`,
			{ id }
		);
		expect(counts.counts).to.have.deep.members(rows);
		const sums = await house.db.one<object>(
			`SELECT min(left_at) AS firstLeft, sum(strength = 'weak') AS weak, sum(${isUnsure}) AS unsure FROM delivery WHERE dispatch_id = $id`,
			{ id }
		);
		const { firstLeft, weak, unsure } = counts;
		expect({ firstLeft, weak, unsure }).to.deep.equal(sums);
	}

	it('are those of the rows, by every filter and in their order', async () => {
		await countsAgree();
		expect(await agrees({})).to.be.above(100);
		for (const filter of [
			...[{ page: 2 }, { page: 99 }, { way: 'text' as const }, { section }],
			...[{ state: 'read' as const }, { state: 'not-covered' as const, page: 2 }],
			...[{ state: 'weak' as const }, { state: 'unsure' as const }],
			...[{ search: 'an' }, { search: 'a', state: 'delivered' as const, section }]
		])
			await agrees(filter);
		for (const search of ['%', '_', '\\', "' OR 1"]) {
			const counted = (await countedBy(house.db, [id])).get(id)!;
			expect((await deliveryPage(house.db, id, counted, { ...everything, search })).found).to.equal(
				0
			);
		}
	});

	it('stay so with each piece of evidence, and whoever looked before is not disturbed', async () => {
		const { db } = house;
		const copies = await db.all<{ id: number }>(
			`SELECT id FROM delivery WHERE dispatch_id = $id AND state = 'delivered' ORDER BY id LIMIT 6`,
			{ id }
		);
		const before = (await countedBy(db, [id])).get(id)!.coverage;
		const covered = before.covered;
		for (const [i, copy] of copies.entries()) {
			const kind = (['link-followed', 'acknowledged', 'failed', 'words-link-followed'] as const)[
				i % 4
			]!;
			await db.write((tx) =>
				record(tx, [
					{
						...{ deliveryId: copy.id, at: testStart + 3_600_000 + i, kind, source: 'inbox' },
						...{ detail: 'x', ...(i === 3 ? { about: 'https://pier.example/' } : {}) }
					}
				])
			);
			await countsAgree();
			await agrees({ state: 'not-covered' });
			await agrees({ state: 'read' });
		}
		const { coverage, links } = (await countedBy(db, [id])).get(id)!;
		const rows = await db.one<{ n: number }>(
			`SELECT count(DISTINCT student_id) AS n FROM delivery JOIN delivery_student ON delivery_id = delivery.id
			JOIN person ON person.id = person_id WHERE dispatch_id = $id AND kind = 'adult' AND state IN ('read', 'answered')`,
			{ id }
		);
		expect(coverage.covered).to.equal(rows!.n);
		expect(before.covered).to.equal(covered);
		expect(links.links.map((l) => [l.href, l.people.length + l.machines])).to.deep.equal([
			['https://pier.example/', 1]
		]);
	});
});

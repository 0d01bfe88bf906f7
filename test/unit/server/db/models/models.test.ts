import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { neverTwice } from '../../../../../src/lib/server/db/models/column';
import { tables } from '../../../../../src/lib/server/db/models/all';
import { person } from '../../../../../src/lib/server/db/models/roster';
import { schemaPage } from '../../../../../src/lib/server/db/models/page';
import { inDatabase } from '../../../../../src/lib/server/db/models/table';
import { freshDatabase, type FreshDatabase } from '../../database';

interface Told {
	readonly name: string;
	readonly type: string;
	readonly nullable: boolean;
	readonly key: boolean;
	readonly given: string | null;
	readonly names: string | null;
	readonly whenGone: string | null;
}

/** How SQLite writes a default that a model gives as a value. */
const literal = (value: unknown): string | null => {
	if (value === undefined) return null;
	if (typeof value === 'object') return (value as { val: string }).val.replace(/^\((.*)\)$/, '$1');
	return typeof value === 'string' ? `'${value}'` : String(value);
};

describe('the models', () => {
	let fresh: FreshDatabase;
	before(async () => {
		fresh = await freshDatabase();
	});
	after(() => fresh.close());

	const all = tables.flatMap(([, list]) => list);

	it('are all the tables of the migrated database, and no other', async () => {
		const there = await fresh.db.all<{ name: string }>(
			`SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite%'`
		);
		expect(all.map((t) => t.name).sort()).to.deep.equal(there.map((t) => t.name).sort());
	});

	for (const table of all) {
		it(`${table.name}: each column as it is in the database`, async () => {
			const foreign = await fresh.db.all<{ from: string; table: string; on_delete: string }>(
				`SELECT "from", "table", on_delete FROM pragma_foreign_key_list('${table.name}')`
			);
			const there = (
				await fresh.db.all<{
					name: string;
					type: string;
					notnull: 0 | 1;
					dflt_value: string | null;
					pk: number;
				}>(`SELECT * FROM pragma_table_info('${table.name}')`)
			).map((c): Told => {
				const to = foreign.find((f) => f.from === c.name);
				return {
					name: c.name,
					type: c.type,
					nullable: c.notnull === 0 && c.pk === 0,
					key: c.pk > 0,
					given: c.dflt_value,
					names: to?.table ?? null,
					whenGone: to?.on_delete ?? null
				};
			});
			const told = Object.entries(table.columns).map(([name, { options }]): Told => {
				const to = options.references as { model: string } | undefined;
				return {
					name: inDatabase(name),
					type: String(options.type),
					nullable: options.allowNull === true,
					key: options.primaryKey === true,
					given: literal(options.defaultValue),
					names: to?.model ?? null,
					whenGone: to ? (options.onDelete as string) : null
				};
			});
			const byName = (list: readonly Told[]) => Object.fromEntries(list.map((c) => [c.name, c]));
			expect(byName(told)).to.deep.equal(byName(there));
			const [made] = await fresh.db.all<{ sql: string }>(
				`SELECT sql FROM sqlite_schema WHERE type = 'table' AND name = '${table.name}'`
			);
			expect(
				Object.values(table.columns).some((c) => c.options.comment === neverTwice),
				'numbers that are never given twice'
			).to.equal(made!.sql.includes(neverTwice));
			const once = await fresh.db.all<{ name: string }>(
				`SELECT info.name FROM pragma_index_list('${table.name}') AS list JOIN pragma_index_info(list.name) AS info
				WHERE list."unique" AND list.origin = 'u' GROUP BY list.name HAVING count(*) = 1`
			);
			expect(
				Object.entries(table.columns)
					.filter(([, c]) => c.options.unique)
					.map(([name]) => inDatabase(name))
			).to.deep.equal(once.map((c) => c.name));
		});
	}

	it('put in, find, change and take out single rows, and refuse a condition that says nothing', async () => {
		const people = fresh.db.rows(person);
		const id = await people.add({
			kind: 'adult',
			givenName: 'Delfina',
			familyName: 'Amaro',
			language: 'pt',
			hasInbox: 1
		});
		expect(await people.one({ id })).to.include({
			givenName: 'Delfina',
			schoolId: null,
			goneAt: null
		});
		expect(await people.one({ id }, ['language', 'schoolId'])).to.deep.equal({
			language: 'pt',
			schoolId: null
		});
		expect(await people.change({ id }, { goneAt: 5 })).to.equal(1);
		expect(await fresh.db.all('SELECT id FROM person WHERE gone_at = 5')).to.deep.equal([{ id }]);
		expect(await fresh.db.all('SELECT id FROM person_now')).to.deep.equal([]);
		let why = '';
		await people.remove({}).catch((e: Error) => (why = e.message));
		expect(why).to.equal('person: a row is asked for without saying which');
		expect(await people.remove({ id })).to.equal(1);
		expect(await people.one({ id })).to.equal(undefined);
	});

	it('are what docs/SCHEMA.md says', () => {
		const page = readFileSync('docs/SCHEMA.md', 'utf8');
		expect(page).to.equal(schemaPage());
	});
});

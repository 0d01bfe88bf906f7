import {
	QueryTypes,
	type Model,
	type ModelAttributes,
	type ModelStatic,
	type Sequelize,
	type WhereOptions
} from 'sequelize';
import { rowSet } from '../many';
import { inDatabase, type NewRow, type Row, type Table } from './table';

/** Single rows of a table, on one connection. Sets are read and written by SQL of their own. */
export interface Rows<T extends Table> {
	/** The row that has these values, or some columns of it; undefined where there is none. */
	one<K extends keyof Row<T> & string = keyof Row<T> & string>(
		where: Partial<Row<T>>,
		columns?: readonly K[]
	): Promise<Pick<Row<T>, K> | undefined>;
	/** Puts a row in; resolves to its number where it has one. */
	add(row: NewRow<T>): Promise<number>;
	/** Puts many rows in, all with the same keys; `keep` leaves those that are there already, by what is there once only. */
	addMany(rows: readonly NewRow<T>[], whenThere?: 'refuse' | 'keep'): Promise<void>;
	/** Changes the rows that have some values; resolves to how many there were. */
	change(where: Partial<Row<T>>, values: Partial<Row<T>>): Promise<number>;
	/** Takes the rows out that have some values; resolves to how many there were. */
	remove(where: Partial<Row<T>>): Promise<number>;
}

/** A table as a Sequelize model on one connection; made when it is first asked for. */
function modelOf(sequelize: Sequelize, table: Table): ModelStatic<Model> {
	if (sequelize.isDefined(table.name)) return sequelize.model(table.name);
	const attributes: ModelAttributes = Object.fromEntries(
		Object.entries(table.columns).map(([name, { options }]) => [
			name,
			{ ...options, field: inDatabase(name) }
		])
	);
	const model = sequelize.define(table.name, attributes, {
		tableName: table.name,
		timestamps: false
	});
	// Sequelize adds a number of its own where a table has no key.
	if (!('id' in table.columns)) model.removeAttribute('id');
	return model;
}

/** Single rows of a table, through its model on a connection. */
export function rowsOf<T extends Table>(sequelize: Sequelize, table: T): Rows<T> {
	const model = modelOf(sequelize, table);
	const these = (where: Partial<Row<T>>) => {
		// A condition that was forgotten must not mean all of them.
		const entries = Object.entries(where);
		if (entries.length === 0 || entries.some(([, value]) => value === undefined))
			throw new Error(`${table.name}: a row is asked for without saying which`);
		return where as WhereOptions;
	};
	return {
		async one<K extends keyof Row<T> & string>(where: Partial<Row<T>>, columns?: readonly K[]) {
			const asked = columns ? { attributes: [...columns] } : {};
			const row = await model.findOne({ ...asked, where: these(where), raw: true });
			return row === null ? undefined : (row as unknown as Pick<Row<T>, K>);
		},
		async add(row) {
			const made = await model.create(row as Record<string, unknown>, { raw: true });
			return (made.get('id') as number | null) ?? 0;
		},
		async addMany(rows, whenThere = 'refuse') {
			if (rows.length === 0) return;
			const keys = Object.keys(rows[0]!);
			const set = rowSet('$rows', keys);
			await sequelize.query(
				`INSERT INTO ${table.name} (${keys.map(inDatabase).join(', ')}) SELECT * FROM ${set.table}
				WHERE true ${whenThere === 'keep' ? 'ON CONFLICT DO NOTHING' : ''}`,
				{ bind: { rows: set.json(rows) }, type: QueryTypes.RAW }
			);
		},
		async change(where, values) {
			const [count] = await model.update(values, { where: these(where) });
			return count;
		},
		remove: (where) => model.destroy({ where: these(where) })
	};
}

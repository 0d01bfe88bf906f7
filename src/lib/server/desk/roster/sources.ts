import { z } from 'zod';
import { now } from '../../clock';
import { rosterSource, sourceKinds, type RosterSourceRow } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';

const custodySchema = z.record(z.string(), z.enum(['yes', 'no']));

/** A source as it is read. */
export interface Source extends Omit<RosterSourceRow, 'custody'> {
	readonly custody: Readonly<Record<string, 'yes' | 'no'>>;
}

/** What somebody has said of custody, by relation, as it is stored. */
export const readCustody = (json: string): Source['custody'] =>
	custodySchema.parse(JSON.parse(json));

const sourceOf = (row: RosterSourceRow): Source => ({ ...row, custody: readCustody(row.custody) });

export async function sourceById(db: Query, id: number): Promise<Source> {
	const row = await db.rows(rosterSource).one({ id });
	if (!row) throw new Error(`There is no roster source ${id}.`);
	return sourceOf(row);
}

/** Every source, in the order in which they were made. */
export async function allSources(db: Query): Promise<Source[]> {
	const ids = await db.all<{ id: number }>('SELECT id FROM roster_source ORDER BY id');
	return Promise.all(ids.map(({ id }) => sourceById(db, id)));
}

const nameSchema = z.string().trim().min(1).max(80);

/** The source of a name, made where there is none yet. */
export async function sourceNamed(
	db: Db,
	name: string,
	kind: (typeof sourceKinds)[number] = 'oneroster'
): Promise<Source> {
	const wanted = nameSchema.parse(name);
	const at = Math.round(await now(db));
	await db.run(
		`INSERT INTO roster_source (name, kind, made_at) VALUES ($name, $kind, $at) ON CONFLICT DO NOTHING`,
		{ name: wanted, kind, at }
	);
	const row = await db.rows(rosterSource).one({ name: wanted });
	return sourceOf(row!);
}

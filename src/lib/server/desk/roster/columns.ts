import { readDistrict } from '../../db/district';
import { createHash } from 'node:crypto';
import { z } from 'zod';
import { fold } from '../../../core/format/fold';
import { listFieldNames, whyNotColumns, type ListField } from '../../../core/roster/list/fields';
import { matchColumns } from '../../../core/roster/list/match-columns';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { listHeading, rosterFile } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import type { ListTable } from '../../reading/roster/list';
import type { Said } from '../../said';
import { changeFile } from './files';
import type { ColumnsView } from './types';

const fieldSchema = z.enum(listFieldNames as [ListField, ...ListField[]]);
const columnsSchema = z.object({
	heading: z.array(z.string()),
	/** Three lines, as they stand. */
	examples: z.array(z.array(z.string())),
	columns: z.array(fieldSchema.nullable()),
	complete: z.boolean(),
	/** Whether somebody has said it, of this file or of an earlier one with the same heading. */
	said: z.boolean(),
	/** It was said of an earlier file. */
	remembered: z.boolean()
});

/** What the columns of a file are, as it is stored; null where it has not been asked yet. */
export const readColumns = (json: string | null): ColumnsView | null =>
	json === null ? null : columnsSchema.parse(JSON.parse(json));

/** The column that our own lists of wrong lines end with. */
const ownRemark = 'whatiswrong';

/** Under which a heading is remembered: its words, whatever their case and accents, without a column of ours. */
const markOf = (heading: readonly string[]): string =>
	createHash('sha256')
		.update(JSON.stringify(wordsOf(heading).filter((title) => title !== ownRemark)))
		.digest('hex');
const wordsOf = (heading: readonly string[]) => heading.map((title) => fold(title.trim()));

const examples = 3;
const looked = 200;
const mostCell = 80;

/** What the columns of a list are: as was said of the last file with the same heading, else by heading and content, to be said. */
export async function proposeColumns(db: Query, table: ListTable): Promise<ColumnsView> {
	const { heading } = table;
	const known = await db.rows(listHeading).one({ heading: markOf(heading) });
	const rows = table.rows.slice(0, looked).map((r) => r.cells);
	const shown = rows
		.slice(0, examples)
		.map((row) => heading.map((_, i) => (row[i] ?? '').slice(0, mostCell)));
	const before = known
		? z.array(fieldSchema.nullable()).safeParse(JSON.parse(known.columns))
		: undefined;
	// Lines that were mended are a part of a list, whatever that list was.
	const mended = wordsOf(heading).includes(ownRemark);
	const columns = before?.success ? [...before.data, ...(mended ? [null] : [])] : [];
	const remembered = before?.success === true && columns.length === heading.length;
	return {
		heading: heading.map((title) => title.slice(0, mostCell)),
		examples: shown,
		columns: remembered ? columns : matchColumns(heading, rows, (await readDistrict(db)).country),
		complete: remembered && !mended && known!.complete === 1,
		said: remembered,
		remembered
	};
}

/** What somebody says of the columns of a list. */
export const columnsInputSchema = z.object({
	columns: z
		.array(
			z
				.literal('')
				.transform(() => null)
				.or(fieldSchema)
		)
		.max(500),
	complete: z.boolean()
});

/** Writes down what the columns of a file are, and remembers it for the next one with the same heading; the file has to be looked at after it. */
export async function sayColumns(
	db: Db,
	user: User,
	fileId: number,
	{ columns, complete }: z.infer<typeof columnsInputSchema>
): Promise<Said> {
	const notNow = {
		ok: false,
		why: 'This list has come in already, or was given up. Load the page again.'
	} as const;
	if (!isAllowed(user, 'bring-roster')) return notNow;
	return db.write(async (tx): Promise<Said> => {
		const row = await tx.rows(rosterFile).one({ id: fileId });
		const before = readColumns(row?.columns ?? null);
		if (!row || !before || !['columns', 'looked'].includes(row.state)) return notNow;
		if (columns.length !== before.heading.length)
			return { ok: false, why: 'Say of each column what it is. Load the page again.' };
		const why = whyNotColumns(columns);
		if (why.length > 0) return { ok: false, why: why.join(' ') };
		await changeFile(tx, fileId, {
			state: 'looking',
			byId: row.byId ?? user.personId,
			columns: JSON.stringify({ ...before, columns, complete, said: true, remembered: false })
		});
		const heading = markOf(before.heading);
		const at = Math.round(await now(tx));
		const said = {
			...{ columns: JSON.stringify(columns), complete: Number(complete) as 0 | 1 },
			...{ saidAt: at, saidBy: user.personId }
		};
		if (await tx.rows(listHeading).one({ heading }))
			await tx.rows(listHeading).change({ heading }, said);
		else await tx.rows(listHeading).add({ heading, ...said });
		return { ok: true };
	});
}

/** Asks again what the columns of a list are. */
export async function askColumns(db: Db, user: User, fileId: number): Promise<Said> {
	return db.write(async (tx): Promise<Said> => {
		const row = await tx.rows(rosterFile).one({ id: fileId }, ['state', 'columns']);
		if (!isAllowed(user, 'bring-roster') || row?.state !== 'looked' || row.columns === null)
			return { ok: false, why: 'There is nothing to be said of its columns now.' };
		await changeFile(tx, fileId, { state: 'columns' });
		return { ok: true };
	});
}

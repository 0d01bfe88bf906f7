import { z } from 'zod';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { settingChange } from '../../db/models/running';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { notYours } from '../work/roles';
import { roleWords } from '../work/types';
import type { Values } from './form';
import { valueWords } from './form-fields';
import { readSettled, writeSettled, type Settled } from './settled';
import type { Subject } from './subject';
import type { ChapterChange, ChapterView, FieldChange } from './types';

const valuesSchema = z.record(z.string(), z.union([z.string(), z.array(z.string())]));

/** What differs between two sets of values, field by field. */
const changesOf = ({ fields }: Subject, before: Values, after: Values): FieldChange[] =>
	fields.flatMap((field) => {
		const [was, is] = [before, after].map((v) => valueWords(field, v[field.name])) as [
			string,
			string
		];
		return was === is ? [] : [{ label: field.label, before: was, after: is }];
	});

const newest = async (db: Query, chapter: string): Promise<number> =>
	(await db.one<{ id: number }>(
		'SELECT coalesce(max(id), 0) AS id FROM setting_change WHERE chapter = $chapter',
		{ chapter }
	))!.id;

interface ChangeRow {
	readonly id: number;
	readonly at: number;
	readonly by: string | null;
	readonly before: string;
	readonly after: string;
}

/** The last fifty changes of a chapter, the newest first. */
const rowsOf = (db: Query, chapter: string): Promise<ChangeRow[]> =>
	db.all<ChangeRow>(
		`SELECT setting_change.id, at, nullif(trim(given_name || ' ' || family_name), '') AS by, before, after
		FROM setting_change LEFT JOIN person ON person.id = by_id WHERE chapter = $chapter ORDER BY setting_change.id DESC LIMIT 50`,
		{ chapter }
	);

const valuesIn = (json: string): Values => valuesSchema.parse(JSON.parse(json));

/** A chapter as it stands; `from` puts what stood before a change into its form instead. */
export async function chapterView(
	db: Query,
	subject: Subject,
	from: number | null = null
): Promise<ChapterView> {
	const { code, name, says, fields } = subject;
	const rows = await rowsOf(db, code);
	const old = rows.find((row) => row.id === from);
	const who = await db.all<{ role: keyof typeof roleWords }>(
		`SELECT role FROM role_right WHERE can = 'settings' ORDER BY role`
	);
	return {
		...{ code, name, says, fields },
		who: who.map(({ role }) => roleWords[role].name).join(', '),
		values: old ? valuesIn(old.before) : subject.valuesOf(await readSettled(db)),
		seen: await newest(db, code),
		history: rows.map((row): ChapterChange => ({
			...{ id: row.id, at: row.at, by: row.by },
			changes: changesOf(subject, valuesIn(row.before), valuesIn(row.after))
		}))
	};
}

/** What is settled, and what would be. */
type Wanted = Said<{
	readonly before: Settled;
	readonly after: Settled;
	readonly changes: readonly FieldChange[];
}>;

/** What a form would make of what is settled, or what is wrong with it. */
export async function wanted(
	db: Query,
	user: User,
	subject: Subject,
	form: unknown
): Promise<Wanted> {
	const before = await readSettled(db);
	const read = await subject.read(db, user, before, form);
	if (!read.ok) return read;
	const { after } = read;
	const changes = changesOf(subject, subject.valuesOf(before), subject.valuesOf(after));
	return { ok: true, before, after, changes };
}

/** What a save of a chapter says beside its fields. */
export const savingSchema = z.object({ seen: z.coerce.number().int().min(0) });

/** Changes a chapter, and keeps what stood there; refused where somebody else has changed it since `seen`. */
export async function changeChapter(
	db: Db,
	user: User,
	subject: Subject,
	form: unknown,
	seen: number
): Promise<Wanted> {
	if (!isAllowed(user, 'settings')) return notYours;
	return db.write(async (tx): Promise<Wanted> => {
		const asked = await wanted(tx, user, subject, form);
		const { code, valuesOf } = subject;
		if (!asked.ok || asked.changes.length === 0) return asked;
		if ((await newest(tx, code)) !== seen) {
			const [last] = await rowsOf(tx, code);
			return {
				ok: false,
				why: `${last?.by ?? 'Somebody'} has changed this meanwhile. What stands there now is under “What was changed”; look at what yours would do once more.`
			};
		}
		const id = await tx.rows(settingChange).add({
			...{ at: Math.round(await now(tx)), byId: user.personId, chapter: code },
			before: JSON.stringify(valuesOf(asked.before)),
			after: JSON.stringify(valuesOf(asked.after))
		});
		await writeSettled(tx, asked.before, asked.after);
		await writeDown(tx, {
			...{ act: 'setting-changed', by: user },
			after: { chapter: code, change: id }
		});
		return asked;
	});
}

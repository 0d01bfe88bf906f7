import { z } from 'zod';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict, writeDistrict, type District } from '../../db/district';
import { settingChange } from '../../db/models/running';
import type { Db, Query } from '../../db/open';
import { issuesText } from '../../plain-issues';
import type { Said } from '../../said';
import { notYours } from '../work/roles';
import { roleWords } from '../work/types';
import { changedDistrict, chapters, type Chapter, type Values } from './chapters';
import { valueWords } from './form-fields';
import type { ChapterChange, ChapterCode, ChapterView, FieldChange } from './types';

export const chapterCodes = Object.keys(chapters) as ChapterCode[];
export const chapterSchema = z.enum(chapterCodes as [ChapterCode, ...ChapterCode[]]);
const valuesSchema = z.record(z.string(), z.union([z.string(), z.array(z.string())]));

/** What differs between two sets of values, field by field. */
const changesOf = ({ fields }: Chapter, before: Values, after: Values): FieldChange[] =>
	fields.flatMap((field) => {
		const [was, is] = [before, after].map((v) => valueWords(field, v[field.name])) as [
			string,
			string
		];
		return was === is ? [] : [{ label: field.label, before: was, after: is }];
	});

const newest = async (db: Query, chapter: ChapterCode): Promise<number> =>
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
const rowsOf = (db: Query, chapter: ChapterCode): Promise<ChangeRow[]> =>
	db.all<ChangeRow>(
		`SELECT setting_change.id, at, nullif(trim(given_name || ' ' || family_name), '') AS by, before, after
		FROM setting_change LEFT JOIN person ON person.id = by_id WHERE chapter = $chapter ORDER BY setting_change.id DESC LIMIT 50`,
		{ chapter }
	);

const valuesIn = (json: string): Values => valuesSchema.parse(JSON.parse(json));

/** A chapter as it stands; `from` puts what stood before a change into its form instead. */
export async function chapterView(
	db: Query,
	code: ChapterCode,
	from: number | null = null
): Promise<ChapterView> {
	const chapter = chapters[code];
	const rows = await rowsOf(db, code);
	const old = rows.find((row) => row.id === from);
	const who = await db.all<{ role: keyof typeof roleWords }>(
		`SELECT role FROM role_right WHERE can = 'settings' ORDER BY role`
	);
	return {
		...{ code, name: chapter.name, says: chapter.says, fields: chapter.fields },
		who: who.map(({ role }) => roleWords[role].name).join(', '),
		values: old ? valuesIn(old.before) : chapter.valuesOf(await readDistrict(db)),
		seen: await newest(db, code),
		history: rows.map((row): ChapterChange => ({
			...{ id: row.id, at: row.at, by: row.by },
			changes: changesOf(chapter, valuesIn(row.before), valuesIn(row.after))
		}))
	};
}

/** What the district is, and what it would be. */
type Wanted = Said<{
	readonly before: District;
	readonly after: District;
	readonly changes: readonly FieldChange[];
}>;

/** What a form of a chapter would make of the district, or what is wrong with it. */
export async function wanted(db: Query, code: ChapterCode, form: unknown): Promise<Wanted> {
	const chapter = chapters[code];
	const parsed = chapter.schema.safeParse(form);
	if (!parsed.success) return { ok: false, why: issuesText(parsed.error) };
	const before = await readDistrict(db);
	const after = changedDistrict(before, parsed.data);
	return {
		ok: true,
		...{ before, after },
		changes: changesOf(chapter, chapter.valuesOf(before), chapter.valuesOf(after))
	};
}

/** What a save of a chapter says beside its fields. */
export const savingSchema = z.object({ seen: z.coerce.number().int().min(0) });

/** Changes a chapter, and keeps what stood there; refused where somebody else has changed it since `seen`. */
export async function changeChapter(
	db: Db,
	user: User,
	code: ChapterCode,
	form: unknown,
	seen: number
): Promise<Wanted> {
	if (!isAllowed(user, 'settings')) return notYours;
	return db.write(async (tx): Promise<Wanted> => {
		const asked = await wanted(tx, code, form);
		if (!asked.ok || asked.changes.length === 0) return asked;
		if ((await newest(tx, code)) !== seen) {
			const [last] = await rowsOf(tx, code);
			return {
				ok: false,
				why: `${last?.by ?? 'Somebody'} has changed this meanwhile. What stands there now is under “What was changed”; look at what yours would do once more.`
			};
		}
		const { valuesOf } = chapters[code];
		const id = await tx.rows(settingChange).add({
			...{ at: Math.round(await now(tx)), byId: user.personId, chapter: code },
			before: JSON.stringify(valuesOf(asked.before)),
			after: JSON.stringify(valuesOf(asked.after))
		});
		await writeDistrict(tx, asked.after);
		await writeDown(tx, {
			...{ act: 'setting-changed', by: user },
			after: { chapter: code, change: id }
		});
		return asked;
	});
}

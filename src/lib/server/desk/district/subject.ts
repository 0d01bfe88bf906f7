import { z } from 'zod';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { issuesText } from '../../plain-issues';
import type { Said } from '../../said';
import { changedDistrict, chapters } from './chapters';
import type { Form, Values } from './form';
import { nothingOwn, schoolForm } from './school-form';
import type { Settled } from './settled';
import type { ChapterCode, Field } from './types';

/** Something of the settings that has a form of its own: a chapter, or what one school has of its own. */
export interface Subject {
	/** By which its changes are kept: "quiet", "school-3". */
	readonly code: string;
	readonly name: string;
	readonly says: string;
	readonly fields: readonly Field[];
	valuesOf(settled: Settled): Values;
	/** What would be settled by a form, or what is wrong with it. */
	read(
		db: Query,
		user: User,
		settled: Settled,
		form: unknown
	): Promise<Said<{ readonly after: Settled }>>;
}

/** A subject of a form, over the part of what is settled that the form is about. */
function subject<T>(
	code: string,
	{ name, says, fields, valuesOf, schema, look }: Form<T>,
	{
		part,
		put
	}: {
		readonly part: (settled: Settled) => T;
		readonly put: (settled: Settled, change: Partial<T>) => Settled;
	}
): Subject {
	return {
		...{ code, name, says, fields },
		valuesOf: (settled) => valuesOf(part(settled)),
		async read(db, user, settled, form) {
			const parsed = schema.safeParse(form);
			if (!parsed.success) return { ok: false, why: issuesText(parsed.error) };
			const why = (await look?.(db, user, parsed.data, part(settled))) ?? null;
			return why === null ? { ok: true, after: put(settled, parsed.data) } : { ok: false, why };
		}
	};
}

export const chapterCodes = Object.keys(chapters) as ChapterCode[];
const chapterSchema = z.enum(chapterCodes as [ChapterCode, ...ChapterCode[]]);
const schoolCode = z
	.string()
	.regex(/^school-[1-9]\d{0,9}$/)
	.transform((code) => Number(code.slice(7)));

/** The subject of a code, as an address has it; null where there is none. */
export async function subjectOf(db: Query, code: string): Promise<Subject | null> {
	const chapter = chapterSchema.safeParse(code);
	if (chapter.success)
		return subject(code, chapters[chapter.data], {
			part: ({ district }) => district,
			put: (settled, change) => ({
				...settled,
				district: changedDistrict(settled.district, change)
			})
		});
	const id = schoolCode.safeParse(code).data;
	if (id === undefined) return null;
	const school = await db.one<{ name: string }>('SELECT name FROM school WHERE id = $id', { id });
	if (!school) return null;
	return subject(code, schoolForm(school.name), {
		part: ({ schools }) => schools.get(id) ?? nothingOwn,
		put: ({ district, schools }, change) => ({
			district,
			schools: new Map([
				...schools,
				[id, { ...nothingOwn, ...schools.get(id), ...change }] as const
			])
		})
	});
}

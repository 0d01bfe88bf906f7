import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { changeChapter, chapterView, savingSchema, wanted } from '$lib/server/desk/district/change';
import { movesScheduled } from '$lib/server/desk/district/effects';
import { subjectOf, type Subject } from '$lib/server/desk/district/subject';
import type { ChapterEffect } from '$lib/server/desk/district/types';
import type { Query } from '$lib/server/db/open';
import { checkedWords } from '$lib/server/desk/district/words-checked';
import { setting } from '$lib/server/http/may-set';
import { readFormData } from '$lib/server/http/read-form';
import { ask } from '$lib/server/planner/planner';
import type { Actions, PageServerLoad } from './$types';

async function asked(db: Query, { code }: { readonly code: string }): Promise<Subject> {
	return (await subjectOf(db, code)) ?? error(404, 'There is no such chapter of the settings.');
}

const fromSchema = z.coerce.number().int().positive().nullable().catch(null);

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const { db } = await setting(locals.user!);
	return {
		/** Of the languages alone. */
		words: params.code === 'languages' ? await checkedWords(db) : null,
		chapter: await chapterView(
			db,
			await asked(db, params),
			fromSchema.parse(url.searchParams.get('from') ?? null)
		)
	};
};

/** The most of one field. */
const most = 5000;

/** What a form says of a chapter's fields; boxes of one name come as a list. */
async function formOf(request: Request, { fields }: Subject) {
	const data = await readFormData(request);
	const text = (value: FormDataEntryValue): string =>
		typeof value === 'string' ? value.slice(0, most) : '';
	const values = Object.fromEntries(
		fields.map(({ name, kind }) => {
			const all = data.getAll(name).slice(0, 100).map(text);
			return [name, kind === 'many' ? all : (all[0] ?? '')];
		})
	);
	return { values, rest: { seen: text(data.get('seen') ?? '') } };
}

export const actions: Actions = {
	look: async ({ request, params, locals }) => {
		const { db } = await setting(locals.user!);
		const subject = await asked(db, params);
		const { values } = await formOf(request, subject);
		const would = await wanted(db, locals.user!, subject, values);
		if (!would.ok) return fail(400, { values, why: would.why });
		const effect: ChapterEffect = {
			changes: would.changes,
			effects: await ask('settingEffects', would.before, would.after)
		};
		return { values, effect };
	},
	save: async ({ request, params, locals }) => {
		const { db } = await setting(locals.user!);
		const subject = await asked(db, params);
		const { values, rest } = await formOf(request, subject);
		const saving = savingSchema.safeParse(rest);
		if (!saving.success)
			return fail(400, { values, why: 'The page is not whole. Load it again and try once more.' });
		const came = await changeChapter(db, locals.user!, subject, values, saving.data.seen);
		if (!came.ok) return fail(409, { values, why: came.why });
		if (movesScheduled(came.before, came.after)) await ask('replanAhead');
		return { saved: came.changes };
	}
};

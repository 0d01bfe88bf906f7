import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import {
	changeChapter,
	chapterSchema,
	chapterView,
	savingSchema,
	wanted
} from '$lib/server/desk/district/change';
import { chapters } from '$lib/server/desk/district/chapters';
import { movesScheduled } from '$lib/server/desk/district/effects';
import type { ChapterCode, ChapterEffect } from '$lib/server/desk/district/types';
import { setting } from '$lib/server/http/may-set';
import { readFormData } from '$lib/server/http/read-form';
import { ask } from '$lib/server/planner/planner';
import type { Actions, PageServerLoad } from './$types';

function codeOf(params: { readonly code: string }): ChapterCode {
	const code = chapterSchema.safeParse(params.code);
	if (!code.success) error(404, 'There is no such chapter of the settings.');
	return code.data;
}

const fromSchema = z.coerce.number().int().positive().nullable().catch(null);

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const { db } = await setting(locals.user!);
	return {
		chapter: await chapterView(
			db,
			codeOf(params),
			fromSchema.parse(url.searchParams.get('from') ?? null)
		)
	};
};

/** The most of one field. */
const most = 5000;

/** What a form says of a chapter's fields; boxes of one name come as a list. */
async function formOf(request: Request, code: ChapterCode) {
	const data = await readFormData(request);
	const text = (value: FormDataEntryValue): string =>
		typeof value === 'string' ? value.slice(0, most) : '';
	const values = Object.fromEntries(
		chapters[code].fields.map(({ name, kind }) => {
			const all = data.getAll(name).slice(0, 100).map(text);
			return [name, kind === 'many' ? all : (all[0] ?? '')];
		})
	);
	return { values, rest: { seen: text(data.get('seen') ?? '') } };
}

export const actions: Actions = {
	look: async ({ request, params, locals }) => {
		const { db } = await setting(locals.user!);
		const code = codeOf(params);
		const { values } = await formOf(request, code);
		const asked = await wanted(db, code, values);
		if (!asked.ok) return fail(400, { values, why: asked.why });
		const effect: ChapterEffect = {
			changes: asked.changes,
			effects: await ask('settingEffects', asked.before, asked.after)
		};
		return { values, effect };
	},
	save: async ({ request, params, locals }) => {
		const { db } = await setting(locals.user!);
		const code = codeOf(params);
		const { values, rest } = await formOf(request, code);
		const saving = savingSchema.safeParse(rest);
		if (!saving.success)
			return fail(400, { values, why: 'The page is not whole. Load it again and try once more.' });
		const came = await changeChapter(db, locals.user!, code, values, saving.data.seen);
		if (!came.ok) return fail(409, { values, why: came.why });
		if (movesScheduled(came.before, came.after)) await ask('replanAhead');
		return { saved: came.changes };
	}
};

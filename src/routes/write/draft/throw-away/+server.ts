import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { throwAwayDraft } from '$lib/server/desk/sheet/draft';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** Throws a draft away; one that is not there any more is thrown away already. */
export const POST = async ({ request, locals }) => {
	const { sheetKey } = await readJson(request, z.object({ sheetKey: z.uuid() }));
	const { db } = await services();
	return json({ done: await throwAwayDraft(db, locals.user!, { sheetKey }) });
};

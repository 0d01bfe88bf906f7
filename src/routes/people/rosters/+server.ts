import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { beginFile } from '$lib/server/desk/roster/files';
import { clearAway } from '$lib/server/desk/roster/left-behind';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const bodySchema = z.object({
	source: z.string().trim().min(1, 'Say where it comes from.').max(80),
	name: z.string().min(1).max(500),
	bytes: z.number().int().min(0)
});

/** Begins a roster file; its content comes piece by piece to its own address. */
export const POST = async ({ request, locals }) => {
	const asked = await readJson(request, bodySchema);
	const { db, settings } = await services();
	await clearAway(db, settings.dataFolder);
	const begun = await beginFile(db, settings.dataFolder, locals.user!, asked);
	return json(begun, { status: begun.ok ? 200 : 403 });
};

import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { takePiece } from '$lib/server/desk/roster/files';
import { services } from '$lib/server/services';

const querySchema = z.object({
	id: z.coerce.number().int().positive(),
	name: z.string().min(1).max(500),
	from: z.coerce.number().int().min(0)
});

/** Takes a piece of a file: the body of the request, from an octet on. */
export const POST = async ({ request, url, params, locals }) => {
	const query = querySchema.safeParse({ ...Object.fromEntries(url.searchParams), ...params });
	if (!query.success)
		return json({ why: 'This piece says of no file where it belongs.' }, { status: 400 });
	const { db, settings } = await services();
	const content = new Uint8Array(await request.arrayBuffer());
	const taken = await takePiece(db, settings.dataFolder, locals.user!, query.data, content);
	return json(taken, { status: taken.ok ? 200 : 409 });
};

import { error } from '@sveltejs/kit';
import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { copyLetter } from '$lib/server/desk/leaving/copy-letter';
import { wentOut } from '$lib/server/http/went-out';
import { outside, services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const paramsSchema = z.object({ id: idSchema, copy: idSchema });

/** One copy as the letter that its reader got (message/rfc822, RFC 2046 section 5.2.1). */
export const GET = async ({ params, locals }) => {
	const asked = paramsSchema.safeParse(params);
	const { db, key, settings } = await services();
	const house = { db, key, dataFolder: settings.dataFolder, ...(await outside()) };
	const letter = asked.success
		? await copyLetter(house, locals.user!, asked.data.id, asked.data.copy)
		: null;
	if (letter === null) error(404, 'There is no such letter, or it is not yours to see.');
	await wentOut(locals.user!, 'letter', ['dispatch', asked.data!.id]);
	return new Response(new Uint8Array(letter), {
		headers: {
			'content-type': 'message/rfc822',
			'content-disposition': contentDisposition(`copy-${params.copy}.eml`)
		}
	});
};

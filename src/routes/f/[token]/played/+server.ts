import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { notePlayed } from '$lib/server/desk/family/notes';
import { openedLink } from '$lib/server/http/open-link';
import { readJson } from '$lib/server/http/read-json';
import { visitorOf } from '$lib/server/http/visitor';
import { services } from '$lib/server/services';

const bodySchema = z.object({ letter: z.number().int().positive() });

/** The page says that the note of a letter was played to its end. */
export const POST = async (event) => {
	const { params, request } = event;
	const { letter } = await readJson(request, bodySchema);
	const s = await services();
	const link = await openedLink(s, params.token);
	if (!(await notePlayed(s.db, link, letter, visitorOf(s, event))))
		error(404, 'There is no such note here.');
	return json({ ok: true });
};

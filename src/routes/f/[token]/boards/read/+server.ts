import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { readOnBoard } from '$lib/server/desk/boards/read-post';
import { openedLink } from '$lib/server/http/open-link';
import { readJson } from '$lib/server/http/read-json';
import { visitorOf } from '$lib/server/http/visitor';
import { services } from '$lib/server/services';

const bodySchema = z.object({ post: z.number().int().positive() });

/** The page says that an announcement stood before eyes on a board. */
export const POST = async (event) => {
	const { params, request } = event;
	const { post } = await readJson(request, bodySchema);
	const s = await services();
	const link = await openedLink(s, params.token);
	if (!(await readOnBoard(s.db, link, post, visitorOf(s, event))))
		error(404, 'This stands on no board of yours.');
	return json({ ok: true });
};

import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { answersStoodOpen } from '$lib/server/desk/family/answers-opened';
import { letterHappened } from '$lib/server/desk/family/letter-happened';
import { openedLink } from '$lib/server/http/open-link';
import { readJson } from '$lib/server/http/read-json';
import { visitorOf } from '$lib/server/http/visitor';
import { services } from '$lib/server/services';

const bodySchema = z.object({ letter: z.number().int().positive() });

/** The page says that a letter stood open in a browser that showed it. */
export const POST = async (event) => {
	const { params, request } = event;
	const { letter } = await readJson(request, bodySchema);
	const s = await services();
	const link = await openedLink(s, params.token);
	await answersStoodOpen(s.db, link, letter, visitorOf(s, event));
	if (!(await letterHappened(s.db, link, letter, 'opened', visitorOf(s, event))))
		error(404, 'There is no such letter here.');
	return json({ ok: true });
};

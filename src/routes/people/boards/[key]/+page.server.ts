import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { placeOfKey } from '$lib/core/audience/board-place';
import { pin, takeOff } from '$lib/server/desk/boards/change-post';
import { setOpenLink } from '$lib/server/desk/boards/links';
import { staffBoard } from '$lib/server/desk/boards/staff-board';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const notHere = 'There is no such board, or not among those you see.';

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const { db, key, settings } = await services();
	const asked = idSchema.nullable().catch(null).parse(url.searchParams.get('post'));
	const board = await staffBoard(db, key, locals.user!, params.key, asked);
	if (!board) error(404, notHere);
	return { ...board, publicUrl: settings.publicUrl };
};

const again = 'Load the page again and try once more.';
const pinSchema = z.object({ post: idSchema, pinned: z.enum(['yes', 'no']) });
const linkSchema = z.object({ open: z.enum(['yes', 'no']) });

export const actions: Actions = {
	pin: async ({ request, locals }) => {
		const said = pinSchema.safeParse(await readForm(request));
		if (!said.success) return fail(400, { why: again });
		const { db } = await services();
		const done = await pin(db, locals.user!, said.data.post, said.data.pinned === 'yes');
		return done.ok ? {} : fail(403, { why: done.why });
	},
	off: async ({ request, locals }) => {
		const post = idSchema.safeParse((await readForm(request)).post);
		if (!post.success) return fail(400, { why: again });
		const { db } = await services();
		const done = await takeOff(db, locals.user!, post.data);
		return done.ok
			? { said: 'Taken off the boards. It stays in the inboxes that it went to, and in the log.' }
			: fail(403, { why: done.why });
	},
	/** The link for anybody: made, made anew, or ended. */
	link: async ({ params, request, locals }) => {
		const said = linkSchema.safeParse(await readForm(request));
		const place = placeOfKey(params.key);
		if (!said.success || !place) return fail(400, { why: again });
		const { db, key } = await services();
		const open = said.data.open === 'yes';
		const done = await setOpenLink(db, key, locals.user!, place, open);
		return done.ok
			? {
					said: open ? 'The link opens this board from now on.' : 'The link opens nothing any more.'
				}
			: fail(403, { why: done.why });
	}
};

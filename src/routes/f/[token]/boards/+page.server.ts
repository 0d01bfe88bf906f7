import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { placeOfKey } from '$lib/core/audience/board-place';
import { familyBoards } from '$lib/server/desk/boards/family-boards';
import { followedBy, setFollowing } from '$lib/server/desk/boards/links';
import { answeredWhere } from '$lib/server/desk/invitations/on-boards';
import { openedLink } from '$lib/server/http/open-link';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const askedSchema = z.object({
	term: idSchema.nullable().catch(null),
	post: idSchema.nullable().catch(null)
});
const followSchema = z.object({ board: z.string().max(40), follows: z.enum(['yes', 'no']) });

/** The boards of a family’s students. */
export const load: PageServerLoad = async ({ params, url }) => {
	const s = await services();
	const link = await openedLink(s, params.token);
	const { term, post } = askedSchema.parse(Object.fromEntries(url.searchParams));
	const base = `/f/${params.token}`;
	const boards = await familyBoards(s.db, link.personId, base, { termId: term, asked: post });
	const posts = boards.boards.flatMap((b) => [...b.pinned, ...b.front, ...b.earlier]);
	return {
		boards,
		asks: await answeredWhere(
			s.db,
			s.key,
			posts.map((p) => p.dispatchId),
			{ personId: link.personId, base }
		),
		publicUrl: s.settings.publicUrl,
		followed: Object.fromEntries(await followedBy(s.db, s.key, link.personId))
	};
};

export const actions: Actions = {
	/** Gives an address by which a program follows a board, or ends it. */
	follow: async ({ params, request }) => {
		const s = await services();
		const link = await openedLink(s, params.token);
		const said = followSchema.safeParse(await readForm(request));
		const place = said.success ? placeOfKey(said.data.board) : null;
		const done =
			place !== null &&
			said.success &&
			(await setFollowing(s.db, s.key, link.personId, place, said.data.follows === 'yes'));
		return done
			? { followed: said.data.board }
			: fail(404, { why: 'This board is none of yours.' });
	}
};

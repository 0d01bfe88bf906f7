import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { openBoard } from '$lib/server/desk/boards/open-board';
import { answeredWhere } from '$lib/server/desk/invitations/on-boards';
import { languageOfBoard, openedBoard } from '$lib/server/http/open-board';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

const askedSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER).nullable();

/** A board for anybody who has its link. Somebody’s own address is for programs: it opens no page. */
export const load: PageServerLoad = async ({ params, url, request }) => {
	const s = await services();
	const { place, personId } = await openedBoard(s, params.token);
	if (personId !== null)
		error(
			404,
			'This address is for a program that follows news or calendars. The board itself opens from your letters.'
		);
	const asked = askedSchema.catch(null).parse(url.searchParams.get('post'));
	const language = await languageOfBoard(
		s,
		url.searchParams.get('language'),
		request.headers.get('accept-language')
	);
	const open = await openBoard(s.db, place, language, `/b/${params.token}`, asked);
	const { pinned, front, earlier } = open.board;
	const ids = [...pinned, ...front, ...earlier].map((p) => p.dispatchId);
	return { open, asks: await answeredWhere(s.db, s.key, ids, null) };
};

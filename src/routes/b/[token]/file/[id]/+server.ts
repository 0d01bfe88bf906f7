import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { fileOnBoards } from '$lib/server/desk/boards/open-board';
import { fileResponse } from '$lib/server/http/file-response';
import { openedBoard } from '$lib/server/http/open-board';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** A file or picture of a board, by the link to it. */
export const GET = async ({ params }) => {
	const s = await services();
	const { place, personId } = await openedBoard(s, params.token);
	const id = idSchema.safeParse(params.id);
	const file = id.success ? await fileOnBoards(s.db, [place], id.data, personId === null) : null;
	if (!file) error(404, 'Nothing on this board holds this file.');
	return fileResponse(s.settings.dataFolder, file);
};

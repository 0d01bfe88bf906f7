import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { placeOfKey } from '$lib/core/audience/board-place';
import { fileOnBoards } from '$lib/server/desk/boards/open-board';
import { placeSeen } from '$lib/server/desk/boards/places';
import { fileResponse } from '$lib/server/http/file-response';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** A file or picture of a board, for whoever works here and sees it. */
export const GET = async ({ params, locals }) => {
	const { db, settings } = await services();
	const at = placeOfKey(params.key);
	const place = at && (await placeSeen(db, locals.user!, at));
	const id = idSchema.safeParse(params.id);
	const file = place && id.success ? await fileOnBoards(db, [place], id.data, false) : null;
	if (!file) error(404, 'Nothing on this board holds this file.');
	return fileResponse(settings.dataFolder, file);
};

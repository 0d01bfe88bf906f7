import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { fileOnOwnBoards } from '$lib/server/desk/boards/family-boards';
import { openFile } from '$lib/server/desk/family/open-file';
import { fileResponse } from '$lib/server/http/file-response';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';
import { visitorOf } from '$lib/server/http/visitor';

const idSchema = z.coerce.number().int().positive();

/** A file or picture of a letter or of a board, for whoever has the letter or reads the board. */
export const GET = async (event) => {
	const { params } = event;
	const s = await services();
	const link = await openedLink(s, params.token);
	const id = idSchema.safeParse(params.id);
	const file = id.success
		? ((await openFile(s.db, link, id.data, visitorOf(s, event))) ??
			(await fileOnOwnBoards(s.db, link.personId, id.data)))
		: null;
	if (!file) error(404, 'No letter of yours holds this file. Open it from the letter again.');
	return fileResponse(s.settings.dataFolder, file);
};

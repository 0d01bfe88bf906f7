import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ownAnswerFile } from '$lib/server/desk/family/talks';
import { fileResponse } from '$lib/server/http/file-response';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive();

/** A file that somebody sent along with an answer of theirs, for their own page. */
export const GET = async ({ params }) => {
	const s = await services();
	const link = await openedLink(s, params.token);
	const id = idSchema.safeParse(params.id);
	const file = id.success ? await ownAnswerFile(s.db, link.personId, id.data) : undefined;
	if (!file) error(404, 'No answer of yours holds this file.');
	return fileResponse(s.settings.dataFolder, file);
};

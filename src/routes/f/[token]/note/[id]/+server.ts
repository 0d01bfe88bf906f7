import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { noteForPerson } from '$lib/server/desk/family/notes';
import { mediaResponse } from '$lib/server/http/media-response';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** The sound or film of a note, for whoever has its letter. A player asks for it part by part, and by itself: that says nothing of a reader. */
export const GET = async ({ params, request }) => {
	const s = await services();
	const link = await openedLink(s, params.token);
	const id = idSchema.safeParse(params.id);
	const file = id.success ? await noteForPerson(s.db, link.personId, id.data) : null;
	if (!file) error(404, 'No letter of yours holds this note. Open it from the letter again.');
	return mediaResponse(request, s.settings.dataFolder, file);
};

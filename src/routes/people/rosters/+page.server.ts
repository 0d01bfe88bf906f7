import { error } from '@sveltejs/kit';
import { isAllowed } from '$lib/server/access/may';
import { fileLines, sourceLines } from '$lib/server/desk/roster/views';
import { pieceBytes } from '$lib/server/desk/roster/files';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	if (!isAllowed(locals.user!, 'bring-roster')) error(403, 'Rosters are the district office’s.');
	const { db } = await services();
	return { files: await fileLines(db), sources: await sourceLines(db), pieceBytes };
};

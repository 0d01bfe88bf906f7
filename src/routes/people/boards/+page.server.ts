import { wideBoards } from '$lib/server/desk/boards/staff-board';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** The boards of the district and its schools, of those somebody sees. */
export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	return { boards: await wideBoards(db, locals.user!) };
};

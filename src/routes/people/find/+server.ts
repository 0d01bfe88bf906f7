import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { findPeople, findStaff } from '$lib/server/desk/people/find-people';
import { services } from '$lib/server/services';

const searchSchema = z.object({
	q: z.string().max(100).catch(''),
	/** "staff" looks among staff only, "students" among students, "seen" among all that the user may see. */
	among: z.enum(['anyone', 'staff', 'students', 'seen']).catch('anyone')
});

/** People whose names begin like the search; a search that makes no sense finds nobody. */
export const GET = async ({ url, locals }) => {
	const { db } = await services();
	const { q, among } = searchSchema.parse(Object.fromEntries(url.searchParams));
	return json(
		among === 'staff' ? await findStaff(db, q) : await findPeople(db, locals.user!, q, among)
	);
};

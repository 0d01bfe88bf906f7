import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { pagesNamed } from '$lib/server/desk/office/jump-pages';
import { jumpTo } from '$lib/server/desk/people/jump';
import { services } from '$lib/server/services';

const searchSchema = z.object({
	q: z.string().max(100).catch(''),
	/** Whether dispatches are looked for as well. */
	among: z.enum(['all', 'people']).catch('all')
});

/** Where a search leads; one that makes no sense leads nowhere. */
export const GET = async ({ url, locals }) => {
	const { db } = await services();
	const { q, among } = searchSchema.parse(Object.fromEntries(url.searchParams));
	const named = await jumpTo(db, locals.user!, q, among);
	// People and what was written come first: pages have few names, and can be learned.
	return json(among === 'all' ? [...named, ...pagesNamed(locals.user!, q)] : named);
};

import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { jumpTo } from '$lib/server/desk/people/jump';
import { services } from '$lib/server/services';

const searchSchema = z.string().max(100).catch('');

/** Where a search leads; one that makes no sense leads nowhere. */
export const GET = async ({ url, locals }) => {
	const { db } = await services();
	return json(await jumpTo(db, locals.user!, searchSchema.parse(url.searchParams.get('q') ?? '')));
};

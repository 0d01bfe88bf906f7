import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { sectionsNamed } from '$lib/server/desk/work/roles';
import { services } from '$lib/server/services';
import type { RequestHandler } from './$types';

const searchSchema = z.string().trim().min(2).max(100);

export const GET: RequestHandler = async ({ url, locals }) => {
	const q = searchSchema.safeParse(url.searchParams.get('q'));
	if (!q.success || !isAllowed(locals.user!, 'accounts')) return json([]);
	const { db } = await services();
	return json(await sectionsNamed(db, q.data));
};

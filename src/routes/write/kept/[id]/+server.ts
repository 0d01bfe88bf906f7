import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';

const idSchema = z.coerce.number().int().positive();

/** The audience of a kept one, to be put into a sheet. */
export const GET = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const audience = id.success ? await ask('useKept', locals.user!, id.data) : null;
	if (!audience) error(404, 'This kept audience is no longer there, or cannot be read any more.');
	return json({ audience });
};

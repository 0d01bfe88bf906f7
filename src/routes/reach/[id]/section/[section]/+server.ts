import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';

const idSchema = z.coerce.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER);

/** The rings of one section, for a line of the roster field that is opened. */
export const GET = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const section = idSchema.safeParse(params.section);
	const rings =
		id.success && section.success
			? await ask('sectionRings', locals.user!, id.data, section.data)
			: null;
	if (!rings) error(404, 'There is no such dispatch, or it is not yours to see.');
	return json(rings);
};

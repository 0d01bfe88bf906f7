import { wentOut } from '$lib/server/http/went-out';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { membersCsv } from '$lib/server/desk/groups/members-out';
import { csvOut } from '$lib/server/http/csv-out';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** The students of a group, as a list that comes in again. */
export const GET = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const out = id.success ? await membersCsv(await services(), locals.user!, id.data) : null;
	if (!out) error(404, 'There is no such group, or another office looks after it.');
	await wentOut(locals.user!, 'members', ['group', id.data!]);
	return csvOut(out.name, out.csv);
};

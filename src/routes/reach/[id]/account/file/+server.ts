import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { fileAsked, fileOut } from '$lib/server/http/table-or-paper';
import { wentOut } from '$lib/server/http/went-out';
import { ask } from '$lib/server/planner/planner';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** Every delivery as CSV, or the account as a PDF. */
export const GET = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const as = fileAsked(url);
	const file = id.success ? await ask('accountFile', locals.user!, id.data, as) : null;
	if (file === null) error(404, 'There is no such dispatch, or it is not yours to see.');
	await wentOut(locals.user!, as === 'csv' ? 'deliveries' : 'account', ['dispatch', id.data!]);
	return fileOut(as, file, `dispatch-${params.id}`);
};

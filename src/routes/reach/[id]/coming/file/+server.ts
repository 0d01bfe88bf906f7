import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { doorListCsv, doorListPdf } from '$lib/server/desk/invitations/door-list';
import { fileAsked, fileOut } from '$lib/server/http/table-or-paper';
import { wentOut } from '$lib/server/http/went-out';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** The list for the door, as CSV or PDF. */
export const GET = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const as = fileAsked(url);
	const { db } = await services();
	const make = as === 'csv' ? doorListCsv : doorListPdf;
	const file = id.success ? await make(db, locals.user!, id.data) : null;
	if (file === null) error(404, 'There is no such invitation, or it is not yours to see.');
	await wentOut(locals.user!, 'door-list', ['dispatch', id.data!]);
	return fileOut(as, file, `who-comes-${params.id}`);
};

import { wentOut } from '$lib/server/http/went-out';
import { error } from '@sveltejs/kit';
import { isAllowed } from '$lib/server/access/may';
import { contactsCsv } from '$lib/server/desk/roster/contacts-out';
import { csvOut } from '$lib/server/http/csv-out';
import { services } from '$lib/server/services';

/** Everybody who is a contact of a student, as a list that comes in again. */
export const GET = async ({ locals }) => {
	if (!isAllowed(locals.user!, 'bring-roster')) error(403, 'Rosters are the district office’s.');
	const { db, key } = await services();
	await wentOut(locals.user!, 'contacts');
	return csvOut('contacts', contactsCsv(db, key));
};

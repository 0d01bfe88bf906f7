import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { Readable } from 'node:stream';
import { may } from '$lib/server/access/may';
import { contactsCsv } from '$lib/server/desk/roster/contacts-out';
import { services } from '$lib/server/services';

/** Everybody who is a contact of a student, as a list that comes in again, made while it is read. */
export const GET = async ({ locals }) => {
	if (!may(locals.user!, 'bring-roster')) error(403, 'Rosters are the district office’s.');
	const { db, key } = await services();
	return new Response(Readable.toWeb(Readable.from(contactsCsv(db, key))) as ReadableStream, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': contentDisposition('contacts.csv')
		}
	});
};

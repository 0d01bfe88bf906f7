import { wentOut } from '$lib/server/http/went-out';
import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { Readable } from 'node:stream';
import { isAllowed } from '$lib/server/access/may';
import { heldZip } from '$lib/server/desk/roster/export';
import { services } from '$lib/server/services';

/** Everything that is here as a OneRoster 1.2 zip, made while it is read. */
export const GET = async ({ locals }) => {
	if (!isAllowed(locals.user!, 'bring-roster')) error(403, 'Rosters are the district office’s.');
	const { db, key } = await services();
	const zip = await heldZip(db, key);
	await wentOut(locals.user!, 'roster');
	return new Response(Readable.toWeb(zip) as ReadableStream, {
		headers: {
			'content-type': 'application/zip',
			'content-disposition': contentDisposition('oneroster.zip')
		}
	});
};

import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { joiningSheet } from '$lib/server/desk/joining/sheet-pdf';
import { waysOf } from '$lib/server/http/joining';
import { papers } from '$lib/server/paper/sizes';

const paperSchema = z.enum(papers).catch('letter');

/** The sheet that says how a group is joined, to be hung up and handed out. */
export const GET = async ({ params, locals, url }) => {
	const { ways } = await waysOf(locals.user!, params);
	const pdf = await joiningSheet(ways, paperSchema.parse(url.searchParams.get('paper')));
	return new Response(pdf as Uint8Array<ArrayBuffer>, {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': contentDisposition(`${ways.group}.pdf`, { type: 'inline' })
		}
	});
};

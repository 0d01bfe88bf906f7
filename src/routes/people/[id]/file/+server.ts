import { error } from '@sveltejs/kit';
import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { wholeFile } from '$lib/server/desk/keep/whole-file';
import { wholeFilePdf } from '$lib/server/desk/keep/whole-file-pdf';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { RequestHandler } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const formSchema = z.object({ as: z.enum(['json', 'pdf']).catch('pdf') });

/** One person’s whole file. It is asked for by a form, since each time that it leaves is written down. */
export const POST: RequestHandler = async ({ params, request, locals }) => {
	const { as } = formSchema.parse(await readForm(request));
	const id = idSchema.safeParse(params.id);
	const { db } = await services();
	const file = id.success ? await wholeFile(db, locals.user!, id.data) : null;
	if (!file) error(404, 'There is nobody here whose file you may take out.');
	const body =
		as === 'pdf' ? await wholeFilePdf(file) : Buffer.from(JSON.stringify(file, null, '\t'));
	return new Response(new Uint8Array(body), {
		headers: {
			'content-type': as === 'pdf' ? 'application/pdf' : 'application/json',
			'content-disposition': contentDisposition(`everything-about-${file.person}.${as}`)
		}
	});
};

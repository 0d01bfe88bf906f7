import { wentOut } from './went-out';
import { error, type RequestEvent } from '@sveltejs/kit';
import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { firstAccessSheets, type SheetsOf } from '../desk/people/first-access';
import { papers } from '../paper/sizes';
import { services } from '../services';
import { readForm } from './read-form';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const formSchema = z.object({ paper: z.enum(papers).catch('letter') });

/** Answers a form with first-access sheets as a PDF. Each asking makes new links: it is no address that is opened twice. */
export async function accessSheets(
	{ params, request, locals }: Pick<RequestEvent, 'params' | 'request' | 'locals'>,
	of: (id: number) => SheetsOf
): Promise<Response> {
	const { paper } = formSchema.parse(await readForm(request));
	const id = idSchema.safeParse(params.id);
	const { db, key, settings } = await services();
	const pdf = id.success
		? await firstAccessSheets(
				{ db, key, publicUrl: settings.publicUrl },
				locals.user!,
				of(id.data),
				paper
			)
		: null;
	if (!pdf) error(404, 'There is nobody here whom you may give such a sheet to.');
	await wentOut(locals.user!, 'sheets');
	return new Response(pdf as Uint8Array<ArrayBuffer>, {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': contentDisposition('the-way-to-the-inbox.pdf'),
			// They open inboxes: no copy stays behind.
			'cache-control': 'no-store'
		}
	});
}

import { wentOut } from '$lib/server/http/went-out';
import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const asSchema = z.enum(['csv', 'pdf']);

/** Media types: text/csv RFC 7111, application/pdf RFC 8118. */
const types = { csv: 'text/csv; charset=utf-8; header=present', pdf: 'application/pdf' } as const;

/** Every delivery as CSV, or the account as a PDF. */
export const GET = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const as = asSchema.safeParse(url.searchParams.get('as'));
	if (!as.success) error(400, 'Say which file: as=csv or as=pdf.');
	const file = id.success ? await ask('accountFile', locals.user!, id.data, as.data) : null;
	if (file === null) error(404, 'There is no such dispatch, or it is not yours to see.');
	await wentOut(locals.user!, as.data === 'csv' ? 'deliveries' : 'account', ['dispatch', id.data!]);
	return new Response(typeof file === 'string' ? file : Buffer.from(file), {
		headers: {
			'content-type': types[as.data],
			'content-disposition': contentDisposition(`dispatch-${params.id}.${as.data}`)
		}
	});
};

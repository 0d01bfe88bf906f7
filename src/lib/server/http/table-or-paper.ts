import { error } from '@sveltejs/kit';
import contentDisposition from 'content-disposition';
import { z } from 'zod';

const asSchema = z.enum(['csv', 'pdf']);

/** Media types: text/csv RFC 7111, application/pdf RFC 8118. */
const types = { csv: 'text/csv; charset=utf-8; header=present', pdf: 'application/pdf' } as const;

/** As which file something is asked for; the request ends where it is as none. */
export function fileAsked(url: URL): keyof typeof types {
	const as = asSchema.safeParse(url.searchParams.get('as'));
	if (!as.success) error(400, 'Say which file: as=csv or as=pdf.');
	return as.data;
}

/** It as an answer, to be saved under a name. */
export const fileOut = (
	as: keyof typeof types,
	content: string | Uint8Array,
	name: string
): Response =>
	new Response(typeof content === 'string' ? content : Buffer.from(content), {
		headers: {
			'content-type': types[as],
			'content-disposition': contentDisposition(`${name}.${as}`)
		}
	});

import contentDisposition from 'content-disposition';
import { Readable } from 'node:stream';

/** A table that is made while it is read, to be kept as a file. */
export const csvOut = (name: string, pieces: AsyncGenerator<string>): Response =>
	new Response(Readable.toWeb(Readable.from(pieces)) as ReadableStream, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': contentDisposition(`${name}.csv`)
		}
	});

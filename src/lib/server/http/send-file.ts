import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import contentDisposition from 'content-disposition';
import parseRange from 'range-parser';

/** A file on the disk, and how it is handed out. */
interface Sent {
	readonly path: string;
	readonly bytes: number;
	/** Its entity tag, with its quotes. */
	readonly tag: string;
	readonly type: string;
	readonly name: string;
	/** Heard when its last octet has been read for somebody. */
	readonly ended?: () => void;
}

/** What a browser asks for of a file: all of it, from an octet on, or what it does not have. Only one range, and only of the file that it began with (RFC 9110 sections 13.1.5 and 14.2). */
function rangeOf(
	request: Request,
	{ bytes, tag }: Sent
): { start: number; end: number } | 'none' | 'all' {
	const asked = request.headers.get('range');
	const ifRange = request.headers.get('if-range');
	if (asked === null || (ifRange !== null && ifRange !== tag)) return 'all';
	const ranges = parseRange(bytes, asked);
	if (ranges === -1) return 'none';
	if (ranges === -2 || ranges.type !== 'bytes' || ranges.length !== 1) return 'all';
	return ranges[0]!;
}

/** Hands a file out, whole or from where it broke off. */
export function sendFile(request: Request, file: Sent): Response {
	const { path, bytes, tag, type, name, ended } = file;
	const range = rangeOf(request, file);
	const headers = { 'accept-ranges': 'bytes', etag: tag };
	if (range === 'none')
		return new Response(null, {
			status: 416,
			headers: { ...headers, 'content-range': `bytes */${bytes}` }
		});
	const { start, end } = range === 'all' ? { start: 0, end: bytes - 1 } : range;
	/** Opened only where somebody reads it. */
	function content(): ReadableStream {
		const stream = createReadStream(path, { start, end });
		if (end === bytes - 1) stream.once('end', () => ended?.());
		return Readable.toWeb(stream) as ReadableStream;
	}
	return new Response(request.method === 'HEAD' ? null : content(), {
		status: range === 'all' ? 200 : 206,
		headers: {
			...headers,
			'content-type': type,
			'content-length': String(end - start + 1),
			'content-disposition': contentDisposition(name),
			...(range === 'all' ? {} : { 'content-range': `bytes ${start}-${end}/${bytes}` })
		}
	});
}

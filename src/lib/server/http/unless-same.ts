import { createHash } from 'node:crypto';

/** Something that is asked for again and again: what it rests on, when it last changed (instant, ms), and how it is written. */
interface Again {
	readonly mark: string;
	readonly changedAt: number;
	readonly write: () => string | Promise<string>;
}

/** Whether an entity tag is among those of an If-None-Match field, by weak comparison (RFC 9110 sections 8.8.3.2 and 13.1.2). */
function isAmong(tag: string, field: string): boolean {
	if (field.trim() === '*') return true;
	const opaque = (t: string) => t.replace(/^W\//, '');
	return (field.match(/(?:W\/)?"[^"]*"/g) ?? []).some((t) => opaque(t) === opaque(tag));
}

/** Whether whoever asks has it already (RFC 9110 section 13.2.2: a tag goes before a time). */
function isSame(request: Request, tag: string, changedAt: number): boolean {
	const tags = request.headers.get('if-none-match');
	if (tags !== null) return isAmong(tag, tags);
	const since = Date.parse(request.headers.get('if-modified-since') ?? '');
	// A time in a header has whole seconds (section 5.6.7).
	return Number.isFinite(since) && Math.floor(changedAt / 1000) * 1000 <= since;
}

/** Answers with what is asked for, or with 304 and nothing where whoever asks has it already: then it is not even written. */
export async function unlessSame(request: Request, type: string, again: Again): Promise<Response> {
	const tag = `W/"${createHash('sha256').update(again.mark).digest('base64url').slice(0, 27)}"`;
	const headers = {
		etag: tag,
		'last-modified': new Date(again.changedAt).toUTCString(),
		// Kept by whoever asks, and asked again each time; by nobody in between.
		'cache-control': 'private, no-cache'
	};
	if (isSame(request, tag, again.changedAt)) return new Response(null, { status: 304, headers });
	return new Response(await again.write(), {
		headers: { ...headers, 'content-type': `${type}; charset=utf-8` }
	});
}

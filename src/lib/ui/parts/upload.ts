import type { KeptFile } from '$lib/server/desk/sheet/types';

/** What became of a file that was put in: the file, or why it was not taken. */
export type Uploaded =
	{ readonly ok: true; readonly file: KeptFile } | { readonly ok: false; readonly why: string };

/** Puts a file in, up to the limit of the district's settings. Never throws. */
export async function upload(
	file: File,
	as: 'file' | 'picture',
	limitBytes: number
): Promise<Uploaded> {
	// The server would refuse it as well: nothing is sent.
	if (file.size > limitBytes) {
		return {
			ok: false,
			why: `“${file.name}” has ${Math.ceil(file.size / 1e6)} MB; ${limitBytes / 1e6} MB are taken at most. Make it smaller, or put it on a page and link to it.`
		};
	}
	try {
		const response = await fetch(
			`/write/file?${new URLSearchParams({ name: file.name || 'picture', as }).toString()}`,
			{ method: 'POST', headers: { accept: 'application/json' }, body: file }
		);
		const answer = (await response.json()) as KeptFile & { why?: string; message?: string };
		return response.ok
			? { ok: true, file: answer }
			: { ok: false, why: answer.why ?? answer.message ?? 'The file was not taken.' };
	} catch {
		return { ok: false, why: `No connection, so “${file.name}” was not put in. Try again.` };
	}
}

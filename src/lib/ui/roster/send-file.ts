/** How far a file has gone to the server. */
export type Sent = (bytes: number, all: number) => void;

/** Why a roster could not be brought, in words to be shown. */
export class NotSent extends Error {}

async function answer<T>(request: Promise<Response>): Promise<T> {
	let response: Response;
	try {
		response = await request;
	} catch {
		throw new NotSent(
			'No connection. Choose the file again when there is one; nothing has changed.'
		);
	}
	const body = (await response.json().catch(() => ({}))) as T & { why?: string; message?: string };
	if (!response.ok)
		throw new NotSent(
			body.why ?? body.message ?? 'The server did not take the file. Try once more.'
		);
	return body;
}

/** Times that a piece is sent again after a line that broke. */
const tries = 4;

/**
 * Brings the files of a roster, piece by piece, so that neither a slow line nor a large district is too
 * much; resolves to the number of the roster.
 */
export async function sendRoster(
	files: readonly File[],
	source: string,
	pieceBytes: number,
	sent: Sent
): Promise<number> {
	const all = files.reduce((sum, file) => sum + file.size, 0);
	const name = files.length === 1 ? files[0]!.name : `${files.length} tables`;
	const { id } = await answer<{ id: number }>(
		fetch('/people/rosters', {
			method: 'POST',
			headers: { 'content-type': 'application/json', accept: 'application/json' },
			body: JSON.stringify({ source, name, bytes: all })
		})
	);
	let before = 0;
	for (const file of files) {
		// An empty file comes as well: what is wrong with it is said where it is looked at.
		let from = 0;
		do {
			from = await sendPiece(id, file, from, file.slice(from, from + pieceBytes));
			sent(before + from, all);
		} while (from < file.size);
		before += file.size;
	}
	return id;
}

async function sendPiece(id: number, file: File, from: number, piece: Blob): Promise<number> {
	const url = `/people/rosters/${id}/piece?name=${encodeURIComponent(file.name)}&from=${from}`;
	for (let left = tries; ; left -= 1) {
		try {
			const { bytes } = await answer<{ bytes: number }>(
				fetch(url, {
					method: 'POST',
					body: piece,
					headers: {
						accept: 'application/json',
						// A body of no type is taken for none on its way.
						'content-type': 'application/octet-stream'
					}
				})
			);
			if (bytes <= from && piece.size > 0)
				throw new NotSent(`“${file.name}” does not arrive. Choose it again.`);
			return bytes;
		} catch (error) {
			if (left <= 1) throw error;
			await new Promise((again) => setTimeout(again, 800));
		}
	}
}

import contentDisposition from 'content-disposition';
import { getContent } from '../db/file-store';

/** A file as an answer: never run or framed by the page, whatever it holds; pictures are shown, all else is saved. */
export async function fileResponse(
	dataFolder: string,
	file: { readonly hash: string; readonly name: string; readonly type: string }
): Promise<Response> {
	const content = await getContent(dataFolder, file.hash);
	const shown = file.type.startsWith('image/');
	return new Response(new Uint8Array(content), {
		headers: {
			'content-type': file.type,
			'content-length': String(content.length),
			'content-disposition': contentDisposition(file.name, {
				type: shown ? 'inline' : 'attachment'
			}),
			'content-security-policy': "default-src 'none'; sandbox"
		}
	});
}

import { contentPath } from '../db/file-store';
import { sendFile } from './send-file';

/** Sound or film as an answer, whole or the part that a player asks for (RFC 9110 section 14). */
export function mediaResponse(
	request: Request,
	dataFolder: string,
	file: {
		readonly hash: string;
		readonly name: string;
		readonly type: string;
		readonly bytes: number;
	}
): Response {
	const response = sendFile(request, {
		...{ path: contentPath(dataFolder, file.hash), bytes: file.bytes, tag: `"${file.hash}"` },
		...{ type: file.type, name: file.name }
	});
	response.headers.set('content-security-policy', "default-src 'none'; sandbox");
	return response;
}

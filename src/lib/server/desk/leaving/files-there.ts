import { getContent } from '../../db/file-store';
import type { MailFile } from '../../gateway/mail-letter';
import type { StoredFile } from '../sheet/letters';

/** Files with their contents. What is past its time has gone from the disk; a letter is whole without it. */
export async function filesThere(
	dataFolder: string,
	files: readonly StoredFile[]
): Promise<(MailFile & { readonly id: number })[]> {
	const there: (MailFile & { readonly id: number })[] = [];
	for (const { id, name, type, hash } of files) {
		const content = await getContent(dataFolder, hash).catch(() => null);
		if (content) there.push({ id, name, type, content });
	}
	return there;
}

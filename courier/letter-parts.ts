import type { EmailLetter } from '../src/lib/core/copy/letter';
import { pictureCid } from '../src/lib/core/copy/picture-cid';
import { remembering } from '../src/lib/server/db/remember';
import { getContent } from '../src/lib/server/db/file-store';
import type { DispatchLetters, StoredFile } from '../src/lib/server/desk/sheet/letters';
import type { MailFile } from '../src/lib/server/gateway/mail-letter';

/** Contents held in memory while the copies that carry them go out, by hash. */
const held = remembering<Buffer>(40);
/** Beside no database: the content under a hash never changes. */
const everywhere = {};

/** The same octets where every thread sees them: a file that goes with twenty thousand letters is not copied for each. */
function shared(content: Buffer): Buffer {
	const octets = Buffer.from(new SharedArrayBuffer(content.length));
	content.copy(octets);
	return octets;
}

const contentOf = (dataFolder: string, hash: string): Promise<Buffer> =>
	held.get(everywhere, hash, () => getContent(dataFolder, hash).then(shared));

/** The files and pictures of one email, with their contents. Rejects where one of them cannot be read that belongs to its words. */
export async function letterParts(
	dataFolder: string,
	made: Pick<DispatchLetters, 'attached' | 'pictures' | 'logoId'>,
	letter: Pick<EmailLetter, 'pictureIds'>
): Promise<{ attached: MailFile[]; pictures: (MailFile & { cid: string })[] }> {
	const part = async ({ name, type, hash }: StoredFile): Promise<MailFile> => ({
		name,
		type,
		content: await contentOf(dataFolder, hash)
	});
	const shown = letter.pictureIds.flatMap((id) => made.pictures.get(id) ?? []);
	return {
		attached: await Promise.all(made.attached.map(part)),
		pictures: (
			await Promise.all(
				shown.map(async (file) => {
					try {
						return [{ ...(await part(file)), cid: pictureCid(file.id) }];
					} catch (error) {
						// A logo that is gone from the disk holds up no letter: its words stand in its place.
						if (file.id === made.logoId) return [];
						throw error;
					}
				})
			)
		).flat()
	};
}

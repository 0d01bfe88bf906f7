import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { putContent } from '../../db/file-store';
import type { AnswerFileRow } from '../../db/models/talk';
import type { AnswerFile } from '../../gateway/return-mail';
import { lookAtFile } from '../sheet/file-kind';

/** A file of an answer as it is kept: under its hash, or with why it was not. */
export type KeptAnswerFile = Pick<
	AnswerFileRow,
	'name' | 'type' | 'bytes' | 'hash' | 'width' | 'height' | 'why'
>;

/** All files of one answer together take no more, bytes. */
const mostBytes = 30_000_000;

/**
 * Keeps what came with an answer, before any transaction. What it is, its content says; what is none of the
 * kinds that families send (a program, a page, something broken) is named and not kept.
 */
export async function keepAnswerFiles(
	dataFolder: string,
	files: readonly AnswerFile[],
	limitBytes: number
): Promise<KeptAnswerFile[]> {
	const kept: KeptAnswerFile[] = [];
	let room = mostBytes;
	for (const { name: givenName, content: octets } of files) {
		const content = Buffer.from(octets.buffer, octets.byteOffset, octets.byteLength);
		const bytes = content.length;
		const looked = await lookAtFile(givenName, content, Math.min(limitBytes, room));
		if (!looked.ok) {
			const nothing = { hash: null, width: null, height: null, type: '' };
			kept.push({ ...nothing, name: givenName.slice(0, 200), bytes, why: looked.why });
			continue;
		}
		room -= bytes;
		const { name, type, width, height } = looked;
		const hash = await putContent(dataFolder, content);
		kept.push({ name, type, bytes, hash, width, height, why: null });
	}
	return kept;
}

/** A file of an answer with its content's hash, for a user who may see its conversation. */
export function answerFileForUser(
	db: Query,
	user: User,
	id: number
): Promise<{ hash: string; name: string; type: string } | undefined> {
	const seen = scope(user).conversations;
	return db.one(
		`SELECT hash, name, type FROM answer_file JOIN answer ON answer.id = answer_id
		JOIN conversation ON conversation.id = conversation_id
		WHERE answer_file.id = $id AND hash IS NOT NULL AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
}

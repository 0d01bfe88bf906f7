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

/** All files of one answer together take no more, bytes; nor all that somebody sends in a day: whoever has a letter could fill the disk. */
const mostBytes = 30_000_000;
const mostInADay = 60_000_000;

/** How much one copy, or one person on their page, may still send in files today, bytes. */
export async function roomForFiles(
	db: Query,
	whose: { readonly deliveryId: number } | { readonly personId: number },
	at: number
): Promise<number> {
	const { sum } = (await db.one<{ sum: number }>(
		`SELECT coalesce(sum(bytes), 0) AS sum FROM answer_file JOIN answer ON answer.id = answer_id
		JOIN conversation ON conversation.id = conversation_id
		WHERE hash IS NOT NULL AND answer.at > $since AND ${'deliveryId' in whose ? 'delivery_id' : 'person_id'} = $id`,
		{ since: at - 86_400_000, id: 'deliveryId' in whose ? whose.deliveryId : whose.personId }
	))!;
	return Math.max(0, mostInADay - sum);
}

/**
 * Keeps what came with an answer, before any transaction. What it is, its content says; what is none of the
 * kinds that families send (a program, a page, something broken) is named and not kept.
 */
export async function keepAnswerFiles(
	dataFolder: string,
	files: readonly AnswerFile[],
	limitBytes: number,
	roomBytes = mostInADay
): Promise<KeptAnswerFile[]> {
	const kept: KeptAnswerFile[] = [];
	let room = Math.min(mostBytes, roomBytes);
	for (const { name: givenName, content: octets } of files) {
		const content = Buffer.from(octets.buffer, octets.byteOffset, octets.byteLength);
		const bytes = content.length;
		const looked =
			bytes > room && bytes <= limitBytes
				? ({
						ok: false,
						why: `“${givenName.slice(0, 200)}” is more than is kept of one family in a day.`
					} as const)
				: await lookAtFile(givenName, content, Math.min(limitBytes, room));
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

import { count } from '../../../core/copy/count';
import type { EmailLetter } from '../../../core/copy/letter';
import { deliveryFacts } from '../../db/copy-facts';
import type { Db } from '../../db/open';
import { dispatchLetters } from '../sheet/letters';
import type { LettersHouse } from './letter-out';

/** Copies of a dispatch in one language, by way, and one that stands for them. */
interface Alike {
	readonly dispatchId: number;
	/** The copy that stands for all. */
	readonly copyId: number;
	/** When the dispatch left, ms. */
	readonly at: number;
	email: number;
	text: number;
	inbox: number;
}

/** What a dispatch says in one language, as one of its readers got it. */
export interface WrittenLetter {
	readonly of: Readonly<Alike>;
	readonly letter: EmailLetter;
	/** The same as a text. */
	readonly text: string;
}

/** So many dispatches are read at once. */
const atOnce = 50;

/** One copy of each dispatch and language of readers, by email where there is one, with how many there are like it. */
const alikeOf = (db: Db, dispatchIds: string): Promise<Alike[]> =>
	db.all<Alike>(
		`SELECT dispatch_id AS dispatchId, coalesce(min(iif(way = 'email', delivery.id, NULL)), min(delivery.id)) AS copyId,
			coalesce(sent_at, leaves_at, scheduled_at) AS at,
			sum(way = 'email') AS email, sum(way = 'text') AS text, sum(way = 'inbox') AS inbox
		FROM delivery JOIN person ON person.id = person_id JOIN dispatch ON dispatch.id = dispatch_id
		WHERE left_at IS NOT NULL AND dispatch_id IN (SELECT value FROM json_each($dispatchIds))
		GROUP BY dispatch_id, language ORDER BY dispatch_id, language`,
		{ dispatchIds }
	);

/** What each dispatch that has left says in each language it was written in, the oldest first. */
export async function* writtenLetters({
	db,
	publicUrl
}: LettersHouse): AsyncGenerator<WrittenLetter> {
	const ids = (
		await db.all<{ id: number }>(`SELECT id FROM dispatch WHERE state != 'draft' ORDER BY id`)
	).map((row) => row.id);
	for (let i = 0; i < ids.length; i += atOnce) {
		const alike = await alikeOf(db, JSON.stringify(ids.slice(i, i + atOnce)));
		const facts = await deliveryFacts(
			db,
			alike.map((a) => a.copyId)
		);
		const written = new Map<string, WrittenLetter & { readonly of: Alike }>();
		for (const of of alike) {
			const { letters } = await dispatchLetters(db, of.dispatchId);
			const copy = facts.get(of.copyId)!;
			// No link of anybody's leaves: whoever reads it elsewhere is led to where one is asked for.
			const mine = { ...copy, link: `${publicUrl}/in`, mayStop: false };
			const letter = letters.email(mine);
			// Readers of a language in which nothing was written got the original.
			const key = `${of.dispatchId} ${letter.language}`;
			const like = written.get(key)?.of;
			if (like) for (const way of ['email', 'text', 'inbox'] as const) like[way] += of[way];
			else written.set(key, { of, letter, text: letters.text(mine) });
		}
		yield* written.values();
	}
}

const many = (n: number, way: string): string[] => (n === 0 ? [] : [`${count(n)} ${way}`]);

/** "One of 345 copies in en: 181 by email, 164 in the inbox". */
export function likeIt({ of: { email, text, inbox }, letter }: WrittenLetter): string {
	const all = email + text + inbox;
	const ways = [
		...many(email, 'by email'),
		...many(text, 'by text'),
		...many(inbox, 'in the inbox')
	];
	return `One of ${count(all)} ${all === 1 ? 'copy' : 'copies'} in ${letter.language}: ${ways.join(', ')}`;
}

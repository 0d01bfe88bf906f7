import { joinParts, type TextPart } from '../../../core/talk/text-parts';
import { textPart } from '../../db/models/delivery';
import type { Query } from '../../db/open';

/** So long the parts of a text are waited for; then what is there is taken, ms. Exchanges send them within seconds (common practice). */
export const partsMs = 10 * 60_000;

/** More is in no part that a phone sends: 160 septets (3GPP TS 23.040); an exchange that says otherwise does not fill the disk. */
const longestPart = 500;

/** A text that is whole, or as whole as it gets. */
interface Gathered {
	readonly from: string;
	readonly to: string;
	readonly words: string;
}

/** The parts of one text: whose, and by what they are known. */
interface PartSet {
	readonly from: string;
	readonly reference: number;
	readonly of: number;
}

const thisSet = 'from_number = $from AND reference = $reference AND of_parts = $of';
const bindOf = ({ from, reference, of }: PartSet) => ({ from, reference, of });

/** What there is of a text, in its order. */
async function textOf(tx: Query, set: PartSet): Promise<Gathered> {
	const parts = await tx.all<{ number: number; words: string; to: string }>(
		`SELECT number, words, to_number AS "to" FROM text_part WHERE ${thisSet}`,
		bindOf(set)
	);
	return { from: set.from, to: parts[0]!.to, words: joinParts(parts, set.of) };
}

const forget = (tx: Query, set: PartSet) =>
	tx.run(`DELETE FROM text_part WHERE ${thisSet}`, bindOf(set));

/**
 * Keeps a part of a text; comes to the text that is whole by it, and to one that the same phone had begun
 * with the same reference so long before that its parts come no more. What comes once more comes to nothing.
 * In the caller's transaction: a part is told to be taken only when it is written down.
 */
export async function gatherPart(
	tx: Query,
	{ from, to, words }: Gathered,
	{ reference, of, number }: TextPart,
	at: number
): Promise<Gathered[]> {
	const set = { from, reference, of };
	const texts: Gathered[] = [];
	const before = (await tx.one<{ oldest: number | null; taken: number | null }>(
		`SELECT min(at) AS oldest, max(taken) AS taken FROM text_part WHERE ${thisSet}`,
		set
	))!;
	if (before.oldest !== null && before.oldest <= at - partsMs) {
		if (before.taken === 0) texts.push(await textOf(tx, set));
		await forget(tx, set);
	} else if (before.taken === 1) return texts;
	await tx.rows(textPart).addMany(
		[
			{
				...{ fromNumber: from, toNumber: to.slice(0, 40), reference, ofParts: of, number, at },
				words: words.slice(0, longestPart)
			}
		],
		'keep'
	);
	const { n } = (await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM text_part WHERE ${thisSet}`,
		set
	))!;
	if (n < of) return texts;
	texts.push(await textOf(tx, set));
	await tx.run(`UPDATE text_part SET taken = 1 WHERE ${thisSet}`, set);
	return texts;
}

/** Texts of which parts have been waited for long enough, as they are. In the caller's transaction. */
export async function lateTexts(tx: Query, at: number): Promise<Gathered[]> {
	const sets = await tx.all<PartSet & { taken: number }>(
		`SELECT from_number AS "from", reference, of_parts AS "of", max(taken) AS taken FROM text_part
		GROUP BY from_number, reference, of_parts HAVING min(at) <= $since ORDER BY min(id) LIMIT 200`,
		{ since: at - partsMs }
	);
	const texts: Gathered[] = [];
	for (const set of sets) {
		if (set.taken === 0) texts.push(await textOf(tx, set));
		await forget(tx, set);
	}
	return texts;
}

/** When parts will have been waited for long enough (job's clock, ms); null where none wait. */
export async function nextLateText(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>('SELECT min(at) AS at FROM text_part');
	return row?.at === null || row?.at === undefined ? null : row.at + partsMs;
}

import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { DateTime } from 'luxon';
import { wordingOf } from '../../../core/copy/words';
import { writeDown } from '../../access/log';
import { now } from '../../clock';
import { readDistrict, writeSetting, type District } from '../../db/district';
import type { Db, Query } from '../../db/open';

/** What is kept for how long, and what goes when its time is over. Rows that are counted stay: only what they say goes. */

/** What stands where the words of a letter were. */
const wordsGone = 'Words no longer kept';
const wordsGoneBody = 'This letter is so old that its words are no longer kept.';
/** What stands where an answer was. */
const answerGone = 'No longer kept';

/** Until when things have to be newer, to be kept still (instants, ms). */
interface Limits {
	readonly words: number;
	readonly evidence: number;
	readonly addresses: number;
	readonly answers: number;
}

const limitsAt = ({ keeping, zone }: District, time: number): Limits => {
	const before = (months: number) =>
		DateTime.fromMillis(time, { zone }).minus({ months }).startOf('day').toMillis();
	return {
		words: before(keeping.words),
		evidence: before(keeping.evidence),
		addresses: before(keeping.addresses),
		answers: before(keeping.answers)
	};
};

/** Sent, over, and with nothing on its way; `$limit` is the instant. Answers of ours go with those of families. */
const oldDispatch = (
	answers: boolean
): string => `dispatch.state = 'sent' AND dispatch.kind ${answers ? '=' : '!='} 'answer'
	AND max(coalesce(sent_at, 0), coalesce(ends_at, 0), coalesce(last_due, 0), coalesce(leaves_at, 0)) < $limit AND subject != '${wordsGone}'
	AND NOT EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND state IN ('held', 'planned'))`;
const emptied = {
	subject: wordsGone,
	body: wordsGoneBody,
	wording: JSON.stringify(wordingOf(wordsGone, wordsGoneBody))
};

/** One kind of thing that goes: what is asked for its rows, and what becomes of them. */
interface Going {
	readonly what: 'letters' | 'evidence' | 'addresses' | 'answers';
	/** Rows of which table, as a condition; `$limit` is the instant. */
	readonly table: string;
	readonly past: string;
	/** What is done to some of them; `$ids` is their ids, as JSON. */
	readonly done: readonly string[];
	readonly bind?: Readonly<Record<string, string>>;
	/** Whether it is told by its number; what only goes along with others is not. */
	readonly told: boolean;
}
const these = '(SELECT value FROM json_each($ids))';

const going: readonly Going[] = [
	...([false, true] as const).map((answers): Going => ({
		...{ what: answers ? 'answers' : 'letters', table: 'dispatch', told: !answers },
		past: oldDispatch(answers),
		done: [
			`UPDATE dispatch SET subject = $subject, body = $body, wording = $wording, letter = '{}' WHERE id IN ${these}`,
			`DELETE FROM dispatch_file WHERE dispatch_id IN ${these}`
		],
		bind: emptied
	})),
	{
		...{ what: 'letters', table: 'standing', told: false },
		past: `coalesce(ended_at, ends_at) < $limit AND subject != '${wordsGone}'`,
		done: [
			`UPDATE standing SET subject = $subject, sheet = json_set(sheet, '$.wording', json($wording), '$.letter', json('{}'))
			WHERE id IN ${these}`
		],
		bind: emptied
	},
	{
		...{ what: 'letters', table: 'proof', told: false },
		...{
			past: `made_at < $limit AND state != 'waiting'`,
			done: [`DELETE FROM proof WHERE id IN ${these}`]
		}
	},
	{
		...{ what: 'letters', table: 'notice', told: false },
		past: `made_at < $limit AND state != 'waiting'`,
		done: [`DELETE FROM notice WHERE id IN ${these}`]
	},
	{
		...{ what: 'evidence', table: 'event', told: true },
		past: `at < $limit AND (detail != '' OR said IS NOT NULL OR visitor IS NOT NULL OR about IS NOT NULL)`,
		done: [
			`UPDATE event SET detail = '', said = NULL, visitor = NULL, about = NULL WHERE id IN ${these}`
		]
	},
	{
		...{ what: 'evidence', table: 'returned_mail', told: false },
		...{ past: 'at < $limit', done: [`DELETE FROM returned_mail WHERE id IN ${these}`] }
	},
	{
		...{ what: 'addresses', table: 'delivery', told: true },
		past: `state_at < $limit AND coalesce(left_at, 0) < $limit AND address IS NOT NULL AND state NOT IN ('held', 'planned')`,
		done: [`UPDATE delivery SET address = NULL WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'digest', told: false },
		past: `at < $limit AND address != ''`,
		done: [`UPDATE digest SET address = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'event', told: false },
		past: 'at < $limit AND (visitor IS NOT NULL OR about IS NOT NULL)',
		done: [`UPDATE event SET visitor = NULL, about = NULL WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'answer', told: false },
		past: `at < $limit AND from_address != ''`,
		done: [`UPDATE answer SET from_address = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'text_in', told: false },
		past: `at < $limit AND from_number != ''`,
		done: [`UPDATE text_in SET from_number = '', to_number = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'answer', told: true },
		past: `at < $limit AND text != '${answerGone}'
			AND conversation_id IN (SELECT id FROM conversation WHERE conversation.state = 'settled')`,
		done: [
			`UPDATE answer SET subject = '', text = '${answerGone}', whole = '', translated = NULL, translated_to = NULL,
				from_name = '' WHERE id IN ${these}`,
			`DELETE FROM answer_file WHERE answer_id IN ${these}`
		]
	},
	{
		...{ what: 'answers', table: 'conversation', told: false },
		past: `last_at < $limit AND state = 'settled' AND subject NOT IN ('', '${answerGone}')`,
		done: [`UPDATE conversation SET subject = '${answerGone}' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'text_in', told: false },
		past: `at < $limit AND words != ''`,
		done: [`UPDATE text_in SET words = '' WHERE id IN ${these}`]
	}
];
const limitOf = (limits: Limits, { what }: Going): number =>
	what === 'letters' ? limits.words : limits[what];

/** How much is past its time: letters, events with words, copies with an address, answers. */
export interface Past {
	readonly letters: number;
	readonly evidence: number;
	readonly addresses: number;
	readonly answers: number;
}

/** How much would go in the night if a district kept things for so long. */
export async function countPast(db: Query, district: District): Promise<Past> {
	const limits = limitsAt(district, await now(db));
	const past = { letters: 0, evidence: 0, addresses: 0, answers: 0 };
	for (const kind of going) {
		if (!kind.told) continue;
		const { n } = (await db.one<{ n: number }>(
			`SELECT count(*) AS n FROM ${kind.table} WHERE ${kind.past}`,
			{ limit: limitOf(limits, kind) }
		))!;
		past[kind.what] += n;
	}
	return past;
}

/** So many rows in one transaction: others write meanwhile. */
const atOnce = 2_000;

async function drop(db: Db, kind: Going, limit: number): Promise<number> {
	let [sum, after] = [0, 0];
	for (;;) {
		const n = await db.write(async (tx) => {
			// Each goes on behind the one before it: what is done already is not looked at again.
			const rows = await tx.all<{ id: number }>(
				`SELECT id FROM ${kind.table} WHERE id > $after AND ${kind.past} ORDER BY id LIMIT ${atOnce}`,
				{ limit, after }
			);
			after = rows.at(-1)?.id ?? after;
			const ids = JSON.stringify(rows.map((row) => row.id));
			if (rows.length > 0)
				for (const statement of kind.done) {
					const named = Object.entries(kind.bind ?? {}).filter(([name]) =>
						statement.includes(`$${name}`)
					);
					await tx.run(statement, { ids, ...Object.fromEntries(named) });
				}
			return rows.length;
		});
		sum += n;
		if (n < atOnce) return sum;
	}
}

/** Files that no sheet and no kept wording names any more, and contents that no row names. */
async function dropFiles(db: Db, dataFolder: string, limits: Limits): Promise<void> {
	const named = (column: string) =>
		`(instr(${column}, '"fileId":' || file.id || ',') > 0 OR instr(${column}, '"fileId":' || file.id || '}') > 0)`;
	const hashes = await db.write(async (tx) => {
		const rows = await tx.all<{ id: number; hash: string }>(
			`SELECT id, hash FROM file WHERE made_at < $limit AND NOT EXISTS (SELECT 1 FROM dispatch_file WHERE file_id = file.id)
				AND NOT EXISTS (SELECT 1 FROM dispatch WHERE subject != '${wordsGone}' AND (${named('wording')} OR ${named('letter')}))
				AND NOT EXISTS (SELECT 1 FROM standing WHERE ${named('sheet')})
				AND NOT EXISTS (SELECT 1 FROM kept_wording WHERE ${named('wording')})
			LIMIT ${atOnce}`,
			{ limit: limits.words }
		);
		if (rows.length > 0)
			await tx.run(`DELETE FROM file WHERE id IN ${these}`, {
				ids: JSON.stringify(rows.map((row) => row.id))
			});
		return rows.map((row) => row.hash);
	});
	await clearContents(db, dataFolder, hashes);
}

/** Takes contents away that nothing names any more. Others' stay, also those that are just coming in and are named by nothing yet. */
export async function clearContents(
	db: Query,
	dataFolder: string,
	hashes: readonly string[]
): Promise<void> {
	for (const hash of hashes) {
		const named = await db.one(
			'SELECT 1 FROM file WHERE hash = $hash UNION SELECT 1 FROM answer_file WHERE hash = $hash',
			{ hash }
		);
		if (!named) await rm(join(dataFolder, 'files', hash), { force: true });
	}
}

/** Lets go what is past its time. Resolves to how much went. */
export async function dropPast(db: Db, dataFolder: string): Promise<Past> {
	const limits = limitsAt(await readDistrict(db), await now(db));
	const gone = { letters: 0, evidence: 0, addresses: 0, answers: 0 };
	const fromAnswers = await db.all<{ hash: string }>(
		`SELECT hash FROM answer_file JOIN answer ON answer.id = answer_id WHERE at < $limit AND hash IS NOT NULL`,
		{ limit: limits.answers }
	);
	// What is written over lies in no page of the file any more (sqlite.org/pragma.html, secure_delete).
	await db.run('PRAGMA secure_delete = ON');
	for (const kind of going) {
		const n = await drop(db, kind, limitOf(limits, kind));
		if (kind.told) gone[kind.what] += n;
	}
	// Words that were taken out stay in the indexes until they are made one again.
	if (gone.letters + gone.answers > 0)
		for (const index of ['dispatch_words', 'answer_words'])
			await db.run(`INSERT INTO ${index} (${index}) VALUES ('rebuild')`);
	await db.run('PRAGMA secure_delete = OFF');
	await dropFiles(db, dataFolder, limits);
	await clearContents(
		db,
		dataFolder,
		fromAnswers.map((f) => f.hash)
	);
	if (Object.values(gone).some((n) => n > 0))
		await db.write((tx) => writeDown(tx, { act: 'past-keeping', by: null, after: gone }));
	return gone;
}

/** From which hour of the district's night on it is done. */
const nightHour = 2;
const doneKey = 'past-keeping';

/** Lets go what is past its time, once a night. Resolves to 1 where it was done now. */
export async function dropPastByNight(db: Db, dataFolder: string): Promise<number> {
	const { zone } = await readDistrict(db);
	const local = DateTime.fromMillis(await now(db), { zone });
	const date = local.toISODate()!;
	const last = await db.one<{ date: string }>(
		`SELECT value ->> '$.date' AS date FROM setting WHERE key = $key`,
		{ key: doneKey }
	);
	if (local.hour < nightHour || last?.date === date) return 0;
	await dropPast(db, dataFolder);
	await db.write((tx) => writeSetting(tx, doneKey, { date }));
	return 1;
}

import { DateTime } from 'luxon';
import { z } from 'zod';
import { wordingOf } from '../../../core/copy/words';
import { writeDown } from '../../access/log';
import { now } from '../../clock';
import { readDistrict, readSetting, writeSetting, type District } from '../../db/district';
import { dropContents } from '../../db/file-store';
import type { Db, Query } from '../../db/open';

/** What is kept for how long, and what goes when its time is over. Rows that are counted stay: only what they say goes. */

/** What stands where the words of a letter were. */
const wordsGone = 'Words no longer kept';
const wordsGoneBody = 'This letter is so old that its words are no longer kept.';
/** What stands where an answer was. */
const answerGone = 'No longer kept';

/** Until when things have to be newer, to be kept still (instants, ms). */
interface Limits {
	readonly letters: number;
	readonly evidence: number;
	readonly addresses: number;
	readonly answers: number;
}

const limitsAt = ({ keeping, zone }: District, time: number): Limits => {
	const before = (months: number) =>
		DateTime.fromMillis(time, { zone }).minus({ months }).startOf('day').toMillis();
	return {
		letters: before(keeping.words),
		evidence: before(keeping.evidence),
		addresses: before(keeping.addresses),
		answers: before(keeping.answers)
	};
};

/** The rows in hand. */
const these = '(SELECT value FROM json_each($ids))';
/** What is done to the rows in hand; with what else the statement names. */
type Done = string | readonly [sql: string, bind: Readonly<Record<string, string>>];

/** Sent, over, and with nothing on its way; `$limit` is the instant. */
const over = `dispatch.state = 'sent' AND subject != '${wordsGone}'
	AND max(coalesce(sent_at, 0), coalesce(ends_at, 0), coalesce(last_due, 0), coalesce(leaves_at, 0)) < $limit
	AND NOT EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND state IN ('held', 'planned'))`;
/** An answer of ours stays as long as its conversation waits for somebody. */
const ofSettled = `NOT EXISTS (SELECT 1 FROM delivery JOIN conversation_copy ON delivery_id = delivery.id
	JOIN conversation ON conversation.id = conversation_id WHERE delivery.dispatch_id = dispatch.id AND conversation.state != 'settled')`;
const emptied = {
	subject: wordsGone,
	body: wordsGoneBody,
	wording: JSON.stringify(wordingOf(wordsGone, wordsGoneBody))
};
/** Takes the words out of dispatches, and what they show or hand out. */
const emptyDispatches: readonly Done[] = [
	[
		`UPDATE dispatch SET subject = $subject, body = $body, wording = $wording, letter = '{}' WHERE id IN ${these}`,
		emptied
	],
	`DELETE FROM dispatch_file WHERE dispatch_id IN ${these}`,
	// What says nothing any more stands on no board.
	`DELETE FROM board_wording WHERE dispatch_id IN ${these}`,
	`DELETE FROM board_place WHERE dispatch_id IN ${these}`
];

/** One kind of thing that goes: what is asked for its rows, and what becomes of them. */
interface Going {
	readonly what: 'letters' | 'evidence' | 'addresses' | 'answers';
	/** Rows of which table, as a condition; `$limit` is the instant. */
	readonly table: string;
	readonly past: string;
	/** What is done to some of them; `$ids` is their ids, as JSON. */
	readonly done: readonly Done[];
	/** Whether it is told by its number; what only goes along with others is not. */
	readonly told: boolean;
}

const going: readonly Going[] = [
	{
		...{ what: 'letters', table: 'dispatch', told: true },
		...{ past: `dispatch.kind != 'answer' AND ${over}`, done: emptyDispatches }
	},
	{
		...{ what: 'answers', table: 'dispatch', told: false },
		...{ past: `dispatch.kind = 'answer' AND ${over} AND ${ofSettled}`, done: emptyDispatches }
	},
	{
		...{ what: 'letters', table: 'standing', told: false },
		past: `coalesce(ended_at, ends_at) < $limit AND subject != '${wordsGone}'`,
		done: [
			[
				`UPDATE standing SET subject = $subject, sheet = json_set(sheet, '$.wording', json($wording), '$.letter', json('{}'))
				WHERE id IN ${these}`,
				{ subject: emptied.subject, wording: emptied.wording }
			]
		]
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
		...{ what: 'evidence', table: 'board_link', told: false },
		...{ past: 'ended_at < $limit', done: [`DELETE FROM board_link WHERE id IN ${these}`] }
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
		...{ what: 'addresses', table: 'auto_note', told: false },
		past: `made_at < $limit AND state != 'waiting' AND address != ''`,
		done: [`UPDATE auto_note SET address = '', name = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'auto_note', told: false },
		past: `made_at < $limit AND state != 'waiting' AND words != ''`,
		done: [`UPDATE auto_note SET words = '' WHERE id IN ${these}`]
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
const limitOf = (limits: Limits, { what }: Going): number => limits[what];

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
				for (const done of kind.done) {
					const [sql, bind] = typeof done === 'string' ? [done, {}] : done;
					await tx.run(sql, { ids, ...bind });
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
				AND NOT EXISTS (SELECT 1 FROM setting_change WHERE chapter = 'letterhead'
					AND file.id IN (CAST(before ->> '$.logo' AS INTEGER), CAST(after ->> '$.logo' AS INTEGER)))
			LIMIT ${atOnce}`,
			{ limit: limits.letters }
		);
		if (rows.length > 0)
			await tx.run(`DELETE FROM file WHERE id IN ${these}`, {
				ids: JSON.stringify(rows.map((row) => row.id))
			});
		return rows.map((row) => row.hash);
	});
	await dropContents(db, dataFolder, hashes);
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
	try {
		for (const kind of going) {
			const n = await drop(db, kind, limitOf(limits, kind));
			if (kind.told) gone[kind.what] += n;
		}
		// Words that were taken out stay in the indexes until they are made one again.
		if (gone.letters + gone.answers > 0)
			for (const index of ['dispatch_words', 'answer_words'])
				await db.run(`INSERT INTO ${index} (${index}) VALUES ('rebuild')`);
	} finally {
		await db.run('PRAGMA secure_delete = OFF');
	}
	await dropFiles(db, dataFolder, limits);
	await dropContents(
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
const doneSchema = z.object({ date: z.string() });

/** Lets go what is past its time, once a night. Resolves to 1 where it was done now. */
export async function dropPastByNight(db: Db, dataFolder: string): Promise<number> {
	const { zone } = await readDistrict(db);
	const local = DateTime.fromMillis(await now(db), { zone });
	const date = local.toISODate()!;
	const last = doneSchema.safeParse(await readSetting(db, doneKey));
	if (local.hour < nightHour || last.data?.date === date) return 0;
	await dropPast(db, dataFolder);
	await db.write((tx) => writeSetting(tx, doneKey, { date }));
	return 1;
}

import { DateTime } from 'luxon';
import { z } from 'zod';
import { writeDown } from '../../access/log';
import { now } from '../../clock';
import { readDistrict, readSetting, writeSetting, type District } from '../../db/district';
import { dropContents } from '../../db/file-store';
import type { Db, Query } from '../../db/open';
import { going, these, wordsGone, type Going } from './going';

/** What is kept for how long, and what goes when its time is over. Rows that are counted stay: only what they say goes. */

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

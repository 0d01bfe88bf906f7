import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { dropContents, leavingFolder } from '../../db/file-store';
import { tables } from '../../db/models/all';
import { inDatabase } from '../../db/models/table';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { erasedName, erasing, indexes, namedIn, thrownAway } from './erasing';
import type { Erased, StillNamed } from './types';

/** What somebody is found by in texts: their whole name, and every address that was ever theirs. */
interface Marks {
	readonly name: string;
	/** In small letters. */
	readonly addresses: readonly string[];
}

async function marksOf(tx: Query, id: number): Promise<Marks> {
	const who = (await tx.one<{ name: string }>(
		`SELECT trim(given_name || ' ' || family_name) AS name FROM person WHERE id = $id`,
		{ id }
	))!;
	const rows = await tx.all<{ value: string }>(
		`SELECT lower(value) AS value FROM address WHERE person_id = $id
		UNION SELECT lower(address) FROM delivery WHERE person_id = $id AND address IS NOT NULL
		UNION SELECT lower(address) FROM joining WHERE person_id = $id
		UNION SELECT lower(before) FROM mended JOIN address ON address.id = address_id WHERE person_id = $id
		UNION SELECT lower(before) FROM person_change WHERE person_id = $id AND field IN ('email', 'sms') AND before IS NOT NULL
		UNION SELECT lower(after) FROM person_change WHERE person_id = $id AND field IN ('email', 'sms') AND after IS NOT NULL`,
		{ id }
	);
	// What others on file have as well is theirs too, and stays with them.
	const others = new Set(
		(
			await tx.all<{ value: string }>(
				'SELECT lower(value) AS value FROM address WHERE person_id != $id',
				{ id }
			)
		).map((r) => r.value)
	);
	// A change of consent stands there too, and is no address.
	const isAddress = (value: string) => value.includes('@') || /^\+\d{6,}$/.test(value);
	return {
		name: who.name,
		addresses: rows.map((r) => r.value).filter((a) => isAddress(a) && !others.has(a))
	};
}

/** The contents of what they sent, under their hashes. */
const contentsOf = (tx: Query, id: number): Promise<{ hash: string }[]> =>
	tx.all(
		`SELECT DISTINCT hash FROM answer_file JOIN answer ON answer.id = answer_id JOIN conversation ON conversation.id = conversation_id
		WHERE hash IS NOT NULL AND person_id = $id`,
		{ id }
	);

/** The tables of rosters that have come in: what they say of others stands in the database. */
async function clearRosters(db: Query, dataFolder: string): Promise<void> {
	const done = await db.all<{ id: number }>(
		`SELECT id FROM roster_file WHERE state NOT IN ('coming', 'columns', 'looking', 'looked', 'taking')`
	);
	for (const { id } of done)
		await rm(join(dataFolder, 'rosters', String(id)), { recursive: true, force: true });
}

/** Where a name or an address of theirs still stands: words of letters that others wrote, and rosters that wait. */
async function stillNamed(db: Query, marks: readonly Marks[]): Promise<StillNamed[]> {
	const wanted = marks
		.flatMap(({ name, addresses }) => [name, ...addresses])
		.filter((mark) => mark.length > 4);
	if (wanted.length === 0) return [];
	const found: StillNamed[] = [];
	for (const table of tables.flatMap(([, list]) => list)) {
		const texts = Object.entries(table.columns)
			.filter(([, column]) => String(column.options.type) === 'TEXT')
			.map(([column]) => inDatabase(column));
		if (texts.length === 0) continue;
		const said = texts
			.map((t) => `instr(lower(coalesce(${table.name}.${t}, '')), mark.value) > 0`)
			.join(' OR ');
		const { n } = (await db.one<{ n: number }>(
			`SELECT count(*) AS n FROM ${table.name} WHERE EXISTS (SELECT 1 FROM json_each($marks) AS mark WHERE ${said})`,
			{ marks: JSON.stringify(wanted.map((w) => w.toLowerCase())) }
		))!;
		if (n > 0) found.push({ table: table.name, about: table.about, rows: n });
	}
	return found;
}

/** Makes indexes one again and the file anew, so that nothing of what was deleted lies in it. */
async function tidy(db: Db): Promise<void> {
	for (const index of indexes) await db.run(`INSERT INTO ${index} (${index}) VALUES ('rebuild')`);
	await db.run('VACUUM');
	await db.run('PRAGMA wal_checkpoint(TRUNCATE)');
}

const notTheirs = {
	ok: false,
	why: 'There is no such person, or another office looks after them. Load the page again.'
} as const;

/**
 * Erases somebody who is no longer on the roster, where the law asks for it: from every table, file and index. What is
 * counted stays counted. `name` is typed once more, so that nobody is erased by a slip. Backups still hold them.
 */
export async function erasePerson(
	db: Db,
	dataFolder: string,
	user: User,
	id: number,
	typed: string
): Promise<Said<Erased>> {
	if (!isAllowed(user, 'speak-for-district'))
		return { ok: false, why: 'Only the district office erases people. Ask them.' };
	const seen = scope(user).people('person.id', 'look-after');
	const marks: Marks[] = [];
	const contents: string[] = [];
	const done = await db.write(async (tx): Promise<Said> => {
		const row = await tx.one<{ name: string; goneAt: number | null; wrote: number; waits: number }>(
			`SELECT trim(given_name || ' ' || family_name) AS name, gone_at AS goneAt,
				EXISTS (SELECT 1 FROM dispatch WHERE sender_id = person.id AND state != 'draft') AS wrote,
				(SELECT count(*) FROM delivery WHERE person_id = person.id AND state IN ('held', 'planned')) AS waits
			FROM person WHERE person.id = $id AND ${seen.sql}`,
			{ id, ...seen.bind }
		);
		if (!row || id === user.personId) return notTheirs;
		if (row.name === erasedName) return { ok: false, why: 'They have been erased already.' };
		if (row.goneAt === null)
			return {
				ok: false,
				why: 'They are on the roster, and the next file would bring them back. End them first; where a student system names them, there as well.'
			};
		if (row.waits > 0)
			return {
				ok: false,
				why: `${row.waits} ${row.waits === 1 ? 'copy waits' : 'copies wait'} to leave for them. Stop those first.`
			};
		if (row.wrote === 1)
			return {
				ok: false,
				why: 'They have written to families here, and a letter keeps the name of whoever wrote it. Their account can be closed.'
			};
		if (typed.trim() !== row.name)
			return {
				ok: false,
				why: `Write their name as it stands here, “${row.name}”, to erase them.`
			};
		// Whoever turned out to be the same person is on file under a number of their own.
		const same = await tx.all<{ id: number }>(
			'SELECT id FROM person WHERE id = $id OR same_as = $id ORDER BY id = $id',
			{ id }
		);
		for (const one of same) {
			marks.push(await marksOf(tx, one.id));
			contents.push(...(await contentsOf(tx, one.id)).map((c) => c.hash));
		}
		for (const [i, one] of same.entries()) await eraseRows(tx, one.id, marks[i]!);
		await rosterChanged(tx);
		await writeDown(tx, { act: 'erased', by: user, to: ['person', id] });
		return { ok: true };
	});
	if (!done.ok) return done;
	await dropContents(db, dataFolder, contents);
	// What was packed up to be taken along has them in it.
	await db.run(
		`UPDATE leaving SET state = 'gone', token_hash = NULL WHERE state IN ('ready', 'taken')`
	);
	await rm(leavingFolder(dataFolder), { recursive: true, force: true });
	await clearRosters(db, dataFolder);
	await tidy(db);
	return { ok: true, left: await stillNamed(db, marks) };
}

async function eraseRows(tx: Query, id: number, marks: Marks): Promise<void> {
	const bind = {
		id,
		at: Math.round(await now(tx)),
		addresses: JSON.stringify(marks.addresses)
	};
	const drafts = await tx.all<{ id: number }>(
		`SELECT id FROM dispatch WHERE sender_id = $id AND state = 'draft'`,
		{ id }
	);
	for (const draft of drafts) await tx.run('DELETE FROM dispatch WHERE id = $id', { id: draft.id });
	for (const statement of erasing)
		await tx.run(
			statement,
			Object.fromEntries(
				Object.entries(bind).filter(([name]) => statement.includes(`$${name}`))
			) as Record<string, string | number>
		);
	const texts = [marks.name, ...marks.addresses].filter((mark) => mark.length > 4);
	for (const text of texts) {
		for (const [table, column] of namedIn)
			await tx.run(
				`UPDATE ${table} SET ${column} = replace(${column}, $text, 'somebody who was erased') WHERE instr(${column}, $text) > 0`,
				{ text }
			);
		for (const [table, column] of thrownAway)
			await tx.run(`DELETE FROM ${table} WHERE instr(lower(coalesce(${column}, '')), $text) > 0`, {
				text: text.toLowerCase()
			});
		// A file of which a part of what would undo it is gone cannot be taken back.
		await tx.run(
			`DELETE FROM roster_undo WHERE file_id IN (SELECT file_id FROM roster_undo WHERE instr(lower(rows), $text) > 0)`,
			{ text: text.toLowerCase() }
		);
	}
}

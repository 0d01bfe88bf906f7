import { rowSet } from '../../db/many';
import { keptAudience, keptPerson } from '../../db/models/dispatch';
import { z } from 'zod';
import { audienceSchema, type Audience } from '../../../core/audience/audience';
import { listsOf } from '../../../core/audience/named';
import type { ListEntry } from '../../../core/audience/facts';
import { dutyReason } from '../../../core/audience/reasons';
import { resolveAudience } from '../../../core/audience/resolve';
import { audienceWords } from '../../../core/audience/sentence';
import { fullName, type Roster } from '../../../core/roster/roster';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { nameBook } from '../../db/names';
import type { Db, Query } from '../../db/open';
import { readRoster } from '../../db/roster';
import { permitted } from './permitted';
import type { KeptLine, KeptChange, KeptForm, KeptName } from './types';
import { missingPicks } from './missing-picks';
import type { KeptPersonRow } from '../../db/models/dispatch';

export const keptNameSchema = z
	.string()
	.trim()
	.min(1, 'Give it a name.')
	.max(80, 'The name is over 80 characters. Shorten it.');

interface KeptRow {
	id: number;
	name: string;
	form: KeptForm;
	audience: string;
	words: string;
	madeBy: string;
	madeAt: number;
	usedAt: number;
}

/** As many names as a change shows at most of each side. */
const mostNames = 200;

/** The audience that a kept one stands for in a sheet: a rule's own lines, or one line that is the list. */
const audienceOfKept = (id: number, form: KeptForm, audience: Audience): Audience =>
	form === 'rule'
		? audience
		: {
				version: 2,
				lines: [{ verb: 'and', people: { kind: 'list', keptId: id }, only: [] }],
				byHand: []
			};

/** Every person for every student that an audience means now. */
async function entriesOf(
	db: Db,
	user: User,
	audience: Audience
): Promise<{ roster: Roster; entries: ListEntry[]; students: number }> {
	const roster = await readRoster(db);
	const { shown, facts } = await permitted(db, user, audience);
	const { meant, students } = resolveAudience(roster, shown, facts);
	const entries = meant.flatMap(({ personId, because }) =>
		because.map(({ studentId }): ListEntry => {
			const tie =
				studentId === null
					? undefined
					: roster.contactsOf(studentId).find((c) => c.personId === personId);
			return { personId, studentId, explicit: tie !== undefined && dutyReason(tie) !== null };
		})
	);
	return { roster, entries, students: students.length };
}

const entrySet = rowSet('$rows', ['personId', 'studentId', 'explicit']);

async function putEntries(tx: Query, keptId: number, entries: readonly ListEntry[]): Promise<void> {
	const rows = entries.map((e) => ({ ...e, explicit: e.explicit ? 1 : 0 }));
	await tx.rows(keptPerson).remove({ keptId });
	// Not everyone whom an audience names need be there.
	await tx.run(
		`INSERT INTO kept_person (kept_id, person_id, student_id, explicit)
		SELECT $keptId, personId, studentId, explicit
		FROM ${entrySet.table} WHERE personId IN (SELECT id FROM person)`,
		{ keptId, rows: entrySet.json(rows) }
	);
}

/** Keeps an audience under a name, as a rule that is worked out again each time, or as the fixed list of people it comes to now. Names are the maker's own; one that is taken is refused. */
export async function keepAudience(
	db: Db,
	user: User,
	name: string,
	form: KeptForm,
	audience: Audience
): Promise<{ ok: true; id: number } | { ok: false; why: string }> {
	const { spoken } = await permitted(db, user, audience);
	const { entries } = await entriesOf(db, user, audience);
	if (entries.length === 0) {
		return {
			ok: false,
			why: 'It comes to nobody, so there is nothing to keep. Pick someone first.'
		};
	}
	const words = audienceWords(spoken, await nameBook(db, spoken));
	return db.write(async (tx) => {
		const taken = await tx.one(
			`SELECT 1 FROM kept_audience
			WHERE made_by = $user AND gone_at IS NULL AND name = $name COLLATE NOCASE`,
			{ user: user.personId, name }
		);
		if (taken) {
			return { ok: false, why: `You keep an audience "${name}" already. Choose another name.` };
		}
		const madeAt = await now(tx);
		const id = await tx.rows(keptAudience).add({
			name,
			form,
			audience: JSON.stringify(spoken),
			words,
			madeBy: user.personId,
			madeAt,
			usedAt: madeAt
		});
		await putEntries(tx, id, entries);
		return { ok: true, id };
	});
}

async function keptRows(db: Query, user: User, id?: number): Promise<KeptRow[]> {
	const own = scope(user).kept;
	return db.all<KeptRow>(
		`SELECT kept_audience.id, kept_audience.name, form, audience, words,
			given_name || ' ' || family_name AS madeBy, made_at AS madeAt, used_at AS usedAt
		FROM kept_audience JOIN person ON person.id = made_by
		WHERE kept_audience.gone_at IS NULL AND ${own.sql} ${id === undefined ? '' : 'AND kept_audience.id = $id'}
		ORDER BY kept_audience.name COLLATE NOCASE`,
		{ ...own.bind, ...(id === undefined ? {} : { id }) }
	);
}

/** People on file for a kept audience: a list's own, or what a rule came to when it was last used. */
const peopleOnFile = async (db: Query, id: number): Promise<Set<number>> =>
	new Set(
		(
			await db.all<{ id: KeptPersonRow['personId'] }>(
				'SELECT DISTINCT person_id AS id FROM kept_person WHERE kept_id = $id',
				{ id }
			)
		).map((r) => r.id)
	);

async function standing(db: Db, user: User, row: KeptRow) {
	const audience = audienceSchema.safeParse(JSON.parse(row.audience));
	// An expression broken by hand is shown as one that names nothing any more; it can be given up.
	if (!audience.success) return null;
	const today = await entriesOf(db, user, audienceOfKept(row.id, row.form, audience.data));
	const before = await peopleOnFile(db, row.id);
	const inNow = new Set(today.entries.map((e) => e.personId));
	return {
		audience: audience.data,
		today,
		inNow,
		cameIn: [...inNow].filter((id) => !before.has(id)),
		droppedOut: [...before].filter((id) => !inNow.has(id))
	};
}

/** The kept audiences a user may use, by name, with what each comes to today. */
export async function keptLines(db: Db, user: User): Promise<KeptLine[]> {
	const lines: KeptLine[] = [];
	for (const row of await keptRows(db, user)) {
		const { id, name, form, madeBy, madeAt, usedAt } = row;
		const now = await standing(db, user, row);
		const line = { id, name, form, madeBy, madeAt, usedAt };
		if (!now) {
			lines.push({
				...line,
				words: row.words,
				people: 0,
				students: 0,
				cameIn: 0,
				droppedOut: 0,
				missing: 1
			});
			continue;
		}
		const { spoken, gone } = await permitted(db, user, now.audience);
		const words = audienceWords(spoken, await nameBook(db, spoken));
		lines.push({
			...line,
			words: form === 'rule' ? words : row.words,
			people: now.inNow.size,
			students: now.today.students,
			cameIn: now.cameIn.length,
			droppedOut: now.droppedOut.length,
			missing:
				form === 'list' ? 0 : (await missingPicks(db, spoken, now.today.roster)) + gone.length
		});
	}
	return lines;
}

/** The names behind what has changed, or null if there is no such kept audience for this user. */
export async function keptChange(db: Db, user: User, id: number): Promise<KeptChange | null> {
	const [row] = await keptRows(db, user, id);
	const now = row && (await standing(db, user, row));
	if (!now) return null;
	const names = (ids: readonly number[]) =>
		ids.slice(0, mostNames).map((i) => {
			const person = now.today.roster.person(i);
			return person ? fullName(person) : 'Someone no longer on the roster';
		});
	return { cameIn: names(now.cameIn), droppedOut: names(now.droppedOut) };
}

/** The audience to put into a sheet, or null. */
export async function useKept(db: Db, user: User, id: number): Promise<Audience | null> {
	const [row] = await keptRows(db, user, id);
	if (!row) return null;
	const audience = audienceSchema.safeParse(JSON.parse(row.audience));
	return audience.success ? audienceOfKept(id, row.form, audience.data) : null;
}

/** Gives a kept audience up. Dispatches that used it keep what they were. */
export async function giveUpKept(db: Db, user: User, id: number): Promise<boolean> {
	const [row] = await keptRows(db, user, id);
	if (!row) return false;
	await db.write(async (tx) => tx.rows(keptAudience).change({ id }, { goneAt: await now(tx) }));
	return true;
}

export async function renameKept(
	db: Db,
	user: User,
	id: number,
	name: string
): Promise<{ ok: true } | { ok: false; why: string }> {
	const [row] = await keptRows(db, user, id);
	if (!row) return { ok: false, why: 'There is no such kept audience of yours.' };
	return db.write(async (tx) => {
		const taken = await tx.one(
			`SELECT 1 FROM kept_audience WHERE gone_at IS NULL AND id != $id AND name = $name COLLATE NOCASE
				AND made_by = (SELECT made_by FROM kept_audience WHERE id = $id)`,
			{ id, name }
		);
		if (taken) return { ok: false, why: `There is a kept audience "${name}" already.` };
		await tx.rows(keptAudience).change({ id }, { name });
		return { ok: true };
	});
}

/** Which of a user's kept audiences a sheet's audience is made of, and what a rule comes to now. */
export interface Used {
	readonly lists: readonly number[];
	readonly rules: readonly number[];
	readonly entries: readonly ListEntry[];
}

/** Finds the kept audiences a sheet uses: a rule with the same lines, a list that is one of them. */
export async function keptIn(db: Db, user: User, audience: Audience): Promise<Used> {
	const lines = JSON.stringify(audience.lines);
	const lists = new Set(listsOf(audience));
	const rows = await keptRows(db, user);
	const rules = rows.filter((row) => {
		if (row.form !== 'rule') return false;
		const kept = audienceSchema.safeParse(JSON.parse(row.audience));
		return kept.success && JSON.stringify(kept.data.lines) === lines;
	});
	return {
		lists: rows.filter((row) => row.form === 'list' && lists.has(row.id)).map((r) => r.id),
		rules: rules.map((r) => r.id),
		entries: rules.length > 0 ? (await entriesOf(db, user, audience)).entries : []
	};
}

/** Notes that a dispatch has used kept audiences, so that what changes afterwards can be told. */
export async function markUsed(tx: Query, used: Used, at: number): Promise<void> {
	await tx.run(
		'UPDATE kept_audience SET used_at = $at WHERE id IN (SELECT value FROM json_each($ids))',
		{ at, ids: JSON.stringify([...used.lists, ...used.rules]) }
	);
	for (const id of used.rules) await putEntries(tx, id, used.entries);
}

/** The names alone of the kept audiences a user may use. */
export const keptNames = async (db: Query, user: User): Promise<KeptName[]> =>
	(await keptRows(db, user)).map(({ id, name, form }) => ({ id, name, form }));

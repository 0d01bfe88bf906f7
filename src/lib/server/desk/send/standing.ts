import { writeDown } from '../../access/log';
import { audienceSchema } from '../../../core/audience/audience';
import { haveGained } from '../../../core/audience/gained';
import { audienceWords } from '../../../core/audience/sentence';
import { listWords } from '../../../core/copy/list-words';
import { block, isBlocked } from '../../../core/plan/check';
import { tallyOf } from '../../../core/plan/tally';
import { placeLocal } from '../../../core/time/local';
import { comingMoments, feedOf } from '../../../core/time/timing';
import { isAllowed } from '../../access/may';
import { isStill, userById, type User } from '../../access/user';
import { now } from '../../clock';
import { standing } from '../../db/models/dispatch';
import { feed, feedEntry } from '../../db/models/feed';
import { nameBook } from '../../db/names';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { checkSheet } from '../plan/check-sheet';
import { eventOfSheet } from '../plan/event-of-sheet';
import { boardsOfSheet } from '../plan/boards-of-sheet';
import { planSheet, type Planned } from '../plan/plan-sheet';
import { triedOf, type TriedFeed } from '../sheet/feed-tried';
import { sheetSchema, type Sheet } from '../sheet/sheet';
import type { StandingPut } from './types';

/** How many students a sheet may still come to, and with how many copies. */
const expectedOf = (planned: Awaited<ReturnType<typeof planSheet>>): string =>
	JSON.stringify({
		students: planned.manifest.students.length,
		copies: planned.manifest.copies.length
	});

/** What a sheet waits for, and until when. */
type WaitsFor =
	| { readonly kind: 'marker'; readonly markerId: number; readonly endsAt: number }
	| {
			readonly kind: 'feed';
			readonly address: string;
			readonly tried: TriedFeed;
			/** Whether what stands there already is sent with the first date. */
			readonly old: boolean;
			readonly firstAt: number;
			readonly endsAt: number;
	  };

/** What a sheet waits for; null where it waits for nothing, or that is not settled yet. */
async function waitsFor(
	db: Query,
	{ timing }: Sheet,
	{ zone, moments, now: time }: Planned
): Promise<WaitsFor | null> {
	const { when } = timing;
	if (when.kind === 'gain' && when.markerId !== null)
		return { kind: 'marker', markerId: when.markerId, endsAt: placeLocal(when.until, zone).at };
	const taken = feedOf(timing);
	const coming = comingMoments(moments, time);
	const tried = taken === null ? null : await triedOf(db, taken.address);
	if (taken === null || tried === null || coming.length === 0) return null;
	const { address, old } = taken;
	return { kind: 'feed', address, tried, old, firstAt: coming[0]!.at, endsAt: coming.at(-1)!.at };
}

/** Writes down from which feed a sheet takes its words; what stood there when it was tried is known already, unless it is to go with the first date. */
async function putFeed(
	tx: Query,
	standingId: number,
	of: Extract<WaitsFor, { kind: 'feed' }>,
	at: number
): Promise<void> {
	await tx.rows(feed).add({
		...{ standingId, address: of.address, title: of.tried.title, doneUntil: at },
		nextAt: of.firstAt
	});
	if (!of.old)
		await tx.rows(feedEntry).addMany(
			of.tried.keys.map((key) => ({ standingId, key, at, dispatchId: null })),
			'keep'
		);
}

/**
 * Lets a sheet wait: for a marker, leaving for each student who gains it; or for what is new in a feed, on its
 * dates; until it ends. The same sheet put down twice (a second tap) waits once.
 */
export async function putStanding(
	db: Db,
	user: User,
	sheet: Sheet,
	copiesSeen: number
): Promise<StandingPut> {
	const planned = await planSheet(db, user, sheet);
	const tally = tallyOf(planned.manifest);
	const boards =
		feedOf(sheet.timing) === null ? null : await boardsOfSheet(db, user, sheet, planned);
	const event = await eventOfSheet(db, user, sheet, planned);
	const checks = await checkSheet(db, user, sheet, planned, { tally, boards, event });
	if (!isBlocked(checks) && tally.copies !== copiesSeen)
		checks.unshift(
			block(
				'result',
				`The roster or the marker has changed while you wrote: up to ${tally.copies} copies now, not ${copiesSeen}. Look again, then send.`
			)
		);
	const waits = isBlocked(checks) ? null : await waitsFor(db, sheet, planned);
	if (waits === null) return { ok: false, checks, tally };
	if (
		waits.kind === 'marker' &&
		!audienceSchema.safeParse(haveGained(sheet.audience, waits.markerId, [1])).success
	) {
		const deep = 'It is nested too deep to wait for a marker. Take a bracket out of its audience.';
		return { ok: false, checks: [block('who', deep), ...checks], tally };
	}
	const words = audienceWords(planned.spoken, await nameBook(db, planned.spoken));
	return db.write(async (tx): Promise<StandingPut> => {
		const refused = (text: string): StandingPut => ({
			ok: false,
			checks: [block('result', text), ...checks],
			tally
		});
		const { sheetKey } = sheet;
		const same = await tx.rows(standing).one({ sheetKey });
		const draft = await tx.one<{ id: number; senderId: number; state: string }>(
			'SELECT id, sender_id AS senderId, state FROM dispatch WHERE sheet_key = $sheetKey',
			{ sheetKey }
		);
		if ((same?.madeBy ?? draft?.senderId ?? user.personId) !== user.personId)
			return refused('This sheet belongs to someone else. Open Write again and start a new one.');
		if (same) return { ok: true, standingId: same.id };
		if (draft && draft.state !== 'draft')
			return refused('This sheet has been sent already. Open Write again and start a new one.');
		if (!(await isStill(tx, user)))
			return refused('What you may do has changed meanwhile. Load the page again.');
		const at = Math.round(await now(tx));
		const id = await tx.rows(standing).add({
			sheetKey,
			sheet: JSON.stringify(sheet),
			subject: listWords(sheet.wording.words.subject.trim()),
			audienceWords: words,
			markerId: waits.kind === 'marker' ? waits.markerId : null,
			holdMinutes: waits.kind === 'marker' ? sheet.holdMinutes : 0,
			endsAt: waits.endsAt,
			madeBy: user.personId,
			madeAt: at,
			expected: expectedOf(planned)
		});
		if (waits.kind === 'feed') await putFeed(tx, id, waits, at);
		if (draft) await tx.run('DELETE FROM dispatch WHERE id = $id', { id: draft.id });
		await writeDown(tx, {
			...{ act: 'standing-put', by: user, to: ['standing', id] },
			after:
				waits.kind === 'marker'
					? { marker: waits.markerId, copies: tally.copies }
					: { feed: 1, copies: tally.copies }
		});
		return { ok: true, standingId: id };
	});
}

/** Ends a sheet that waits for a marker or a feed; who has gained it and is still held gets nothing. What has left stays. */
export async function endStanding(db: Db, user: User, id: number): Promise<Said> {
	return db.write(async (tx): Promise<Said> => {
		const row = await tx.rows(standing).one({ id });
		if (!row || !isAllowed(user, 'handle', row.madeBy))
			return { ok: false, why: 'There is no such sheet of yours. Load the page again.' };
		if (row.endedAt !== null) return { ok: true };
		const at = Math.round(await now(tx));
		await endOne(tx, id, at, user);
		return { ok: true };
	});
}

/** Ends every sheet of somebody that waits for a marker or a feed; their subjects. */
export async function endStandingsOf(db: Db, personId: number): Promise<string[]> {
	return db.write(async (tx) => {
		const at = Math.round(await now(tx));
		const rows = await tx.all<{ id: number; subject: string }>(
			`SELECT id, subject FROM standing WHERE made_by = $personId AND ended_at IS NULL
				AND (ends_at > $at OR id IN (SELECT standing_id FROM feed WHERE next_at IS NOT NULL))`,
			{ personId, at }
		);
		for (const { id } of rows) await endOne(tx, id, at, null);
		return rows.map((r) => r.subject);
	});
}

/** Ends a sheet that waits, in the caller's transaction. */
async function endOne(
	tx: Query,
	id: number,
	at: number,
	by: Pick<User, 'personId'> | null
): Promise<void> {
	await tx
		.rows(standing)
		.change({ id }, { endedAt: at, endedBy: by?.personId ?? null, waits: null });
	await tx.run(
		`UPDATE gained SET done_at = $at, why = 'it was ended before' WHERE standing_id = $id AND done_at IS NULL`,
		{ id, at }
	);
	await tx.rows(feed).change({ standingId: id }, { nextAt: null });
	await writeDown(tx, { act: 'standing-ended', by, to: ['standing', id] });
}

/** Tries a sheet that is held up once more: whatever stood in its way is asked again when it is worked out. */
export async function tryAgain(db: Db, user: User, id: number): Promise<Said> {
	return db.write(async (tx): Promise<Said> => {
		const row = await tx.rows(standing).one({ id });
		if (!row || !isAllowed(user, 'handle', row.madeBy))
			return { ok: false, why: 'There is no such sheet of yours. Load the page again.' };
		await tx.rows(standing).change({ id }, { waits: null });
		return { ok: true };
	});
}

/** Counts anew whom the sheets that wait may still come to. */
export async function countStanding(db: Db): Promise<void> {
	const rows = await db.all<{ id: number; sheet: string; madeBy: number }>(
		`SELECT id, sheet, made_by AS madeBy FROM standing WHERE ended_at IS NULL AND ends_at > $now`,
		{ now: await now(db) }
	);
	for (const { id, sheet, madeBy } of rows) {
		const user = await userById(db, madeBy);
		if (!user) continue;
		const planned = await planSheet(db, user, sheetSchema.parse(JSON.parse(sheet)));
		await db.rows(standing).change({ id }, { expected: expectedOf(planned) });
	}
}

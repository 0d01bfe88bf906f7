import { isLimited, placesOf, type ComingHow, type Said } from '../../../core/talk/invitation';
import { canChange, comeIn } from '../../../core/talk/seating';
import { now } from '../../clock';
import type { Party } from '../../db/coming';
import { coming, comingSaid, type ComingRow } from '../../db/models/coming';
import type { Query } from '../../db/open';
import type { Asked } from '../sheet/asked';
import { isFull, placesTaken } from './places';
import { tellMovedUp } from './tell';
import type { Answered, Standing } from './types';

/** Who says something to an invitation, and by which way; nobody by number where somebody from outside does. */
export interface SaidBy {
	readonly personId: number | null;
	readonly how: ComingHow;
}

/** What a party has said so far; undefined where nothing. */
export const saidBefore = (
	db: Query,
	{ id }: Pick<Asked, 'id'>,
	party: Party
): Promise<ComingRow | undefined> =>
	db.rows(coming).one({
		dispatchId: id,
		...{
			household: { householdId: party.id },
			person: { personId: party.id },
			guest: { guestId: party.id }
		}[party.kind]
	});

/** Writes down what somebody has said, or that they moved up. */
async function writeSaid(
	tx: Query,
	row: ComingRow,
	said: { readonly at: number; readonly how: ComingHow | 'moved-up'; readonly byId: number | null }
): Promise<void> {
	const { id, comes, people, students, slot, seated } = row;
	await tx.rows(comingSaid).add({ comingId: id, comes, people, students, slot, seated, ...said });
}

const rowOf = async (tx: Query, id: number): Promise<ComingRow> =>
	(await tx.rows(coming).one({ id }))!;

/**
 * Gives places that are free to whoever stands in line for them, in order, and tells them; `but` is whose answer it
 * comes from, and who sees it anyway. In the caller's transaction: two at the last place come one after the other.
 */
export async function letComeIn(
	tx: Query,
	asked: Asked,
	at: number,
	but: number | null = null
): Promise<number> {
	if (!isLimited(asked.asking)) {
		// What has no limit any more has no line.
		const rows = await tx.all<Pick<ComingRow, 'id'>>(
			'SELECT id FROM coming WHERE dispatch_id = $id AND comes AND NOT seated',
			{ id: asked.id }
		);
		return seat(
			tx,
			asked,
			rows.map((r) => r.id),
			{ at, but }
		);
	}
	const ids = (await isFull(tx, asked))
		? []
		: comeIn(await placesTaken(tx, asked), placesOf(asked.asking));
	return seat(tx, asked, ids, { at, but });
}

async function seat(
	tx: Query,
	asked: Asked,
	ids: readonly number[],
	{ at, but }: { readonly at: number; readonly but: number | null }
): Promise<number> {
	for (const id of ids) {
		await tx.rows(coming).change({ id }, { seated: 1 });
		if (id === but) continue;
		const row = await rowOf(tx, id);
		await writeSaid(tx, row, { at, how: 'moved-up', byId: null });
		await tellMovedUp(tx, asked, row, at);
	}
	return ids.length;
}

/** How many stand before an answer in the line of its time, counted where the rows are. */
const standingBefore = async (
	tx: Query,
	{ id }: Asked,
	row: Pick<ComingRow, 'id' | 'slot' | 'turn'>
): Promise<number> =>
	(await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM coming WHERE dispatch_id = $dispatch AND comes = 1 AND seated = 0 AND slot = $slot
			AND (turn < $turn OR (turn = $turn AND id < $id))`,
		{ dispatch: id, id: row.id, slot: row.slot, turn: row.turn }
	))!.n;

/** How an answer stands among the others. */
export async function standingOf(tx: Query, asked: Asked, row: ComingRow): Promise<Standing> {
	const { comes, people, students, slot, seated } = row;
	const waits = comes === 1 && seated === 0;
	return {
		...{ people, students, slot },
		...{ comes: comes === 1, seated: seated === 1 },
		before: waits ? await standingBefore(tx, asked, row) : 0
	};
}

/**
 * Takes what a party says to an invitation that can still be answered. Whoever has places and asks for others that are
 * not there keeps what they have; whoever stands in line keeps their turn while they stay with their time. `late` lets
 * staff put an answer down after its time. In the caller's transaction.
 */
export async function answer(
	tx: Query,
	asked: Asked,
	party: Party,
	said: Said,
	by: SaidBy & { readonly late?: boolean }
): Promise<Answered> {
	if (!asked.open && by.late !== true) return { ok: false, why: 'closed' };
	const at = Math.round(await now(tx));
	const { id: dispatchId, asking } = asked;
	const before = await saidBefore(tx, asked, party);
	if (before && by.late !== true && (await saidOften(tx, before.id, at)))
		return { ok: false, why: 'too-often' };
	const sits = before?.comes === 1 && before.seated === 1;
	const limited = isLimited(asking);
	if (said.comes && sits && limited) {
		const change = { id: before.id, slot: said.slot, people: said.people };
		if (!canChange(await placesTaken(tx, asked, before.id), placesOf(asking), change))
			return { ok: false, why: 'no-room' };
	}
	const staysInLine = before?.comes === 1 && before.slot === said.slot;
	const turn = sits || staysInLine ? before.turn : await nextTurn(tx, dispatchId);
	const values = {
		comes: said.comes ? 1 : 0,
		people: said.comes ? said.people : 0,
		students: said.comes ? said.students : null,
		slot: said.slot,
		turn,
		seated: said.comes && (sits || !limited) ? 1 : 0,
		...{ at, byId: by.personId, how: by.how }
	} as const;
	let id = before?.id;
	if (id === undefined)
		id = await tx.rows(coming).add({
			...{ dispatchId, householdId: null, personId: null, guestId: null, ...values },
			...{ [keyOf(party)]: party.id }
		});
	else await tx.rows(coming).change({ id }, values);
	// Fewer come, or none: what they leave is for those in line; whoever is new comes in by the same door.
	if (limited) await letComeIn(tx, asked, at, id);
	const row = await rowOf(tx, id);
	await writeSaid(tx, row, { at, how: by.how, byId: by.personId });
	return { ok: true, standing: await standingOf(tx, asked, row) };
}

/** More than anybody changes their mind within an hour. */
const mostInAnHour = 15;

const saidOften = async (tx: Query, id: number, at: number): Promise<boolean> =>
	(await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM coming_said WHERE coming_id = $id AND how != 'moved-up' AND at > $since`,
		{ id, since: at - 3_600_000 }
	))!.n >= mostInAnHour;

const keyOf = ({ kind }: Party) =>
	({ household: 'householdId', person: 'personId', guest: 'guestId' })[kind];

const nextTurn = async (tx: Query, id: number): Promise<number> =>
	(await tx.one<{ turn: number }>(
		'SELECT coalesce(max(turn), 0) + 1 AS turn FROM coming WHERE dispatch_id = $id',
		{ id }
	))!.turn;

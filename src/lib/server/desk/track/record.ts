import {
	standingOf,
	strengthOf,
	type DeliveryState,
	type Evidence,
	type EventKind,
	type Source,
	type Strength,
	type Weighed
} from '../../../core/track/evidence';
import { always, both, type Deed } from '../../db/at-once';
import type { Db, Query } from '../../db/open';
import { waits } from '../../db/copy-state';
import { groupBy } from '../../../core/group-by';
import type { MachineSign } from '../../../core/track/visitor';
import { rowSet } from '../../db/many';

/** Something that happened to one delivery. */
export interface Happening {
	readonly deliveryId: number;
	readonly at: number;
	readonly kind: EventKind;
	readonly source: Source;
	/** Plain words of ours, said the same of all that this happens to. */
	readonly detail: string;
	/** What the other side said, as it came: shown behind the words. */
	readonly said?: string;
	/** After how many tries it was given up. */
	readonly tries?: number;
	/** What speaks for a machine rather than a reader. */
	readonly sign?: MachineSign;
	/** Where the event itself shows less than its kind could. */
	readonly strength?: Strength;
	/** Hash of where a request came from. */
	readonly visitor?: string;
	/** What code decides by: a {@link HappeningCode}, a status of RFC 3463 or a state of SMPP. Never shown by itself. */
	readonly code?: string;
	/** What was asked for: the address behind a link of the words, or a file's name. */
	readonly about?: string;
}

type Row = {
	id: number;
	dispatchId: number;
	state: DeliveryState;
	strength: Strength;
	leftAt: number | null;
	readAt: number | null;
	/** The number of the newest of its events; 0 where it has none. */
	newest: number;
	events: string;
};

/** A copy with its events taken apart. */
type Copy = Omit<Row, 'events'> & { readonly events: readonly Known[] };

/** What of a copy's row is written anew. */
interface CopyChange {
	readonly id: number;
	readonly state: DeliveryState;
	/** Since when it stands so; null keeps what is there. */
	readonly at: number | null;
	readonly strength: Strength;
	readonly left_at: number | null;
	readonly read_at: number | null;
	readonly attempts: number | null;
	readonly ref: string | null;
	readonly due: number | null;
	readonly fence: number | null;
	readonly unanswered: number | null;
	readonly parts: number | null;
}
const changeKeys: readonly (keyof CopyChange)[] = [
	'id',
	'state',
	'at',
	'strength',
	'left_at',
	'read_at',
	'attempts',
	'ref',
	'due',
	'fence',
	'unanswered',
	'parts'
];
const eventKeys = [
	'delivery_id',
	'at',
	'kind',
	'source',
	'detail',
	'said',
	'tries',
	'strength',
	'visitor',
	'sign',
	'about',
	'code'
] as const;

const eventSet = rowSet('$events', eventKeys);
const changeSet = rowSet('$rows', changeKeys);

/** What the courier settles of a copy it had claimed, beside evidence. */
export interface Freed {
	/** Of the courier that settles it: a claim that another has taken over since stays as it is. */
	readonly fence: number;
	readonly attempts: number;
	readonly unanswered: number;
	/** By which its provider names it; null keeps what is there. */
	readonly providerRef: string | null;
	/** When it is tried again; null keeps what is there. */
	readonly dueAt: number | null;
	/** Of how many parts a text was as it was taken; null keeps what is there. */
	readonly parts: number | null;
}

export interface RecordOptions {
	/** Leaves out what has been kept before with the same kind and words: providers repeat themselves. */
	readonly once?: boolean;
	/** Claims that are given up with it, by delivery. */
	readonly freed?: ReadonlyMap<number, Freed>;
}

const noneFreed: ReadonlyMap<number, Freed> = new Map();

/**
 * Writes evidence down and makes each delivery's state anew from all of its events, in the caller's
 * transaction; a dispatch none of whose copies is still to leave is sent by it. Events are only ever
 * added. A delivery that does not exist (any more) is passed over. In few statements, since each is
 * a turn of a loop that other copies wait for.
 */
export async function record(
	tx: Query,
	happenings: readonly Happening[],
	{ once = false, freed = noneFreed }: RecordOptions = {}
): Promise<void> {
	if (happenings.length === 0 && freed.size === 0) return;
	const ids = [...happenings.map((h) => h.deliveryId), ...freed.keys()];
	const rows = await readCopies(tx, ids, once);
	for (const { sql, bind } of deedsOf(rows, happenings, { once, freed })) await tx.run(sql, bind);
}

/**
 * As {@link record}, in a transaction of its own that waits for nothing while others wait for it: what is known of the copies is
 * read before. False where something else became of one of them meanwhile, or `alone` (an SQL condition) does not hold;
 * nothing is written then.
 */
export async function recordAtOnce(
	db: Db,
	happenings: readonly Happening[],
	{ once = false, freed = noneFreed }: RecordOptions = {},
	alone: Deed = always
): Promise<boolean> {
	const rows = await readCopies(
		db,
		[...happenings.map((h) => h.deliveryId), ...freed.keys()],
		once
	);
	const deeds = deedsOf(rows, happenings, { once, freed });
	return deeds.length === 0 || db.writeAtOnce(both(alone, asTheyWere(rows)), deeds);
}

const seenSet = rowSet('$seen', ['id', 'state', 'newest']);

/** That some copies stand as they were read: whatever becomes of one is an event of it. */
const asTheyWere = (rows: ReadonlyMap<number, Copy>): Deed => ({
	sql: `NOT EXISTS (SELECT 1 FROM ${seenSet.table} AS seen LEFT JOIN delivery ON delivery.id = seen.id
		WHERE delivery.state IS NOT seen.state OR ${newestEvent} != seen.newest)`,
	bind: { seen: seenSet.json([...rows.values()]) }
});

/** What is written of happenings to copies that are known. */
function deedsOf(
	rows: ReadonlyMap<number, Copy>,
	happenings: readonly Happening[],
	{ once, freed }: Required<RecordOptions>
): Deed[] {
	const { kept, changed } = weighed(rows, happenings, once);
	return [...addEvents(kept), ...changeCopies(rows, changed, freed), ...moveDispatches(rows, kept)];
}

/** An event as it is kept: what weighs, and its words where they are read. */
type Known = Weighed & Pick<Evidence, 'said'> & { readonly detail?: string };

/** The number of the newest event of a row of delivery. */
const newestEvent = 'coalesce((SELECT max(id) FROM event WHERE delivery_id = delivery.id), 0)';

/** What is known of some copies, by delivery; the words of their events only where they are asked for. */
async function readCopies(
	tx: Query,
	ids: readonly number[],
	words: boolean
): Promise<Map<number, Copy>> {
	const rows = await tx.all<Row>(
		`SELECT id, dispatch_id AS dispatchId, state, strength, left_at AS leftAt, read_at AS readAt,
			${newestEvent} AS newest,
			(SELECT json_group_array(json_array(kind, at, strength${words ? ', detail, said' : ''})) FROM event
				WHERE delivery_id = delivery.id AND kind != 'scheduled') AS events
		FROM delivery WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(ids)]) }
	);
	return new Map(rows.map((r) => [r.id, { ...r, events: eventsOf(r.events) }]));
}

const eventsOf = (json: string): Known[] =>
	(JSON.parse(json) as [EventKind, number, Strength, string?, (string | null)?][]).map(
		([kind, at, strength, detail, said]) => ({ kind, at, strength, detail, said })
	);

/** What providers repeat: the same kind in the same words. */
const markOf = (e: Pick<Known, 'kind' | 'detail' | 'said'>) =>
	JSON.stringify([e.kind, e.detail, e.said ?? null]);

const strengthIn = (h: Happening): Strength => h.strength ?? strengthOf[h.kind];

/** Which happenings are new, and how the copies stand after them where that is otherwise than before. */
function weighed(
	rows: ReadonlyMap<number, Copy>,
	happenings: readonly Happening[],
	once: boolean
): { kept: Happening[]; changed: Map<number, Partial<CopyChange>> } {
	const kept: Happening[] = [];
	const changed = new Map<number, Partial<CopyChange>>();
	for (const [id, fresh] of groupBy(happenings, (h) => h.deliveryId)) {
		const row = rows.get(id);
		if (!row) continue;
		const { events } = row;
		const known = new Set(once ? events.map(markOf) : []);
		const added = fresh.filter((h) => !once || (!known.has(markOf(h)) && known.add(markOf(h))));
		if (added.length === 0) continue;
		kept.push(...added);
		const all = [...events, ...added.map((h) => ({ ...h, strength: strengthIn(h) }))];
		const before = row.state === 'held' ? 'held' : 'planned';
		const { state, at, strength, leftAt, readAt } = standingOf(all, before);
		const same =
			state === row.state &&
			strength === row.strength &&
			leftAt === row.leftAt &&
			readAt === row.readAt;
		if (same) continue;
		const since = state === row.state ? null : (at ?? added[0]!.at);
		changed.set(id, { state, at: since, strength, left_at: leftAt, read_at: readAt });
	}
	return { kept, changed };
}

function addEvents(kept: readonly Happening[]): Deed[] {
	if (kept.length === 0) return [];
	const events = kept.map(({ deliveryId, ...h }) => ({
		...h,
		delivery_id: deliveryId,
		strength: strengthIn({ deliveryId, ...h })
	}));
	return [
		{
			sql: `INSERT INTO event (${eventKeys.join(', ')}) SELECT * FROM ${eventSet.table}`,
			bind: { events: eventSet.json(events) }
		}
	];
}

/** Writes how copies stand now, and gives up their claims where they are still the same courier's. */
function changeCopies(
	rows: ReadonlyMap<number, Copy>,
	changed: ReadonlyMap<number, Partial<CopyChange>>,
	freed: ReadonlyMap<number, Freed>
): Deed[] {
	const touched = [...new Set([...changed.keys(), ...freed.keys()])].filter((id) => rows.has(id));
	if (touched.length === 0) return [];
	const anew = touched.map((id): CopyChange => {
		const { state, strength, leftAt, readAt } = rows.get(id)!;
		const own = freed.get(id);
		return {
			id,
			state,
			at: null,
			strength,
			left_at: leftAt,
			read_at: readAt,
			...changed.get(id),
			attempts: own?.attempts ?? null,
			ref: own?.providerRef ?? null,
			due: own?.dueAt ?? null,
			fence: own?.fence ?? null,
			unanswered: own?.unanswered ?? null,
			parts: own?.parts ?? null
		};
	});
	return [
		{
			sql: `UPDATE delivery SET state = new.state, strength = new.strength, state_at = coalesce(new.at, state_at),
			left_at = new.left_at, read_at = new.read_at,
			claimed_by = CASE WHEN claimed_by = new.fence THEN NULL ELSE claimed_by END,
			attempts = CASE WHEN claimed_by = new.fence THEN new.attempts ELSE delivery.attempts END,
			unanswered = CASE WHEN claimed_by = new.fence THEN new.unanswered ELSE delivery.unanswered END,
			due_at = CASE WHEN claimed_by = new.fence THEN coalesce(new.due, due_at) ELSE due_at END,
			provider_ref = coalesce(new.ref, provider_ref), parts = coalesce(new.parts, delivery.parts)
		FROM ${changeSet.table} AS new WHERE delivery.id = new.id`,
			bind: { rows: changeSet.json(anew) }
		}
	];
}

/** Says of the dispatches that there is new evidence; where no copy is still to leave they are sent by it. */
function moveDispatches(rows: ReadonlyMap<number, Copy>, kept: readonly Happening[]): Deed[] {
	if (kept.length === 0) return [];
	return [
		{
			sql: `UPDATE dispatch SET evidence = evidence + 1,
			sent_at = CASE WHEN state = 'scheduled' AND NOT ${stillToLeave} THEN $at ELSE sent_at END,
			state = CASE WHEN state = 'scheduled' AND NOT ${stillToLeave} THEN 'sent' ELSE state END
		WHERE id IN (SELECT value FROM json_each($ids))`,
			bind: {
				ids: JSON.stringify([...new Set(kept.map((h) => rows.get(h.deliveryId)!.dispatchId))]),
				at: kept.reduce((latest, h) => Math.max(latest, h.at), 0)
			}
		}
	];
}

/** Whether a dispatch has a copy that has not left. */
const stillToLeave = `EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id
	AND ${waits})`;

import {
	standingOf,
	type Evidence,
	type EventKind,
	type Source,
	type Strength,
	type Weighed
} from '../../../core/track/evidence';
import { always, both, inSteps, type Deed } from '../../db/at-once';
import type { Db, Query } from '../../db/open';
import { groupBy } from '../../../core/group-by';
import type { MachineSign } from '../../../core/track/visitor';
import { rowSet } from '../../db/many';
import {
	addEvents,
	changeCopies,
	moveDispatches,
	strengthIn,
	type CopyBefore,
	type CopyChange,
	type Freed
} from './copy-deeds';

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

type Row = CopyBefore & {
	/** The number of the newest of its events; 0 where it has none. */
	readonly newest: number;
	readonly events: string;
};

/** A copy with its events taken apart. */
type Copy = Omit<Row, 'events'> & { readonly events: readonly Known[] };

export interface RecordOptions {
	/** Leaves out what has been kept before with the same kind and words: providers repeat themselves. */
	readonly once?: boolean;
	/** Claims that are given up with it, by delivery. */
	readonly freed?: ReadonlyMap<number, Freed>;
}

/** What else belongs to a transaction of its own. */
export interface AtOnceOptions extends RecordOptions {
	/** What must hold besides. */
	readonly stands?: Deed;
	/** What is written besides. */
	readonly beside?: readonly Deed[];
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
	await inSteps(tx, deedsOf(rows, happenings, { once, freed }));
}

/**
 * As {@link record}, in a transaction of its own that waits for nothing while others wait for it: what is known of the copies is
 * read before. False where something else became of one of them meanwhile, or `stands` (an SQL condition) does not hold;
 * nothing is written then.
 */
export async function recordAtOnce(
	db: Db,
	happenings: readonly Happening[],
	{ once = false, freed = noneFreed, stands = always, beside = [] }: AtOnceOptions = {}
): Promise<boolean> {
	const rows = await readCopies(
		db,
		[...happenings.map((h) => h.deliveryId), ...freed.keys()],
		once
	);
	const deeds = [...deedsOf(rows, happenings, { once, freed }), ...beside];
	return deeds.length === 0 || db.writeAtOnce(both(stands, asTheyWere(rows)), deeds);
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

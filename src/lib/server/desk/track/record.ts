import {
	standingOf,
	strengthOf,
	type DeliveryState,
	type Evidence,
	type EventKind,
	type Source,
	type Strength
} from '../../../core/track/evidence';
import type { Query } from '../../db/open';
import { waits } from '../../db/copy-state';
import { groupBy } from '../../../core/group-by';

/** Something that happened to one delivery. */
export interface Happening {
	readonly deliveryId: number;
	readonly at: number;
	readonly kind: EventKind;
	readonly source: Source;
	/** Plain words, shown as they are. */
	readonly detail: string;
	/** Where the event itself shows less than its kind could. */
	readonly strength?: Strength;
	/** Hash of where a request came from. */
	readonly visitor?: string;
	/** What code decides by: a status of RFC 3463, a state of SMPP, or a word of ours. Never shown by itself. */
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
	events: string;
};

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
	const ids = JSON.stringify([
		...new Set([...happenings.map((h) => h.deliveryId), ...freed.keys()])
	]);
	const rows = new Map(
		(
			await tx.all<Row>(
				`SELECT id, dispatch_id AS dispatchId, state, strength, left_at AS leftAt, read_at AS readAt,
					(SELECT json_group_array(json_array(kind, at, source, strength, detail)) FROM event
						WHERE delivery_id = delivery.id AND kind != 'scheduled') AS events
				FROM delivery WHERE id IN (SELECT value FROM json_each($ids))`,
				{ ids }
			)
		).map((r) => [r.id, r])
	);
	const kept: Happening[] = [];
	const changed = new Map<number, (string | number | null)[]>();
	for (const [id, fresh] of groupBy(happenings, (h) => h.deliveryId)) {
		const row = rows.get(id);
		if (!row) continue;
		const events = (JSON.parse(row.events) as [EventKind, number, Source, Strength, string][]).map(
			([kind, at, source, strength, detail]): Evidence => ({ kind, at, source, strength, detail })
		);
		const known = new Set(once ? events.map((e) => `${e.kind} ${e.detail}`) : []);
		const added = fresh.filter((h) => {
			const mark = `${h.kind} ${h.detail}`;
			return !once || (!known.has(mark) && known.add(mark));
		});
		if (added.length === 0) continue;
		kept.push(...added);
		const all = [
			...events,
			...added.map((h) => ({ ...h, strength: h.strength ?? strengthOf[h.kind] }))
		];
		const before = row.state === 'held' ? 'held' : 'planned';
		const { state, at, strength, leftAt, readAt } = standingOf(all, before);
		const same =
			state === row.state &&
			strength === row.strength &&
			leftAt === row.leftAt &&
			readAt === row.readAt;
		if (same) continue;
		const since = state === row.state ? null : (at ?? added[0]!.at);
		changed.set(id, [state, since, strength, leftAt, readAt]);
	}
	if (kept.length > 0) {
		await tx.run(
			`INSERT INTO event (delivery_id, at, kind, source, detail, strength, visitor, about, code)
			SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6, value ->> 7,
				value ->> 8
			FROM json_each($events)`,
			{
				events: JSON.stringify(
					kept.map((h) => [
						h.deliveryId,
						h.at,
						h.kind,
						h.source,
						h.detail,
						h.strength ?? strengthOf[h.kind],
						h.visitor ?? null,
						h.about ?? null,
						h.code ?? null
					])
				)
			}
		);
	}
	const touched = [...new Set([...changed.keys(), ...freed.keys()])].filter((id) => rows.has(id));
	if (touched.length > 0) {
		await tx.run(
			`UPDATE delivery SET state = new.state, strength = new.strength, state_at = coalesce(new.at, state_at),
				left_at = new.left_at, read_at = new.read_at,
				claimed_by = CASE WHEN claimed_by = new.fence THEN NULL ELSE claimed_by END,
				attempts = CASE WHEN claimed_by = new.fence THEN new.attempts ELSE delivery.attempts END,
				unanswered = CASE WHEN claimed_by = new.fence THEN new.unanswered ELSE delivery.unanswered END,
				due_at = CASE WHEN claimed_by = new.fence THEN coalesce(new.due, due_at) ELSE due_at END,
				provider_ref = coalesce(new.ref, provider_ref)
			FROM (SELECT value ->> 0 AS id, value ->> 1 AS state, value ->> 2 AS at, value ->> 3 AS strength,
				value ->> 4 AS left_at, value ->> 5 AS read_at, value ->> 6 AS attempts, value ->> 7 AS ref,
				value ->> 8 AS due, value ->> 9 AS fence, value ->> 10 AS unanswered FROM json_each($rows)) AS new
			WHERE delivery.id = new.id`,
			{
				rows: JSON.stringify(
					touched.map((id) => {
						const { state, strength, leftAt, readAt } = rows.get(id)!;
						const own = freed.get(id);
						return [
							id,
							...(changed.get(id) ?? [state, null, strength, leftAt, readAt]),
							own?.attempts ?? null,
							own?.providerRef ?? null,
							own?.dueAt ?? null,
							own?.fence ?? null,
							own?.unanswered ?? null
						];
					})
				)
			}
		);
	}
	const dispatches = new Set(kept.map((h) => rows.get(h.deliveryId)!.dispatchId));
	if (dispatches.size > 0) {
		await tx.run(
			`UPDATE dispatch SET evidence = evidence + 1,
				sent_at = CASE WHEN state = 'scheduled' AND NOT ${stillToLeave} THEN $at ELSE sent_at END,
				state = CASE WHEN state = 'scheduled' AND NOT ${stillToLeave} THEN 'sent' ELSE state END
			WHERE id IN (SELECT value FROM json_each($ids))`,
			{
				ids: JSON.stringify([...dispatches]),
				at: kept.reduce((latest, h) => Math.max(latest, h.at), 0)
			}
		);
	}
}

/** Whether a dispatch has a copy that has not left. */
const stillToLeave = `EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id
	AND ${waits})`;

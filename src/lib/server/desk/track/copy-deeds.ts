import { strengthOf, type DeliveryState, type Strength } from '../../../core/track/evidence';
import type { Deed } from '../../db/at-once';
import { waits } from '../../db/copy-state';
import { rowSet } from '../../db/many';
import type { Happening } from './record';

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

/** How a copy stands before anything is written. */
export interface CopyBefore {
	readonly id: number;
	readonly dispatchId: number;
	readonly state: DeliveryState;
	readonly strength: Strength;
	readonly leftAt: number | null;
	readonly readAt: number | null;
}

/** What of a copy's row is written anew. */
export interface CopyChange {
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

/** How much a happening says about a person having read. */
export const strengthIn = (h: Happening): Strength => h.strength ?? strengthOf[h.kind];

/** Adds events. */
export function addEvents(kept: readonly Happening[]): Deed[] {
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
export function changeCopies(
	rows: ReadonlyMap<number, CopyBefore>,
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
export function moveDispatches(
	rows: ReadonlyMap<number, CopyBefore>,
	kept: readonly Happening[]
): Deed[] {
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

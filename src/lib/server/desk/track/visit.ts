import type { EventKind } from '../../../core/track/evidence';
import { hastyMs } from '../../../core/track/evidence';
import { machineSign, type MachineSign } from '../../../core/track/visitor';
import { now } from '../../clock';
import { rowSet } from '../../db/many';
import type { Db, Query } from '../../db/open';
import { record, type Happening } from './record';
import type { Visitor } from './types';

/** So soon after the same request another one is the same visit, ms. */
export const sameVisitMs = 60_000;

/** Something of a copy that was asked for through a private link. */
export interface Asked {
	readonly deliveryId: number;
	readonly at: number;
	readonly kind: Extract<EventKind, 'link-followed' | 'words-link-followed' | 'picture-loaded'>;
	readonly detail: string;
	readonly visitor: Visitor;
	/** The address behind a link of the words, or a file's name. */
	readonly about?: string;
}

const askedSet = rowSet('$asked', ['i', 'deliveryId', 'kind', 'about', 'at']);

/**
 * Writes down what was asked for. It may have been a machine: what speaks for that is said with it, and
 * makes it weak evidence. The same request within a minute is the same visit. All that is judged is
 * judged by what is written down before: a copy stands in a group once, also for each of its readers.
 */
export async function takeAsked(tx: Query, asked: readonly Asked[]): Promise<void> {
	const rows = await tx.all<{ i: number }>(
		`SELECT i FROM ${askedSet.table} AS asked JOIN delivery ON delivery.id = asked.deliveryId
		WHERE NOT EXISTS (SELECT 1 FROM event WHERE event.delivery_id = delivery.id AND event.kind = asked.kind
			AND event.about IS asked.about AND event.at > asked.at - ${sameVisitMs})
		ORDER BY i`,
		{ asked: askedSet.json(asked.map((a, i) => ({ ...a, i }))) }
	);
	const fresh = rows.map(({ i }) => asked[i]!);
	// A picture says little whoever loads it.
	const signs = await signsOfMachines(
		tx,
		fresh.filter((a) => a.kind !== 'picture-loaded')
	);
	await record(
		tx,
		fresh.map((a): Happening => {
			const { deliveryId, at, kind, detail, visitor, about } = a;
			return {
				...{ deliveryId, at, kind, detail },
				source: kind === 'picture-loaded' ? 'picture' : 'link',
				visitor: visitor.key,
				...(about === undefined ? {} : { about }),
				...weakBy(signs.get(a))
			};
		})
	);
}

/** Writes down that something of these copies is asked for now. */
export const visited = (
	db: Db,
	deliveryIds: readonly number[],
	asked: Omit<Asked, 'deliveryId' | 'at'>
): Promise<void> =>
	db.write(async (tx) => {
		const at = await now(tx);
		await takeAsked(
			tx,
			deliveryIds.map((deliveryId) => ({ ...asked, deliveryId, at }))
		);
	});

/** What is told of a request that bears a sign. */
export const weakBy = (sign: MachineSign | undefined): Pick<Happening, 'sign' | 'strength'> =>
	sign ? { sign, strength: 'weak' } : {};

type Judged = Pick<Asked, 'deliveryId' | 'at' | 'visitor'>;
const judgedSet = rowSet('$judged', ['i', 'deliveryId', 'visitor', 'at']);

/** The signs that what was asked for through a copy's link was more likely asked for by a machine, of those for which one speaks. */
export async function signsOfMachines<T extends Judged>(
	tx: Query,
	judged: readonly T[]
): Promise<Map<T, MachineSign>> {
	if (judged.length === 0) return new Map();
	const rows = await tx.all<{ i: number; others: number; justArrived: number }>(
		`SELECT i, EXISTS (SELECT 1 FROM event WHERE event.delivery_id = delivery.id AND event.kind = 'delivered'
				AND event.source = 'notification' AND event.at > judged.at - ${hastyMs}) AS justArrived,
			(SELECT count(DISTINCT other.person_id) FROM event JOIN delivery AS other ON other.id = event.delivery_id
				WHERE event.visitor = judged.visitor AND event.at > judged.at - ${sameVisitMs}
					AND other.person_id != delivery.person_id) AS others
		FROM ${judgedSet.table} AS judged JOIN delivery ON delivery.id = judged.deliveryId`,
		{ judged: judgedSet.json(judged.map((j, i) => ({ ...j, i, visitor: j.visitor.key }))) }
	);
	return new Map(
		rows.flatMap(({ i, others, justArrived }): [T, MachineSign][] => {
			const one = judged[i]!;
			const sign =
				machineSign({ ...one.visitor, othersJustNow: others }) ??
				(justArrived === 1 ? 'just-arrived' : null);
			return sign ? [[one, sign]] : [];
		})
	);
}

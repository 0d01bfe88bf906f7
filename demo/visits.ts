import type { Way } from '../src/lib/core/roster/way';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';
import type { Db } from '../src/lib/server/db/open';
import { takeLetters } from '../src/lib/server/desk/family/letter-happened';
import { requests } from '../src/lib/server/desk/family/requested';
import { takeAsked } from '../src/lib/server/desk/track/visit';
import { arrivalAt, readingOf } from '../standin/readers/habit';

/** A reader, or what stands before one, at a letter. */
export interface Visit {
	readonly at: number;
	readonly personId: number;
	readonly deliveryId: number;
	readonly dispatchId: number;
	readonly way: Way;
	readonly taps: boolean;
	/** What the mailbox does by itself as the letter comes in, or a reader who opens it. */
	readonly by: 'reader' | 'picture' | 'guard';
}

/** Who will come to the copies of a dispatch that has left, by the same habits as the readers'. */
export async function planVisits(
	db: Db,
	seed: string,
	dispatchId: number,
	leftAt: number
): Promise<{ copies: number; visits: Visit[] }> {
	const rows = await db.all<Pick<DeliveryRow, 'id' | 'personId' | 'way' | 'address' | 'state'>>(
		'SELECT id, person_id AS personId, way, address, state FROM delivery WHERE dispatch_id = $id',
		{ id: dispatchId }
	);
	const visits = rows
		.filter((r) => r.state === 'sent' || r.state === 'delivered')
		.flatMap((r): Visit[] => {
			const reading = readingOf(seed, r.address ?? `person-${r.personId}`, String(r.id), r.way);
			const base = { personId: r.personId, deliveryId: r.id, dispatchId, way: r.way, taps: false };
			const arrival = r.way === 'email' ? arrivalAt(r.address!) : null;
			const soon = leftAt + 2_000;
			return [
				...(arrival?.loadsPictures ? [{ ...base, at: soon, by: 'picture' as const }] : []),
				...(arrival?.followsLinks ? [{ ...base, at: soon, by: 'guard' as const }] : []),
				...(reading.opens
					? [
							{
								...base,
								at: leftAt + reading.afterMinutes * 60_000,
								taps: reading.taps,
								by: 'reader' as const
							}
						]
					: [])
			];
		});
	return { copies: rows.length, visits };
}

/** The first of each reader and dispatch, the second of each, and so on: what is judged by what was before it stands in a later group. */
function inGroups(visits: readonly Visit[]): Visit[][] {
	const groups: Visit[][] = [];
	const before = new Map<string, number>();
	for (const v of visits) {
		const whose = `${v.personId} ${v.dispatchId}`;
		const nth = before.get(whose) ?? 0;
		before.set(whose, nth + 1);
		(groups[nth] ??= []).push(v);
	}
	return groups;
}

const asked = ({ deliveryId, at, personId, by }: Visit) => ({
	deliveryId,
	at,
	visitor: {
		method: 'GET',
		agent: 'Mozilla/5.0',
		purpose: '',
		key: by === 'reader' ? `person-${personId}` : by
	}
});

const happened = (kind: 'opened' | 'acknowledged') => (v: Visit) => ({
	...asked(v),
	opened: { personId: v.personId, deliveryId: v.way === 'inbox' ? null : v.deliveryId },
	dispatchId: v.dispatchId,
	kind
});

/** Lets the readers act up to an instant; returns the visits still to come. All in one transaction, many at a time: nobody looks at the past while it is made. */
export async function read(db: Db, visits: readonly Visit[], until: number): Promise<Visit[]> {
	const due = visits
		.filter((v) => v.at < until)
		.map((v) => ({ ...v, at: Math.round(v.at) }))
		.sort((a, b) => a.at - b.at);
	await db.write(async (tx) => {
		for (const group of inGroups(due)) {
			const shown = group.filter((v) => v.by === 'picture' || v.way === 'email');
			const followed = group.filter((v) => v.by !== 'picture' && v.way !== 'inbox');
			const opened = group.filter((v) => v.by === 'reader');
			const tapped = opened.filter((v) => v.taps);
			await takeAsked(
				tx,
				shown.map((v) => ({ ...asked(v), ...requests.picture }))
			);
			await takeAsked(
				tx,
				followed.map((v) => ({ ...asked(v), ...requests.link }))
			);
			await takeLetters(tx, opened.map(happened('opened')));
			await takeLetters(tx, tapped.map(happened('acknowledged')));
		}
	});
	return visits.filter((v) => v.at >= until);
}

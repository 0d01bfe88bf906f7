import { readMany } from '../../db/many';
import type { Bind, Query } from '../../db/open';

/** One piece of evidence that a link of the words was followed. */
export interface LinkFollowed {
	readonly dispatchId: number;
	readonly href: string;
	readonly personId: number;
	/** Whether a person did it, as far as can be told. */
	readonly fair: boolean;
}

/** Who followed the links of a dispatch's words, kept as evidence comes in. */
export class LinksFollowed {
	/** By link and person, whether they did it themselves. */
	readonly #by = new Map<string, Map<number, boolean>>();

	constructor(followed: readonly LinkFollowed[] = []) {
		for (const one of followed) this.add(one);
	}
	add({ href, personId, fair }: LinkFollowed): void {
		let people = this.#by.get(href);
		if (!people) this.#by.set(href, (people = new Map()));
		people.set(personId, fair || (people.get(personId) ?? false));
	}
	/** The links that were followed, each with the people who did and how many machines. */
	get links(): { href: string; people: number[]; machines: number }[] {
		return [...this.#by].map(([href, all]) => {
			const people = [...all].flatMap(([person, fair]) => (fair ? [person] : []));
			return { href, people, machines: all.size - people.length };
		});
	}
}

/** Links that were followed, by `tables` that join deliveries and their events. */
const followed = (db: Query, tables: string, where: string, bind: Bind): Promise<LinkFollowed[]> =>
	readMany(
		db,
		'dispatch_id, about, person_id, fair',
		`FROM (SELECT dispatch_id, about, person_id, event.strength = 'fair' AS fair FROM ${tables}
			WHERE event.kind = 'words-link-followed' AND about IS NOT NULL AND ${where})`,
		([dispatchId, href, personId, fair]) => ({
			...{ dispatchId: dispatchId as number, href: href as string },
			...{ personId: personId as number, fair: fair === 1 }
		}),
		bind
	);

/** The links that were followed of some dispatches (a JSON list of ids). */
export const linksIn = (db: Query, ids: string): Promise<LinkFollowed[]> =>
	followed(
		db,
		`delivery JOIN event ON event.delivery_id = delivery.id`,
		'dispatch_id IN (SELECT value FROM json_each($ids))',
		{ ids }
	);

/** Those of one dispatch of which an event tells that came after `since`: from the few new events, however many copies it has. */
export const linksSince = (
	db: Query,
	bind: { readonly id: number; readonly since: number }
): Promise<LinkFollowed[]> =>
	followed(
		db,
		'event CROSS JOIN delivery ON delivery.id = event.delivery_id',
		'dispatch_id = $id AND event.id > $since',
		{ ...bind }
	);

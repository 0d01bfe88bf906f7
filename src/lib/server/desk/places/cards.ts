import { dutyReason } from '../../../core/audience/reasons';
import { writeVcards, type Card } from '../../../core/format/vcard';
import { fullName, type Roster } from '../../../core/roster/roster';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { ownKey } from '../roster/own-keys';
import { placeByKey } from './place';

const each = <T>(list: readonly T[]): T[] => [...new Set(list)];

/** A guardian as a card: addresses that work, and whom of these students they look after. */
function cardOf(
	roster: Roster,
	personId: number,
	students: readonly number[],
	{ uid, place }: { readonly uid: string; readonly place: string }
): Card {
	const { givenName, familyName, language } = roster.person(personId)!;
	const working = roster.addressesOf(personId).filter((a) => a.failing === null);
	const texts = working.filter((a) => a.way === 'text');
	return {
		...{ uid, givenName, familyName, language },
		emails: each(working.flatMap((a) => (a.way === 'email' ? a.usable : []))),
		phones: each(texts.map((a) => a.usable)).map((number) => ({
			number,
			type: texts.some((a) => a.usable === number && a.consent === 'in') ? 'text' : 'voice'
		})),
		children: students.map((id) => fullName(roster.person(id)!)),
		categories: [place],
		note: ''
	};
}

/** Whoever is written to for the students of a place by the usual duty, as vCards; null where the user may not see it. */
export async function placeCards(
	{ db, key: secret }: { readonly db: Db; readonly key: Buffer },
	user: User,
	key: string
): Promise<{ readonly name: string; readonly cards: string } | null> {
	const roster = await readRoster(db);
	const place = await placeByKey(db, user, roster, key);
	if (!place) return null;
	const of = new Map<number, number[]>();
	for (const student of place.students)
		for (const contact of roster.contactsOf(student)) {
			if (!contact.guardian || dutyReason(contact) || !roster.person(contact.personId)) continue;
			const list = of.get(contact.personId);
			if (list) list.push(student);
			else of.set(contact.personId, [student]);
		}
	return {
		name: place.name,
		cards: writeVcards(
			[...of].map(([personId, students]) =>
				cardOf(roster, personId, students, {
					// Under this key they are known again where the cards come back.
					uid: ownKey(secret, 'person', personId),
					place: place.name
				})
			)
		)
	};
}

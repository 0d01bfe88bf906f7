import { z } from 'zod';
import { checkMailAddress } from '../../../core/format/mail-address';
import { keptNumber, toE164 } from '../../../core/format/phone';
import type { CardIn, ReadCard } from '../../../core/format/read-vcard';
import { isLanguageTag } from '../../../core/copy/language';
import { isAllowed, scope } from '../../access/may';
import { schoolsOf } from '../../access/rights';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { joining } from '../../db/models/joining';
import { address } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import { saidStop } from '../../db/said-stop';
import { Broken } from '../../reading/roster/broken';
import { readCards } from '../../reading/roster/cards';
import type { Said } from '../../said';
import { putGroup } from '../groups/change-group';
import { byHand, type Hand } from '../hand/by-hand';
import { line, namePart } from '../hand/fields';
import { addressKeyOf, joiningAt } from './join';
import { holdersOf, isNamed, personJoining } from './joined-person';
import type { SeenCards } from './types';

const mostBytes = 4_000_000;
const mostCards = 2_000;
/** Each is looked up and written while nobody else writes. */
const mostPlaces = 5_000;

/** What is taken of a card: who, at most a few addresses, and the groups. */
const cardSchema = z.object({
	givenName: line('The given name', 200),
	familyName: line('The family name', 200),
	language: z.string().refine((tag) => tag === '' || isLanguageTag(tag), 'This is no language.'),
	emails: z
		.array(z.string().refine((value) => checkMailAddress(value).ok, 'This is no mail address.'))
		.max(5),
	phones: z
		.array(z.string().refine((value) => keptNumber(value) === value, 'This is no number.'))
		.max(5),
	groups: z.array(namePart('The name of a group')).min(1).max(50)
});
type Card = z.infer<typeof cardSchema>;

export const takeCardsSchema = z.object({
	cards: z
		.string()
		.max(3_500_000)
		.transform((text, context) => {
			try {
				return JSON.parse(text) as unknown;
			} catch {
				context.addIssue('The cards are not whole any more. Bring the file again.');
				return z.NEVER;
			}
		})
		.pipe(
			z
				.array(cardSchema)
				.max(mostCards)
				.refine(
					(cards) => cards.every((c) => c.emails.length + c.phones.length > 0),
					'A card has no address. Bring the file again.'
				)
				.refine(
					(cards) => cards.reduce((sum, c) => sum + c.groups.length, 0) <= mostPlaces,
					`The cards name over ${mostPlaces} places in groups. Bring a part of them.`
				)
		),
	/** The groups that are wanted, by name. */
	groups: z.array(z.string().max(200)).min(1, 'Choose at least one group.').max(500)
});

/** A card as it is taken; or why it is not. */
function usable(
	{ givenName, familyName, emails, phones, language, categories }: CardIn,
	country: string
): Said<{ readonly card: Card }> {
	const no = (why: string) => ({ ok: false, why }) as const;
	if (categories.length === 0) return no('it belongs to nothing (CATEGORIES)');
	const mails = emails.flatMap((email) => {
		const read = checkMailAddress(email);
		return read.ok ? read.value : [];
	});
	const numbers = [...phones]
		.sort((a, b) => Number(b.type === 'text') - Number(a.type === 'text'))
		.flatMap((phone) => toE164(phone.number, country) ?? []);
	if (mails.length + numbers.length === 0)
		return no('it has no mail address or number that can be written to');
	const parsed = cardSchema.safeParse({
		...{ givenName, familyName, language: isLanguageTag(language) ? language : '' },
		...{ emails: mails.slice(0, 5), phones: [...new Set(numbers)].slice(0, 5) },
		groups: categories.slice(0, 50)
	});
	return parsed.success ? { ok: true, card: parsed.data } : no(parsed.error.issues[0]!.message);
}

/** The address a card's person is in a group by: the first mail address, else the first number. */
const addressOf = ({ emails, phones }: Card) =>
	emails.length > 0
		? ({ way: 'email', address: emails[0]! } as const)
		: ({ way: 'text', address: phones[0]! } as const);

/** Whether somebody is on file by name and address. */
async function isKnown(db: Query, card: Card): Promise<boolean> {
	const by = addressOf(card);
	const holders = await holdersOf(db, { ...by, addressKey: addressKeyOf(by.way, by.address) });
	return holders.some((h) => isNamed(h, card));
}

/**
 * The group of a name that a user looks after: of the whole district for its office, else the only one;
 * undefined where there is none, or several schools have one of that name.
 */
async function groupNamed(
	db: Query,
	user: User,
	name: string
): Promise<{ readonly id: number; readonly name: string } | undefined> {
	const { sql, bind } = scope(user).groups;
	const rows = await db.all<{ id: number; name: string; schoolId: number | null }>(
		`SELECT id, name, school_id AS schoolId FROM school_group_now AS school_group
		WHERE name = $name COLLATE NOCASE AND ${sql} ORDER BY id`,
		{ name, ...bind }
	);
	return rows.length === 1
		? rows[0]
		: rows.find((r) => r.schoolId === (schoolsOf(user)[0] ?? null));
}

/** Looks at a file of cards: whom it would bring into which groups. Nothing is changed. */
export async function lookAtCards(
	db: Db,
	user: User,
	content: Uint8Array
): Promise<Said<SeenCards>> {
	if (content.length > mostBytes)
		return { ok: false, why: 'That is over 4 MB: leave the pictures out of the cards.' };
	let read: ReadCard[];
	try {
		read = readCards(content, 'The file');
	} catch (error) {
		if (!(error instanceof Broken)) throw error;
		return { ok: false, why: error.message };
	}
	if (read.length > mostCards)
		return {
			ok: false,
			why: `${read.length} cards are more than ${mostCards}. Bring a part of them.`
		};
	const { country } = await readDistrict(db);
	const cards: Card[] = [];
	const wrong: SeenCards['wrong'][number][] = [];
	for (const { line: at, card, name, why } of read) {
		const one = card ? usable(card, country) : ({ ok: false, why } as const);
		if (one.ok) cards.push(one.card);
		else
			wrong.push({
				line: at,
				text: `${name === '' ? 'The card' : `“${name}”`} stays out: ${one.why}`
			});
	}
	const names = new Map<string, { name: string; people: number }>();
	for (const name of cards.flatMap((card) => card.groups)) {
		const one = names.get(name.toLowerCase());
		if (one) one.people += 1;
		else names.set(name.toLowerCase(), { name, people: 1 });
	}
	let known = 0;
	for (const card of cards) if (await isKnown(db, card)) known += 1;
	const groups: SeenCards['groups'][number][] = [];
	for (const { name, people } of [...names.values()].sort((a, b) => b.people - a.people)) {
		const there = await groupNamed(db, user, name);
		groups.push({ name: there?.name ?? name, people, there: there !== undefined });
	}
	return {
		ok: true,
		...{ groups, people: cards.length, known, wrong },
		cards: JSON.stringify(cards)
	};
}

/** Puts a number or mailbox on the file of somebody new. A number on a card is no consent to texts. */
async function putAddresses(tx: Query, personId: number, card: Card): Promise<void> {
	for (const value of card.emails)
		await tx.rows(address).add({ personId, way: 'email', value, consent: 'unknown' });
	for (const value of card.phones)
		await tx.rows(address).add({
			...{ personId, way: 'text', value },
			consent: (await saidStop(tx, value)) ? 'out' : 'unknown'
		});
}

/** Puts the person of a card into a group; why not, where they were there or have been taken out. */
async function putIn(
	{ tx, at, user, wrote }: Hand,
	group: { readonly id: number; readonly name: string },
	card: Card
): Promise<string | null> {
	const by = addressOf(card);
	const addressKey = addressKeyOf(by.way, by.address);
	const before = await joiningAt(tx, group.id, addressKey);
	if (before?.state === 'in') return 'is in already';
	if (before?.state === 'removed') return 'was taken out by the office; let it in again first';
	if (before?.state === 'left') return 'has left; they can come again by the code';
	const language = card.language || (await readDistrict(tx)).language;
	const holder = { ...by, addressKey, language, personId: null, madePerson: 0 } as const;
	const known = await isKnown(tx, card);
	const { personId, madePerson } = await personJoining(tx, holder, card, at);
	if (!known) await putAddresses(tx, personId, card);
	const said = {
		how: 'cards',
		state: 'in',
		personId,
		madePerson,
		language,
		name: `${card.givenName} ${card.familyName}`.trim(),
		joinedAt: at,
		byId: user.personId
	} as const;
	if (before) await tx.rows(joining).change({ id: before.id }, said);
	else await tx.rows(joining).add({ groupId: group.id, ...by, addressKey, askedAt: at, ...said });
	wrote({ personId, field: 'group', after: `${group.name}, with cards` });
	return null;
}

/** Takes cards in: makes the groups that are wanted and not there, and puts the people into them, all or nothing. */
export async function takeCards(
	db: Db,
	user: User,
	{ cards, groups: wanted }: z.infer<typeof takeCardsSchema>
): Promise<
	Said<{ readonly people: number; readonly groups: number; readonly not: readonly string[] }>
> {
	const ownSchool = schoolsOf(user)[0] ?? null;
	if (!isAllowed(user, 'look-after', ownSchool))
		return { ok: false, why: 'The school office looks after groups: ask them.' };
	return byHand(db, user, async (hand) => {
		const chosen = new Set(wanted.map((name) => name.toLowerCase()));
		const groups = new Map<string, { id: number; name: string }>();
		const people = new Set<Card>();
		const not: string[] = [];
		for (const card of cards)
			for (const name of card.groups) {
				const key = name.toLowerCase();
				if (!chosen.has(key)) continue;
				let group = groups.get(key) ?? (await groupNamed(hand.tx, user, name));
				if (!group) {
					const schoolId = ownSchool ?? ('' as const);
					const made = await putGroup(hand, { name, kind: 'contacts', schoolId });
					// Asked of beforehand: what is half done would stay.
					if (!made.ok) throw new Error(made.why);
					group = { id: made.id, name };
				}
				groups.set(key, group);
				const why = await putIn(hand, group, card);
				if (why === null) people.add(card);
				else not.push(`${card.givenName} ${card.familyName} (${group.name}): ${why}`);
			}
		await rosterChanged(hand.tx);
		return { ok: true, people: people.size, groups: groups.size, not };
	});
}

import { DateTime } from 'luxon';
import { z } from 'zod';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { address, type AddressRow } from '../../db/models/roster';
import { textAddressesOf } from '../../db/text-addresses';
import { saidStop } from '../../db/said-stop';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { readAddress } from '../people/read-address';
import { stopPending } from '../track/stop-pending';
import { byHand, notTheirs, personOfMine, type Hand } from './by-hand';
import { idSchema, line } from './fields';
import { addressMoved } from '../roster/waiting-copies';

/** So many has nobody; what adds more is no person. */
const mostAddresses = 20;

const consentFields = {
	consent: z.enum(['in', 'out', 'unknown']),
	/** Who said it, or on which paper: "enrolment form". */
	said: line('What was said', 200),
	/** ISO date on which it was said; empty for today. */
	on: z.literal('').or(z.iso.date('This is no day.'))
};
export const addAddressSchema = z.object({
	personId: idSchema,
	way: z.enum(['email', 'text']),
	value: line('The address', 320),
	...consentFields
});
export const changeAddressSchema = z.object({
	id: idSchema,
	value: line('The address', 320),
	...consentFields
});
type ConsentInput = Pick<z.infer<typeof addAddressSchema>, 'consent' | 'said' | 'on'>;

/** The columns of a consent, or why it cannot be so. */
async function readConsent(
	{ tx, at }: Hand,
	way: AddressRow['way'],
	value: string,
	{ consent, said, on }: ConsentInput
): Promise<
	| Pick<AddressRow, 'consent' | 'consentAt' | 'consentHow' | 'consentSaid'>
	| { readonly why: string }
> {
	if (consent === 'unknown')
		return { consent, consentAt: null, consentHow: null, consentSaid: null };
	if (way === 'text' && consent === 'in') {
		if (said === '')
			return {
				why: 'Say who allowed texts to this number, or on which paper: “enrolment form”, “Ana’s mother, by phone”.'
			};
		if (await saidStop(tx, value))
			return { why: `${value} answered STOP to our texts. It opts in again by sending START.` };
	}
	const { zone } = await readDistrict(tx);
	const day = on === '' ? at : DateTime.fromISO(on, { zone }).toMillis();
	if (day > at) return { why: 'Nobody has said it on a day that is still to come.' };
	return {
		consent,
		consentAt: day,
		consentHow: 'hand',
		consentSaid: said === '' ? null : said
	};
}

const consentText = (way: AddressRow['way'], consent: AddressRow['consent']): string =>
	way === 'text'
		? { in: 'opted in', out: 'opted out', unknown: 'not said' }[consent]
		: { in: 'wanted', out: 'not wanted', unknown: 'not said' }[consent];

/** Puts an address on a person's file, inside work by hand. */
async function putAddress(
	hand: Hand,
	{ personId, way, value: typed, ...said }: z.infer<typeof addAddressSchema>
): Promise<Said> {
	const { tx } = hand;
	const read = await readAddress(tx, way, typed);
	if ('why' in read) return { ok: false, why: read.why };
	const own = await tx.all<Pick<AddressRow, 'value'>>(
		'SELECT value FROM address WHERE person_id = $personId',
		{ personId }
	);
	if (own.some((a) => a.value.toLowerCase() === read.value.toLowerCase()))
		return { ok: false, why: `${read.value} is on their file already.` };
	if (own.length >= mostAddresses)
		return { ok: false, why: 'Nobody has over 20 addresses. Take one off first.' };
	const consent = await readConsent(hand, way, read.value, said);
	if ('why' in consent) return { ok: false, why: consent.why };
	await tx.rows(address).add({ personId, way, value: read.value, ...consent });
	hand.own(personId);
	hand.wrote({ personId, field: way === 'email' ? 'email' : 'sms', after: read.value });
	if (consent.consent !== 'unknown')
		hand.wrote({ personId, field: 'consent', after: consentText(way, consent.consent) });
	return { ok: true };
}

/** Puts an address on the file of somebody who is here. */
export async function addAddress(
	db: Db,
	user: User,
	input: z.infer<typeof addAddressSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const found = await personOfMine(hand, input.personId);
		return found && found.goneAt === null ? putAddress(hand, input) : notTheirs;
	});
}

/** The addresses of somebody new, read before they are put down, so that nothing of them is where one is refused. */
export interface NewAddress {
	readonly way: AddressRow['way'];
	readonly value: string;
	/** What was said of texts; empty where nothing was. */
	readonly said: string;
}
/** Puts the addresses of somebody new on their file; they have been read. */
export async function putNewAddresses(
	hand: Hand,
	personId: number,
	addresses: readonly NewAddress[]
): Promise<void> {
	for (const { way, value, said } of addresses)
		await putAddress(hand, {
			...{ personId, way, value, said, on: '' as const },
			consent: way === 'text' && said !== '' ? 'in' : 'unknown'
		});
}
/** Reads the addresses of somebody new as they are typed; why one is none. */
export async function readNewAddresses(
	{ tx }: Hand,
	typed: readonly NewAddress[]
): Promise<Said<{ readonly addresses: readonly NewAddress[] }>> {
	const addresses: NewAddress[] = [];
	for (const one of typed) {
		if (one.value === '') continue;
		const read = await readAddress(tx, one.way, one.value);
		if ('why' in read) return { ok: false, why: read.why };
		addresses.push({ ...one, value: read.value });
	}
	return { ok: true, addresses };
}

/** An address that the user may change. */
async function addressOf(hand: Hand, id: number): Promise<AddressRow | null> {
	const row = await hand.tx.rows(address).one({ id });
	const theirs = row && (await personOfMine(hand, row.personId));
	return theirs && theirs.goneAt === null ? row : null;
}

/**
 * Changes an address, or what was said of being written to at it. A number that wants no texts wants
 * none on whoever's file it is: that is written down for all of them, as with STOP.
 */
export async function changeAddress(
	db: Db,
	user: User,
	{ id, value: typed, ...said }: z.infer<typeof changeAddressSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const before = await addressOf(hand, id);
		if (!before) return notTheirs;
		const { tx } = hand;
		const { personId, way } = before;
		const read =
			typed === before.value ? { value: before.value } : await readAddress(tx, way, typed);
		if ('why' in read) return { ok: false, why: read.why };
		const moved = read.value !== before.value;
		const sayAgain = said.consent !== before.consent || said.said !== (before.consentSaid ?? '');
		const next: Partial<AddressRow> | { readonly why: string } =
			moved && way === 'text' && said.consent === 'in' && !sayAgain
				? { why: 'Another number has not opted in by what was said of the old one: say it anew.' }
				: sayAgain || said.on !== ''
					? await readConsent(hand, way, read.value, said)
					: {};
		if ('why' in next) return { ok: false, why: next.why };
		if (moved) {
			await tx
				.rows(address)
				.change({ id }, { value: read.value, failing: null, failingSince: null });
			hand.wrote({
				...{ personId, field: way === 'email' ? 'email' : 'sms' },
				...{ before: before.value, after: read.value }
			});
			await addressMoved(tx, { personId, way, from: before.value, to: read.value });
		}
		if (Object.keys(next).length > 0) await sayConsent(hand, before, read.value, next);
		hand.own(personId);
		return { ok: true };
	});
}

async function sayConsent(
	hand: Hand,
	before: AddressRow,
	value: string,
	next: Partial<AddressRow>
): Promise<void> {
	const { tx } = hand;
	const { way } = before;
	const rows =
		way === 'text' && next.consent === 'out' ? await textAddressesOf(tx, value) : [before];
	for (const row of new Map(rows.concat(before).map((r) => [r.id, r])).values()) {
		await tx.rows(address).change({ id: row.id }, next);
		hand.own(row.personId);
		if (row.consent !== next.consent || row.id === before.id)
			hand.wrote({
				...{ personId: row.personId, field: 'consent' },
				before: consentText(way, row.consent),
				after: consentText(way, next.consent!) + (next.consentSaid ? `, ${next.consentSaid}` : '')
			});
	}
	if (next.consent !== 'out') return;
	if (way === 'text')
		await stopPending(tx, { way, address: value }, 'asked the school for no more texts');
	else await addressMoved(tx, { personId: before.personId, way, from: value, to: null });
}

/** Takes an address off a person's file; what waits for it goes to whoever else reads there, or is stopped. */
export async function takeAddress(db: Db, user: User, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const before = await addressOf(hand, id);
		if (!before) return notTheirs;
		const { personId, way, value } = before;
		await hand.tx.rows(address).remove({ id });
		hand.own(personId);
		hand.wrote({ personId, field: way === 'email' ? 'email' : 'sms', before: value });
		await addressMoved(hand.tx, { personId, way, from: value, to: null });
		return { ok: true };
	});
}

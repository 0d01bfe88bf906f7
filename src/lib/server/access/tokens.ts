import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

/** A random token of 256 bits for sessions, in base64url. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored in place of a token. The token is long and random, so a plain hash is enough. */
export const hashToken = (token: string): string =>
	createHash('sha256').update(token).digest('base64url');

/**
 * The token of one copy's private link: 128 bits that cannot be guessed without the key. Made anew
 * whenever it is needed, so that a copy tried twice carries the same link and the database holds
 * only its hash.
 */
export const copyToken = (key: Buffer, deliveryId: number): string =>
	createHmac('sha256', key)
		.update(`copy:${deliveryId}`)
		.digest()
		.subarray(0, 16)
		.toString('base64url');

/** The token of a person's own link; `linkId` is new for each link, so an ended one stays ended. */
export const personToken = (key: Buffer, linkId: number): string =>
	createHmac('sha256', key)
		.update(`person:${linkId}`)
		.digest()
		.subarray(0, 18)
		.toString('base64url');

/** What comes to an address of ours: `r` mail systems' notifications, `a` people's answers. */
type Purpose = 'r' | 'a';
const label: Readonly<Record<Purpose, string>> = { r: 'return', a: 'answer' };

const addressTag = (key: Buffer, purpose: Purpose, deliveryId: number): string =>
	createHmac('sha256', key).update(`${label[purpose]}:${deliveryId}`).digest('hex').slice(0, 20);

const addressOf = (key: Buffer, purpose: Purpose, deliveryId: number, domain: string): string =>
	`${purpose}${deliveryId}.${addressTag(key, purpose, deliveryId)}@${domain}`;

/** The return address of one delivery, to which its notifications come back. Lower case only: mail systems may fold the case. */
export const returnAddress = (key: Buffer, deliveryId: number, domain: string): string =>
	addressOf(key, 'r', deliveryId, domain);

/** The address to which answers to one delivery come. */
export const answerAddress = (key: Buffer, deliveryId: number, domain: string): string =>
	addressOf(key, 'a', deliveryId, domain);

/** The delivery a return or answer address belongs to, or null where the address is none of ours. */
export function deliveryOfReturn(key: Buffer, address: string): number | null {
	const match = /^([ra])(\d{1,15})\.([0-9a-f]{20})@/.exec(address.toLowerCase());
	if (!match) return null;
	const id = Number(match[2]);
	const wanted = Buffer.from(addressTag(key, match[1] as Purpose, id));
	return timingSafeEqual(wanted, Buffer.from(match[3]!)) ? id : null;
}

/** Message-ID (RFC 5322 section 3.6.4) of a delivery: the same at each try, so that a mailbox can tell a repeat. */
export const messageId = (key: Buffer, deliveryId: number, domain: string): string =>
	`<${deliveryId}.${addressTag(key, 'r', deliveryId)}@${domain}>`;

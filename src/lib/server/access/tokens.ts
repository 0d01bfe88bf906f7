import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

/** A random token of 256 bits for sessions, in base64url. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored in place of a token. The token is long and random, so a plain hash is enough. */
export const hashToken = (token: string): string =>
	createHash('sha256').update(token).digest('base64url');

/** Random values of 128 bits, as many as asked for: each row that is named outside has its own. */
export function newNonces(n: number): string[] {
	const octets = randomBytes(16 * n);
	return Array.from({ length: n }, (_, i) =>
		octets.subarray(16 * i, 16 * i + 16).toString('base64url')
	);
}

/** Whether two texts are the same, in a time that says nothing of where they differ. */
export function sameSecret(a: string, b: string): boolean {
	const [x, y] = [Buffer.from(a), Buffer.from(b)];
	return x.length === y.length && timingSafeEqual(x, y);
}

const made = (key: Buffer, what: string, nonce: string): Buffer =>
	createHmac('sha256', key).update(`${what}:${nonce}`).digest();

/**
 * The token of one copy's private link: 128 bits that cannot be guessed without the key. Made anew
 * whenever it is needed, so that a copy tried twice carries the same link. It rests on the random value
 * of the copy's row and not on its number: after an older database was put back numbers come again,
 * and a link that is out in the world must not open what has its number now.
 */
export const copyToken = (key: Buffer, nonce: string): string =>
	made(key, 'copy', nonce).subarray(0, 16).toString('base64url');

/** The token of a person's own link, from the random value of the link. */
export const personToken = (key: Buffer, nonce: string): string =>
	made(key, 'person', nonce).subarray(0, 18).toString('base64url');

/** The token of a link to a board, from the random value of the link. */
export const boardLinkToken = (key: Buffer, nonce: string): string =>
	made(key, 'board', nonce).subarray(0, 18).toString('base64url');

/** The token by which somebody who is invited to an open group, or asks to join it, answers: its row's number, and 128 bits. */
export const joinToken = (key: Buffer, { id, nonce }: Named): string =>
	`${id}-${made(key, 'joining', nonce).subarray(0, 16).toString('base64url')}`;

/** The token by which anybody answers an invitation that is open to them: its dispatch's number, and 128 bits. */
export const invitationToken = (key: Buffer, { id, nonce }: Named): string =>
	`${id}-${made(key, 'invitation', nonce).subarray(0, 16).toString('base64url')}`;

/** The token of the page of somebody from outside who answered an invitation: their row's number, and 128 bits. */
export const guestToken = (key: Buffer, { id, nonce }: Named): string =>
	`${id}-${made(key, 'guest', nonce).subarray(0, 16).toString('base64url')}`;

/** The token of a link by which somebody sets a password: its row's number, and 144 bits. */
export const accountToken = (key: Buffer, { id, nonce }: Named): string =>
	`${id}-${made(key, 'account', nonce).subarray(0, 18).toString('base64url')}`;

/** The number of the row that a token of {@link joinToken}, {@link invitationToken} or {@link guestToken} says it is of; null where it has not the form of one. */
export function rowOfToken(token: string): number | null {
	const match = /^(\d{1,15})-[A-Za-z0-9_-]{22}$/.exec(token);
	return match ? Number(match[1]) : null;
}

/** Whether a token was made for the row that has its number now. */
export const joinTokenFits = (key: Buffer, token: string, row: Named): boolean =>
	sameSecret(token, joinToken(key, row));

/** Sixteen bits for one text, the same at each try, by which an exchange tells a repeat. */
export const textReference = (nonce: string): number =>
	Buffer.from(nonce.slice(0, 3), 'base64url').readUInt16BE(0);

/**
 * What comes to an address of ours: mail systems' notifications about a copy (`r`), a proof (`p`) or a
 * letter to the staff (`n`) or what we write by ourselves (`j`), people's answers to a copy (`a`), both about a letter of several copies (`d`, `e`), and what staff write to a family in answer to a letter of ours (`s`).
 */
export type Mailbox =
	'return' | 'answer' | 'digest' | 'digest-answer' | 'proof' | 'notice' | 'join' | 'staff';
const letters: Readonly<Record<Mailbox, string>> = {
	return: 'r',
	answer: 'a',
	digest: 'd',
	'digest-answer': 'e',
	proof: 'p',
	notice: 'n',
	join: 'j',
	staff: 's'
};
const mailboxOf = new Map((Object.keys(letters) as Mailbox[]).map((m) => [letters[m], m]));

/** A row that is named outside. */
export interface Named {
	readonly id: number;
	readonly nonce: string;
}

const addressTag = (key: Buffer, mailbox: Mailbox, nonce: string): string =>
	made(key, mailbox, nonce).toString('hex').slice(0, 20);

/** An address of ours for one row. Lower case only: mail systems may fold the case. */
export const addressFor = (key: Buffer, mailbox: Mailbox, row: Named, domain: string): string =>
	`${letters[mailbox]}${row.id}.${addressTag(key, mailbox, row.nonce)}@${domain}`;

/** An address as it is written: what it is for, of which row, and what proves it. */
export interface ReadAddress {
	readonly mailbox: Mailbox;
	readonly id: number;
	readonly tag: string;
}

/** Reads an address of ours, or null where it has not the form of one. Whether it is one, only {@link addressFits} says. */
export function readAddress(address: string): ReadAddress | null {
	const match = /^([radepnjs])(\d{1,15})\.([0-9a-f]{20})@/.exec(address.toLowerCase());
	if (!match) return null;
	return { mailbox: mailboxOf.get(match[1]!)!, id: Number(match[2]), tag: match[3]! };
}

/** Whether people write to an address, with files and pictures: families about a copy, staff about what they were told. */
export const takesWords = (address: string): boolean => {
	const read = readAddress(address);
	return ['answer', 'digest-answer', 'staff'].includes(read?.mailbox ?? '');
};

/** Whether an address was made for the row that has its number now. */
export const addressFits = (key: Buffer, { mailbox, tag }: ReadAddress, nonce: string): boolean =>
	timingSafeEqual(Buffer.from(addressTag(key, mailbox, nonce)), Buffer.from(tag));

/** Message-ID (RFC 5322 section 3.6.4) of a row's letter: the same at each try, so that a mailbox can tell a repeat. */
export const messageId = (
	key: Buffer,
	mailbox: Exclude<Mailbox, 'answer' | 'digest-answer' | 'staff'>,
	row: Named,
	domain: string
): string => `<${row.id}.${addressTag(key, mailbox, row.nonce)}@${domain}>`;

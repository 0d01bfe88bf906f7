import { checkMailAddress } from '../../../core/format/mail-address';
import { codeKey, readCode } from '../../../core/talk/group-code';
import { readJoiner } from '../../../core/talk/joiner';
import { textCommand } from '../../../core/talk/keyword';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import type { MailAnswer } from '../../gateway/return-mail';
import { addressKeyOf, askToJoin, joiningAt } from './join';
import { languageAt } from './joined-person';
import { say } from './notes';
import { groupOfCode } from './open-groups';

/** The mail address of an open group. */
export const mailOfGroup = (code: string, domain: string): string =>
	`join-${code.toLowerCase()}@${domain}`;

/** The key of the code in the mail address of a group; null where it is another address. */
function codeInAddress(address: string): string | null {
	const match = /^join-([a-z0-9]+)@/i.exec(address);
	const read = match && readCode(match[1]!);
	return read?.ok ? codeKey(read.code) : null;
}

/** Whether mail to an address is taken as a wish to join. */
export async function takesJoining(db: Query, address: string): Promise<boolean> {
	const key = codeInAddress(address);
	return key !== null && (await groupOfCode(db, key)) !== null;
}

/** The letter's own Message-ID, where it has one. */
const answersOf = ({ messageKey }: MailAnswer): string | null =>
	messageKey.startsWith('<') ? messageKey : null;

/**
 * Takes a letter to a group's address, which a person has written: whoever it says it is from is asked
 * by mail, since anybody can write any sender. For the same reason STOP takes nobody out by itself: it is
 * answered with the page on which they leave. In the caller's transaction.
 */
export async function joinByMail(
	tx: Query,
	to: string,
	letter: MailAnswer,
	at: number
): Promise<void> {
	const key = codeInAddress(to);
	const group = key === null ? null : await groupOfCode(tx, key);
	const from = checkMailAddress(letter.fromAddress);
	if (!group || !from.ok) return;
	const address = { way: 'email', address: from.value } as const;
	const addressKey = addressKeyOf('email', from.value);
	const before = await joiningAt(tx, group.id, addressKey);
	if ([letter.subject, letter.text].some((words) => textCommand(words) === 'stop')) {
		if (before?.state === 'in') await say(tx, before, 'welcome', at, answersOf(letter));
		return;
	}
	await askToJoin(
		tx,
		group,
		{
			...{ ...address, how: 'mail' },
			...(readJoiner(letter.fromName) ?? { name: '', student: '' }),
			language:
				before?.language ??
				(await languageAt(tx, { ...address, addressKey })) ??
				(await readDistrict(tx)).language,
			answers: answersOf(letter)
		},
		at
	);
}

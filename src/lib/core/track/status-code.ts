/**
 * Enhanced mail status codes (RFC 3463) in plain words. The table holds every code of sections 3.2
 * to 3.8 that says something an office can act on; an unknown detail falls back to its subject, an
 * unknown subject to its class.
 */
const details: Readonly<Record<string, string>> = {
	'1.0': 'the address was refused',
	'1.1': 'the mailbox does not exist',
	'1.2': 'the part after the @ does not exist',
	'1.3': 'the address is not well formed',
	'1.4': 'the address fits more than one mailbox',
	'1.5': 'the address is right',
	'1.6': 'the mailbox has moved and left no new address',
	'1.7': "the sender's address is not well formed",
	'1.8': "the sender's address does not work",
	// RFC 7505 section 4.
	'1.10': 'the part after the @ takes no mail at all',
	'2.0': 'the mailbox does not take this letter',
	'2.1': 'the mailbox is switched off',
	'2.2': 'the mailbox is full',
	'2.3': 'the letter is longer than this mailbox allows',
	'2.4': 'the mailing list behind the address does not work',
	'3.0': 'the mail system there does not take it',
	'3.1': 'the mail system there is full',
	'3.2': 'the mail system there takes no mail now',
	'3.3': 'the mail system there lacks a feature that is needed',
	'3.4': 'the letter is too big for the mail system there',
	'3.5': 'the mail system there is wrongly set up',
	'4.0': 'the way to the mail system there does not work',
	'4.1': 'no answer from the mail system there',
	'4.2': 'the connection to the mail system there broke',
	'4.3': 'the directory of mail systems did not answer',
	'4.4': 'no way to the mail system there is known',
	'4.5': 'the way to the mail system there is overloaded',
	'4.6': 'the letter went round in a circle',
	'4.7': 'it took too long to deliver',
	'5.0': 'the mail systems did not understand each other',
	'5.1': 'the mail systems did not understand each other (command)',
	'5.2': 'the mail systems did not understand each other (syntax)',
	'5.3': 'too many recipients at once',
	'5.4': 'the mail systems did not understand each other (arguments)',
	'5.5': 'the mail systems speak different versions',
	'6.0': 'the content was not taken',
	'6.1': 'this kind of content is not taken there',
	'6.2': 'the content would have to be converted, which is not allowed',
	'6.3': 'the content would have to be converted, which cannot be done',
	'6.4': 'the content was converted with loss',
	'6.5': 'the content could not be converted',
	'7.0': 'refused by a rule of the mail system there',
	'7.1': 'the mail system there does not let us write to this mailbox',
	'7.2': 'the mailing list behind the address does not let us write',
	'7.3': 'a security rule would have to be converted, which cannot be done',
	'7.4': 'a security feature is missing',
	'7.5': 'an encryption step failed',
	'7.6': 'an encryption method is not known there',
	'7.7': 'the letter did not arrive as it was sent'
};

const subjects: Readonly<Record<string, string>> = {
	'1': details['1.0']!,
	'2': details['2.0']!,
	'3': details['3.0']!,
	'4': details['4.0']!,
	'5': details['5.0']!,
	'6': details['6.0']!,
	'7': details['7.0']!
};

export interface StatusCode {
	/** 2 success, 4 persistent transient failure, 5 permanent failure (RFC 3463 section 3.1). */
	readonly class: 2 | 4 | 5;
	/** Subject and detail, "1.1". */
	readonly rest: string;
	/** What it means, a phrase to stand after a colon. */
	readonly text: string;
}

/** Reads the first enhanced status code in a line ("550 5.1.1 no such user", or "5.1.1 (…)" in a notification); null where there is none. */
export function readStatusCode(line: string): StatusCode | null {
	// RFC 3463 section 2: class "." subject "." detail; each of the latter two up to three digits, no leading zeros.
	const match = /(?:^|[\s-])([245])\.(\d{1,3})\.(\d{1,3})(?![\d.])/.exec(line);
	if (!match) return null;
	const [, cls, subject, detail] = match as unknown as [string, string, string, string];
	const rest = `${subject}.${detail}`;
	return {
		class: Number(cls) as 2 | 4 | 5,
		rest,
		text: details[rest] ?? subjects[subject] ?? 'the mail system gave no known reason'
	};
}

/** Plain words for an SMTP reply, with or without an enhanced code; the basic code is RFC 5321 section 4.2.3. */
export function smtpReplyText(reply: string): string {
	const enhanced = readStatusCode(reply);
	if (enhanced) return enhanced.text;
	switch (reply.slice(0, 3)) {
		case '421':
			return details['3.2']!;
		case '450':
		case '550':
			return 'the mailbox was not available';
		case '451':
			return 'an error at the mail system there';
		case '452':
			return details['3.1']!;
		case '552':
			return details['2.2']!;
		case '553':
			return details['1.3']!;
		case '554':
			return 'the mail system there refused it';
		default:
			return 'the mail system gave no known reason';
	}
}

/**
 * Whose matter a refusal for good is: the `address` itself is no good (RFC 3463 sections 3.2 and 3.3, RFC 7505); what
 * the other side has against the `sender` (section 3.8, and 3.2 of the sender's own address), which the next mailbox
 * there would say as well; or anything `else` about this letter or this mailbox.
 */
export type Matter = 'address' | 'sender' | 'else';

const addressCodes = new Set(['1.1', '1.2', '1.3', '1.6', '1.10', '2.1']);
const senderCodes = /^(7\.\d+|1\.7|1\.8|4\.6)$/;
/** What mail systems write where they have something against the sender (common practice), for replies without a code of their own. */
const senderWords =
	/\b(spam|junk|blocked|block ?list|black ?list|deny ?list|reputation|polic(y|ies)|relay(ing)?|spf|dkim|dmarc|not authori[sz]ed|not permitted|access denied|sender (address )?(rejected|denied|blocked|verify|verification)|unauthenticated)\b/i;

/** Whose matter a reply or a status is; `line` may be both, "550 5.7.1 relaying denied". */
export function matterOf(line: string): Matter {
	const code = readStatusCode(line);
	if (code && code.class === 5 && code.rest !== '0.0') {
		if (senderCodes.test(code.rest)) return 'sender';
		if (addressCodes.has(code.rest)) {
			// Some say "5.1.1" and mean a rule of theirs: what they write beside it tells.
			return senderWords.test(line) ? 'sender' : 'address';
		}
		return senderWords.test(line) ? 'sender' : 'else';
	}
	return senderWords.test(line) || /^554\b/.test(line.trim()) ? 'sender' : 'else';
}

import type { Contact, DispatchKind } from '../roster/types';
import type { WayOut } from '../roster/way';

/**
 * Why a person gets no copy, or none by one way. Reasons are data; {@link reasonText} makes the
 * phrase a parent could read.
 */
export type Reason =
	/** `guardian` is false for an aunt or a neighbour; what was written down before it was asked is of guardians. */
	| { readonly code: 'no-custody'; readonly guardian?: boolean }
	/** A roster file named them, and nobody has said yet whether they have custody. */
	| { readonly code: 'custody-unsaid' }
	| { readonly code: 'no-correspondence' }
	| { readonly code: 'no-email' }
	| { readonly code: 'no-number' }
	| { readonly code: 'not-opted-in' }
	| { readonly code: 'opted-out'; readonly way: WayOut }
	| { readonly code: 'declined'; readonly way: 'email' | 'inbox'; readonly kind: DispatchKind }
	| { readonly code: 'no-inbox' }
	| { readonly code: 'address-failing'; readonly way: WayOut; readonly why: string }
	| { readonly code: 'not-on-roster' }
	/** On a fixed list for a student they are no longer tied to. */
	| { readonly code: 'no-longer-tied' }
	/** Joined an open group whose last day is past. */
	| { readonly code: 'group-over' }
	| { readonly code: 'by-hand' }
	/** Taken out by a line of the audience, counted from 0. Said only where nobody else is written to for the student. */
	| { readonly code: 'by-line'; readonly line: number }
	/** Another way has been tried less often with this person in this matter. */
	| { readonly code: 'tried-less' }
	/** The way was changed for this person by hand. */
	| { readonly code: 'way-by-hand' }
	/** Quiet hours, closed days or the pace would move the copy past the dispatch's end. */
	| { readonly code: 'past-end' }
	| { readonly code: 'no-allowed-time' };

/** A whole phrase, without a full stop. `lines` are the audience's lines in words, where they are at hand. */
export function reasonText(reason: Reason, lines: readonly string[] = []): string {
	switch (reason.code) {
		case 'no-custody':
			return reason.guardian === false
				? 'Has no custody of this student'
				: 'Guardian without custody';
		case 'custody-unsaid':
			return 'Nobody has said yet whether they have custody';
		case 'no-correspondence':
			return 'Not to receive correspondence about this student';
		case 'no-email':
			return 'No email address on file';
		case 'no-number':
			return 'No number on file';
		case 'not-opted-in':
			return 'Has not opted in to text';
		case 'opted-out':
			return reason.way === 'text' ? 'Has opted out of text' : 'Asked for no email';
		case 'declined':
			return `Wants no ${reason.kind}s by ${reason.way}`;
		case 'no-inbox':
			return 'No account for the inbox';
		case 'address-failing':
			return reason.way === 'text'
				? `Number does not work: ${reason.why}`
				: `Email address does not work: ${reason.why}`;
		case 'not-on-roster':
			return 'No longer on the roster';
		case 'no-longer-tied':
			return 'No longer a contact of this student';
		case 'group-over':
			return 'The group they joined has ended';
		case 'by-hand':
			return 'Taken out by hand';
		case 'by-line':
			return lines[reason.line] === undefined
				? `Taken out by line ${reason.line + 1}`
				: `Taken out by “but not ${lines[reason.line]}”`;
		case 'way-by-hand':
			return 'Another way was chosen by hand';
		case 'tried-less':
			return 'Gets it by a way that was tried less';
		case 'past-end':
			return 'Could only leave after its end time';
		case 'no-allowed-time':
			return 'No time outside quiet hours in the next 120 days';
	}
}

/** What a reason is filtered and counted by: the same for everyone whom the same holds for, whatever its cause. */
export function reasonKey(reason: Reason): string {
	switch (reason.code) {
		case 'no-custody':
			return reason.guardian === false ? 'no-custody-other' : reason.code;
		case 'opted-out':
		case 'address-failing':
			return `${reason.code}-${reason.way}`;
		case 'declined':
			return `${reason.code}-${reason.way}-${reason.kind}`;
		case 'by-line':
			return `${reason.code}-${reason.line}`;
		default:
			return reason.code;
	}
}

/** Several reasons as phrases, one after another. */
export const reasonsText = (reasons: readonly Reason[], lines: readonly string[] = []): string =>
	reasons.map((r) => reasonText(r, lines)).join('. ');

/** Why a guardian is passed over for one student, or null when they are to be written to. Custody weighs first: it is the law's word, correspondence the school's. */
export function dutyReason(contact: Contact): Reason | null {
	if (contact.custody === null) return custodyUnsaid;
	if (!contact.custody) return contact.guardian ? noCustody : noCustodyOfOthers;
	if (!contact.correspondence) return noCorrespondence;
	return null;
}
/** Reasons by which somebody was never meant to be written to for a student. */
export const neverMeant: readonly Reason['code'][] = [
	'no-custody',
	'no-correspondence',
	'by-hand',
	'by-line',
	'not-on-roster',
	'no-longer-tied'
];
export const isNeverMeant = ({ code }: Reason): boolean => neverMeant.includes(code);

const noCustody: Reason = { code: 'no-custody' };
const noCustodyOfOthers: Reason = { code: 'no-custody', guardian: false };
const custodyUnsaid: Reason = { code: 'custody-unsaid' };
const noCorrespondence: Reason = { code: 'no-correspondence' };

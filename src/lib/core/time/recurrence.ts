import { DateTime } from 'luxon';
import * as library from 'rrule';
import type { Options } from 'rrule';
import { localTimePattern, type LocalTime } from './local';

// The package is CommonJS under Node and a module elsewhere.
const { RRule, rrulestr } = (
	'rrulestr' in library ? library : (library as { default: unknown }).default
) as typeof import('rrule');

/** A recurrence rule (RFC 5545 section 3.3.10) as text, without "RRULE:". */
export type RuleText = string;

export type ReadRule =
	| { readonly ok: true; readonly rule: RuleText; readonly words: string }
	| { readonly ok: false; readonly why: string };

/** Most dates that a round may have. */
export const mostDates = 400;

const day = '(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?s?';
const ordinal = '(?:first|second|third|fourth|last|1st|2nd|3rd|4th)';

/** Ways of saying that the reader below does not know, said as it does. */
function usual(text: string): string {
	return text
		.trim()
		.toLowerCase()
		.replace(/\beach\b/g, 'every')
		.replace(/^(?:on )?(?:every )?school days?\b/, 'every weekday')
		.replace(/^(?:daily)\b/, 'every day')
		.replace(/^(?:weekly|monthly)\b/, (m) => `every ${m === 'weekly' ? 'week' : 'month'}`)
		.replace(/\bevery (?:other|second) (day|week|month)s?\b/, 'every 2 $1s')
		.replace(new RegExp(`\\bevery (?:other|second) (${day})`), 'every 2 weeks on $1')
		.replace(
			new RegExp(`^(?:on )?(?:the )?(${ordinal}) (${day}) (?:of|in) (?:the|every|a) month`),
			'every month on the $1 $2'
		)
		.replace(new RegExp(`^(?:on )?(?=${day}\\b)`), 'every ')
		.replace(new RegExp(`\\b(${day})\\b`, 'g'), (m) =>
			m.replace(/s$/, '').replace(/^tue$/, 'tuesday')
		)
		.replace(/(?:,|\bfor)?\s*\b(\d+) times$/, ' for $1 times');
}

/** Reads a repetition as people say it ("every other tuesday until june 11, 2027") or as a rule of RFC 5545. What cannot be read comes back with what would be. */
export function readRule(text: string): ReadRule {
	const rule = text.trim().replace(/^RRULE:/i, '');
	try {
		if (/(^|;)FREQ=/i.test(rule)) {
			const parsed = rrulestr(rule.toUpperCase());
			return { ok: true, rule: rule.toUpperCase(), words: parsed.toText() };
		}
		const options = RRule.parseText(usual(text));
		if (options && options.freq !== undefined) {
			const read = RRule.optionsToString(options).replace(/^RRULE:/, '');
			// "Until June 11" takes June 11 in.
			const whole = read.replace(/UNTIL=(\d{8})T\d{6}Z?/, 'UNTIL=$1');
			return { ok: true, rule: whole, words: ruleWords(whole) };
		}
	} catch {
		// Told below, in our words.
	}
	return {
		ok: false,
		why: `"${text.trim().slice(0, 60)}" cannot be read as a repetition. Say it like "every tuesday and thursday until june 11, 2027", "every 2 weeks on monday for 6 times" or "every month on the first friday".`
	};
}

/** A rule as a sentence: "every week on Tuesday until June 11, 2027". */
export const ruleWords = (rule: RuleText): string =>
	rrulestr(rule.replace(/UNTIL=(\d{8})(?![T\d])/, 'UNTIL=$1T235959')).toText();

/** Whether a rule says when it stops. */
export const hasEnd = (rule: RuleText): boolean => /(^|;)(UNTIL|COUNT)=/.test(rule);

/**
 * The rule's end on the wall clock of its zone. RFC 5545 section 3.3.10: with a start in local time
 * and a zone, UNTIL is in UTC; a date alone is the whole of that day.
 */
function onTheWall(rule: RuleText, zone: string): RuleText {
	return rule
		.replace(/UNTIL=(\d{8}T\d{6})Z/, (_, utc: string) => {
			const at = DateTime.fromFormat(utc, "yyyyMMdd'T'HHmmss", { zone: 'utc' });
			return `UNTIL=${at.setZone(zone).toFormat("yyyyMMdd'T'HHmmss")}`;
		})
		.replace(/UNTIL=(\d{8})(?![T\d])/, 'UNTIL=$1T235959');
}

/**
 * The local times a rule comes to, from its first on (RFC 5545: the start counts as one where the
 * rule fits it), at most `most`. They are worked out on the wall clock; placing them in the zone is
 * the caller's, so that a weekly 7:05 stays 7:05. Throws a RangeError for a rule that is none:
 * {@link readRule} has read it before.
 */
export function timesOfRule(
	rule: RuleText,
	first: LocalTime,
	zone: string,
	most = mostDates
): LocalTime[] {
	if (!localTimePattern.test(first)) throw new RangeError(`Not a local time: ${first}`);
	let options: Partial<Options>;
	try {
		options = RRule.parseString(onTheWall(rule, zone));
	} catch {
		throw new RangeError(`Not a recurrence rule: ${rule}`);
	}
	const times: LocalTime[] = [];
	new RRule({ ...options, dtstart: new Date(`${first}Z`) }).all((date, n) => {
		if (n >= most) return false;
		times.push(date.toISOString().slice(0, 16));
		return true;
	});
	return times;
}

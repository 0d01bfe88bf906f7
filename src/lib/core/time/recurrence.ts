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

/** Days on which it is looked whether a rule can come true at all: leap days, and years that begin on each day of the week, are among them (28 years, once over a year without February 29). */
const daysLooked = 40 * 366;

/**
 * Whether any day fits what a rule asks of days. One that asks for February 30 would be looked for to the year 9999 by
 * the package, for a quarter of a minute; of rules by the month and by the year it looks at a step each, which is soon over.
 */
function canComeTrue(options: Partial<Options>): boolean {
	const list = (value: number | readonly number[] | null | undefined): readonly number[] =>
		value === null || value === undefined ? [] : [value].flat();
	const [months, monthDays, yearDays, positions] = [
		list(options.bymonth),
		list(options.bymonthday),
		list(options.byyearday),
		list(options.bysetpos)
	];
	const weekdays = [options.byweekday ?? []]
		.flat()
		.map((d) =>
			typeof d === 'number' ? d : typeof d === 'string' ? weekdayNames.indexOf(d) : d.weekday
		);
	const byDay = options.freq === RRule.DAILY || options.freq === RRule.WEEKLY;
	if (byDay && positions.length > 0) {
		// Of each week or day there are only so many to choose from.
		const among = options.freq === RRule.DAILY ? 1 : Math.max(1, weekdays.length);
		if (positions.every((p) => Math.abs(p) > among)) return false;
	}
	if (
		!byDay &&
		options.freq !== RRule.HOURLY &&
		options.freq !== RRule.MINUTELY &&
		options.freq !== RRule.SECONDLY
	) {
		return true;
	}
	for (let n = 0; n < daysLooked; n += 1) {
		const day = new Date(Date.UTC(2000, 0, 1 + n));
		const [year, month] = [day.getUTCFullYear(), day.getUTCMonth()];
		const inMonth = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
		const inYear = new Date(Date.UTC(year, 1, 29)).getUTCMonth() === 1 ? 366 : 365;
		const ofYear = Math.floor((day.getTime() - Date.UTC(year, 0, 1)) / 86_400_000) + 1;
		const fits = (wanted: readonly number[], n: number, of: number) =>
			wanted.length === 0 || wanted.includes(n) || wanted.includes(n - of - 1);
		if (
			(months.length === 0 || months.includes(month + 1)) &&
			fits(monthDays, day.getUTCDate(), inMonth) &&
			fits(yearDays, ofYear, inYear) &&
			(weekdays.length === 0 || weekdays.includes((day.getUTCDay() + 6) % 7))
		) {
			return true;
		}
	}
	return false;
}
const weekdayNames: readonly string[] = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

/** What of a rule that can be read makes it none for a round, in words; null where nothing does. */
export function roundProblem(rule: RuleText): string | null {
	if (/(?:^|;)FREQ=(SECONDLY|MINUTELY|HOURLY)/.test(rule)) {
		return 'It repeats within a day. A round leaves once a day at most.';
	}
	if (/(?:^|;)BY(SECOND|MINUTE|HOUR)=/.test(rule)) {
		return 'The time of day is that of the first date. Leave the hours out of the rule.';
	}
	return null;
}

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
			const upper = rule.toUpperCase();
			const words = rrulestr(upper).toText();
			const why = roundProblem(upper);
			return why === null ? { ok: true, rule: upper, words } : { ok: false, why };
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
	if (!canComeTrue(options)) return times;
	new RRule({ ...options, dtstart: new Date(`${first}Z`) }).all((date, n) => {
		if (n >= most) return false;
		times.push(date.toISOString().slice(0, 16));
		return true;
	});
	return times;
}

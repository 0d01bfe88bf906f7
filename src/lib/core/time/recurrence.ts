import { nameList } from '../copy/names';
import { DateTime } from 'luxon';
import * as library from 'rrule';
import type { Options } from 'rrule';
import { localTimePattern, type LocalTime } from './local';
import { capital, dateWords } from './said-day';
import { monthNames, weekdayNames } from './said';

// The package is CommonJS under Node and a module elsewhere.
const { RRule, rrulestr } = (
	'rrulestr' in library ? library : (library as { default: unknown }).default
) as typeof import('rrule');

/** A recurrence rule (RFC 5545 section 3.3.10) as text, without "RRULE:". */
export type RuleText = string;

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
			typeof d === 'number' ? d : typeof d === 'string' ? weekdayCodes.indexOf(d) : d.weekday
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

/** A rule as a sentence: "every week on Tuesday until June 11, 2027". What goes beyond that is said by the package, or stands as it is. Throws for what is no rule. */
export function ruleWords(rule: RuleText): string {
	const own = plainWords(rule);
	if (own !== null) return own;
	const read = rrulestr(rule.replace(/UNTIL=(\d{8})(?![T\d])/, 'UNTIL=$1T235959'));
	return read.isFullyConvertibleToText() ? read.toText() : `by the rule ${rule}`;
}

const plainParts = ['FREQ', 'INTERVAL', 'BYDAY', 'BYMONTHDAY', 'BYMONTH', 'UNTIL', 'COUNT'];
const unitOf: Readonly<Record<string, string>> = {
	DAILY: 'day',
	WEEKLY: 'week',
	MONTHLY: 'month',
	YEARLY: 'year'
};
const weekdayCodes = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const nthWords: Readonly<Record<string, string>> = {
	'1': 'first',
	'2': 'second',
	'3': 'third',
	'4': 'fourth',
	'5': 'fifth',
	'-1': 'last',
	'-2': 'second to last'
};
const suffix = (n: number): string =>
	n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');

/** The words of a rule of the plain kind, which are read again as the same; null for any other. */
function plainWords(rule: RuleText): string | null {
	const parts = new Map(rule.split(';').map((p) => p.split('=', 2) as [string, string]));
	if ([...parts.keys()].some((key) => !plainParts.includes(key))) return null;
	const list = (key: string) => parts.get(key)?.split(',') ?? [];
	const unit = unitOf[parts.get('FREQ') ?? ''];
	const interval = Number(parts.get('INTERVAL') ?? 1);
	if (!unit || !(interval >= 1)) return null;
	const days = list('BYDAY').map((d) => /^([+-]?\d+)?(MO|TU|WE|TH|FR|SA|SU)$/.exec(d));
	if (days.some((d) => d === null)) return null;
	const nth = days.filter((d) => d![1] !== undefined);
	const monthDays = list('BYMONTHDAY').map(Number);
	const months = list('BYMONTH').map((m) => capital(monthNames[Number(m) - 1] ?? ''));
	const name = (code: string) => capital(weekdayNames[weekdayCodes.indexOf(code)]!);
	const names = days.map((d) => name(d![2]!));
	let words = interval === 1 ? `every ${unit}` : `every ${interval} ${unit}s`;
	if (unit === 'year') {
		if (months.length !== 1 || monthDays.length !== 1 || days.length > 0 || monthDays[0]! < 1) {
			return null;
		}
		words += ` on ${months[0]} ${monthDays[0]}`;
	} else if (unit === 'month') {
		if (nth.length !== days.length || (days.length > 0 && monthDays.length > 0)) return null;
		if (days.length > 0) {
			const ns = days.map((d) => nthWords[String(Number(d![1]))]);
			if (ns.includes(undefined)) return null;
			const same = new Set(names).size === 1;
			words += ` on the ${nameList(same ? [...(ns as string[])] : ns.map((n, i) => `${n} ${names[i]}`))}${same ? ` ${names[0]}` : ''}`;
		} else if (monthDays.length > 0) {
			if (
				monthDays.some((d) => d < -1 || d === 0) ||
				(monthDays.includes(-1) && monthDays.length > 1)
			) {
				return null;
			}
			words += ` on the ${monthDays[0] === -1 ? 'last day' : nameList(monthDays.map((d) => `${d}${suffix(d)}`))}`;
		}
	} else {
		if (nth.length > 0 || monthDays.length > 0) return null;
		if (days.length > 0) {
			words =
				unit === 'week' && interval === 1 && list('BYDAY').join() === 'MO,TU,WE,TH,FR'
					? 'every weekday'
					: `${words} on ${nameList(names)}`;
		}
	}
	if (unit !== 'year' && months.length > 0) words += ` in ${nameList(months)}`;
	const until = /^(\d{4})(\d\d)(\d\d)(T\d{6}Z?)?$/.exec(parts.get('UNTIL') ?? '');
	if (parts.has('UNTIL') && !until) return null;
	if (until) words += ` until ${dateWords(`${until[1]}-${until[2]}-${until[3]}`)}`;
	const count = parts.get('COUNT');
	if (count !== undefined) words += ` for ${count} ${count === '1' ? 'time' : 'times'}`;
	return words;
}

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
 * `readRule` has read it before.
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

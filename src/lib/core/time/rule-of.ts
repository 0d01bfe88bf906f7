import { nameList } from '../copy/names';
import { dayAfter, weekdayOf, type LocalTime } from './local';
import { ruleWords, timesOfRule, type RuleText } from './recurrence';
import { capital, dateWords, isoDate } from './said-day';
import { NotRead, weekdayNames } from './said';
import type { Often, Unit } from './said-often';
import { clockWords } from './zone';

/** A repetition as it was understood. */
export interface RepetitionRead {
	readonly rule: RuleText;
	/** It in words, which are read as the same. */
	readonly words: string;
	/** Dates (ISO) that are left out of it. */
	readonly except: readonly string[];
	/** Where it was said: the day (ISO) it starts on, and the time of day ("14:15"). */
	readonly starts: string | null;
	readonly time: string | null;
	/** Whether only school days were asked for. */
	readonly schoolDays: boolean;
}

/** What was said of a repetition beside how often; what was not said is null or empty. */
export interface SaidRepetition {
	/** Dates (ISO) on which it starts, and after which it ends. */
	readonly starts: string | null;
	readonly until: string | null;
	readonly count: number | null;
	readonly length: { readonly amount: number; readonly unit: Unit } | null;
	/** Time of day ("14:15"). */
	readonly time: string | null;
	/** Months (1 to 12) within which it stays, and their year. */
	readonly months: readonly number[];
	readonly monthsYear: number | null;
	/** Weekdays (1 for Monday) and dates (ISO) left out. */
	readonly exceptDays: readonly number[];
	readonly exceptDates: readonly string[];
}

const codes = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;

/** The rule of one way of understanding it. */
export function ruleOf(said: SaidRepetition, meant: Often, first: LocalTime): RepetitionRead {
	const firstDay = said.starts ?? first.slice(0, 10);
	const time = said.time ?? first.slice(11);
	if (meant.part !== null) {
		const hour = Number(time.slice(0, 2));
		const fits = { morning: hour < 12, afternoon: hour >= 12 && hour < 18, evening: hour >= 17 }[
			meant.part
		];
		if (!fits)
			throw new NotRead(
				`“${meant.part}” does not go with ${clockWords(time)}. Say "every day" and set the time of the first.`
			);
	}
	let { weekdays } = meant;
	if (said.exceptDays.length > 0) {
		if (meant.unit !== 'day' && meant.unit !== 'week') {
			throw new NotRead('Weekdays can only be left out of days or weeks.');
		}
		const among =
			weekdays.length > 0
				? weekdays
				: meant.unit === 'day'
					? [1, 2, 3, 4, 5, 6, 7]
					: [weekdayOf(firstDay)];
		const odd = said.exceptDays.find((d) => !among.includes(d));
		if (odd !== undefined)
			throw new NotRead(`${capital(weekdayNames[odd - 1]!)} is not among its days.`);
		weekdays = among.filter((d) => !said.exceptDays.includes(d));
		if (weekdays.length === 0) throw new NotRead('That leaves no day.');
	}
	// Every day of a week is every day; days of the week, every one of them, are weekly.
	const daysOfWeek = meant.unit === 'day' && meant.interval === 1 && weekdays.length > 0;
	const parts: string[] = [
		`FREQ=${daysOfWeek ? 'WEEKLY' : { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' }[meant.unit]}`
	];
	if (meant.interval > 1) parts.push(`INTERVAL=${meant.interval}`);
	let until = said.until;
	if (said.months.length > 0) {
		if (meant.unit === 'year') throw new NotRead('A day of the year has its month already.');
		const bound = boundOfMonths(said, firstDay);
		parts.push(`BYMONTH=${[...new Set(said.months)].sort((a, b) => a - b).join(',')}`);
		if (said.count === null && said.length === null && until === null) until = bound;
	} else if (meant.month !== null) parts.push(`BYMONTH=${meant.month}`);
	if (weekdays.length > 0) parts.push(`BYDAY=${weekdays.map((d) => codes[d - 1]).join(',')}`);
	if (meant.nth.length > 0)
		parts.push(`BYDAY=${meant.nth.map(({ n, weekday }) => `${n}${codes[weekday - 1]}`).join(',')}`);
	if (meant.monthDays.length > 0) parts.push(`BYMONTHDAY=${meant.monthDays.join(',')}`);
	if (meant.month !== null && isoDate(2000, meant.month, meant.monthDays[0]!) === null) {
		throw new NotRead('There is no such day.');
	}
	if (said.length) until = dayAfter(later(firstDay, said.length), -1);
	if (until !== null) {
		if (until < firstDay)
			throw new NotRead(
				`Its end, ${dateWords(until)}, is before its first day, ${dateWords(firstDay)}.`
			);
		parts.push(`UNTIL=${until.replaceAll('-', '')}`);
	} else if (said.count !== null) parts.push(`COUNT=${said.count}`);
	const rule = parts.join(';');
	const except = [...new Set(said.exceptDates)].sort();
	if (except.length > 0) {
		const dates = new Set(
			timesOfRule(rule, `${firstDay}T${time}`, 'UTC').map((t) => t.slice(0, 10))
		);
		const odd = except.find((d) => !dates.has(d));
		if (odd !== undefined) throw new NotRead(`${dateWords(odd)} is not among its dates.`);
	}
	return {
		rule,
		words: repetitionWords(rule, except),
		except,
		starts: said.starts,
		time: said.time,
		schoolDays: meant.schoolDays
	};
}

/** The last day of the months that were said, the next time they come. */
function boundOfMonths({ months, monthsYear }: SaidRepetition, firstDay: string): string {
	const [year, month] = [Number(firstDay.slice(0, 4)), Number(firstDay.slice(5, 7))];
	const last = months.at(-1)!;
	if (monthsYear !== null) return lastDayOf(last, monthsYear, firstDay);
	// Months that have begun but not ended are the present ones.
	const ahead = Math.max(...months.map((m) => (m - month + 12) % 12));
	const at = month - 1 + ahead;
	return lastDayOf((at % 12) + 1, year + Math.floor(at / 12), firstDay);
}

/** The last day of a month; without a year that of the next such month that has not ended before `from`. */
export function lastDayOf(month: number, year: number | null, from: string): string {
	const of = (y: number) => new Date(Date.UTC(y, month, 0)).toISOString().slice(0, 10);
	if (year !== null) return of(year);
	const here = Number(from.slice(0, 4));
	return of(here) >= from ? of(here) : of(here + 1);
}

/** The day so long after another: the same day of a later month, or its last. */
function later(date: string, { amount, unit }: { amount: number; unit: Unit }): string {
	if (unit === 'day') return dayAfter(date, amount);
	if (unit === 'week') return dayAfter(date, amount * 7);
	const [year, month, day] = date.split('-').map(Number) as [number, number, number];
	const at = month - 1 + amount * (unit === 'year' ? 12 : 1);
	const [y, m] = [year + Math.floor(at / 12), (at % 12) + 1];
	return isoDate(y, m, day) ?? lastDayOf(m, y, date);
}

/** A rule with the dates left out of it, in words that {@link readRule} reads again. */
export const repetitionWords = (rule: RuleText, except: readonly string[] = []): string =>
	ruleWords(rule) + (except.length > 0 ? ` except ${nameList(except.map(dateWords))}` : '');

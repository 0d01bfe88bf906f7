import { nameList } from '../copy/names';
import { dayAfter, weekdayOf, type LocalTime } from './local';
import { roundProblem, ruleWords, timesOfRule, type RuleText } from './recurrence';
import {
	capital,
	dateWords,
	isoDate,
	placeDay,
	Said,
	takeDay,
	takeTime,
	weekdayNames,
	type DateOrder
} from './said';
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

export type ReadRule =
	| ({ readonly ok: true } & RepetitionRead)
	| {
			readonly ok: false;
			readonly why: string;
			/** Where a person could mean several things: each of them. */
			readonly choices: readonly RepetitionRead[];
	  };

/** What reading stops with. */
class Stop extends Error {}

const codes = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
const workdays: readonly number[] = [1, 2, 3, 4, 5];
const weekend: readonly number[] = [6, 7];

type Unit = 'day' | 'week' | 'month' | 'year';
const units: Readonly<Record<string, Unit>> = {
	day: 'day',
	days: 'day',
	week: 'week',
	weeks: 'week',
	month: 'month',
	months: 'month',
	year: 'year',
	years: 'year'
};
const adverbs: Readonly<Record<string, readonly [Unit, number]>> = {
	daily: ['day', 1],
	weekly: ['week', 1],
	monthly: ['month', 1],
	yearly: ['year', 1],
	annually: ['year', 1],
	fortnightly: ['week', 2]
};

/** How often: the unit, and which days of it. */
interface Often {
	readonly unit: Unit;
	readonly interval: number;
	/** Weekdays, 1 for Monday. */
	readonly weekdays: readonly number[];
	/** The nth of a weekday in the month; from the end below zero. */
	readonly nth: readonly { readonly n: number; readonly weekday: number }[];
	readonly monthDays: readonly number[];
	/** A day of the year. */
	readonly month: number | null;
	readonly schoolDays: boolean;
	/** Part of the day that was said, with what it asks of the time. */
	readonly part: 'morning' | 'afternoon' | 'evening' | null;
	/** Another way of understanding it. */
	readonly other: Often | null;
}
const often = (unit: Unit, over: Partial<Often> = {}): Often => ({
	unit,
	interval: 1,
	weekdays: [],
	nth: [],
	monthDays: [],
	month: null,
	schoolDays: false,
	part: null,
	other: null,
	...over
});

const usual =
	'Say it like "every tuesday and thursday until june 11, 2027", "every 2 weeks on monday for 6 times" or "every month on the first friday".';

/**
 * Reads a repetition as people say it ("first and third monday until june 11", "mon wed fri except
 * april 6", "every day in april") or as a rule of RFC 5545. Every word is accounted for; what is not is
 * refused and named. Days without a year are the next ones from `first` on, the round's first time.
 */
export function readRule(
	text: string,
	first: LocalTime,
	order: DateOrder = 'month-first'
): ReadRule {
	const typed = text.trim();
	const refuse = (because: string): ReadRule => ({
		ok: false,
		why: `"${typed.slice(0, 60)}" cannot be read as a repetition. ${usual}${because ? ` ${because}` : ''}`,
		choices: []
	});
	if (typed === '' || typed.length > 300) return refuse('');
	if (/(^|;)FREQ=/i.test(typed.replace(/^RRULE:/i, ''))) return readStandard(typed, refuse);
	try {
		const readings = new Reader(typed, first, order).readings();
		const [one, ...more] = readings;
		if (more.length === 0) return { ok: true, ...one! };
		return {
			ok: false,
			why: `Which is meant: ${readings.map((r) => `“${r.words}”`).join(' or ')}?`,
			choices: readings
		};
	} catch (error) {
		if (error instanceof Stop) return refuse(error.message);
		throw error;
	}
}

/** A rule as the standard writes it. */
function readStandard(typed: string, refuse: (because: string) => ReadRule): ReadRule {
	const rule = typed.replace(/^RRULE:/i, '').toUpperCase();
	let words: string;
	try {
		words = ruleWords(rule);
	} catch {
		return refuse('');
	}
	const why = roundProblem(rule);
	return why === null
		? { ok: true, rule, words, except: [], starts: null, time: null, schoolDays: false }
		: { ok: false, why, choices: [] };
}

class Reader {
	readonly #said: Said;
	#often: Often | null = null;
	#until: string | null = null;
	#count: number | null = null;
	#length: { amount: number; unit: Unit } | null = null;
	#starts: string | null = null;
	#time: string | null = null;
	#months: number[] = [];
	#monthsYear: number | null = null;
	#exceptDays: number[] = [];
	#exceptDates: string[] = [];

	constructor(
		text: string,
		readonly first: LocalTime,
		readonly order: DateOrder
	) {
		this.#said = new Said(text.replace(/&/g, ' and '));
	}

	readings(): RepetitionRead[] {
		const said = this.#said;
		while (!said.done) {
			if (said.take(',') || said.take('.') || said.take(';')) continue;
			if (
				this.#end() ||
				this.#start() ||
				this.#without() ||
				this.#inMonths() ||
				this.#clock() ||
				this.#howOften()
			) {
				continue;
			}
			throw new Stop(`Not understood: “${said.rest}”.`);
		}
		if (!this.#often) throw new Stop('It does not say how often.');
		const meant = [this.#often, ...(this.#often.other ? [this.#often.other] : [])];
		return meant.map((o) => this.#read(o));
	}

	#once(has: boolean, what: string): void {
		if (has) throw new Stop(`It says twice ${what}.`);
	}

	/** A day, seen from the start of the round, or from another day. */
	#day(from = this.#starts ?? this.first.slice(0, 10)): string | null {
		const said = this.#said;
		return said.try(() => {
			const day = takeDay(said, this.order);
			if (day) {
				const placed = placeDay(day, from);
				if ('why' in placed) throw new Stop(placed.why);
				return placed.date;
			}
			const endOf = said.takeAny('the end of', 'end of');
			const month = said.month();
			if (endOf !== null && month !== null) {
				const year = said.next.length === 4 ? said.figures(4) : null;
				return lastDayOf(month, year, from);
			}
			return null;
		});
	}

	/** "until june 11", "through june 11, 2027", "for 6 times", "for 2 weeks", "from … to …". */
	#end(): boolean {
		const said = this.#said;
		const until = said.try(() => {
			if (
				said.takeAny(
					'until',
					'till',
					'til',
					'through',
					'thru',
					'ending on',
					'ending',
					'ends on',
					'up to'
				) === null
			)
				return null;
			said.takeAny('and including', 'including');
			const date = this.#day();
			if (date !== null) return date;
			const weekday = said.weekday();
			const from = this.first.slice(0, 10);
			return weekday === null ? null : dayAfter(from, (weekday - weekdayOf(from) + 7) % 7);
		});
		if (until) {
			this.#ends(until);
			return true;
		}
		const times = said.try(() => {
			said.take('for');
			const n = said.number();
			return n !== null && said.takeAny('times', 'time', 'occurrences', 'dates') ? n : null;
		});
		if (times !== null) {
			this.#once(
				this.#count !== null || this.#until !== null || this.#length !== null,
				'when it ends'
			);
			if (times < 1) throw new Stop('It needs at least one date.');
			this.#count = times;
			return true;
		}
		const length = said.try(() => {
			if (!said.take('for')) return null;
			said.takeAny('the next', 'next');
			const amount = said.takeAny('a', 'one') !== null ? 1 : said.number();
			const unit = units[said.next];
			if (amount === null || amount < 1 || !unit) return null;
			said.take(said.next);
			return { amount, unit };
		});
		if (length) {
			this.#once(
				this.#count !== null || this.#until !== null || this.#length !== null,
				'when it ends'
			);
			this.#length = length;
			return true;
		}
		return false;
	}

	#ends(date: string): void {
		this.#once(
			this.#count !== null || this.#until !== null || this.#length !== null,
			'when it ends'
		);
		this.#until = date;
	}

	/** "starting april 6", "from april 6 to may 10", "between april 6 and may 10". */
	#start(): boolean {
		const said = this.#said;
		const starts = said.try(() => {
			const word = said.takeAny(
				'starting on',
				'starting',
				'beginning on',
				'beginning',
				'as of',
				'from',
				'between'
			);
			if (word === null) return null;
			const date = this.#day();
			if (date === null) return null;
			if (word === 'between' && !said.take('and')) return null;
			const to =
				word === 'between' || (word === 'from' && said.takeAny('to', 'through', 'until', 'till'))
					? this.#day(date)
					: null;
			if (word === 'between' && to === null) return null;
			return { date, to };
		});
		if (!starts) return false;
		this.#once(this.#starts !== null, 'when it starts');
		this.#starts = starts.date;
		if (starts.to !== null) this.#ends(starts.to);
		return true;
	}

	/** "except sunday", "except april 6 and april 13". */
	#without(): boolean {
		const said = this.#said;
		if (
			said.takeAny(
				'except for',
				'except on',
				'except',
				'excluding',
				'but not on',
				'but not',
				'without'
			) === null
		)
			return false;
		const things = this.#list((): { date: string } | { days: readonly number[] } | null => {
			said.take('on');
			const date = this.#day();
			if (date !== null) return { date };
			if (said.takeAny('weekends', 'weekend')) return { days: weekend };
			const weekday = said.weekday();
			return weekday === null ? null : { days: [weekday] };
		});
		if (!things) throw new Stop(`Not understood: “except ${said.rest}”.`);
		for (const thing of things) {
			if ('date' in thing) this.#exceptDates.push(thing.date);
			else this.#exceptDays.push(...thing.days);
		}
		return true;
	}

	/** One or more of the same, with a joint between each: "a, b and c", "a/b"; null where not even one stands next. */
	#list<T>(item: () => T | null): T[] | null {
		const said = this.#said;
		const first = said.try(item);
		if (first === null) return null;
		const list = [first];
		for (;;) {
			const next = said.try(() => {
				if (said.takeAny(', and', 'and', ',', '/', '+') === null) return null;
				return item();
			});
			if (next === null) return list;
			list.push(next);
		}
	}

	/** "in april", "during april and may 2027": within these months, the next time they come. */
	#inMonths(): boolean {
		const said = this.#said;
		const months = said.try(() => {
			if (said.takeAny('in', 'during') === null) return null;
			return this.#list(() => said.month());
		});
		if (!months) return false;
		this.#once(this.#months.length > 0, 'in which months');
		this.#months = months;
		if (said.next.length === 4) this.#monthsYear = said.figures(4);
		return true;
	}

	/** "at 7:15 am": the time of the round, where it says which half of the day. */
	#clock(): boolean {
		const said = this.#said;
		const time = said.try(() => (said.next === 'at' || said.next === '@' ? takeTime(said) : null));
		if (!time) return false;
		this.#once(this.#time !== null, 'at what time');
		if (time.half === null && !(time.minutesSaid && time.hour >= 7) && time.hour !== 12) {
			throw new Stop(`At ${time.hour} in the morning or in the afternoon? Add am or pm.`);
		}
		this.#time = `${String(time.hour).padStart(2, '0')}:${String(time.minute).padStart(2, '0')}`;
		return true;
	}

	#howOften(): boolean {
		const said = this.#said;
		const found = said.try(() => this.#takeOften());
		if (!found) return false;
		this.#once(this.#often !== null, 'how often');
		this.#often = found;
		return true;
	}

	#takeOften(): Often | null {
		const said = this.#said;
		said.take('once');
		said.take('on');
		const adverb = adverbs[said.next];
		if (adverb) {
			said.take(said.next);
			return this.#onWhich(adverb[0], adverb[1]);
		}
		const every = said.takeAny('every', 'each', 'all', 'a', 'per');
		if (every !== null) {
			const counted = said.try(() => {
				const other = said.take('other');
				const n = other ? 2 : said.number();
				const unit = units[said.next];
				if (!unit || (!other && n === null)) return null;
				said.take(said.next);
				return { unit, interval: n! };
			});
			if (counted) {
				if (counted.interval < 1) throw new Stop('It must be every 1 or more.');
				return this.#onWhich(counted.unit, counted.interval);
			}
			if (said.take('second') && said.next in units && !said.next.endsWith('s')) {
				const unit = units[said.next]!;
				said.take(said.next);
				if (unit !== 'day') return this.#onWhich(unit, 2);
				// "every second day of the month" is a date, not a stretch.
				if (!this.#ofTheMonth()) return this.#onWhich('day', 2);
				return often('month', { monthDays: [2] });
			}
			if (said.since(said.at - 1).toLowerCase() === 'second') said.at -= 1;
			if (said.take('other')) {
				const weekdays = this.#weekdays();
				return weekdays === null ? null : often('week', { interval: 2, weekdays });
			}
			const part = said.takeAny('morning', 'afternoon', 'evening');
			if (part) return often('day', { part: part as Often['part'] });
			const unit = units[said.next];
			if (unit && !said.next.endsWith('s')) {
				said.take(said.next);
				return this.#onWhich(unit, 1);
			}
		}
		const nth = this.#nthWeekdays();
		if (nth) {
			const ofMonth = this.#ofTheMonth();
			const [one] = nth;
			// "every second tuesday": every other one to some, the second of the month to others.
			if (!ofMonth && every === 'every' && nth.length === 1 && one!.n >= 2) {
				return often('week', {
					interval: one!.n,
					weekdays: [one!.weekday],
					other: often('month', { nth })
				});
			}
			return often('month', { nth });
		}
		const dayOfYear = said.try(() => {
			const day = takeDay(said, this.order);
			if (!day || day.month === null || day.year !== null || every === null) return null;
			return often('year', { month: day.month, monthDays: [day.day] });
		});
		if (dayOfYear) return dayOfYear;
		const monthDays = said.try(() => {
			const days = this.#monthDays();
			return days !== null && (this.#ofTheMonth() || every !== null) ? days : null;
		});
		if (monthDays) return often('month', { monthDays });
		const weekdays = this.#weekdays();
		if (weekdays) return often('week', { weekdays, schoolDays: this.#schoolDays });
		return null;
	}

	/** What may follow a unit: "every 2 weeks on monday", "every month on the first friday", "every year on march 12". */
	#onWhich(unit: Unit, interval: number): Often {
		const said = this.#said;
		const on = said.try(() => {
			said.take(',');
			const word = said.take('on');
			if (unit === 'week' || (unit === 'day' && word)) {
				const weekdays = this.#weekdays();
				return weekdays === null ? null : often(unit, { interval, weekdays });
			}
			if (unit === 'month') {
				const nth = this.#nthWeekdays();
				if (nth) return often(unit, { interval, nth });
				const monthDays = this.#monthDays();
				return monthDays === null ? null : often(unit, { interval, monthDays });
			}
			if (unit === 'year' && word) {
				const day = takeDay(said, this.order);
				return day === null || day.month === null || day.year !== null
					? null
					: often(unit, { interval, month: day.month, monthDays: [day.day] });
			}
			return null;
		});
		return on ?? often(unit, { interval });
	}

	#ofTheMonth(): boolean {
		return (
			this.#said.takeAny(
				'of the month',
				'of every month',
				'of each month',
				'of a month',
				'of month',
				'in the month',
				'in every month',
				'in each month',
				'every month',
				'each month',
				'a month'
			) !== null
		);
	}

	/** "first and third monday", "last friday", "first monday and third friday". */
	#nthWeekdays(): Often['nth'] | null {
		const said = this.#said;
		const found = this.#list(() => {
			said.take('the');
			const ns = this.#ordinals();
			const weekday = ns === null ? null : said.weekday();
			return weekday === null ? null : ns!.map((n) => ({ n, weekday }));
		});
		if (!found) return null;
		const list = found.flat();
		if (list.some(({ n }) => n > 5 || n < -5)) {
			throw new Stop('A month has five of a weekday at most.');
		}
		return list;
	}

	/** "the 1st and the 15th": their numbers. */
	readonly #ordinals = (): number[] | null =>
		this.#list(() => {
			this.#said.take('the');
			return this.#said.ordinal();
		});

	/** "the 1st and 15th", "the last day". */
	#monthDays(): number[] | null {
		const said = this.#said;
		return said.try(() => {
			const list = this.#ordinals();
			if (!list) return null;
			const day = said.takeAny('days', 'day') !== null;
			// "the last" alone is the last of what?
			if (!day && list.some((n) => n < 0)) return null;
			if (list.some((n) => n > 31 || n < -31)) throw new Stop('A month has 31 days at most.');
			return list;
		});
	}

	#schoolDays = false;
	/** "tuesday and thursday", "mon wed fri", "monday to friday", "weekdays", "school days". */
	#weekdays(): number[] | null {
		const said = this.#said;
		return said.try(() => {
			const list: number[] = [];
			for (;;) {
				const before = said.at;
				// "mon wed fri" has no joint at all.
				if (list.length > 0) {
					said.takeAny(', and', 'and', ',', '/', '+');
					said.take('on');
					said.takeAny('every', 'each');
				}
				if (said.takeAny('school days', 'school day', 'schooldays', 'schoolday')) {
					this.#schoolDays = true;
					list.push(...workdays);
					continue;
				}
				if (said.takeAny('weekdays', 'weekday', 'workdays', 'workday')) {
					list.push(...workdays);
					continue;
				}
				if (said.takeAny('weekends', 'weekend')) {
					list.push(...weekend);
					continue;
				}
				const from = said.weekday();
				if (from === null) {
					said.at = before;
					break;
				}
				const to = said.try(() => {
					if (said.takeAny('to', 'through', 'thru', '-', '–') === null) return null;
					return said.weekday();
				});
				if (to === null) {
					list.push(from);
					continue;
				}
				for (let n = 0; n <= (to - from + 7) % 7; n += 1) list.push(((from - 1 + n) % 7) + 1);
			}
			return list.length > 0 ? [...new Set(list)].sort((a, b) => a - b) : null;
		});
	}

	/** The rule of one way of understanding it. */
	#read(meant: Often): RepetitionRead {
		const firstDay = this.#starts ?? this.first.slice(0, 10);
		const time = this.#time ?? this.first.slice(11);
		if (meant.part !== null) {
			const hour = Number(time.slice(0, 2));
			const fits = { morning: hour < 12, afternoon: hour >= 12 && hour < 18, evening: hour >= 17 }[
				meant.part
			];
			if (!fits)
				throw new Stop(
					`“${meant.part}” does not go with ${clockWords(time)}. Say "every day" and set the time of the first.`
				);
		}
		let { weekdays } = meant;
		if (this.#exceptDays.length > 0) {
			if (meant.unit !== 'day' && meant.unit !== 'week') {
				throw new Stop('Weekdays can only be left out of days or weeks.');
			}
			const among =
				weekdays.length > 0
					? weekdays
					: meant.unit === 'day'
						? [1, 2, 3, 4, 5, 6, 7]
						: [weekdayOf(firstDay)];
			const odd = this.#exceptDays.find((d) => !among.includes(d));
			if (odd !== undefined)
				throw new Stop(`${capital(weekdayNames[odd - 1]!)} is not among its days.`);
			weekdays = among.filter((d) => !this.#exceptDays.includes(d));
			if (weekdays.length === 0) throw new Stop('That leaves no day.');
		}
		// Every day of a week is every day; days of the week, every one of them, are weekly.
		const daysOfWeek = meant.unit === 'day' && meant.interval === 1 && weekdays.length > 0;
		const parts: string[] = [
			`FREQ=${daysOfWeek ? 'WEEKLY' : { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' }[meant.unit]}`
		];
		if (meant.interval > 1) parts.push(`INTERVAL=${meant.interval}`);
		let until = this.#until;
		if (this.#months.length > 0) {
			if (meant.unit === 'year') throw new Stop('A day of the year has its month already.');
			const bound = this.#boundOfMonths(firstDay);
			parts.push(`BYMONTH=${[...new Set(this.#months)].sort((a, b) => a - b).join(',')}`);
			if (this.#count === null && this.#length === null && until === null) until = bound;
		} else if (meant.month !== null) parts.push(`BYMONTH=${meant.month}`);
		if (weekdays.length > 0) parts.push(`BYDAY=${weekdays.map((d) => codes[d - 1]).join(',')}`);
		if (meant.nth.length > 0)
			parts.push(
				`BYDAY=${meant.nth.map(({ n, weekday }) => `${n}${codes[weekday - 1]}`).join(',')}`
			);
		if (meant.monthDays.length > 0) parts.push(`BYMONTHDAY=${meant.monthDays.join(',')}`);
		if (meant.month !== null && isoDate(2000, meant.month, meant.monthDays[0]!) === null) {
			throw new Stop('There is no such day.');
		}
		if (this.#length) until = dayAfter(later(firstDay, this.#length), -1);
		if (until !== null) {
			if (until < firstDay)
				throw new Stop(
					`Its end, ${dateWords(until)}, is before its first day, ${dateWords(firstDay)}.`
				);
			parts.push(`UNTIL=${until.replaceAll('-', '')}`);
		} else if (this.#count !== null) parts.push(`COUNT=${this.#count}`);
		const rule = parts.join(';');
		const except = [...new Set(this.#exceptDates)].sort();
		if (except.length > 0) {
			const dates = new Set(
				timesOfRule(rule, `${firstDay}T${time}`, 'UTC').map((t) => t.slice(0, 10))
			);
			const odd = except.find((d) => !dates.has(d));
			if (odd !== undefined) throw new Stop(`${dateWords(odd)} is not among its dates.`);
		}
		return {
			rule,
			words: repetitionWords(rule, except),
			except,
			starts: this.#starts,
			time: this.#time,
			schoolDays: meant.schoolDays
		};
	}

	/** The last day of the months that were said, the next time they come. */
	#boundOfMonths(firstDay: string): string {
		const [year, month] = [Number(firstDay.slice(0, 4)), Number(firstDay.slice(5, 7))];
		const last = this.#months.at(-1)!;
		if (this.#monthsYear !== null) return lastDayOf(last, this.#monthsYear, firstDay);
		// Months that have begun but not ended are the present ones.
		const ahead = Math.max(...this.#months.map((m) => (m - month + 12) % 12));
		const at = month - 1 + ahead;
		return lastDayOf((at % 12) + 1, year + Math.floor(at / 12), firstDay);
	}
}

/** The last day of a month; without a year that of the next such month that has not ended before `from`. */
function lastDayOf(month: number, year: number | null, from: string): string {
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

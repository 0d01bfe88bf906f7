import { takeDay } from './said-day';
import { NotRead, type DateOrder, type Said } from './said';

export type Unit = 'day' | 'week' | 'month' | 'year';
export const units: Readonly<Record<string, Unit>> = {
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
export interface Often {
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

const workdays: readonly number[] = [1, 2, 3, 4, 5];
export const weekend: readonly number[] = [6, 7];

function takeOfTheMonth(said: Said): boolean {
	return (
		said.takeAny(
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

/** "the 1st and the 15th": their numbers. */
const takeOrdinals = (said: Said): number[] | null =>
	said.list(() => {
		said.take('the');
		return said.ordinal();
	});

/** "first and third monday", "last friday", "first monday and third friday". */
function takeNthWeekdays(said: Said): Often['nth'] | null {
	const found = said.list(() => {
		said.take('the');
		const ns = takeOrdinals(said);
		const weekday = ns === null ? null : said.weekday();
		return weekday === null ? null : ns!.map((n) => ({ n, weekday }));
	});
	if (!found) return null;
	const list = found.flat();
	if (list.some(({ n }) => n > 5 || n < -5)) {
		throw new NotRead('A month has five of a weekday at most.');
	}
	return list;
}

/** "the 1st and 15th", "the last day". */
function takeMonthDays(said: Said): number[] | null {
	return said.try(() => {
		const list = takeOrdinals(said);
		if (!list) return null;
		const day = said.takeAny('days', 'day') !== null;
		// "the last" alone is the last of what?
		if (!day && list.some((n) => n < 0)) return null;
		if (list.some((n) => n > 31 || n < -31)) throw new NotRead('A month has 31 days at most.');
		return list;
	});
}

/** "tuesday and thursday", "mon wed fri", "monday to friday", "weekdays", "school days". */
function takeWeekdays(said: Said): Pick<Often, 'weekdays' | 'schoolDays'> | null {
	return said.try(() => {
		const list: number[] = [];
		let schoolDays = false;
		for (;;) {
			const before = said.at;
			// "mon wed fri" has no joint at all.
			if (list.length > 0) {
				said.takeAny(', and', 'and', ',', '/', '+');
				said.take('on');
				said.takeAny('every', 'each');
			}
			if (said.takeAny('school days', 'school day', 'schooldays', 'schoolday')) {
				schoolDays = true;
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
		if (list.length === 0) return null;
		return { weekdays: [...new Set(list)].sort((a, b) => a - b), schoolDays };
	});
}

/** What may follow a unit: "every 2 weeks on monday", "every month on the first friday", "every year on march 12". */
function takeOnWhich(said: Said, order: DateOrder, unit: Unit, interval: number): Often {
	const on = said.try(() => {
		said.take(',');
		const word = said.take('on');
		if (unit === 'week' || (unit === 'day' && word)) {
			const found = takeWeekdays(said);
			return found === null ? null : often(unit, { interval, weekdays: found.weekdays });
		}
		if (unit === 'month') {
			const nth = takeNthWeekdays(said);
			if (nth) return often(unit, { interval, nth });
			const monthDays = takeMonthDays(said);
			return monthDays === null ? null : often(unit, { interval, monthDays });
		}
		if (unit === 'year' && word) {
			const day = takeDay(said, order);
			return day === null || day.month === null || day.year !== null
				? null
				: often(unit, { interval, month: day.month, monthDays: [day.day] });
		}
		return null;
	});
	return on ?? often(unit, { interval });
}

/** How often, where it stands next: "every other tuesday", "monday to friday", "the last friday of the month". Null where it does not. */
export function takeOften(said: Said, order: DateOrder): Often | null {
	said.take('once');
	said.take('on');
	const adverb = adverbs[said.next];
	if (adverb) {
		said.take(said.next);
		return takeOnWhich(said, order, adverb[0], adverb[1]);
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
			if (counted.interval < 1) throw new NotRead('It must be every 1 or more.');
			return takeOnWhich(said, order, counted.unit, counted.interval);
		}
		if (said.take('second') && said.next in units && !said.next.endsWith('s')) {
			const unit = units[said.next]!;
			said.take(said.next);
			if (unit !== 'day') return takeOnWhich(said, order, unit, 2);
			// "every second day of the month" is a date, not a stretch.
			if (!takeOfTheMonth(said)) return takeOnWhich(said, order, 'day', 2);
			return often('month', { monthDays: [2] });
		}
		if (said.since(said.at - 1).toLowerCase() === 'second') said.at -= 1;
		if (said.take('other')) {
			const found = takeWeekdays(said);
			return found === null ? null : often('week', { interval: 2, weekdays: found.weekdays });
		}
		const part = said.takeAny('morning', 'afternoon', 'evening');
		if (part) return often('day', { part: part as Often['part'] });
		const unit = units[said.next];
		if (unit && !said.next.endsWith('s')) {
			said.take(said.next);
			return takeOnWhich(said, order, unit, 1);
		}
	}
	const nth = takeNthWeekdays(said);
	if (nth) {
		const ofMonth = takeOfTheMonth(said);
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
		const day = takeDay(said, order);
		if (!day || day.month === null || day.year !== null || every === null) return null;
		return often('year', { month: day.month, monthDays: [day.day] });
	});
	if (dayOfYear) return dayOfYear;
	const monthDays = said.try(() => {
		const days = takeMonthDays(said);
		return days !== null && (takeOfTheMonth(said) || every !== null) ? days : null;
	});
	if (monthDays) return often('month', { monthDays });
	const found = takeWeekdays(said);
	return found === null ? null : often('week', found);
}

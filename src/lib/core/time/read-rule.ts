import { dayAfter, weekdayOf, type LocalTime } from './local';
import { roundProblem, ruleWords } from './recurrence';
import { lastDayOf, ruleOf, type RepetitionRead, type SaidRepetition } from './rule-of';
import { placeDay, takeDay } from './said-day';
import { takeTime } from './said-clock';
import { NotRead, Said, type DateOrder } from './said';
import { takeOften, units, weekend, type Often } from './said-often';

export type ReadRule =
	| ({ readonly ok: true } & RepetitionRead)
	| {
			readonly ok: false;
			readonly why: string;
			/** Where a person could mean several things: each of them. */
			readonly choices: readonly RepetitionRead[];
	  };

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
		if (error instanceof NotRead) return refuse(error.message);
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

/** Takes clause after clause off what was said, in whatever order they come. */
class Reader {
	readonly #said: Said;
	#often: Often | null = null;
	readonly #had: { -readonly [K in keyof SaidRepetition]: SaidRepetition[K] } = {
		starts: null,
		until: null,
		count: null,
		length: null,
		time: null,
		months: [],
		monthsYear: null,
		exceptDays: [],
		exceptDates: []
	};

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
			throw new NotRead(`Not understood: “${said.rest}”.`);
		}
		if (!this.#often) throw new NotRead('It does not say how often.');
		const meant = [this.#often, ...(this.#often.other ? [this.#often.other] : [])];
		return meant.map((o) => ruleOf(this.#had, o, this.first));
	}

	#once(has: boolean, what: string): void {
		if (has) throw new NotRead(`It says twice ${what}.`);
	}

	#endsOnce(): void {
		const { count, until, length } = this.#had;
		this.#once(count !== null || until !== null || length !== null, 'when it ends');
	}

	/** A day, seen from the start of the round, or from another day. */
	#day(from = this.#had.starts ?? this.first.slice(0, 10)): string | null {
		const said = this.#said;
		return said.try(() => {
			const day = takeDay(said, this.order);
			if (day) {
				const placed = placeDay(day, from);
				if ('why' in placed) throw new NotRead(placed.why);
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
			this.#endsOnce();
			if (times < 1) throw new NotRead('It needs at least one date.');
			this.#had.count = times;
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
			this.#endsOnce();
			this.#had.length = length;
			return true;
		}
		return false;
	}

	#ends(date: string): void {
		this.#endsOnce();
		this.#had.until = date;
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
		this.#once(this.#had.starts !== null, 'when it starts');
		this.#had.starts = starts.date;
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
		const things = this.#said.list((): { date: string } | { days: readonly number[] } | null => {
			said.take('on');
			const date = this.#day();
			if (date !== null) return { date };
			if (said.takeAny('weekends', 'weekend')) return { days: weekend };
			const weekday = said.weekday();
			return weekday === null ? null : { days: [weekday] };
		});
		if (!things) throw new NotRead(`Not understood: “except ${said.rest}”.`);
		for (const thing of things) {
			if ('date' in thing) this.#had.exceptDates = [...this.#had.exceptDates, thing.date];
			else this.#had.exceptDays = [...this.#had.exceptDays, ...thing.days];
		}
		return true;
	}

	/** "in april", "during april and may 2027": within these months, the next time they come. */
	#inMonths(): boolean {
		const said = this.#said;
		const months = said.try(() => {
			if (said.takeAny('in', 'during') === null) return null;
			return this.#said.list(() => said.month());
		});
		if (!months) return false;
		this.#once(this.#had.months.length > 0, 'in which months');
		this.#had.months = months;
		if (said.next.length === 4) this.#had.monthsYear = said.figures(4);
		return true;
	}

	/** "at 7:15 am": the time of the round, where it says which half of the day. */
	#clock(): boolean {
		const said = this.#said;
		const time = said.try(() => (said.next === 'at' || said.next === '@' ? takeTime(said) : null));
		if (!time) return false;
		this.#once(this.#had.time !== null, 'at what time');
		if (time.half === null && !(time.minutesSaid && time.hour >= 7) && time.hour !== 12) {
			throw new NotRead(`At ${time.hour} in the morning or in the afternoon? Add am or pm.`);
		}
		this.#had.time = `${String(time.hour).padStart(2, '0')}:${String(time.minute).padStart(2, '0')}`;
		return true;
	}

	#howOften(): boolean {
		const said = this.#said;
		const found = said.try(() => takeOften(said, this.order));
		if (!found) return false;
		this.#once(this.#often !== null, 'how often');
		this.#often = found;
		return true;
	}
}

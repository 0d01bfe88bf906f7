import { z } from 'zod';
import { wouldLeaveAt } from './hold';
import { localOf, localTimePattern, placeLocal, type Existence, type LocalTime } from './local';
import { atOffset, offsetSchema, offsetWords, type Offset } from './offset';
import { roundProblem } from './recurrence';
import { roundDates, offDaySchema } from './round';

export const localTimeSchema = z
	.string()
	.regex(localTimePattern, 'A time is written like 2027-03-12T14:15.')
	.refine((t) => t >= '1980' && t < '2200', 'The year must lie between 1980 and 2199.')
	.refine((t) => {
		try {
			placeLocal(t, 'UTC');
			return true;
		} catch {
			return false;
		}
	}, 'There is no such day or time.');

/** The feed whose new entries each date of a round takes into its words; nothing new, nothing leaves. */
const feedSchema = z.object({
	/** Empty while none is said. */
	address: z.string().trim().max(2000, 'The address of a feed has 2,000 characters at most.'),
	/** Entries of one date; what is beyond them waits for the next. */
	most: z.number().int().min(1).max(20, 'One letter takes 20 entries at most.').default(5),
	/** Whether what stood there already when it was put down goes with the first date. */
	old: z.boolean().default(false)
});
export type FeedSource = z.infer<typeof feedSchema>;

/** When a dispatch leaves, as the sheet has it: now, at a time, before or after an event, whenever a marker is gained, or again and again. */
const whenSchema = z.discriminatedUnion('kind', [
	z.object({ kind: z.literal('now') }),
	z.object({ kind: z.literal('at'), at: localTimeSchema }),
	z.object({
		kind: z.literal('event'),
		eventId: z.number().int().positive().nullable(),
		offsets: z.array(offsetSchema).max(10, 'An event has ten reminders at most.')
	}),
	/** Whenever a student gains a marker, until a time; held as what leaves now. */
	z.object({
		kind: z.literal('gain'),
		markerId: z.number().int().positive().nullable(),
		until: localTimeSchema
	}),
	z.object({
		kind: z.literal('round'),
		first: localTimeSchema,
		/** RFC 5545 section 3.3.10; empty while none is said. */
		rule: z
			.string()
			.max(500)
			.refine(
				(rule) => roundProblem(rule.toUpperCase()) === null,
				'A round leaves once a day at most.'
			),
		offDays: offDaySchema,
		/** Days left out of it. */
		except: z
			.array(z.iso.date('A day is written like 2027-04-06.'))
			.max(100, '100 dates at most are left out of a repetition.')
			.optional(),
		feed: feedSchema.optional()
	})
]);
export type When = z.infer<typeof whenSchema>;

/** When a dispatch goes stale: at a time, or so long after it leaves. */
const endsSchema = z
	.discriminatedUnion('kind', [
		z.object({ kind: z.literal('at'), at: localTimeSchema }),
		z.object({ kind: z.literal('after'), minutes: z.number().int().min(1).max(525_600) })
	])
	.nullable();
export type Ends = z.infer<typeof endsSchema>;

/** The feed that a sheet takes its words from; null where it takes them from none. */
export const feedOf = ({ when }: { readonly when: When }): FeedSource | null =>
	when.kind === 'round' ? (when.feed ?? null) : null;

export const timingSchema = z.object({
	when: whenSchema.default({ kind: 'now' }),
	ends: endsSchema.default(null),
	/** The school by whose clock its local times are meant; null for the district's. */
	clock: z.number().int().positive().nullable().default(null),
	/** Keeps to no quiet hours; a right of its own. */
	urgent: z.boolean().default(false)
});
export type Timing = z.infer<typeof timingSchema>;
export const usualTiming: Timing = timingSchema.parse({});

/** An event as far as its reminders need it. */
interface EventTimes {
	readonly startsAt: number;
	readonly endsAt: number;
}

/** One moment at which a sheet would leave. */
export interface Moment {
	/** What names it within its round: the date as the rule has it, or the offset; empty for a single one. */
	readonly key: string;
	readonly local: LocalTime;
	/** Instants, ms. */
	readonly at: number;
	readonly endsAt: number | null;
	readonly existence: Existence;
	/** Why it is elsewhere than it should be, or left out. */
	readonly note: 'moved' | 'skipped' | null;
	/** "3 hours before it starts", for reminders. */
	readonly words: string;
}

export interface MomentContext {
	readonly now: number;
	readonly holdMinutes: number;
	/** Of the clock that its times are meant by. */
	readonly zone: string;
	readonly event: EventTimes | null;
	readonly isSchoolDay: (date: string) => boolean;
}

/** The instant after which what leaves at `at` is not sent any more; null where it never goes stale. */
export const endOf = (ends: Ends, at: number, zone: string): number | null =>
	ends === null
		? null
		: ends.kind === 'at'
			? placeLocal(ends.at, zone).at
			: at + ends.minutes * 60_000;

/** What names a reminder within its round: its offset. */
const reminderKey = ({ amount, unit, side, of }: Offset): string =>
	JSON.stringify([amount, unit, side, of]);

/** The offset that a reminder is named by; null for what names no reminder. */
export function offsetOfKey(key: string): Offset | null {
	if (!key.startsWith('[')) return null;
	const [amount, unit, side, of] = JSON.parse(key) as unknown[];
	const read = offsetSchema.safeParse({ amount, unit, side, of });
	return read.success ? read.data : null;
}

/** Every moment at which a sheet would leave, in order, past ones and left-out dates among them. Throws nothing: a rule that is none comes to no moment. */
export function momentsOf({ when, ends }: Timing, context: MomentContext): Moment[] {
	const { now, holdMinutes, zone, event } = context;
	const end = (at: number) => endOf(ends, at, zone);
	const single = (local: LocalTime, at: number, existence: Existence): Moment[] => [
		{ key: '', local, at, endsAt: end(at), existence, note: null, words: '' }
	];
	switch (when.kind) {
		case 'now': {
			const at = wouldLeaveAt(now, holdMinutes);
			return single(localOf(at, zone), at, 'once');
		}
		case 'gain':
			// As if all of them gained it now: nobody knows when they will.
			return single(localOf(now, zone), now, 'once');
		case 'at': {
			const { at, existence } = placeLocal(when.at, zone);
			return single(when.at, at, existence);
		}
		case 'event': {
			if (!event) return [];
			const moments = when.offsets.map((offset): Moment => {
				const mark = offset.of === 'start' ? event.startsAt : event.endsAt;
				const at = atOffset(mark, offset, zone);
				const own = end(at);
				// A reminder of what has begun is no reminder.
				const bound = offset.side === 'before' && offset.amount > 0 ? mark : null;
				return {
					key: reminderKey(offset),
					local: localOf(at, zone),
					at,
					endsAt: own === null ? bound : bound === null ? own : Math.min(own, bound),
					existence: 'once',
					note: null,
					words: offsetWords(offset)
				};
			});
			const seen = new Set<string>();
			return moments.filter((m) => !seen.has(m.key) && seen.add(m.key)).sort((a, b) => a.at - b.at);
		}
		case 'round': {
			if (when.rule === '') return [];
			try {
				return roundDates(when, zone, context.isSchoolDay)
					.map((d): Moment => ({ ...d, endsAt: end(d.at), words: '' }))
					.sort((a, b) => a.at - b.at);
			} catch {
				return [];
			}
		}
	}
}

/** Every date of a repetition by a calendar, those left out not among them, in order. */
export const datesOf = (
	timing: Timing,
	{ zone, isSchoolDay }: Pick<MomentContext, 'zone' | 'isSchoolDay'>
): Moment[] =>
	momentsOf(timing, { zone, isSchoolDay, now: 0, holdMinutes: 0, event: null }).filter(
		(m) => m.note !== 'skipped'
	);

/** The moments that are still to come and not left out. */
export const comingMoments = (moments: readonly Moment[], now: number): Moment[] =>
	moments.filter((m) => m.note !== 'skipped' && m.at >= now);

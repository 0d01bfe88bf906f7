import { z } from 'zod';
import { DateTime } from 'luxon';
import type { ClockStyle } from '../copy/clock-style';
import { clockWords } from '../time/zone';
import { ways as allWays, type Way } from '../roster/way';
import { waySchema } from '../roster/way-schema';

/**
 * Ways in turn: what is not named in a turn goes first; each turn's ways are used, at its time, only
 * for those who have not read by then.
 */
const turnSchema = z.object({
	ways: z.array(waySchema).min(1).max(2),
	after: z.discriminatedUnion('kind', [
		/** So long after the dispatch leaves. */
		z.object({ kind: z.literal('minutes'), minutes: z.number().int().min(5).max(20_160) }),
		/** At the next such local time after it leaves, "17:00". */
		z.object({ kind: z.literal('time'), time: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/) })
	])
});
export type Turn = z.infer<typeof turnSchema>;

/** Two turns at most: there are three ways. Each way has one turn. */
export const turnsSchema = z
	.array(turnSchema)
	.max(2)
	.refine((turns) => {
		const named = turns.flatMap((t) => t.ways);
		return new Set(named).size === named.length;
	}, 'Each way has one turn.');

/** The turns that come to something: with ways that are chosen, while at least one way goes first. Their ways are cut down to the chosen ones. */
export function turnsInUse(turns: readonly Turn[], chosen: readonly Way[]): Turn[] {
	const cut = turns
		.map((t) => ({ ...t, ways: t.ways.filter((w) => chosen.includes(w)) }))
		.filter((t) => t.ways.length > 0);
	const waiting = new Set(cut.flatMap((t) => t.ways));
	return chosen.some((w) => !waiting.has(w)) ? cut : [];
}

/** The step of each way: 0 for what goes first, then the number of its turn. */
export function stepsOf(turns: readonly Turn[]): Readonly<Record<Way, number>> {
	const steps: Record<Way, number> = { email: 0, text: 0, inbox: 0 };
	turns.forEach((t, i) => t.ways.forEach((w) => (steps[w] = i + 1)));
	return steps;
}

/** The instant of each step of a dispatch that leaves at an instant, ms: the first is that one itself; none comes before the one before it. */
export function stepTimes(leavesAt: number, turns: readonly Turn[], zone: string): number[] {
	const times = [leavesAt];
	for (const { after } of turns) {
		const before = times.at(-1)!;
		if (after.kind === 'minutes') {
			times.push(Math.max(before, leavesAt + after.minutes * 60_000));
			continue;
		}
		const [hour, minute] = after.time.split(':').map(Number) as [number, number];
		const day = DateTime.fromMillis(before, { zone }).startOf('day');
		const onDay = (n: number) => day.plus({ days: n }).set({ hour, minute }).toMillis();
		times.push(onDay(0) > before ? onDay(0) : onDay(1));
	}
	return times;
}

const list = (ways: readonly Way[]): string =>
	ways.length < 3 ? ways.join(' and ') : `${ways.slice(0, -1).join(', ')} and ${ways.at(-1)}`;

/** "text to those who have not read by 5:00 pm". */
const turnWords = ({ ways, after }: Turn, style?: ClockStyle): string =>
	`${list(ways)} to those who have not read ${
		after.kind === 'time'
			? `by ${clockWords(after.time, style)}`
			: `within ${after.minutes % 60 === 0 ? `${after.minutes / 60} h` : `${after.minutes} min`}`
	}`;

/** "inbox and email first; text to those who have not read by 5:00 pm"; all ways at once as a plain list. */
export function turnsWords(
	chosen: readonly Way[],
	turns: readonly Turn[],
	style?: ClockStyle
): string {
	const used = turnsInUse(turns, chosen);
	const waiting = new Set(used.flatMap((t) => t.ways));
	const first = allWays.filter((w) => chosen.includes(w) && !waiting.has(w));
	return used.length === 0
		? list(allWays.filter((w) => chosen.includes(w)))
		: [`${list(first)} first`, ...used.map((turn) => turnWords(turn, style))].join('; ');
}

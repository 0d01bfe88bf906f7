import type { Turn } from '../../../core/plan/turns';
import { ways as allWays } from '../../../core/roster/way';
import { dayAfter, localOf, placeLocal } from '../../../core/time/local';
import { clockOfMinute } from '../../../core/time/zone';
import { cheaper, togethers, type Together } from '../../../core/track/expect/effort';
import { latestEnough } from '../../../core/track/expect/latest-enough';
import { tryWays, type Choice, type Comparing, type Tried } from './try-ways';

/** Turns are tried at every half hour; of an audience with more copies than so many only every four hours, and only where texts wait. */
const stepMinutes = 30;
const large = { copies: 5_000, stepMinutes: 240 } as const;
/** By such a share of its students a choice may fall behind using all its ways at once, where even that is not enough. */
const nearlyAll = 0.01;
const dayMs = 86_400_000;

/** Every so many minutes from when it leaves until the time that is wanted, as turns say times: within a day. */
function turnTimes(leavesAt: number, by: number, zone: string, step: number): string[] {
	const day = localOf(leavesAt, zone).slice(0, 10);
	const made: string[] = [];
	for (const date of [day, dayAfter(day)])
		for (let minute = 0; minute < 1440; minute += step) {
			const time = clockOfMinute(minute);
			const { at } = placeLocal(`${date}T${time}`, zone);
			if (at >= leavesAt + step * 60_000 && at < Math.min(by, leavesAt + dayMs)) made.push(time);
		}
	return made;
}

/** Some ways first and others for those who have not read: from the last time from which still as many know as are wanted, or nearly as many as can. */
async function inTurn(
	comparing: Comparing,
	{ first, then }: Together,
	{ atOnce, enough }: { readonly atOnce: Tried; readonly enough: number }
): Promise<Tried | null> {
	const { planned, ready } = atOnce;
	const { leavesAt, copies } = planned.manifest;
	const target = Math.min(enough, atOnce.expected - nearlyAll * ready.students.length);
	const step = copies.length > large.copies ? large.stepMinutes : stepMinutes;
	const choice = (time: string): Choice => ({
		ways: allWays.filter((w) => first.includes(w) || then.includes(w)),
		turns: [{ ways: [...then], after: { kind: 'time', time } } satisfies Turn]
	});
	const found = new Map<string, Tried | null>();
	const time = await latestEnough(
		turnTimes(leavesAt, comparing.by, planned.zone, step),
		async (at) => {
			const made = await tryWays(comparing, choice(at));
			found.set(at, made);
			return (made?.expected ?? 0) >= target;
		}
	);
	return time === null ? null : found.get(time)!;
}

/** Which of all ways to use the ways are worth trying. */
function worthTrying(of: readonly Together[], copies: number): readonly Together[] {
	if (copies <= large.copies) return of;
	return of.filter(({ then }) => then.length === 0 || then.join() === 'text');
}

const sameWays = (a: Choice, b: Choice): boolean =>
	[...a.ways].sort().join() === [...b.ways].sort().join() &&
	a.turns.map((t) => t.ways.join()).join('|') === b.turns.map((t) => t.ways.join()).join('|');

/** Every choice of ways with what comes of it, the sheet’s own first; `enough` is how many students are wanted. */
export async function compareWays(
	comparing: Comparing,
	own: Tried,
	enoughOf: (students: number) => number
): Promise<Tried[]> {
	const enough = enoughOf(own.ready.students.length);
	const found: Tried[] = [own];
	const together = new Map<string, Tried | null>();
	const atOnceBy = async (ways: readonly string[]): Promise<Tried | null> => {
		const chosen = allWays.filter((w) => ways.includes(w));
		const key = chosen.join();
		if (!together.has(key))
			together.set(key, await tryWays(comparing, { ways: chosen, turns: [] }));
		return together.get(key)!;
	};
	for (const choice of worthTrying(
		togethers(comparing.usable),
		own.planned.manifest.copies.length
	)) {
		const atOnce = await atOnceBy([...choice.first, ...choice.then]);
		if (!atOnce) continue;
		const made =
			choice.then.length === 0 ? atOnce : await inTurn(comparing, choice, { atOnce, enough });
		if (made && !sameWays(made, own)) found.push(made);
		else if (made && made.turns.length > 0 && cheaper(made.effort, own.effort) < 0)
			found.push(made);
	}
	return found;
}

/** The cheapest of some that is enough; null where none is. */
export const cheapestEnough = (of: readonly Tried[], enough: number): Tried | null =>
	of
		.filter((t) => t.expected >= enough)
		.reduce<Tried | null>(
			(best, t) => (best && cheaper(best.effort, t.effort) <= 0 ? best : t),
			null
		);

/** Those of which none costs less and reaches as many: what is left to choose from. */
export const worthChoosing = (of: readonly Tried[]): Tried[] =>
	of.filter(
		(t) =>
			!of.some(
				(other) =>
					other !== t && other.expected >= t.expected - 0.25 && cheaper(other.effort, t.effort) < 0
			)
	);

/** The one that reaches most with nobody waiting for a turn: what every other is held against. */
export const reachingMost = (of: readonly Tried[]): Tried =>
	of.reduce((most, t) => (t.turns.length === 0 && t.expected > most.expected ? t : most));

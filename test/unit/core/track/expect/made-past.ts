import jStat from 'jstat';
import { random, type Random } from '../../../../../demo/random';
import type { Way } from '../../../../../src/lib/core/roster/way';
import type { StudentAhead } from '../../../../../src/lib/core/track/expect/families';
import type { PastCopy, Reader } from '../../../../../src/lib/core/track/expect/past-copy';

/** A made-up district whose habits are known: what the model is held against, and never sees. */
export interface World {
	readonly readerOf: (personId: number) => Reader;
	/** A student for each home, by their number and that of the home. */
	readonly students: readonly { readonly studentId: number; readonly home: number }[];
	/** Sends one to everybody by some ways at an instant (ms), and says what becomes of each copy. */
	send(dispatchId: number, ways: readonly Way[], leftAt: number): PastCopy[];
	/** Somebody reads another share from now on. */
	changes(personId: number, share: number): void;
}

export const dayMs = 86_400_000;
/** A Monday at nine. */
export const monday = Date.parse('2027-01-04T09:00:00Z');

interface Habit {
	share: number;
	readonly middle: number;
}

/** Draws by the quantiles of even draws (jStat), so that the same seed gives the same world. */
const betaDraw = (r: Random, mean: number, strength: number): number =>
	jStat.beta.inv(
		Math.min(0.999999, Math.max(0.000001, r.next())),
		mean * strength,
		(1 - mean) * strength
	);
const normalDraw = (r: Random): number =>
	jStat.normal.inv(Math.min(0.999999, Math.max(0.000001, r.next())), 0, 1);

export const leavingAt = (at: number) => ({
	hour: new Date(at).getUTCHours(),
	weekday: (new Date(at).getUTCDay() + 6) % 7
});

/** Makes a world of families with two adults each; what moves a whole dispatch has the spread `shock` in its odds, and adults of a home read together as often as `bond` says. */
export function madeWorld(
	seed: number,
	{
		families = 150,
		shock = 0.35,
		bond = 0.3
	}: { readonly families?: number; readonly shock?: number; readonly bond?: number } = {}
): World {
	const r = random(seed);
	const habits = new Map<string, Habit>();
	const readers = new Map<number, Reader>();
	const usual: Readonly<Record<Way, number>> = { email: 0.55, text: 0.75, inbox: 0.45 };
	for (let f = 0; f < families; f += 1) {
		const schoolId = f % 3;
		const language = f % 4 === 0 ? 'es' : 'en';
		for (const way of ['email', 'text', 'inbox'] as const) {
			const mean = Math.min(
				0.95,
				usual[way] + (schoolId - 1) * 0.08 - (language === 'es' ? 0.06 : 0)
			);
			const home = betaDraw(r, mean, 5);
			for (const personId of [2 * f, 2 * f + 1]) {
				readers.set(personId, { householdId: f, schoolId, language });
				habits.set(`${personId} ${way}`, {
					share: betaDraw(r, Math.min(0.98, Math.max(0.02, home)), 12),
					middle: (way === 'text' ? 3 : 4.5) + 0.7 * normalDraw(r)
				});
			}
		}
	}
	const students = Array.from({ length: families }, (_, home) => ({
		studentId: 10_000 + home,
		home
	}));
	return {
		students,
		readerOf: (id) => readers.get(id)!,
		changes(personId, share) {
			for (const way of ['email', 'text', 'inbox'] as const)
				habits.get(`${personId} ${way}`)!.share = share;
		},
		send(dispatchId, ways, leftAt) {
			const moved = shock * normalDraw(r);
			const evening = leavingAt(leftAt).hour >= 17 ? 0.5 : 0;
			const copies: PastCopy[] = [];
			for (let f = 0; f < families; f += 1) {
				const together = r.chance(bond) ? r.next() : null;
				for (const personId of [2 * f, 2 * f + 1])
					for (const way of ways) {
						const { share, middle } = habits.get(`${personId} ${way}`)!;
						const odds = Math.log(share / (1 - share)) + moved + evening;
						const p = 1 / (1 + Math.exp(-odds));
						const reads = (together ?? r.next()) < p;
						const minutes = Math.exp(middle + 0.9 * normalDraw(r));
						copies.push({
							...{ personId, way, dispatchId, leftAt, step: 0, ...leavingAt(leftAt) },
							minutes: reads && minutes < 3 * 1440 ? minutes : null
						});
					}
			}
			return copies;
		}
	};
}

/** The students with copies to both adults by some ways, each at its time (instant, ms). */
export const withCopies = (
	students: World['students'],
	copies: readonly { readonly way: Way; readonly at: number; readonly step?: number }[]
): StudentAhead[] =>
	students.map(({ studentId, home }) => ({
		studentId,
		homes: [[2 * home, 2 * home + 1]],
		copies: [2 * home, 2 * home + 1].flatMap((personId) =>
			copies.map(({ way, at, step = 0 }) => ({
				...{ personId, householdId: home, readers: [personId], adult: true },
				...{ way, at, step, ...leavingAt(at) }
			}))
		)
	}));

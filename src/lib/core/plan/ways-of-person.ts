import type { Facts } from '../audience/facts';
import type { Reason } from '../audience/reasons';
import { type Way, ways } from '../roster/way';
import type { Handling } from './handling';
import type { NotByWay } from './manifest';
import type { UsableByWay } from './usable-address';

/** Among ways tried equally often the one its reader is likeliest to read goes first; where nothing is known, the one that is read soonest (common practice). */
const soonestFirst: readonly Way[] = ['text', 'email', 'inbox'];

/** Of the ways that work for a person, the one tried least; null where none works. */
function leastTried(personId: number, usable: readonly Way[], facts: Facts): Way | null {
	let best: Way | null = null;
	for (const way of soonestFirst) {
		if (!usable.includes(way)) continue;
		if (best === null) {
			best = way;
			continue;
		}
		const fewer = facts.tried(personId, best) - facts.tried(personId, way);
		const better = (facts.reads(personId, way) ?? 0) - (facts.reads(personId, best) ?? 0);
		if (fewer > 0 || (fewer === 0 && better > 0)) best = way;
	}
	return best;
}

/** What was chosen for one person, and what works for them. */
interface Chosen {
	readonly handling: Handling;
	/** Their ways by hand; undefined where the dispatch's own hold. */
	readonly byHand: readonly Way[] | undefined;
	readonly usable: UsableByWay;
	readonly facts: Facts;
}

/** The ways one person is written to by, and those they are not, with the reason. */
interface WaysOfPerson {
	/** Each way that gets a copy, and its turn. */
	readonly by: readonly { readonly way: Way; readonly step: number }[];
	readonly notBy: readonly NotByWay[];
	/** Why a wanted way does not work for them. */
	readonly reasons: readonly Reason[];
}

/** Decides by which ways one person is written to, and in which turn. */
export function waysOfPerson(
	personId: number,
	{ handling, byHand, usable, facts }: Chosen
): WaysOfPerson {
	const wanted = byHand ?? handling.ways;
	const working = ways.filter((way) => wanted.includes(way) && !('reason' in usable[way]));
	const only = handling.leastTried && !byHand ? leastTried(personId, working, facts) : null;
	const tryable = only === null ? working : [only];
	// Who cannot be reached by what goes first gets the next way at once.
	const first = Math.min(...tryable.map((way) => handling.steps[way]));
	const by: { way: Way; step: number }[] = [];
	const notBy: NotByWay[] = [];
	const reasons: Reason[] = [];
	for (const way of ways) {
		const found = usable[way];
		if (!wanted.includes(way)) {
			if (handling.ways.includes(way)) {
				notBy.push({ personId, way, reason: { code: 'way-by-hand' } });
			}
		} else if ('reason' in found) {
			reasons.push(found.reason);
			notBy.push({ personId, way, reason: found.reason });
		} else if (!tryable.includes(way)) {
			notBy.push({ personId, way, reason: { code: 'tried-less' } });
		} else {
			const step = handling.steps[way];
			by.push({ way, step: step === first ? 0 : step });
		}
	}
	return { by, notBy, reasons };
}

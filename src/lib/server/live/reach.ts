import type { Db } from '../db/open';
import { listenToEvidence } from './dispatch';

/** Between two looks at the same dispatch, ms: what comes meanwhile is told together. Longer where the last one failed. */
const restMs = { usual: 700, failed: 5_000 } as const;

/** What there is to tell of a dispatch; see `desk/reach/types`. */
type News =
	| { readonly is: 'nothing' }
	| { readonly is: 'change'; readonly event: number; readonly change: object }
	| { readonly is: 'anew'; readonly event: number };
/** Says what there is to tell of a dispatch since an event. */
export type NewsSince = (dispatchId: number, since: number) => Promise<News>;

/** A line to somebody who looks at it. */
interface Line {
	/** Says an event, with data and the number by which it says how far it was. */
	say(event: string, data?: string, id?: number): void;
}

/** Those who look at one dispatch, and how far they have been told. */
interface Watched {
	readonly lines: Set<Line>;
	told: number;
	/** While it is looked at, and whether something came meanwhile. */
	state: 'rests' | 'looks' | 'looks again';
	stop(): void;
}
const watched = new Map<number, Watched>();

/** Tells lines what there is to tell. */
function tell(lines: Iterable<Line>, news: News): void {
	if (news.is === 'nothing') return;
	// Written once for all of them.
	const text = news.is === 'change' ? JSON.stringify(news.change) : undefined;
	for (const line of lines) line.say(news.is, text, news.event);
}

/** Looks at a dispatch for all who watch it, and again while more comes. */
async function look(id: number, mine: Watched, newsSince: NewsSince): Promise<void> {
	if (mine.state !== 'rests') {
		mine.state = 'looks again';
		return;
	}
	do {
		mine.state = 'looks';
		let rest: number = restMs.usual;
		try {
			const news = await newsSince(id, mine.told);
			tell(mine.lines, news);
			// What is told next begins where the last one ended, also where others had news between.
			if (news.is !== 'nothing') mine.told = news.event;
		} catch {
			// The planner is busy or gone.
			mine.state = 'looks again';
			rest = restMs.failed;
		}
		await new Promise((go) => setTimeout(go, rest));
	} while ((mine.state as Watched['state']) === 'looks again' && mine.lines.size > 0);
	mine.state = 'rests';
}

/** Tells a line what changes of a dispatch from an event on, until the returned function is called: it is worked out once for all who look at the same. */
export function followReach(
	db: Db,
	{ id, since }: { readonly id: number; readonly since: number },
	line: Line,
	newsSince: NewsSince
): () => void {
	let all = watched.get(id);
	if (!all) {
		const made: Watched = { lines: new Set(), told: since, state: 'rests', stop: () => {} };
		made.stop = listenToEvidence(db, id, () => void look(id, made, newsSince));
		watched.set(id, (all = made));
	} else if (since < all.told) {
		// The others know it already.
		newsSince(id, since).then(
			(news) => tell([line], news),
			() => line.say('anew')
		);
	}
	const mine = all;
	mine.lines.add(line);
	return () => {
		mine.lines.delete(line);
		if (mine.lines.size > 0) return;
		mine.stop();
		if (watched.get(id) === mine) watched.delete(id);
	};
}

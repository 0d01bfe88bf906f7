import { invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

/** What stands open on a family's page, each asked for anew when it is needed. */
export interface OpenLetter {
	readonly token: () => string;
	/** Its dispatch; null where none stands open. */
	readonly letter: () => number | null;
	/** How many lines stand below it: a new one has to be looked at as well. */
	readonly lines: () => number;
}

const isSeen = () => document.visibilityState === 'visible';

/** Runs while a page is there, and again whenever it comes before eyes or leaves them; `end` when it is left. */
function whileThere(change: () => void, end: () => void): () => void {
	change();
	document.addEventListener('visibilitychange', change);
	return () => {
		end();
		document.removeEventListener('visibilitychange', change);
	};
}

/**
 * A letter counts as opened when it has stood open before eyes for a moment: the page must be the
 * visible one, which a program that only fetches pages never is.
 */
export function sayOpened({ token, letter, lines }: OpenLetter): void {
	$effect(() => {
		const [of, id, below] = [token(), letter(), lines()];
		if (id === null) return;
		const timers: ReturnType<typeof setTimeout>[] = [];
		const say = (afterMs: number) => {
			if (!isSeen()) return;
			const timer = setTimeout(() => {
				void fetch(`/f/${of}/opened`, {
					method: 'POST',
					headers: { 'content-type': 'application/json' },
					body: JSON.stringify({ letter: id }),
					keepalive: true
				}).catch(() => {});
			}, afterMs);
			timers.push(timer);
		};
		// What has only just come is believed to be read once it has stood there for a while.
		if (below > 0) say(12_000);
		return whileThere(
			() => say(900),
			() => timers.forEach(clearTimeout)
		);
	});
}

/** While a letter stands open before eyes, what is said about it comes by itself, and whoever answers sees that its reader is here. */
export function followLetter({ token, letter }: OpenLetter): void {
	$effect(() => {
		const [of, id] = [token(), letter()];
		if (id === null) return;
		let line: EventSource | undefined;
		let timer: ReturnType<typeof setTimeout> | undefined;
		const follow = () => {
			line?.close();
			line = undefined;
			if (!isSeen()) return;
			line = new EventSource(`/f/${of}/live?letter=${id}`);
			line.addEventListener('change', () => {
				clearTimeout(timer);
				// Whoever is on the way to another page must not be held here by it.
				timer = setTimeout(() => void (navigating.to === null && invalidateAll()), 100);
			});
			line.addEventListener('ended', () => line?.close());
		};
		return whileThere(follow, () => {
			clearTimeout(timer);
			line?.close();
		});
	});
}

import { navigating } from '$app/state';

/**
 * Does something a little later, but never while the reader is on the way to another page: asking
 * for a page's data anew makes the browser forget where it was going, and a click would be lost.
 * Calls that come meanwhile are one.
 */
export function whenStill(work: () => Promise<unknown>, afterMs: number) {
	let timer: ReturnType<typeof setTimeout> | undefined;
	const soon = (): void => {
		timer ??= setTimeout(() => {
			timer = undefined;
			if (navigating.to) soon();
			else void work();
		}, afterMs);
	};
	return { soon, stop: () => clearTimeout(timer) };
}

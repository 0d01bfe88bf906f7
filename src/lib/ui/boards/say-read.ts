/** How long an announcement has to stand before eyes, ms, and how much of it or of the window. */
const momentMs = 1_500;
const enough = 0.5;

/**
 * Says of each announcement on a page that it was read: when it has stood before eyes for a moment, on a page
 * that is the visible one. What only fetches pages never says so.
 */
export function sayRead(path: string): (node: HTMLElement, dispatchId: number) => () => void {
	const said = new Set<number>();
	return (node, dispatchId) => {
		let timer: ReturnType<typeof setTimeout> | undefined;
		const say = () => {
			if (said.has(dispatchId) || document.visibilityState !== 'visible') return;
			said.add(dispatchId);
			void fetch(path, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ post: dispatchId }),
				keepalive: true
			}).catch(() => said.delete(dispatchId));
		};
		const eye = new IntersectionObserver(
			([seen]) => {
				clearTimeout(timer);
				if (!seen) return;
				const share = Math.max(
					seen.intersectionRatio,
					seen.intersectionRect.height / (seen.rootBounds?.height ?? Infinity)
				);
				if (share >= enough) timer = setTimeout(say, momentMs);
			},
			{ threshold: [0, 0.1, 0.25, 0.5, 0.75, 1] }
		);
		eye.observe(node);
		return () => {
			clearTimeout(timer);
			eye.disconnect();
		};
	};
}

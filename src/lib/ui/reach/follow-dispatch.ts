import { invalidate } from '$app/navigation';
import type { DispatchReach, ReachChange } from '$lib/server/desk/reach/types';
import { untilEnded } from '../parts/until-ended';
import { whenStill } from '../parts/when-still';
import { changedReach, fits, missesLines } from './changed-reach';

/** How soon a page is asked for anew, ms: for what cannot be told, and for lines and the like. Hundreds who look at the same do not all ask at once. */
const after = { all: 350, lines: 3_000, spread: 600 } as const;

const askAnew = (ms: number) =>
	whenStill(() => invalidate('live:dispatch'), ms + Math.random() * after.spread);

/** The page that follows a dispatch. */
interface Following {
	/** What it shows. */
	seen(): DispatchReach;
	show(reach: DispatchReach): void;
	/** Whether it says what is not told: copies chosen by how they stand, what a board or a follow-up adds. */
	saysMore(): boolean;
	/** Nothing new is told any more. */
	ended(): void;
}

/** Shows what is new about a dispatch as the server tells it, and asks for the page anew where that cannot be told; until the returned function is called. */
export function followReach(id: number, page: Following): () => void {
	const source = new EventSource(`/reach/${id}/live?since=${page.seen().asOf.event}`);
	const anew = askAnew(after.all);
	const lines = askAnew(after.lines);
	source.addEventListener('change', (told: MessageEvent<string>) => {
		const change = JSON.parse(told.data) as ReachChange;
		const reach = page.seen();
		if (change.asOf.event <= reach.asOf.event) return;
		if (!fits(reach, change)) return anew.soon();
		page.show(changedReach(reach, change));
		if (page.saysMore() || missesLines(reach, change)) lines.soon();
	});
	source.addEventListener('anew', anew.soon);
	untilEnded(source, page.ended);
	return () => {
		source.close();
		anew.stop();
		lines.stop();
	};
}

/** Asks for a page about a dispatch anew whenever the server says that there is something, until it says no more or the returned function is called. */
export function followDispatch(id: number, ended: () => void): () => void {
	const source = new EventSource(`/reach/${id}/live`);
	const anew = askAnew(after.all);
	source.addEventListener('change', anew.soon);
	source.addEventListener('anew', anew.soon);
	untilEnded(source, ended);
	return () => {
		source.close();
		anew.stop();
	};
}

/** So many are sent off at once without waiting for the end of the turn, so that the other side can begin. */
const enough = 8;

/**
 * Gathers what is said within one turn of the event loop into few messages: across a thread's border
 * a message costs more than what is in it.
 */
export function batchedPost<T>(post: (batch: readonly T[]) => void): (item: T) => void {
	let waiting: T[] = [];
	let asked = false;
	const flush = () => {
		const batch = waiting;
		waiting = [];
		if (batch.length > 0) post(batch);
	};
	return (item) => {
		if (waiting.push(item) >= enough) return flush();
		if (asked) return;
		asked = true;
		setImmediate(() => {
			asked = false;
			flush();
		});
	};
}

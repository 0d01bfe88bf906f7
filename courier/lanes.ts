/**
 * Deals with items as they come, so many at once. More are asked for while fewer than `ahead` are in
 * hand, so that no lane stands still at the end of a batch; it ends when there are no more and all
 * are dealt with. What `deal` throws ends it once every lane has come to rest.
 */
export async function inLanes<T>(
	atOnce: number,
	ahead: number,
	more: () => Promise<readonly T[]>,
	deal: (item: T) => Promise<void>
): Promise<void> {
	const queue: T[] = [];
	let last = false;
	let broken: { readonly error: unknown } | null = null;
	let asking: Promise<void> | null = null;
	const ask = (): Promise<void> =>
		(asking ??= more()
			.then(
				(items) => {
					queue.push(...items);
					last ||= items.length === 0;
				},
				(error: unknown) => {
					broken ??= { error };
				}
			)
			.finally(() => (asking = null)));
	const lane = async () => {
		while (!broken) {
			if (queue.length < ahead && !last) {
				const asked = ask();
				// With something in hand there is no need to wait for more.
				if (queue.length === 0) await asked;
			}
			const item = queue.shift();
			if (item !== undefined) await deal(item);
			else if (asking) await asking;
			else if (last) return;
		}
	};
	await Promise.all(
		Array.from({ length: atOnce }, () =>
			lane().catch((error: unknown) => {
				broken ??= { error };
			})
		)
	);
	if (broken) throw (broken as { readonly error: unknown }).error;
}

/**
 * Gathers single writes into groups. Whatever has come in while the last group was written goes
 * into the next one, so that a slow disk makes bigger groups instead of a longer queue, and little
 * is unwritten at any moment; `lingerMs` lets a group gather a little first. A group that fails fails
 * each of its items.
 */
export function grouped<In, Out>(
	writeGroup: (items: readonly In[]) => Promise<readonly Out[]>,
	largest = 250,
	lingerMs = 0
): (item: In) => Promise<Out> {
	let waiting: { item: In; done: (out: Out) => void; failed: (error: unknown) => void }[] = [];
	let running = false;

	async function run(): Promise<void> {
		running = true;
		while (waiting.length > 0) {
			if (lingerMs > 0 && waiting.length < largest) {
				await new Promise((go) => setTimeout(go, lingerMs));
			}
			const group = waiting.slice(0, largest);
			waiting = waiting.slice(largest);
			try {
				const results = await writeGroup(group.map((g) => g.item));
				group.forEach((g, i) => g.done(results[i]!));
			} catch (error) {
				group.forEach((g) => g.failed(error));
			}
		}
		running = false;
	}

	return (item) =>
		new Promise<Out>((done, failed) => {
			waiting.push({ item, done, failed });
			if (!running) void run();
		});
}

/**
 * The last of some times in a row from which still enough comes of it, where the later it is the less comes: by halving. Null
 * where not even the first is enough.
 */
export async function latestEnough<T>(
	times: readonly T[],
	isEnough: (time: T) => Promise<boolean>
): Promise<T | null> {
	if (times.length === 0 || !(await isEnough(times[0]!))) return null;
	let [low, high] = [0, times.length - 1];
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if (await isEnough(times[middle]!)) low = middle;
		else high = middle - 1;
	}
	return times[low]!;
}

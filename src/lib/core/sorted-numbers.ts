/** Where a number stands in a list in rising order, behind all that are as large; as many are at most as large as it. */
export function rankIn(sorted: readonly number[], value: number): number {
	let low = 0;
	let high = sorted.length;
	while (low < high) {
		const middle = (low + high) >> 1;
		if (sorted[middle]! <= value) low = middle + 1;
		else high = middle;
	}
	return low;
}

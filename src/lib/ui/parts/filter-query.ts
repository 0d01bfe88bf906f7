/** The query of an address for a filter: what is as usual is left away, so that the plain address shows everything. */
export function filterQuery<F extends Readonly<Record<string, string | number | boolean>>>(
	filter: F,
	usual: F
): string {
	const query = new URLSearchParams(
		Object.entries(filter)
			.filter(([key, value]) => value !== usual[key])
			.map(([key, value]) => [key, value === true ? '1' : value === false ? '0' : String(value)])
	);
	return `?${query}`;
}

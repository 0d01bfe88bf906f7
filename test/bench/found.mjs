/** What was found of a piece of work, and whether it is what is wanted. */

export const ms = (n) => `${n < 10 ? n.toFixed(2) : n.toFixed(0)} ms`;
export const number = (n) => n.toLocaleString('en');

/** A row of the table: `wanted` is at most or at least so much in the unit of `found`; without one it is only told. */
function row(work, found, n, { most, least, detail = '' }, unit) {
	const wanted =
		most !== undefined
			? `at most ${unit(most)}`
			: least !== undefined
				? `at least ${unit(least)}`
				: '';
	const holds = wanted === '' ? null : most !== undefined ? n <= most : n >= least;
	return { work, found, detail, wanted, holds };
}
/** A ratio against the part's baseline. */
export const times = (work, n, wanted = {}) =>
	row(work, `${n.toFixed(2)} times`, n, wanted, (x) => `${x} times`);
/** A share of the baseline's rate or cost. */
export const share = (work, n, wanted = {}) =>
	row(work, n.toFixed(n < 0.1 ? 3 : 2), n, wanted, (x) => String(x));
/** A time in milliseconds, where the issue is somebody who waits. */
export const time = (work, n, wanted = {}) => row(work, ms(n), n, wanted, (x) => `${x} ms`);
/** Megabytes. */
export const memory = (work, n, wanted = {}) =>
	row(work, `${n.toFixed(0)} MB`, n, wanted, (x) => `${x} MB`);

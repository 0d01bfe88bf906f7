/**
 * The beta distribution, as far as an interval for a share needs it. The incomplete beta function
 * by its continued fraction (DLMF 8.17.22, evaluated by Lentz's method), the gamma function by
 * Lanczos' series (g = 7, nine terms).
 */
const lanczos = [
	0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313,
	-176.61502916214059, 12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6,
	1.5056327351493116e-7
] as const;

/** Natural logarithm of the gamma function, for x > 0. */
export function logGamma(x: number): number {
	const t = x + 6.5;
	const sum = lanczos.reduce<number>((s, c, i) => (i === 0 ? c : s + c / (x + i - 1)), 0);
	return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

/** How much of Beta(a, b) lies below x, 0 to 1. */
export function betaBelow(x: number, a: number, b: number): number {
	if (x <= 0) return 0;
	if (x >= 1) return 1;
	const front = Math.exp(
		logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x)
	);
	// The fraction converges quickly below the mean; above it the other side is reckoned.
	return x < (a + 1) / (a + b + 2)
		? (front * fraction(x, a, b)) / a
		: 1 - (front * fraction(1 - x, b, a)) / b;
}

function fraction(x: number, a: number, b: number): number {
	const tiny = 1e-300;
	const kept = (v: number) => (Math.abs(v) < tiny ? tiny : v);
	let c = 1;
	let d = 1 / kept(1 - ((a + b) * x) / (a + 1));
	let result = d;
	for (let m = 1; m <= 300; m += 1) {
		const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
		d = 1 / kept(1 + even * d);
		c = kept(1 + even / c);
		result *= d * c;
		const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
		d = 1 / kept(1 + odd * d);
		c = kept(1 + odd / c);
		result *= d * c;
		if (Math.abs(d * c - 1) < 1e-14) break;
	}
	return result;
}

/** The point of Beta(a, b) below which a part p of it lies; found by halving, to twelve digits. */
export function betaQuantile(p: number, a: number, b: number): number {
	let low = 0;
	let high = 1;
	for (let i = 0; i < 60 && high - low > 1e-13; i += 1) {
		const middle = (low + high) / 2;
		if (betaBelow(middle, a, b) < p) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

import jStat from 'jstat';

/** The part of a normal distribution (mean 0, spread 1) below a point (jStat). */
export const normalBelow = (x: number): number => jStat.normal.cdf(x, 0, 1);

/**
 * Points and weights by which a mean over a normal distribution (mean 0, spread 1) is a sum of seven: Gauss-Hermite
 * quadrature (Abramowitz and Stegun 1964, table 25.10, n = 7, for exp(−x²); points by √2, weights by 1/√π).
 */
const table: readonly (readonly [point: number, weight: number])[] = [
	[0, 0.8102646175568],
	[0.816287882858965, 0.4256072526101],
	[1.673551628767471, 0.05451558281913],
	[2.651961356835233, 0.0009717812450995]
];
export const normalPoints: readonly { readonly at: number; readonly weight: number }[] =
	table.flatMap(([point, weight]) => {
		const at = point * Math.SQRT2;
		const part = weight / Math.sqrt(Math.PI);
		return point === 0
			? [{ at, weight: part }]
			: [
					{ at, weight: part },
					{ at: -at, weight: part }
				];
	});

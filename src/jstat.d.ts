/** What we use of jstat, which comes without types. */
declare module 'jstat' {
	const jStat: {
		/** The logarithm of the number of ways to take m of n. */
		combinationln(n: number, m: number): number;
		readonly beta: {
			/** The quantile of Beta(alpha, beta) at a probability. */
			inv(probability: number, alpha: number, beta: number): number;
			/** How much of Beta(alpha, beta) lies below x. */
			cdf(x: number, alpha: number, beta: number): number;
		};
		readonly normal: {
			/** How much of the normal distribution of a mean and a spread lies below x. */
			cdf(x: number, mean: number, spread: number): number;
			/** The quantile of it at a probability. */
			inv(probability: number, mean: number, spread: number): number;
		};
		readonly binomial: {
			/** The chance of k of n, each with a chance p. */
			pdf(k: number, n: number, p: number): number;
			cdf(k: number, n: number, p: number): number;
		};
	};
	export default jStat;
}

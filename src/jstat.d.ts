/** What we use of jstat, which comes without types. */
declare module 'jstat' {
	const jStat: {
		readonly beta: {
			/** The quantile of Beta(alpha, beta) at a probability. */
			inv(probability: number, alpha: number, beta: number): number;
			/** How much of Beta(alpha, beta) lies below x. */
			cdf(x: number, alpha: number, beta: number): number;
		};
	};
	export default jStat;
}

import jStat from 'jstat';

/** The point of Beta(a, b) below which a part p of it lies, to about eight digits (jStat). */
export const betaQuantile = (p: number, a: number, b: number): number => jStat.beta.inv(p, a, b);

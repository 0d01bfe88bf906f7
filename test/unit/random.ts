import { random, type Random } from '../../demo/random';

/** A seeded draw for property tests: a failure can be run again. */
export const draws = (seed: number): Random => random(seed);

/** How often a property is tried: as often as said, or a tenth of it where faults are put in (`npm run mutate`), each of which runs the tests anew. */
export const often = (times: number): number =>
	process.env.__STRYKER_ACTIVE_MUTANT__ || process.env.STRYKER ? Math.ceil(times / 10) : times;

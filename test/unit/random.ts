import { random, type Random } from '../../demo/random';

/** A seeded draw for property tests: a failure can be run again. */
export const draws = (seed: number): Random => random(seed);

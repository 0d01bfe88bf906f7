/** A file that cannot be read at all: what is wrong, where, and what to do, in words for whoever handed it in. */
export class Broken extends Error {}

/** Sizes as people say them. */
export const sizeText = (bytes: number): string =>
	bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(1, Math.round(bytes / 1e6))} MB`;

/** A file that cannot be read at all: what is wrong, where, and what to do, in words for whoever handed it in. */
export class Broken extends Error {}

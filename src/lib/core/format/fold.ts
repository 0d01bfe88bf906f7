/** A text as searches compare it: without accents, in lower case. */
export const fold = (text: string): string =>
	text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

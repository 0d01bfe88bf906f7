import { getContext, setContext } from 'svelte';

const key = Symbol('offered fields');

/** A field that can be put into the words beside those that always can. */
export interface OfferedField {
	readonly name: string;
	readonly label: string;
}

/** Tells the editors of a page what else can be spoken of: what markers say, what comes from a feed. */
export const offerFields = (fields: () => readonly OfferedField[]): void =>
	void setContext(key, fields);

/** What else can be spoken of where the component stands. */
export const offeredFields = (): (() => readonly OfferedField[]) =>
	getContext<(() => readonly OfferedField[]) | undefined>(key) ?? (() => []);

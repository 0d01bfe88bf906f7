import { getContext, setContext } from 'svelte';
import { markerField } from '$lib/core/copy/fields';

const key = Symbol('marker fields');

/** A field that says what a marker says. */
export interface MarkerField {
	readonly name: string;
	readonly label: string;
}

/** Tells the editors of a page which markers can be spoken of. */
export const offerMarkers = (
	markers: () => readonly { readonly id: number; readonly name: string }[]
): void =>
	void setContext(key, (): MarkerField[] =>
		markers().map(({ id, name }) => ({ name: markerField(id, name), label: name }))
	);

/** The markers that can be spoken of where the component stands. */
export const offeredMarkers = (): (() => readonly MarkerField[]) =>
	getContext<(() => readonly MarkerField[]) | undefined>(key) ?? (() => []);

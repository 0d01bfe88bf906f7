import type { Wording } from '$lib/core/copy/words';
import { newSheet } from './fields.svelte';
import { Sheet } from './sheet.svelte';
import { Shelf } from './shelf';

/** A sheet of words alone, for where these are changed outside Write: it is saved and sent nowhere. */
export const loneSheet = (userId: number, wording: Wording): Sheet =>
	new Sheet({ ...newSheet(), kind: 'announcement', ways: [], wording }, new Shelf(userId));

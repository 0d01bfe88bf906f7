import type { DispatchLine } from '$lib/server/desk/week/types';
import type { Options } from 'svelte-dnd-action';

/** A place between which tags are dragged. Keys move a tag by its own button, so the library's are off. */
export const tagZone = (items: readonly DispatchLine[]): Options<DispatchLine> => ({
	items: items as DispatchLine[],
	type: 'dispatch',
	flipDurationMs: 0,
	dropTargetStyle: {},
	dropTargetClasses: ['target'],
	zoneTabIndex: -1,
	zoneItemTabIndex: -1,
	autoAriaDisabled: true,
	morphDisabled: true
});

<script lang="ts">
	import { Select, SelectItem } from 'carbon-components-svelte';
	import type { DispatchKind } from '$lib/core/roster/types';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Whether a dispatch may be answered, beside its ways. */
	let {
		sheet,
		holds,
		onsaid
	}: {
		sheet: Sheet;
		/** The usual hold of each kind, minutes. */
		holds: Readonly<Record<DispatchKind, number>>;
		/** Hears what a change of kind means for what is there. */
		onsaid: (words: string) => void;
	} = $props();

	function setKind(kind: DispatchKind) {
		if (kind === sheet.kind) return;
		// The usual hold of the one becomes that of the other; one that was chosen stays.
		if (sheet.holdMinutes === holds[sheet.kind]) sheet.holdMinutes = holds[kind];
		sheet.kind = kind;
		const declined =
			'Who has stopped one kind may still get the other: the numbers are counted anew.';
		onsaid(
			kind === 'announcement'
				? `Now it is one-way: its letters name no address for answers. ${declined}`
				: `Now it may be answered: answers are kept with each copy and passed on to you. ${declined}`
		);
	}
</script>

<Select
	inline
	size="sm"
	labelText="Kind"
	selected={sheet.kind}
	on:update={(e) => setKind(e.detail as DispatchKind)}
>
	<SelectItem value="message" text="message, may be answered" />
	<SelectItem value="announcement" text="announcement, one-way" />
</Select>

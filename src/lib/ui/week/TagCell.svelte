<script lang="ts">
	import { dndzone, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
	import type { DispatchLine } from '$lib/server/desk/week/types';
	import { tagZone } from './tag-zone';
	import DispatchTag from './DispatchTag.svelte';

	/** One part of one day: tags that have left stand fast, the others may be dragged out and others in. */
	let {
		lines,
		zone,
		onstart,
		onend,
		ondrop,
		onmove
	}: {
		lines: readonly DispatchLine[];
		zone: string;
		onstart: (line: DispatchLine) => void;
		/** The drag is over, wherever it ended. */
		onend: () => void;
		/** A tag of another cell was dropped here. */
		ondrop: (line: DispatchLine) => void;
		onmove: (line: DispatchLine) => void;
	} = $props();
	const fast = $derived(lines.filter((l) => !l.movable));
	/** While something is dragged the library's list counts, with its own placeholder in it. */
	let dragged = $state.raw<DispatchLine[] | null>(null);
	const items = $derived(dragged ?? lines.filter((l) => l.movable));

	function consider(e: CustomEvent<DndEvent<DispatchLine>>) {
		const { info } = e.detail;
		if (info.trigger === TRIGGERS.DRAG_STARTED) {
			const line = lines.find((l) => String(l.id) === String(info.id));
			if (line) onstart(line);
		}
		dragged = e.detail.items;
	}
	function finalize(e: CustomEvent<DndEvent<DispatchLine>>) {
		const { info } = e.detail;
		const line = e.detail.items.find((l) => String(l.id) === String(info.id));
		const came = line && !lines.some((l) => l.id === line.id);
		dragged = came ? e.detail.items : null;
		if (info.trigger === TRIGGERS.DROPPED_INTO_ZONE && came) ondrop(line);
		onend();
	}
	// What the server says afterwards counts again.
	$effect(() => {
		void lines;
		dragged = null;
	});
</script>

{#each fast as line (line.id)}<DispatchTag {line} {zone} />{/each}
<div class="zone" use:dndzone={tagZone(items)} onconsider={consider} onfinalize={finalize}>
	{#each items as line (line.id)}
		<div><DispatchTag {line} {zone} {onmove} /></div>
	{/each}
</div>

<style>
	.zone {
		flex: 1;
		min-height: 8px;
		display: flex;
		flex-direction: column;
		gap: 4px;
	}
	.zone:global(.target) {
		outline: 1px dashed var(--line-strong);
		outline-offset: 2px;
	}
	.zone > div {
		cursor: grab;
	}
</style>

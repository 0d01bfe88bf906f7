<script lang="ts">
	import { dndzone, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
	import type { DispatchLine } from '$lib/server/desk/week/types';
	import { tagZone } from './tag-zone';

	/** The edge of the week while something is dragged: what is dropped here is taken along to another week. */
	let {
		side,
		label,
		shown,
		ondrop
	}: {
		side: 'start' | 'end';
		label: string;
		shown: boolean;
		ondrop: (line: DispatchLine) => void;
	} = $props();
	let items = $state.raw<DispatchLine[]>([]);

	function finalize(e: CustomEvent<DndEvent<DispatchLine>>) {
		const { info } = e.detail;
		const line = e.detail.items.find((l) => String(l.id) === String(info.id));
		items = [];
		if (info.trigger === TRIGGERS.DROPPED_INTO_ZONE && line) ondrop(line);
	}
</script>

<!-- There from the beginning: a zone that comes with the drag would not be asked. -->
<div class="edge {side}" class:shown aria-hidden="true">
	<span>{label}</span>
	<div
		class="zone"
		use:dndzone={tagZone(items)}
		onconsider={(e) => (items = e.detail.items)}
		onfinalize={finalize}
	>
		{#each items as line (line.id)}<div class="in">{line.subject}</div>{/each}
	</div>
</div>

<style>
	.edge {
		position: fixed;
		z-index: 5;
		top: 108px;
		bottom: 16px;
		width: 72px;
		display: grid;
		place-items: center;
		text-align: center;
		padding: 6px;
		border: 1px dashed var(--action);
		border-radius: 2px;
		background: var(--sheet);
		color: var(--action);
		opacity: 0;
		pointer-events: none;
	}
	.shown {
		opacity: 0.94;
	}
	.start {
		inset-inline-start: 4px;
	}
	.end {
		inset-inline-end: 4px;
	}
	.zone {
		position: absolute;
		inset: 0;
		overflow: hidden;
	}
	.zone:global(.target) {
		outline: 2px solid var(--action);
	}
	.in {
		opacity: 0.4;
		padding: 2px 8px;
	}
</style>

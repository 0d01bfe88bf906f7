<script lang="ts">
	import type { Snippet } from 'svelte';

	/** Something picked, that can be taken out again where it stands. */
	let {
		label,
		condition = false,
		onremove,
		children
	}: {
		/** What the button does: "Take out Drama 7-A". */
		label: string;
		/** A condition is dashed: it narrows, it adds nobody. */
		condition?: boolean;
		onremove: () => void;
		children: Snippet;
	} = $props();
</script>

<li class="slip" class:condition>
	<span dir="auto">{@render children()}</span>
	<button aria-label={label} onclick={onremove}>×</button>
</li>

<style>
	.slip {
		display: inline-flex;
		gap: 7px;
		align-items: center;
		border: 1px solid var(--line);
		background: var(--sheet);
		border-radius: var(--corner);
		padding: 2px 2px 2px 8px;
		font-size: 13px;
		overflow-wrap: anywhere;
	}
	.condition {
		border: 1px dashed var(--line-strong);
		background: none;
	}
	button {
		font: inherit;
		line-height: 1;
		border: 0;
		background: none;
		color: var(--quiet);
		padding: 3px 6px;
		cursor: pointer;
	}
	button:hover {
		color: var(--fail);
	}
</style>

<script lang="ts">
	/** Tells a rule from a fixed list: an open outline that can still change, and a closed one with its lines. */
	let { form }: { form: 'rule' | 'list' } = $props();
</script>

<span class="mark {form}">
	<svg width="16" height="14" viewBox="0 0 16 14" aria-hidden="true">
		{#if form === 'rule'}
			<path d="M1 3.5h9M1 10.5h9" />
			<path d="M10 1l3 2.5-3 2.5M10 8l3 2.5-3 2.5" />
		{:else}
			<rect x="1.5" y="1" width="13" height="12" />
			<path d="M4 4.5h8M4 7h8M4 9.5h8" />
		{/if}
	</svg>
	<b>{form === 'rule' ? 'Rule' : 'Fixed list'}</b>
</span>

<style>
	.mark {
		display: inline-flex;
		gap: 5px;
		align-items: center;
		white-space: nowrap;
	}
	svg {
		fill: none;
		stroke: currentcolor;
		stroke-width: 1.4;
	}
	.rule {
		color: var(--action);
	}
</style>

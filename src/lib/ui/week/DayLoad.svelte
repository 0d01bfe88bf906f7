<script lang="ts">
	import type { DayLoad } from '$lib/core/plan/load';

	/** How many families get how many messages on a day; while something is dragged, what it would come to. */
	let {
		load,
		limit,
		preview = null,
		onopen
	}: {
		load: DayLoad;
		limit: number;
		preview?: { before: number; after: number } | null;
		onopen: () => void;
	} = $props();
	const total = $derived(load.households.reduce((a, b) => a + b, 0));
	const words = $derived(
		`Families with none ${load.households[0]}, one ${load.households[1]}, two ${load.households[2]}, three or more ${load.households[3]}${load.over > 0 ? `; ${load.over} ${load.over === 1 ? 'family gets' : 'families get'} more than ${limit}` : ''}, the most loaded ${load.most}. Who and why`
	);
</script>

{#if preview && preview.before !== preview.after}
	<span
		class="preview"
		class:heed={preview.after > preview.before}
		class:good={preview.after < preview.before}
	>
		over {limit}: {preview.before} → {preview.after}
	</span>
{:else if load.most === 0}
	<span class="quiet">none</span>
{:else}
	<button class="plain load" onclick={onopen}>
		<span class="said" class:heed={load.over > 0}>
			{load.over > 0 ? `${load.over} over ${limit}` : `most ${load.most}`}
			{#if load.texts > 0}<span class="quiet"
					>{load.texts.toLocaleString('en-US')} {load.texts === 1 ? 'text' : 'texts'}</span
				>{/if}
		</span>
		<span class="spoken">{words}</span>
		<span class="mix">
			{#each load.households as n, i (i)}
				{#if n > 0}<i class="l{i}" style="width: {(100 * n) / total}%"></i>{/if}
			{/each}
		</span>
	</button>
{/if}

<style>
	.load {
		display: block;
		width: 100%;
		text-align: start;
		text-decoration: none;
		color: inherit;
	}
	.said {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 6px;
	}
	.load:hover > :first-child {
		text-decoration: underline;
	}
	.preview {
		font-weight: 600;
	}
	.good {
		color: var(--good);
	}
	.mix {
		display: flex;
		height: 8px;
		gap: 1px;
		margin-top: 2px;
	}
	.mix i {
		display: block;
	}
	.l0 {
		background: var(--load-0);
	}
	.l1 {
		background: var(--load-1);
	}
	.l2 {
		background: var(--load-2);
	}
	.l3 {
		background: var(--heed);
	}
</style>

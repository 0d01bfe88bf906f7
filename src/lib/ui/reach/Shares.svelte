<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import { percentWords } from '$lib/core/track/share';
	import ShareBar from '$lib/ui/parts/ShareBar.svelte';
	import type { ReachShare } from '$lib/server/desk/reach/types';

	/** Parts of the whole and how many of each are covered: counts always, percent and its bounds only where there are enough. */
	let {
		title,
		shares,
		what,
		nameOf = (name) => name
	}: {
		title: string;
		shares: readonly ReachShare[];
		/** What is counted, "covered" or "read". */
		what: string;
		nameOf?: (name: string) => string;
	} = $props();
	const most = 8;
	let all = $state(false);
	const shown = $derived(all ? shares : shares.slice(0, most));
</script>

<section>
	<h3>{title}</h3>
	<table>
		<thead class="spoken"
			><tr><th>{title}</th><th>{what}</th><th>share</th><th>where it may lie</th></tr></thead
		>
		<tbody>
			{#each shown as share (share.name)}
				<tr>
					<th scope="row" dir="auto">{nameOf(share.name)}</th>
					<td class="n"
						><b>{count(share.count)}</b> <span class="quiet">of {count(share.of)}</span></td
					>
					<td class="n percent">{percentWords(share)}</td>
					<td class="range">
						{#if share.enough}
							<span
								title="95 of 100 such groups lie between {Math.round(
									share.low * 100
								)} and {Math.round(share.high * 100)} %"
								><ShareBar low={share.low} high={share.high} at={share.count / share.of} /></span
							>
						{:else}
							<span class="quiet small">too few for a share</span>
						{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
	{#if shares.length > most}
		<button class="plain" onclick={() => (all = !all)}
			>{all ? 'fewer' : `all ${shares.length}`}</button
		>
	{/if}
</section>

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		margin-top: 4px;
		font-size: 13px;
	}
	tbody th {
		text-align: start;
		font-weight: 400;
	}
	td,
	th {
		padding: 3px 8px 3px 0;
		border-top: 1px solid var(--line);
	}
	.n {
		text-align: end;
		white-space: nowrap;
	}
	.percent {
		width: 44px;
	}
	.range {
		width: 128px;
		padding-inline-end: 0;
	}
</style>

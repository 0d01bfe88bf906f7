<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import { percentWords } from '$lib/core/track/share';
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
								class="track"
								title="95 of 100 such groups lie between {Math.round(
									share.low * 100
								)} and {Math.round(share.high * 100)} %"
							>
								<span
									class="bounds"
									style="left: {share.low * 100}%; width: {(share.high - share.low) * 100}%"
								></span>
								<span class="mark" style="left: {(100 * share.count) / share.of}%"></span>
							</span>
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
	.track {
		position: relative;
		display: block;
		height: 10px;
		background: linear-gradient(var(--line), var(--line)) center / 100% 1px no-repeat;
	}
	.bounds {
		position: absolute;
		top: 3px;
		height: 4px;
		min-width: 2px;
		background: var(--share);
	}
	.mark {
		position: absolute;
		top: 0;
		width: 2px;
		height: 10px;
		margin-left: -1px;
		background: var(--action);
	}
</style>

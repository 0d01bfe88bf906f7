<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { ComparedWays } from '$lib/server/desk/expect/types';
	import WayMark from '../../parts/WayMark.svelte';

	/** The ways compared: how many are covered by then, and what that takes. */
	let {
		rows,
		all,
		by,
		share,
		onuse
	}: {
		rows: readonly ComparedWays[];
		all: number;
		/** By when, in words. */
		by: string;
		/** The share that is wanted, in hundredths. */
		share: number;
		onuse: (row: ComparedWays) => void;
	} = $props();
	const part = (n: number) => (all === 0 ? 0 : (100 * n) / all);
	const money = (cents: number) => (cents === 0 ? '–' : `$${(cents / 100).toFixed(2)}`);
</script>

<div class="wide">
	<table class="lines">
		<thead>
			<tr>
				<th>Ways</th>
				<th>Covered by {by}</th>
				<th class="n">Copies</th>
				<th class="n">Texts cost</th>
				<th class="n">Messages to homes</th>
				<th class="n">Left to phone</th>
				<th><span class="spoken">choose</span></th>
			</tr>
		</thead>
		<tbody>
			{#each rows as row, i (i)}
				<tr class:own={row.own}>
					<td>
						{#each row.ways as way (way)}<WayMark {way} />{/each}
						{row.words}
						{#if row.cheapest}<span class="small least">the least that comes to {share} %</span
							>{/if}
					</td>
					<td>
						<span class="covered">
							<span class="bar" aria-hidden="true">
								<span
									class="band"
									style="left: {part(row.low)}%; width: {part(row.high - row.low)}%"
								></span>
								<span class="wanted" style="left: {share}%"></span>
								<span class="at" style="left: {part(row.expected)}%"></span>
							</span>
							<span class="nowrap"
								><b>{count(row.expected)}</b> of {count(all)}
								<span class="small quiet">{count(row.low)} to {count(row.high)}</span></span
							>
						</span>
					</td>
					<td class="n"
						>{count(row.copies)}{#if row.copies < row.planned}<span class="small quiet under"
								>of {count(row.planned)} planned</span
							>{/if}</td
					>
					<td class="n">{money(row.cents)}</td>
					<td class="n">{count(row.load)}</td>
					<td class="n">{count(row.calls)}</td>
					<td>
						{#if row.own}<b>chosen</b>{:else}
							<button class="plain" onclick={() => onuse(row)} aria-label="Use {row.words}"
								>Use</button
							>
						{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	.wide {
		overflow-x: auto;
	}
	td {
		vertical-align: baseline;
	}
	.n {
		text-align: end;
	}
	.own td {
		background: var(--tint-action);
	}
	.least,
	.under {
		display: block;
		color: var(--quiet);
	}
	.covered {
		display: flex;
		align-items: center;
		gap: 10px;
	}
	.bar {
		position: relative;
		flex: 1 0 110px;
		height: 10px;
		background: var(--line);
	}
	.band {
		position: absolute;
		top: 0;
		bottom: 0;
		min-width: 2px;
		background: var(--share);
	}
	.at {
		position: absolute;
		top: -3px;
		bottom: -3px;
		width: 3px;
		margin-inline-start: -1px;
		background: var(--action);
	}
	.wanted {
		position: absolute;
		top: -3px;
		bottom: -3px;
		border-inline-start: 1px dashed var(--heed);
	}
	.nowrap {
		white-space: nowrap;
	}
</style>

<script lang="ts">
	import { bandLines, tokenColor } from '../parts/chart-lines';
	import { comingChart } from '../parts/drawn.svelte';
	import { nearTime } from '../parts/clock';
	import { count } from '$lib/core/copy/count';
	import { stretchWords } from '$lib/core/time/stretch';
	import type { CoverageUnit } from '$lib/core/track/coverage';
	import type { Growth } from '$lib/core/track/growth';
	import { withEnd } from '$lib/core/track/expect/curve-times';
	import type { KeptForecast } from '$lib/server/desk/expect/types';

	/** How reading grew, as a line that rises in steps; the numbers behind it stand in a table. */
	let {
		growth,
		all,
		unit,
		from,
		now,
		zone,
		forecast = null
	}: {
		growth: Growth;
		/** How many there are in all. */
		all: number;
		unit: CoverageUnit;
		/** When the dispatch left (instant, ms). */
		from: number;
		now: number;
		zone: string;
		/** What was to be expected, where it was said. */
		forecast?: KeptForecast | null;
	} = $props();
	const word = $derived(unit === 'students' ? 'students covered' : 'people who have read');
	const at = (minutes: number) => from + minutes * 60_000;

	/** The forecast as it was made, as far as it is drawn: no longer than the reading has had. */
	const band = $derived(
		(forecast?.curve ?? []).map((p) => ({ x: (p.at - from) / 60_000, low: p.low, high: p.high }))
	);

	let canvas: HTMLCanvasElement | undefined = $state();
	const coming = comingChart();
	$effect(() => {
		const { chart } = coming;
		if (!canvas || !chart) return;
		const end = Math.max(1, growth.curve.at(-1)!.minutes);
		const drawn = bandLines(withEnd(band, end));
		chart.draw(canvas, {
			...{ from, end, all, zone },
			title: (minutes) => nearTime(at(minutes), now, zone),
			says: (line, n) => (line < drawn.length ? null : `${n} of ${all} ${word}`),
			lines: [
				...drawn,
				{
					data: growth.curve.map((p) => ({ x: p.minutes, y: p.count })),
					stepped: 'after',
					borderColor: tokenColor('--action'),
					backgroundColor: tokenColor('--tint-action'),
					...{ borderWidth: 2, pointRadius: 0, fill: band.length === 0 }
				}
			]
		});
	});
</script>

<section>
	<h2>How reading grew</h2>
	<p class="small quiet">
		{#if growth.half === null}
			Fewer than half of the {unit} so far.
		{:else}
			Half of the {unit} within
			<b>{stretchWords(growth.half)}</b>{#if growth.threeQuarters !== null}, three quarters within <b
					>{stretchWords(growth.threeQuarters)}</b
				>{/if}.
		{/if}
	</p>
	{#if forecast}
		<p class="small quiet">
			{#if forecast.covered !== null}
				By {nearTime(forecast.by, now, zone)} it was <b>{count(forecast.covered)}</b>; expected were
			{:else}
				Expected by {nearTime(forecast.by, now, zone)}:
			{/if}
			about {count(forecast.expected)} ({count(forecast.low)} to {count(forecast.high)})<span
				class="swatch"
				aria-hidden="true"
			></span>
		</p>
	{/if}
	<div class="chart">
		<canvas bind:this={canvas} aria-label="{word} over time; the table below has the numbers"
		></canvas>
	</div>
	<details>
		<summary class="small">the numbers</summary>
		<table class="lines">
			<thead><tr><th>after</th><th>at</th><th>{word}</th></tr></thead>
			<tbody>
				{#each growth.marks as mark, i (i)}
					<tr>
						<td>{i === growth.marks.length - 1 ? 'now' : stretchWords(mark.minutes)}</td>
						<td>{nearTime(at(mark.minutes), now, zone)}</td>
						<td><b>{mark.count}</b> <span class="quiet">of {all}</span></td>
					</tr>
				{/each}
			</tbody>
		</table>
	</details>
</section>

<style>
	.chart {
		position: relative;
		/* It follows its place a frame later: until then it must not make the page wider. */
		overflow: hidden;
		height: 150px;
		margin-top: 6px;
	}
	.swatch {
		display: inline-block;
		width: 18px;
		height: 9px;
		margin-inline-start: 6px;
		background: var(--band);
	}
	summary {
		cursor: pointer;
	}
</style>

<script lang="ts">
	import {
		Chart,
		Filler,
		LinearScale,
		LineController,
		LineElement,
		PointElement,
		Tooltip
	} from 'chart.js';
	import { clockTime, nearTime } from '../parts/clock';
	import { stretchWords } from '$lib/core/time/stretch';
	import type { CoverageUnit } from '$lib/core/track/coverage';
	import type { Growth } from '$lib/core/track/growth';

	/** How reading grew, as a line that rises in steps; the numbers behind it stand in a table. */
	let {
		growth,
		all,
		unit,
		from,
		now,
		zone
	}: {
		growth: Growth;
		/** How many there are in all. */
		all: number;
		unit: CoverageUnit;
		/** When the dispatch left (instant, ms). */
		from: number;
		now: number;
		zone: string;
	} = $props();
	Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip, Filler);
	const word = $derived(unit === 'students' ? 'students covered' : 'people who have read');
	const at = (minutes: number) => from + minutes * 60_000;

	let canvas: HTMLCanvasElement | undefined = $state();
	let chart: Chart | null = null;
	/** A token as a colour that the canvas knows, whichever of its two it is now. */
	function color(name: string): string {
		const probe = document.createElement('i');
		probe.style.color = `var(${name})`;
		document.body.append(probe);
		const value = getComputedStyle(probe).color;
		probe.remove();
		return value;
	}

	$effect(() => {
		if (!canvas) return;
		const end = Math.max(1, growth.curve.at(-1)!.minutes);
		const points = growth.curve.map((p) => ({ x: p.minutes, y: p.count }));
		if (chart) {
			chart.data.datasets[0]!.data = points;
			const { x, y } = chart.options.scales!;
			x!.max = end;
			y!.max = all;
			chart.update('none');
			return;
		}
		const font = { family: getComputedStyle(document.body).fontFamily, size: 11 };
		chart = new Chart(canvas, {
			type: 'line',
			data: {
				datasets: [
					{
						data: points,
						stepped: 'after',
						borderColor: color('--action'),
						backgroundColor: color('--tint-action'),
						borderWidth: 2,
						pointRadius: 0,
						fill: true
					}
				]
			},
			options: {
				animation: false,
				maintainAspectRatio: false,
				interaction: { mode: 'nearest', axis: 'x', intersect: false },
				plugins: {
					tooltip: {
						displayColors: false,
						callbacks: {
							title: (items) => nearTime(at(items[0]!.parsed.x ?? 0), now, zone),
							label: (item) => `${item.parsed.y} of ${all} ${word}`
						}
					}
				},
				scales: {
					x: {
						type: 'linear',
						min: 0,
						max: end,
						grid: { display: false },
						border: { color: color('--line-strong') },
						ticks: {
							font,
							color: color('--quiet'),
							maxTicksLimit: 4,
							maxRotation: 0,
							// Whole minutes: two marks must not read the same.
							precision: 0,
							callback: (value) =>
								end < 20 * 60
									? clockTime(at(Number(value)), zone)
									: `+${stretchWords(Number(value))}`
						}
					},
					y: {
						min: 0,
						max: all,
						border: { display: false },
						grid: { color: color('--line') },
						ticks: { font, color: color('--quiet'), maxTicksLimit: 4, precision: 0 }
					}
				}
			}
		});
	});
	$effect(() => () => {
		chart?.destroy();
		chart = null;
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
	summary {
		cursor: pointer;
	}
</style>

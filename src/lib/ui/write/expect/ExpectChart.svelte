<script lang="ts">
	import type { CurvePoint } from '$lib/server/desk/expect/types';
	import { count } from '$lib/core/copy/count';
	import { bandLines, tokenColor, type Line } from '../../parts/chart-lines';
	import { comingChart } from '../../parts/drawn.svelte';
	import { nearTime } from '../../parts/clock';

	/** How reading is to be expected to grow by the sheet’s own ways, with its band; the cheapest that is enough beside it, and how many are wanted by when. */
	let {
		curve,
		other,
		turns,
		all,
		enough,
		by,
		from,
		now,
		zone
	}: {
		curve: readonly CurvePoint[];
		other: readonly CurvePoint[] | null;
		/** When later turns begin (instants, ms). */
		turns: readonly number[];
		all: number;
		enough: number;
		by: number;
		from: number;
		now: number;
		zone: string;
	} = $props();
	const minutes = (at: number) => (at - from) / 60_000;

	let canvas: HTMLCanvasElement | undefined = $state();
	const coming = comingChart();
	const upright = (at: number, color: string): Line => ({
		data: [
			{ x: minutes(at), y: 0 },
			{ x: minutes(at), y: all }
		],
		borderColor: tokenColor(color),
		...{ borderWidth: 1, borderDash: [2, 3], pointRadius: 0 }
	});
	$effect(() => {
		const { chart } = coming;
		if (!canvas || !chart) return;
		const end = minutes(Math.max(by, curve.at(-1)!.at));
		const line = (points: readonly CurvePoint[], color: string, dash: number[]): Line => ({
			data: points.map((p) => ({ x: minutes(p.at), y: p.expected })),
			borderColor: tokenColor(color),
			...{ borderWidth: 2, borderDash: dash, pointRadius: 0, tension: 0.2 }
		});
		chart.draw(canvas, {
			...{ from, end, all, zone },
			title: (at) => nearTime(from + at * 60_000, now, zone),
			says: (n, y) =>
				n === 2
					? `about ${count(Math.round(y))} of ${count(all)}`
					: n === 3 && other
						? `${count(Math.round(y))} by the cheapest that is enough`
						: null,
			lines: [
				...bandLines(curve.map((p) => ({ x: minutes(p.at), low: p.low, high: p.high }))),
				line(curve, '--action', []),
				...(other ? [line(other, '--quiet', [5, 4])] : []),
				{
					data: [
						{ x: 0, y: enough },
						{ x: end, y: enough }
					],
					borderColor: tokenColor('--heed'),
					...{ borderWidth: 1, borderDash: [5, 4], pointRadius: 0 }
				},
				upright(by, '--heed'),
				...turns.map((at) => upright(at, '--text'))
			]
		});
	});
</script>

<section>
	<h2>Students covered over time</h2>
	<div class="chart">
		<canvas
			bind:this={canvas}
			aria-label="Students covered over time; the table below has the numbers"
		></canvas>
	</div>
	<ul class="small quiet key">
		<li>
			<span class="mark own" aria-hidden="true"></span>by these ways, in 9 of 10 cases within the
			band
		</li>
		{#if other}<li>
				<span class="mark other" aria-hidden="true"></span>by the cheapest that is enough
			</li>{/if}
		<li>
			<span class="mark wanted" aria-hidden="true"></span>{count(enough)} wanted, by {nearTime(
				by,
				now,
				zone
			)}
		</li>
		{#each turns as at (at)}
			<li>
				<span class="mark turn" aria-hidden="true"></span>to those who have not read, from {nearTime(
					at,
					now,
					zone
				)}
			</li>
		{/each}
	</ul>
	<details>
		<summary class="small">the numbers</summary>
		<table class="lines">
			<thead><tr><th>at</th><th>about</th><th>in 9 of 10 cases</th></tr></thead>
			<tbody>
				{#each curve as p (p.at)}
					<tr>
						<td>{nearTime(p.at, now, zone)}</td>
						<td
							><b>{count(Math.round(p.expected))}</b> <span class="quiet">of {count(all)}</span></td
						>
						<td>{count(p.low)} to {count(p.high)}</td>
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
		height: 260px;
		margin-top: 6px;
	}
	.key {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		margin: 8px 0;
	}
	.mark {
		display: inline-block;
		width: 18px;
		margin-inline-end: 6px;
		vertical-align: middle;
		border-top: 2px solid var(--action);
	}
	.own {
		box-shadow:
			0 4px 0 var(--band),
			0 -6px 0 var(--band);
	}
	.other {
		border-top: 2px dashed var(--quiet);
	}
	.wanted {
		border-top: 1px dashed var(--heed);
	}
	.turn {
		border-top: 2px dotted var(--text);
	}
	summary {
		cursor: pointer;
	}
</style>

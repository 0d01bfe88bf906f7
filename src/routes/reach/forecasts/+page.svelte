<script lang="ts">
	import { page } from '$app/state';
	import { count } from '$lib/core/copy/count';
	import { languagesWords } from '$lib/core/copy/language';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import { dayTime } from '$lib/ui/parts/clock';
	import ShareBar from '$lib/ui/parts/ShareBar.svelte';
	import ForecastGroups from '$lib/ui/reach/ForecastGroups.svelte';

	let { data } = $props();
	const good = $derived(data.good);
	const zone = $derived(page.data.frame!.zone);
	const percent = (share: number) => `${Math.round(share * 100)} %`;
	/** How much smaller our error is than a rival’s. */
	const better = (rival: number) => {
		const n = Math.round((1 - good.brier.own / rival) * 100);
		return n >= 0 ? `ours is ${n} % smaller` : `ours is ${-n} % larger`;
	};
	const rivals = $derived([
		['Each student’s chance, as forecast', good.brier.own, ''],
		['The average of all before, for everybody', good.brier.usual, better(good.brier.usual)],
		['What the last dispatch came to, for everybody', good.brier.last, better(good.brier.last)]
	] as const);
</script>

<svelte:head><title>How good forecasts were · Reach · Idle Courier</title></svelte:head>

<div class="page">
	<header class="page-head">
		<div>
			<p class="quiet"><a href="/reach">Reach</a> · Forecasts</p>
			{#if good.forecasts > 0}
				<h1>
					{count(good.within.count)} of {count(good.forecasts)} forecasts came out within their bands
				</h1>
				<p class="quiet">
					Nine of ten should. On average {good.off.toFixed(1)}
					{good.off.toFixed(1) === '1.0' ? 'student' : 'students'} off, of
					{Math.round(good.students / good.forecasts)} a dispatch.
				</p>
			{:else}
				<h1>How good forecasts were</h1>
			{/if}
		</div>
	</header>
	{#if good.forecasts === 0}
		<p>
			No forecast has been judged yet. Each is, half a day after the time by which it said how many
			would know.
			{#if page.data.frame!.mayWrite}
				<a href="/write/expect">What to expect</a> of a sheet stands beside it in Write.
			{/if}
		</p>
	{:else}
		<div class="two">
			<section>
				<h2>How far from what came</h2>
				<table class="lines">
					<thead
						><tr
							><th>what was said of each student</th><th class="n">mean square</th><th
								><span class="spoken">beside it</span></th
							></tr
						></thead
					>
					<tbody>
						{#each rivals as [name, brier, said], i (name)}
							<tr>
								<td
									>{#if i === 0}<b>{name}</b>{:else}{name}{/if}</td
								>
								<td class="n">{brier.toFixed(3)}</td>
								<td class="quiet">{said}</td>
							</tr>
						{/each}
					</tbody>
				</table>
				<p class="small quiet">
					0 is a chance of 100 % for all who were covered and of 0 % for all others; 0.25 is a coin
					thrown for each (Brier score). {count(good.students)} chances were judged.
				</p>
			</section>
			<section>
				<h2>By the chance that was said</h2>
				<table class="lines">
					<thead
						><tr
							><th>said</th><th class="n">students</th><th>were covered</th><th
								><span class="spoken">beside it</span></th
							></tr
						></thead
					>
					<tbody>
						{#each good.tenths as tenth, i (i)}
							{#if tenth.share}
								<tr>
									<td>{i * 10} to {i * 10 + 10} %</td>
									<td class="n">{count(tenth.of)}</td>
									<td>
										<b>{percent(tenth.came / tenth.of)}</b>
										<span class="small quiet">on average {percent(tenth.said ?? 0)} was said</span>
									</td>
									<td>
										<span class="bar"
											><ShareBar
												low={tenth.share.low}
												high={tenth.share.high}
												at={tenth.came / tenth.of}
												said={tenth.said}
											/></span
										>
									</td>
								</tr>
							{/if}
						{/each}
					</tbody>
				</table>
			</section>
			<ForecastGroups title="By school" what="school" groups={good.schools} />
			<ForecastGroups
				title="By language of the family"
				what="language"
				groups={good.languages.map((g) => ({ ...g, name: languagesWords(g.name) }))}
			/>
		</div>
		<section>
			<h2>One by one</h2>
			<table class="lines">
				<thead>
					<tr
						><th>dispatch</th><th>by</th><th class="n">expected</th><th class="n">band</th><th
							class="n">covered</th
						><th class="n">of</th></tr
					>
				</thead>
				<tbody>
					{#each good.lines as line (line.dispatchId)}
						{@const out = line.covered < line.low || line.covered > line.high}
						<tr>
							<td><a href="/reach/{line.dispatchId}" dir="auto">{line.subject}</a></td>
							<td>{dayTime(line.byAt, zone, bench.now)}</td>
							<td class="n">{count(line.expected)}</td>
							<td class="n">{count(line.low)} to {count(line.high)}</td>
							<td class="n" class:heed={out}
								><b>{count(line.covered)}</b>{#if out}<span class="small"> outside</span>{/if}</td
							>
							<td class="n">{count(line.students)}</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</section>
	{/if}
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
		gap: 24px 32px;
		margin-bottom: 24px;
		align-items: start;
	}
	.n {
		text-align: end;
	}
	.bar {
		display: block;
		width: 160px;
	}
</style>

<script lang="ts">
	import { goto } from '$app/navigation';
	import { Select, SelectItem } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { languagesWords } from '$lib/core/copy/language';
	import { ways } from '$lib/core/roster/way';
	import { startOfDay } from '$lib/core/time/local';
	import { dayName } from '$lib/core/time/zone';
	import {
		costWords,
		ofWords,
		perFamily,
		runningWords,
		weekWords
	} from '$lib/core/track/report-words';
	import { silences } from '$lib/core/track/silent';
	import { silenceWords } from '$lib/core/track/silent-words';
	import { sumsOf } from '$lib/core/track/report-sums';
	import { dayTime } from '$lib/ui/parts/clock';
	import { filterQuery } from '$lib/ui/parts/filter-query';

	/** What came of a term: for a principal, and for whoever asks what all the letters were for. */
	let { data } = $props();
	const report = $derived(data.report);
	const sums = $derived(report && sumsOf(report.weeks));
	const usual = { term: 0, school: 0 };
	const turn = (change: Partial<typeof usual>) =>
		void goto(
			filterQuery({ term: report!.term.id, school: report!.schoolId, ...change }, usual) ||
				'/reach/term',
			{ keepFocus: true, noScroll: true }
		);
	const file = (as: 'csv' | 'pdf') =>
		`/reach/term/file?${new URLSearchParams({ as, term: String(report!.term.id), school: String(report!.schoolId) })}`;
</script>

<svelte:head><title>Report of a term · Reach · Idle Courier</title></svelte:head>

<div class="page">
	{#if !report || !sums}
		<p class="quiet"><a href="/reach">Reach</a> · Report of a term</p>
		<h1>No term has begun yet</h1>
		<p>Terms come with the roster. What came of one is told here, week by week.</p>
	{:else}
		<header class="page-head">
			<div>
				<p class="quiet"><a href="/reach">Reach</a> · Report of a term</p>
				<h1>
					<span dir="auto">{report.term.name}</span>: {ofWords(sums.covered, sums.of)} read in time
				</h1>
				<p class="quiet small">
					<span dir="auto">{report.school}</span>, {count(report.students)} students, {count(
						sums.dispatches
					)}
					{sums.dispatches === 1 ? 'dispatch' : 'dispatches'}, as of {dayTime(
						report.at,
						report.zone
					)}. Counted is each student once for each dispatch that was meant for them; in time is {report.days}
					days after it left. {runningWords(sums.running)}
				</p>
			</div>
			<div class="deeds">
				{#if report.terms.length > 1}
					<Select
						inline
						size="sm"
						labelText="Term"
						selected={String(report.term.id)}
						on:update={(e) => turn({ term: Number(e.detail) })}
					>
						{#each report.terms as term (term.id)}
							<SelectItem value={String(term.id)} text={term.name} />
						{/each}
					</Select>
				{/if}
				{#if report.schools.length > 0}
					<Select
						inline
						size="sm"
						labelText="School"
						selected={String(report.schoolId)}
						on:update={(e) => turn({ school: Number(e.detail) })}
					>
						{#each report.schools as school (school.id)}
							<SelectItem value={String(school.id)} text={school.name} />
						{/each}
					</Select>
				{/if}
				<span
					>For paper: <a href={file('pdf')} data-sveltekit-reload>PDF</a>
					<a href={file('csv')} data-sveltekit-reload>CSV</a></span
				>
			</div>
		</header>
		<section>
			<h2>Week by week</h2>
			<!-- Wider than a phone: scrolled by keys as well. -->
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<table class="lines" tabindex="0" aria-label="Week by week">
				<thead>
					<tr>
						<th>week of</th><th class="n">dispatches</th><th>read in time</th><th class="n"
							>messages a family</th
						><th class="n">most</th>{#each ways as way (way)}<th class="n">{way}, read</th
							>{/each}<th class="n">text parts</th><th class="n">addresses failing</th><th class="n"
							>mended</th
						>
					</tr>
				</thead>
				<tbody>
					{#each report.weeks as week (week.from)}
						<tr>
							<td>{dayName(startOfDay(week.from, report.zone), report.zone)}</td>
							{#if week.dispatches === 0}<td class="quiet" colspan="8">nothing left</td>{:else}
								<td class="n">{count(week.dispatches)}</td>
								<td>
									{#if week.of > 0}
										<span class="track" aria-hidden="true"
											><span class="part" style="width: {(100 * week.covered) / week.of}%"
											></span></span
										>
									{/if}
									{weekWords(week)}
								</td>
								<td class="n">{perFamily(week.messages, week.homes)}</td>
								<td class="n">{count(week.most)}</td>
								{#each ways as way (way)}<td class="n"
										><b>{count(week.ways[way].read)}</b>
										<span class="quiet">of {count(week.ways[way].copies)}</span></td
									>{/each}
								<td class="n">{count(week.parts)}</td>
							{/if}
							<td class="n">{count(week.failing)}</td>
							<td class="n">{count(week.mended)}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			<p class="small quiet">
				Texts: {costWords(sums.parts, report.partCents, sums.partsUnknown)}.
			</p>
		</section>
		<div class="two">
			<section>
				<h2>By language of the family</h2>
				<table class="lines">
					<thead><tr><th>language</th><th>read in time</th></tr></thead>
					<tbody>
						{#each report.languages as line (line.tags)}
							<tr>
								<td>{line.tags === '' ? 'nobody to read' : languagesWords(line.tags)}</td>
								<td>{ofWords(line.covered, line.of)}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</section>
			<section>
				<h2>Families that nothing reached</h2>
				{#if report.silent}
					{@const { then, now } = report.silent}
					<table class="lines">
						<thead
							><tr
								><th><span class="spoken">why</span></th><th>in the first 30 days</th><th
									>in the last 30 days</th
								></tr
							></thead
						>
						<tbody>
							<tr>
								<td>all</td>
								<td><b>{ofWords(then.silent, then.homes)}</b></td>
								<td><b>{ofWords(now.silent, now.homes)}</b></td>
							</tr>
							{#each silences as kind (kind)}
								<tr>
									<td>{silenceWords[kind].name}</td>
									<td>{count(then.kinds[kind])}</td>
									<td>{count(now.kinds[kind])}</td>
								</tr>
							{/each}
							<tr>
								<td>spoken to besides</td>
								<td>{count(then.spoken)}</td>
								<td>{count(now.spoken)}</td>
							</tr>
						</tbody>
					</table>
					<p class="small quiet">
						By what happened then, and by who lives where and can be reached today.
						<a href="/people/silent">Who they are</a>
					</p>
				{:else}<p class="quiet">Said once thirty days of the term are over.</p>{/if}
			</section>
		</div>
	{/if}
</div>

<style>
	.n {
		text-align: end;
	}
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 20px;
		align-items: center;
	}
	.two {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
		gap: 24px 32px;
		align-items: start;
		margin-top: 20px;
	}
	section {
		overflow-x: auto;
	}
	.track {
		display: block;
		width: 120px;
		height: 4px;
		margin-bottom: 3px;
		background: var(--line);
	}
	.part {
		display: block;
		height: 4px;
		background: var(--action);
	}
</style>

<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { phoneText } from '$lib/core/format/phone';
	import { dayTime } from '$lib/ui/parts/clock';

	/** Whom to call, by section, as a sheet to print and tick off. */
	let { data } = $props();
	const sheet = $derived(data.sheet);
</script>

<svelte:head><title>Phone calls: {sheet.subject} · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet noprint"><a href="/reach/{data.id}">Back to {sheet.subject}</a></p>
	<header class="page-head">
		<h1>
			{sheet.students}
			{sheet.students === 1 ? 'student' : 'students'} to call about:
			<span dir="auto">{sheet.subject}</span>
		</h1>
		<span class="noprint page-head">
			{#if data.whom === 'unreachable'}
				<a href="?whom=open">everyone not covered</a>
			{:else}
				<a href="?whom=unreachable">only those whom no way reaches</a>
			{/if}
			<Button kind="tertiary" on:click={() => window.print()}>Print the sheet</Button>
		</span>
	</header>
	<p class="quiet small">
		{data.whom === 'unreachable'
			? 'Students for whom nobody has read it and no way that is left reaches anybody.'
			: 'All students for whom nobody has read it.'} As of {dayTime(
			data.frame!.now,
			data.frame!.zone
		)}.
	</p>
	{#if sheet.school !== null}
		<nav aria-label="School" class="schools noprint">
			<span class="quiet">A sheet for each school:</span>
			{#each sheet.schools as s (s.id)}
				<a
					href="?{new URLSearchParams({ whom: data.whom, school: String(s.id) })}"
					aria-current={s.id === sheet.school ? 'page' : undefined}
					dir="auto">{s.name} <span class="quiet">{s.students}</span></a
				>
			{/each}
		</nav>
	{/if}
	{#if sheet.body}<p class="body" dir="auto">{sheet.body.slice(0, 400)}</p>{/if}
	{#each sheet.sections as group (group.school + group.section)}
		<section>
			<h2 dir="auto">{group.section} <span class="quiet">{group.school}</span></h2>
			<table class="lines">
				<thead
					><tr
						><th class="box"><span class="spoken">Called</span></th><th>Student</th><th>Guardian</th
						><th>Number</th><th>So far</th></tr
					></thead
				>
				{#each group.students as student (student.studentId)}
					<tbody>
						{#each student.people as person, i (i)}
							<tr>
								<td class="box"><span class="square" aria-hidden="true"></span></td>
								<td dir="auto">{i === 0 ? student.name : ''}</td>
								<td dir="auto">{person.name} <span class="quiet">{person.relation}</span></td>
								<td class="mono">{person.numbers.map(phoneText).join(', ') || 'none on file'}</td>
								<td class="quiet small">{person.why}</td>
							</tr>
						{:else}
							<tr>
								<td class="box"><span class="square" aria-hidden="true"></span></td>
								<td dir="auto">{student.name}</td>
								<td colspan="3" class="heed">No guardian on file who may be written to.</td>
							</tr>
						{/each}
					</tbody>
				{/each}
			</table>
		</section>
	{:else}
		<p>Nobody is left to call.</p>
	{/each}
</div>

<style>
	.page {
		max-width: 1000px;
	}
	.schools {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 18px;
	}
	.schools [aria-current] {
		font-weight: 650;
		color: var(--ink);
		text-decoration: none;
	}
	.body {
		border-inline-start: 3px solid var(--line-strong);
		padding-inline-start: 12px;
		max-width: 720px;
	}
	section {
		break-inside: avoid;
	}
	.box {
		width: 24px;
	}
	.square {
		display: inline-block;
		width: 12px;
		height: 12px;
		border: 1px solid var(--ink);
	}
	@media print {
		.noprint {
			display: none;
		}
		.page {
			padding: 0;
		}
	}
</style>

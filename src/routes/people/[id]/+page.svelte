<script lang="ts">
	import { page } from '$app/state';
	import { evidenceText } from '$lib/core/track/evidence-words';
	import { goto } from '$app/navigation';
	import { enhance } from '$app/forms';
	import { Button, Checkbox, Pagination } from 'carbon-components-svelte';
	import { stateWords } from '$lib/core/track/evidence-words';
	import { dayName } from '$lib/core/time/zone';
	import { nearTime } from '$lib/ui/parts/clock';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import CopyFilter from '$lib/ui/parts/CopyFilter.svelte';
	import StateRing from '$lib/ui/parts/StateRing.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import AddTie from '$lib/ui/people/AddTie.svelte';
	import Addresses from '$lib/ui/people/Addresses.svelte';
	import CorrectPerson from '$lib/ui/people/CorrectPerson.svelte';
	import Households from '$lib/ui/people/Households.svelte';
	import HabitLine from '$lib/ui/people/HabitLine.svelte';
	import Changes from '$lib/ui/people/Changes.svelte';
	import TakeOut from '$lib/ui/people/TakeOut.svelte';
	import TieForm from '$lib/ui/people/TieForm.svelte';

	/** One person: household, addresses and how they stand, own choices, reading habits, and the log. */
	let { data, form } = $props();
	const p = $derived(data.person);
	const zone = $derived(data.frame!.zone);
	const now = $derived(data.frame!.now);
	const perPage = 25;
	/** What was last asked for on this page and refused, and why. */
	const refused = $derived(form?.why === undefined ? null : form);
	const why = (at: string, id = 0) => (refused?.at === at && refused.id === id ? refused.why : '');

	const usual = { way: 'all', state: 'all', mine: false, page: 1 };
	function filter(change: Partial<typeof usual>) {
		void goto(filterQuery({ ...data.filter, page: 1, ...change }, usual), {
			keepFocus: true,
			noScroll: true
		});
	}
</script>

<svelte:head><title>{p.name} · People · Idle Courier</title></svelte:head>

<div class="page">
	<header>
		<p class="quiet">
			<a href="/people">People</a> · {p.kind === 'student' ? 'student' : p.note || 'contact'}
		</p>
		<h1 dir="auto">{p.name}</h1>
		<p class="quiet">
			{[
				p.kind === 'student' ? p.note : '',
				`reads ${p.language}`,
				p.hasInbox ? 'has an inbox' : 'no inbox',
				...p.chosen
			]
				.filter(Boolean)
				.join(' · ')}
		</p>
	</header>
	{#each p.same as s (s.id)}
		<form method="post" action="?/two" class="same" use:enhance>
			<input type="hidden" name="id" value={s.id} />
			<span class="heed">
				{s.kept ? 'Was on file twice, also as' : 'Is the same person as'}
				<a href="/people/{s.personId}" dir="auto">{s.name}</a>
				<span class="quiet small">made one by {s.by}, {nearTime(s.at, now, zone)}</span>
			</span>
			{#if p.own}<button class="plain">Take that back</button>{/if}
		</form>
	{/each}
	{#if why('two')}<p class="fail" role="alert">{why('two')}</p>{/if}
	{#if p.goneAt !== null && p.same.every((s) => s.kept)}
		<p class="heed">No longer at the schools since {dayName(p.goneAt, zone)}; the log stays.</p>
		{#if p.own}
			<form method="post" action="?/back" use:enhance>
				<input type="hidden" name="id" value={p.id} />
				<Button type="submit" size="small" kind="tertiary">Bring them back</Button>
			</form>
		{/if}
	{:else if p.goneAt === null && p.own && data.lists}
		{#key p.id}
			<CorrectPerson
				{...{ own: p.own, id: p.id, student: p.kind === 'student', lists: data.lists }}
				why={why('correct')}
				whyNotEnded={why('end')}
			/>
		{/key}
	{/if}
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}

	<div class="two">
		<div class="facts">
			<Addresses person={p} {zone} {refused} />
			{#if p.ties.length > 0 || (p.kind === 'student' && p.own)}
				<section>
					<h2>{p.kind === 'student' ? 'Contacts' : 'Students'}</h2>
					<ul class="lines">
						{#each p.ties as tie (tie.personId)}
							<li>
								<a href="/people/{tie.personId}" dir="auto">{tie.name}</a>
								<span class="quiet small"
									>{[tie.relation, tie.notes].filter(Boolean).join(', ')}</span
								>
								{#if p.mayCorrect && p.goneAt === null}
									<TieForm {tie} why={why('tie', tie.personId)} />
								{/if}
							</li>
						{:else}
							<li class="quiet">None on file: nobody is written to for this student.</li>
						{/each}
					</ul>
					{#if p.kind === 'student' && p.own && p.goneAt === null}
						<AddTie studentId={p.id} why={why('addTie')} />
					{/if}
				</section>
			{/if}
			<Households person={p} why={why('home')} />
			{#if p.changes.length > 0}<Changes changes={p.changes} {zone} {now} />{/if}
			{#if p.mayTakeOut}<TakeOut person={p} />{/if}
			{#if data.marks.length > 0}
				<section>
					<h2>Markers</h2>
					<ul class="lines">
						{#each data.marks as m (m.id)}
							<li>
								<a href="/people/markers/{m.id}" dir="auto">{m.name}</a>
								<b dir="auto">{m.value}</b>
								<span class="quiet small"
									>{m.how === 'hand' ? 'by hand' : 'with a list'}, {m.by}, {dayName(
										m.since,
										zone
									)}</span
								>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
			{#if p.sections.length > 0}
				<section>
					<h2>Sections</h2>
					<p class="small" dir="auto">{p.sections.join(', ')}</p>
				</section>
			{/if}
		</div>

		<div class="main">
			{#if p.habits.length > 0}
				<section>
					<h2>How this person reads us</h2>
					<ul>
						{#each p.habits as habit (habit.way)}<HabitLine {habit} />{/each}
					</ul>
					<p class="quiet small">
						The line runs from none to all; the band holds the true share in 9 of 10 such cases, the
						thin mark is everybody’s. Newer copies weigh more; those of the last three days are not
						in yet.
					</p>
				</section>
			{/if}
			<section>
				<div class="filter-bar">
					<h2>
						{p.kind === 'student' ? 'Sent to or about' : 'Sent to'}
						<span dir="auto">{p.name}</span>
						<span class="quiet">{p.found}</span>
					</h2>
					<a class="small" href="/replies?person={page.params.id}">What they wrote to us</a>
					<CopyFilter
						state={data.filter.state}
						way={data.filter.way}
						extra={[{ value: 'left-out', text: 'left out' }]}
						onfilter={filter}
					/>
					{#if p.seesOthers}
						<Checkbox
							labelText="only mine"
							checked={data.filter.mine}
							on:check={(e) => filter({ mine: e.detail })}
						/>
					{:else}
						<span class="quiet small">what you sent</span>
					{/if}
				</div>
				<ul class="log">
					{#each p.log as entry (entry.dispatchId)}
						<li>
							<div class="line">
								<span class="mono when">{nearTime(entry.leavesAt, now, zone)}</span>
								<span>
									<a href="/reach/{entry.dispatchId}" dir="auto">{entry.subject}</a>
									<span class="quiet small">by {entry.sender}</span>
								</span>
							</div>
							{#each entry.copies as c (c.id)}
								{@const last = c.evidence.at(-1)}
								<div class="copy">
									<span class="state" class:fail={c.state === 'failed'}
										><StateRing state={c.state} strength={c.strength} label="" />{stateWords[
											c.state
										]}</span
									>
									<WayMark way={c.way} word />
									<span class="small">
										{#if c.personId !== p.id}<span dir="auto">to {c.person}</span>
										{/if}
										{[
											c.step > 0 ? `turn ${c.step + 1}` : '',
											last ? `${evidenceText(last)}, ${nearTime(last.at, now, zone)}` : ''
										]
											.filter(Boolean)
											.join('; ')}</span
									>
								</div>
							{/each}
							{#if entry.leftOut}
								<div class="copy">
									<span class="state"><StateRing state="nobody" label="" />left out</span>
									<span></span>
									<span class="small heed" dir="auto">{entry.leftOut}</span>
								</div>
							{/if}
						</li>
					{:else}
						<li class="quiet">
							{data.filter.way === 'all' && data.filter.state === 'all' && !data.filter.mine
								? 'Nothing has been sent yet.'
								: 'Nothing fits this filter.'}
						</li>
					{/each}
				</ul>
				{#if p.found > perPage}
					<Pagination
						totalItems={p.found}
						pageSize={perPage}
						pageSizeInputDisabled
						page={data.filter.page}
						on:change={(e) => {
							if (e.detail.page && e.detail.page !== data.filter.page)
								filter({ page: e.detail.page });
						}}
					/>
				{/if}
			</section>
		</div>
	</div>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: 320px minmax(0, 1fr);
		gap: 36px;
		align-items: start;
	}
	.facts,
	.main {
		display: grid;
		gap: 18px;
	}
	.lines li {
		padding: 5px 0;
		border-top: 1px solid var(--line);
	}
	.log > li {
		padding: 7px 0;
		border-top: 1px solid var(--line);
	}
	.line {
		display: grid;
		grid-template-columns: 170px 1fr;
		gap: 12px;
		align-items: baseline;
	}
	.copy {
		display: grid;
		grid-template-columns: 110px 76px 1fr;
		gap: 12px;
		margin-inline-start: 182px;
		padding-top: 3px;
		align-items: baseline;
	}
	.state {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	@media (max-width: 1000px) {
		.two,
		.line {
			grid-template-columns: minmax(0, 1fr);
		}
		.copy {
			margin-inline-start: 0;
		}
	}
</style>

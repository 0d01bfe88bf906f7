<script lang="ts">
	import { goto, invalidate, invalidateAll } from '$app/navigation';
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, Search, Select, SelectItem } from 'carbon-components-svelte';
	import { ways as allWays } from '$lib/core/plan/manifest';
	import { coveredWords } from '$lib/core/track/coverage';
	import { clockTime, dayTime, nearTime } from '$lib/core/time/zone';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import { nameOfLanguage } from '$lib/core/copy/language';
	import { turnsWords } from '$lib/core/plan/turns';
	import { coverWords } from '$lib/core/track/coverage';
	import { stateWords } from '$lib/core/track/evidence';
	import GrowthChart from '$lib/ui/reach/GrowthChart.svelte';
	import Shares from '$lib/ui/reach/Shares.svelte';
	import DeliveryTable from '$lib/ui/reach/DeliveryTable.svelte';
	import RosterField from '$lib/ui/reach/RosterField.svelte';
	import Slip from '$lib/ui/parts/Slip.svelte';
	import WayTotals from '$lib/ui/reach/WayTotals.svelte';

	let { data, form } = $props();
	const reach = $derived(data.reach);
	const zone = $derived(data.frame!.zone);
	const secondsLeft = $derived(Math.max(0, Math.ceil((reach.leavesAt - bench.now) / 1000)));
	const ahead = $derived(reach.state === 'scheduled' && secondsLeft > 0);
	/** A hold is short enough to count down; what is further ahead has its day. */
	const onHold = $derived(ahead && secondsLeft <= 1800);
	const waits = $derived(reach.state === 'scheduled' ? reach.waits : null);
	const countdown = $derived(
		`${Math.floor(secondsLeft / 60)}:${String(secondsLeft % 60).padStart(2, '0')}`
	);

	// Only another dispatch opens another line; new evidence about this one must not.
	const id = $derived(reach.id);
	// New evidence is fetched when the server says there is some, a few times a second at most.
	$effect(() => {
		const source = new EventSource(`/reach/${id}/live`);
		let waiting = false;
		source.addEventListener('change', () => {
			if (waiting) return;
			waiting = true;
			setTimeout(() => {
				waiting = false;
				void invalidate('live:dispatch');
			}, 350);
		});
		return () => source.close();
	});
	// The bench clock may have been moved elsewhere: the server's time is asked for when the hold ends.
	$effect(() => {
		if (!ahead && reach.state === 'scheduled') {
			const again = setTimeout(() => void invalidateAll(), 1500);
			return () => clearTimeout(again);
		}
	});

	const usual = { way: 'all', state: 'all', section: 0, search: '', page: 1 };
	function filter(change: Partial<typeof usual>) {
		void goto(filterQuery({ ...data.filter, page: 1, ...change }, usual), {
			keepFocus: true,
			noScroll: true
		});
	}
	const states = [
		'held',
		'planned',
		'spared',
		'sent',
		'delivered',
		'failed',
		'read',
		'answered'
	] as const;
	const sectionName = $derived(
		reach.field.find((l) => l.sectionId === data.filter.section)?.section ?? ''
	);
	// svelte-ignore state_referenced_locally
	let search = $state(data.filter.search);
	let searchTimer: ReturnType<typeof setTimeout> | undefined;
	function searchSoon(text: string) {
		search = text;
		clearTimeout(searchTimer);
		searchTimer = setTimeout(() => filter({ search: search.trim() }), 250);
	}
	function showSection(section: number) {
		filter({ section });
		document.getElementById('copies')?.scrollIntoView({ block: 'start' });
	}
	/** Whether anything has left that could have been read. */
	const hasLeft = $derived(
		reach.byWay.some((w) => w.copies > (w.states.held ?? 0) + (w.states.planned ?? 0))
	);
	const allCopies = $derived(reach.byWay.reduce((sum, w) => sum + w.copies, 0));
</script>

<svelte:head><title>{reach.subject} · Reach · Idle Courier</title></svelte:head>

<div class="page">
	<header>
		<div>
			<p class="quiet">
				<a href="/reach">Reach</a> · <span dir="auto">{reach.subject}</span> ·
				{#if reach.roundId !== null}<a href="/week/round/{reach.roundId}">one of a round</a> ·{/if}
				{ahead || waits !== null ? 'leaves' : 'left'}
				{nearTime(reach.leavesAt, data.frame!.now, zone)} · by {reach.sender} · {turnsWords(
					reach.ways,
					reach.turns
				)}{#if reach.rule !== 'adult'}
					· covered when {coverWords[reach.rule]}{/if}
			</p>
			<h1 aria-live="polite">
				{coveredWords(reach.covered, reach.students, reach.unit)}{#if reach.waiting > 0}, <span
						class="heed">{reach.waiting} waiting</span
					>{/if}{#if reach.unreachable > 0}, <span class="fail"
						>{reach.unreachable} cannot be reached</span
					>{/if}
			</h1>
		</div>
		{#if hasLeft}
			<div class="acts">
				<Button kind="tertiary" href="/reach/{reach.id}/account">Account</Button>
				{#if reach.unreachable > 0 && reach.unit === 'students'}
					<Button kind="tertiary" href="/reach/{reach.id}/calls">Phone calls</Button>
				{/if}
				{#if reach.covered < reach.students}<form method="post" action="?/chase">
						<Button type="submit"
							>Chase {reach.students - reach.covered}
							{reach.unit === 'people'
								? 'people'
								: reach.students - reach.covered === 1
									? 'student'
									: 'students'}</Button
						>
					</form>{/if}
			</div>
		{/if}
		{#if waits !== null}
			<div class="hold">
				<span class="heed">{waits}</span>
				{#if data.mine}
					<form method="post" action="?/resume" use:enhance>
						<Button type="submit" kind="tertiary">Send it all the same</Button>
					</form>
					<form method="post" action="?/callback" use:enhance>
						<Button type="submit" kind="tertiary">Change it in Write</Button>
					</form>
				{/if}
			</div>
		{:else if ahead && !onHold}
			<form method="post" action="?/callback" use:enhance class="hold">
				<span>
					{#if reach.farAhead}Its copies are written out when its time comes near.
					{:else}{allCopies}
						{allCopies === 1 ? 'copy leaves' : 'copies leave'}
						<b>{dayTime(reach.leavesAt, zone)}</b
						>{#if reach.pending.lastAt !== null && reach.pending.lastAt - reach.leavesAt >= 60_000},
							the last
							{dayTime(reach.pending.lastAt, zone)}{/if}. Who gets it is worked out again ten
						minutes before.{/if}
				</span>
				{#if data.mine}<Button type="submit" kind="tertiary">Call it back</Button>{/if}
			</form>
		{:else if reach.state === 'scheduled' && reach.pending.copies > 0 && !onHold}
			<form method="post" action="?/stop" use:enhance class="hold">
				<span>
					{allCopies - reach.pending.copies} of {allCopies} copies have left{#if reach.pending.lastAt !== null && reach.pending.lastAt > bench.now};
						the last leaves {dayTime(reach.pending.lastAt, zone)}{/if}.
				</span>
				{#if data.mine}
					<Button type="submit" kind="danger-tertiary"
						>Stop the {reach.pending.copies} that have not left</Button
					>
				{/if}
			</form>
		{:else if onHold}
			<form method="post" action="?/callback" use:enhance class="hold">
				<span
					>On hold. {allCopies} copies leave in <b class="mono">{countdown}</b>, at {clockTime(
						reach.leavesAt,
						zone
					)}.</span
				>
				<Button type="submit" kind="tertiary">Call back {allCopies} copies</Button>
			</form>
		{/if}
	</header>
	{#if reach.chases || reach.chasedBy.length > 0}
		<p class="small">
			{#if reach.chases}Follows up <a href="/reach/{reach.chases.id}" dir="auto"
					>{reach.chases.subject}</a
				>.{/if}
			{#if reach.chasedBy.length > 0}Followed up by {#each reach.chasedBy as other, i (other.id)}{i >
					0
						? ', '
						: ''}<a href="/reach/{other.id}" dir="auto">{other.subject}</a>{/each}.{/if}
			{#if reach.together}Together <b
					>{coveredWords(reach.together.covered, reach.students, reach.unit)}</b
				>.{/if}
		</p>
	{/if}
	{#if form?.stopped}<p role="status">{form.stopped}</p>{/if}
	{#if form?.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{/if}
	{#if reach.state === 'scheduled'}<CourierNotice status={data.courier} {zone} />{/if}

	<div class="two">
		{#if reach.unit === 'students'}
			<RosterField field={reach.field} dispatchId={reach.id} onsection={showSection} />
		{/if}
		<div class="side">
			<WayTotals byWay={reach.byWay} />
			{#if reach.growth}
				<GrowthChart
					growth={reach.growth}
					all={reach.students}
					unit={reach.unit}
					from={reach.leavesAt}
					now={bench.now}
					{zone}
				/>
			{/if}
		</div>
	</div>

	{#if reach.bySchool.length + reach.byLanguage.length + reach.links.length + reach.leftOut > 0 || reach.byWayRead.length > 1}
		<div class="parts">
			{#if reach.bySchool.length > 0}
				<Shares title="By school" what="covered" shares={reach.bySchool} />
			{/if}
			{#if reach.byLanguage.length > 0}
				<Shares
					title="By language of the family"
					what="covered"
					shares={reach.byLanguage}
					nameOf={nameOfLanguage}
				/>
			{/if}
			{#if reach.byWayRead.length > 1}
				<Shares title="Copies read, by way" what="read" shares={reach.byWayRead} />
			{/if}
			{#if reach.links.length > 0}
				<section>
					<h3>Links followed</h3>
					<ul class="lines">
						{#each reach.links as link (link.href)}
							<li>
								<details>
									<summary
										><b>{link.people}</b>
										{link.people === 1 ? 'person' : 'people'}
										<span class="mono href">{link.href}</span>{#if link.machines > 0}<span
												class="quiet small"
											>
												and {link.machines} that only a machine may have followed</span
											>{/if}</summary
									>
									<p class="small" dir="auto">{link.names.join(', ') || 'Nobody yet.'}</p>
								</details>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
			{#if reach.leftOut > 0}
				<section>
					<h3>Left out <span class="heed">{reach.leftOut}</span></h3>
					<!-- Scrolls by keyboard too. -->
					<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
					<ul class="out" tabindex="0" aria-label="People left out">
						{#each reach.leftOutFirst as line (line.personId)}
							<li>
								<span dir="auto">{line.name}</span>
								<span class="quiet small" dir="auto">for {line.students}. {line.why}</span>
							</li>
						{/each}
						{#if reach.leftOut > reach.leftOutFirst.length}
							<li class="quiet small">
								and {reach.leftOut - reach.leftOutFirst.length} more
							</li>
						{/if}
					</ul>
				</section>
			{/if}
		</div>
	{/if}

	<section id="copies">
		<div class="bar">
			<h2>Every copy</h2>
			{#if data.filter.section > 0 && sectionName}
				<ul>
					<Slip label="Copies of all sections" onremove={() => filter({ section: 0 })}
						>{sectionName}</Slip
					>
				</ul>
			{/if}
			<Search
				size="sm"
				labelText="Find a person or student"
				placeholder="Find a person or student"
				bind:value={() => search, (text) => searchSoon(String(text ?? ''))}
			/>
			<Select
				inline
				size="sm"
				labelText="State"
				selected={data.filter.state}
				on:update={(e) => filter({ state: String(e.detail) })}
			>
				<SelectItem value="all" text="all states" />
				<SelectItem value="not-covered" text="for students not covered" />
				{#if reach.weak > 0}<SelectItem
						value="weak"
						text="weak evidence only ({reach.weak})"
					/>{/if}
				{#each states as state (state)}<SelectItem value={state} text={stateWords[state]} />{/each}
			</Select>
			<Select
				inline
				size="sm"
				labelText="Way"
				selected={data.filter.way}
				on:update={(e) => filter({ way: String(e.detail) })}
			>
				<SelectItem value="all" text="all ways" />
				{#each allWays as way (way)}<SelectItem value={way} text={way} />{/each}
			</Select>
			<span class="quiet count">{reach.found} of {allCopies} copies</span>
		</div>
		<DeliveryTable
			lines={reach.deliveries}
			habits={reach.habits}
			found={reach.found}
			page={data.filter.page}
			{zone}
			now={data.frame!.now}
			onpage={(page) => filter({ page })}
		/>
	</section>
</div>

<style>
	.page {
		padding: 16px 24px 40px;
		display: grid;
		gap: 16px;
	}
	header {
		display: flex;
		flex-wrap: wrap;
		gap: 12px 24px;
		justify-content: space-between;
		align-items: flex-end;
	}
	h1 {
		font-size: 27px;
		letter-spacing: -0.015em;
		margin-top: 6px;
	}
	.acts {
		display: flex;
		gap: 8px;
	}
	.hold {
		display: flex;
		gap: 14px;
		align-items: center;
		border: 1px dashed var(--line-strong);
		background: var(--sheet);
		padding: 8px 8px 8px 14px;
	}
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 340px;
		gap: 28px;
		align-items: start;
	}
	.side {
		display: grid;
		gap: 18px;
	}
	.out {
		max-height: 200px;
		overflow: auto;
		margin-top: 6px;
		border-top: 1px solid var(--line);
	}
	.out li {
		display: grid;
		padding: 5px 0;
		border-bottom: 1px solid var(--line);
	}
	.parts {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(330px, 1fr));
		gap: 20px 32px;
		align-items: start;
	}
	.lines li {
		padding: 4px 0;
		border-top: 1px solid var(--line);
	}
	.lines summary {
		cursor: pointer;
	}
	.href {
		overflow-wrap: anywhere;
	}
	#copies :global(.bx--search) {
		flex: 0 1 260px;
	}
	.bar {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 18px;
		align-items: center;
		margin-bottom: 6px;
	}
	.bar :global(.bx--form-item) {
		flex: none;
	}
	.count {
		margin-left: auto;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>

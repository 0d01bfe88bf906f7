<script lang="ts">
	import { goto, invalidate, invalidateAll } from '$app/navigation';
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, Select, SelectItem } from 'carbon-components-svelte';
	import { ways as allWays } from '$lib/core/plan/manifest';
	import { coveredWords } from '$lib/core/track/coverage';
	import { clockTime, dayTime, nearTime } from '$lib/core/time/zone';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import DeliveryTable from '$lib/ui/reach/DeliveryTable.svelte';
	import RosterField from '$lib/ui/reach/RosterField.svelte';
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

	function filter(change: { way?: string; state?: string; page?: number }) {
		const next = { ...data.filter, page: 1, ...change };
		const query = new URLSearchParams(
			Object.entries(next)
				.filter(([key, value]) => value !== 'all' && !(key === 'page' && value === 1))
				.map(([key, value]) => [key, String(value)])
		);
		void goto(`?${query}`, { keepFocus: true, noScroll: true });
	}
	const states = ['held', 'planned', 'sent', 'delivered', 'failed', 'read', 'answered'] as const;
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
				{nearTime(reach.leavesAt, data.frame!.now, zone)} · by {reach.sender}
			</p>
			<h1 aria-live="polite">
				{coveredWords(reach.covered, reach.students, reach.unit)}{#if reach.waiting > 0}, <span
						class="heed">{reach.waiting} waiting</span
					>{/if}{#if reach.unreachable > 0}, <span class="fail"
						>{reach.unreachable} cannot be reached</span
					>{/if}
			</h1>
		</div>
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
	{#if form?.stopped}<p role="status">{form.stopped}</p>{/if}
	{#if form?.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{/if}
	{#if reach.state === 'scheduled'}<CourierNotice status={data.courier} {zone} />{/if}

	<div class="two">
		{#if reach.unit === 'students'}<RosterField field={reach.field} />{/if}
		<div class="side">
			<WayTotals byWay={reach.byWay} />
			{#if reach.leftOut.length > 0}
				<section>
					<h2>Left out <span class="heed">{reach.leftOut.length}</span></h2>
					<!-- Scrolls by keyboard too. -->
					<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
					<ul class="out" tabindex="0" aria-label="People left out">
						{#each reach.leftOut as line, i (i)}
							<li>
								<span dir="auto">{line.name}</span>
								<span class="quiet small" dir="auto">for {line.students}. {line.why}</span>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
		</div>
	</div>

	<section>
		<div class="bar">
			<h2>Every copy</h2>
			<Select
				inline
				size="sm"
				labelText="State"
				selected={data.filter.state}
				on:update={(e) => filter({ state: String(e.detail) })}
			>
				<SelectItem value="all" text="all states" />
				<SelectItem value="not-covered" text="for students not covered" />
				{#each states as state (state)}<SelectItem value={state} text={state} />{/each}
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

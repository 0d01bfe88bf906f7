<script lang="ts">
	import { invalidate } from '$app/navigation';
	import { stretchWords } from '$lib/core/time/stretch';
	import { nearTime } from '$lib/ui/parts/clock';
	import { whenStill } from '$lib/ui/parts/when-still';
	import PutBackSheet from '$lib/ui/parts/PutBackSheet.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';

	/** How the courier is: whether it is at work, what waits, what goes, what went wrong. Looked at again every few seconds. */
	let { data, form } = $props();
	const h = $derived(data.health);
	const zone = $derived(data.frame!.zone);
	$effect(() => {
		const fresh = whenStill(() => invalidate('courier'), 300);
		const timer = setInterval(fresh.soon, 3_000);
		return () => {
			clearInterval(timer);
			fresh.stop();
		};
	});
	const since = (machineAt: number) => stretchWords((h.machineNow - machineAt) / 60_000);
	const holdWords = (ms: number) => (ms < 1_000 ? `${ms} ms` : `${(ms / 1_000).toFixed(1)} s`);
	const services = { email: 'Mail server', text: 'Text provider', inbox: 'Inbox' } as const;
</script>

<svelte:head><title>Courier · Idle Courier</title></svelte:head>

<div class="page">
	<h1>
		{#if h.atWork}The courier is at work{:else}<span class="fail">The courier is not running</span
			>{/if}
	</h1>
	<p class="quiet">
		{#if h.atWork && h.startedAt}
			For {since(h.startedAt)}, as process {h.pid}.
		{:else if h.beatAt}
			It was last heard of {since(h.beatAt)} ago. Copies wait and leave when it is started again; nothing
			is lost.
		{:else}
			None has been at work on this database yet.
		{/if}
		{#if h.lastReceiptAt}Last word from outside {nearTime(h.lastReceiptAt, h.now, zone)}.{/if}
	</p>
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if data.putBack}
		<PutBackSheet held={data.putBack} now={h.now} {zone} mayOperate={data.mayOperate} />
	{/if}
	{#each h.againstUs as trouble (trouble.detail)}
		<p class="heed">
			{trouble.copies}
			{trouble.copies === 1 ? 'letter was' : 'letters were'} refused for something the other side has
			against us as a sender, and for no fault of the mailboxes, last {nearTime(
				trouble.at,
				h.now,
				zone
			)}: {trouble.detail}
		</p>
	{/each}
	{#if h.unsure.length > 0}
		<p class="heed">
			May have arrived, handed over twice without an answer:
			{#each h.unsure as d, i (d.id)}{i > 0 ? ', ' : ''}<a
					href="/reach/{d.id}?state=unsure"
					dir="auto">{d.copies} of {d.subject}</a
				>{/each}. Look at them and have them sent once more, or leave them.
		</p>
	{/if}
	{#if h.trouble}
		<p class="heed">Went wrong last, {since(h.troubleAt)} ago: {h.trouble}</p>
	{/if}
	<!-- On a phone it scrolls by itself, and keys must reach it. -->
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<table tabindex="0" aria-label="How each way stands">
		<thead>
			<tr>
				<th>Way</th>
				<th>Stands</th>
				<th class="n">Due now</th>
				<th class="n">Tried again later</th>
				<th class="n">Left in the last minute</th>
				<th class="n">in the last hour</th>
				<th class="n">Failed in a day</th>
			</tr>
		</thead>
		<tbody>
			{#each h.ways as w (w.way)}
				<tr>
					<th scope="row"><WayMark way={w.way} word /></th>
					<td>
						{#if !w.working}
							<span class="fail">{services[w.way]} not there: {w.why}</span>
							{#if w.since}<span class="quiet small under"
									>since {nearTime(w.since, h.now, zone)}</span
								>{/if}
						{:else if w.slowMs > 0}
							<span class="heed"
								>Takes fewer than it is given: a pause of {Math.round(w.slowMs / 1000)} s between tries</span
							>
						{:else}
							<span class="good">works</span>{#if w.why}<span class="quiet small under"
									>{w.why}</span
								>{/if}
						{/if}
					</td>
					<td class="n"
						><b>{w.due}</b>{#if w.oldestDueAt !== null}<span class="quiet small under"
								>since {nearTime(w.oldestDueAt, h.now, zone)}</span
							>{/if}</td
					>
					<td class="n">{w.putOff}</td>
					<td class="n">{w.leftInMinute}</td>
					<td class="n">{w.leftInHour}</td>
					<td class="n" class:fail={w.failedInDay > 0}>{w.failedInDay}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="small quiet">
		Letters to the staff: {h.notices.waiting} waiting{h.notices.failed > 0
			? `, ${h.notices.failed} could not be sent`
			: ''}. Receipts of texts that nobody here sent: {h.strangers}. Reports about other addresses
		than those written to, in a week: {h.otherReports}; they change nothing.
		{#if h.lock.longest}
			Others had to wait with writing for more than {h.lock.feltMs} ms {h.lock.times === 1
				? 'once'
				: `${h.lock.more ? 'at least ' : ''}${h.lock.times} times`} in a day, at most {holdWords(
				h.lock.longest.ms
			)} for {h.lock.longest.by}, {since(h.lock.longest.at)} ago.
		{:else}
			In a day nothing had to wait with writing for more than {h.lock.feltMs} ms.
		{/if}
		The same for machines at
		<a class="mono" href="/health" data-sveltekit-reload>/health</a>.
	</p>
</div>

<style>
	.page {
		max-width: 1080px;
	}
	table {
		border-collapse: collapse;
		background: var(--sheet);
	}
	td,
	th {
		padding: 8px 12px;
		border: 1px solid var(--line);
		text-align: start;
		vertical-align: top;
	}
	thead th {
		font-size: 12.5px;
		color: var(--quiet);
		background: var(--wash);
	}
	.n {
		text-align: end;
	}
	.under {
		display: block;
	}
</style>

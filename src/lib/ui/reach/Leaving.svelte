<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { clockTime, dayTime } from '../parts/clock';
	import type { DispatchReach } from '$lib/server/desk/reach/types';
	import { bench } from '$lib/ui/parts/bench.svelte';

	/** What has not left yet, when it does, and how it can be stopped. */
	let {
		reach,
		mine,
		zone
	}: {
		reach: DispatchReach;
		/** Whether the viewer may stop it. */
		mine: boolean;
		zone: string;
	} = $props();
	const secondsLeft = $derived(
		Math.max(0, Math.ceil((reach.dispatch.leavesAt - bench.now) / 1000))
	);
	const ahead = $derived(secondsLeft > 0);
	/** All copies, whether they have left or not. */
	const copies = $derived(reach.copies.all);
	/** Whether it goes by no way, and only stands on boards. */
	const alone = $derived(reach.dispatch.ways.length === 0);
	/** A hold is short enough to count down; what is further ahead has its day. */
	const onHold = $derived(ahead && secondsLeft <= 1800);
	const countdown = $derived(
		`${Math.floor(secondsLeft / 60)}:${String(secondsLeft % 60).padStart(2, '0')}`
	);
	const later = $derived(
		reach.copies.pending.lastAt !== null && reach.copies.pending.lastAt > bench.now
	);
</script>

{#if reach.dispatch.waits !== null}
	<div class="hold">
		<span class="heed">{reach.dispatch.waits}</span>
		{#if mine}
			<form method="post" action="?/resume" use:enhance>
				<Button type="submit" kind="tertiary">Send it all the same</Button>
			</form>
			<form method="post" action="?/callback" use:enhance>
				<Button type="submit" kind="tertiary">Change it in Write</Button>
			</form>
		{/if}
	</div>
{:else if onHold}
	<form method="post" action="?/callback" use:enhance class="hold">
		<span
			>On hold. {alone ? 'It stands' : `${copies} ${copies === 1 ? 'copy leaves' : 'copies leave'}`} in
			<b class="mono">{countdown}</b>, at {clockTime(reach.dispatch.leavesAt, zone)}.</span
		>
		{#if mine}<Button type="submit" kind="tertiary"
				>{alone
					? 'Call it back'
					: `Call back ${copies} ${copies === 1 ? 'copy' : 'copies'}`}</Button
			>{/if}
	</form>
{:else if ahead}
	<form method="post" action="?/callback" use:enhance class="hold">
		<span>
			{#if alone}It stands from <b>{dayTime(reach.dispatch.leavesAt, zone)}</b>.
			{:else if reach.dispatch.farAhead}Its copies are written out when its time comes near.
			{:else}{copies}
				{copies === 1 ? 'copy leaves' : 'copies leave'}
				<b>{dayTime(reach.dispatch.leavesAt, zone)}</b
				>{#if reach.copies.pending.lastAt !== null && reach.copies.pending.lastAt - reach.dispatch.leavesAt >= 60_000},
					the last
					{dayTime(reach.copies.pending.lastAt, zone)}{/if}. Who gets it is worked out again ten
				minutes before.{/if}
		</span>
		{#if mine}<Button type="submit" kind="tertiary">Call it back</Button>{/if}
	</form>
{:else if reach.copies.pending.copies > 0}
	<form method="post" action="?/stop" use:enhance class="hold">
		<span>
			{copies - reach.copies.pending.copies} of {copies} copies have left{#if later}; the last
				leaves {dayTime(reach.copies.pending.lastAt!, zone)}{/if}.
			{#if reach.copies.pending.untried > 0}Whom to chase is known after that.{/if}
		</span>
		{#if mine}
			<Button type="submit" kind="danger-tertiary"
				>Stop {reach.copies.pending.copies.toLocaleString('en-US')}
				{reach.copies.pending.copies === 1 ? 'copy' : 'copies'}</Button
			>
		{/if}
	</form>
{/if}

<style>
	.hold {
		display: flex;
		gap: 14px;
		align-items: center;
		border: 1px dashed var(--line-strong);
		background: var(--sheet);
		padding: 8px 8px 8px 14px;
	}
</style>

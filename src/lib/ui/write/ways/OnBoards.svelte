<script lang="ts">
	import { Checkbox } from 'carbon-components-svelte';
	import { someNames } from '$lib/core/plan/check';
	import { localOf, placeLocal } from '$lib/core/time/local';
	import { onDestroy } from 'svelte';
	import { bench } from '../../parts/bench.svelte';
	import { dayTime } from '../../parts/clock';
	import MomentField from '../../parts/MomentField.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';
	import Folded from './Folded.svelte';

	/** On which boards an announcement stands, and from when until when; or that it only stands there. */
	let { sheet, zone }: { sheet: Sheet; zone: string } = $props();
	const change = (part: Partial<Sheet['board']>) => (sheet.board = { ...sheet.board, ...part });
	const boards = $derived(sheet.landing?.boards ?? null);
	/** Several dates stand each from its own time to its own end. */
	const once = $derived(['now', 'at'].includes(sheet.timing.when.kind));
	/** Which times stand in a field and cannot be read. */
	let fromUnread = $state(false);
	let untilUnread = $state(false);
	$effect(() => {
		sheet.sayUnread(
			'boards',
			fromUnread || untilUnread ? 'A time on the boards cannot be read' : ''
		);
	});
	// What is no announcement any more is held up by none.
	onDestroy(() => sheet.sayUnread('boards', ''));
	const where = $derived.by(() => {
		if (!sheet.board.on) return ['On', 'no board'];
		if (!boards) return ['On the boards of', 'those picked'];
		const { names } = boards;
		if (names.length === 0)
			return ['On', 'no board: no whole section, group or school of yours is picked'];
		return [
			names.length === 1 ? 'On the board of' : `On ${names.length} boards:`,
			someNames(names, 2)
		];
	});
	const how = $derived.by(() => {
		const { on, from, until, pinned } = sheet.board;
		if (!on || (boards && boards.names.length === 0)) return [];
		return [
			...(from === null ? [] : [`from ${dayTime(from, zone, bench.now)}`]),
			...(until === null ? [] : [`until ${dayTime(until, zone, bench.now)}`]),
			...(pinned ? ['pinned'] : []),
			...(sheet.ways.length === 0 ? ['nobody is written to'] : [])
		];
	});
</script>

<Folded label={where[0]!} says={[where[1], ...how].join(', ')}>
	{#snippet fields()}
		<div>
			<Checkbox
				labelText="On the boards of the sections, groups and schools picked"
				checked={sheet.board.on}
				on:check={(e) => change({ on: e.detail })}
			/>
			<Checkbox
				labelText="Pinned: before all others"
				disabled={!sheet.board.on}
				checked={sheet.board.pinned}
				on:check={(e) => change({ pinned: e.detail })}
			/>
			<Checkbox
				labelText="Only there: by no way to anybody"
				disabled={!sheet.board.on}
				checked={sheet.ways.length === 0}
				on:check={(e) => {
					if (e.detail) sheet.ways = [];
					else if (sheet.ways.length === 0) sheet.ways = ['email', 'inbox'];
				}}
			/>
		</div>
		{#if sheet.board.on && once}
			<div class="times">
				<Checkbox
					labelText="From another time than it leaves"
					checked={sheet.board.from !== null}
					on:check={(e) => change({ from: e.detail ? bench.now : null })}
				/>
				{#if sheet.board.from !== null}
					<MomentField
						label="Stands from"
						value={localOf(sheet.board.from, zone)}
						now={bench.now}
						{zone}
						bind:unread={fromUnread}
						onchange={(at) => change({ from: placeLocal(at, zone).at })}
					/>
				{/if}
				<Checkbox
					labelText="Until another time than its end"
					checked={sheet.board.until !== null}
					on:check={(e) => change({ until: e.detail ? bench.now + 7 * 86_400_000 : null })}
				/>
				{#if sheet.board.until !== null}
					<MomentField
						label="Stands until"
						value={localOf(sheet.board.until, zone)}
						now={bench.now}
						{zone}
						bind:unread={untilUnread}
						onchange={(at) => change({ until: placeLocal(at, zone).at })}
					/>
				{/if}
			</div>
		{/if}
	{/snippet}
</Folded>

<style>
	.times {
		display: grid;
		gap: 6px;
		align-content: start;
	}
</style>

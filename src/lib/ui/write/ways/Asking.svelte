<script lang="ts">
	import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { onDestroy } from 'svelte';
	import { localOf, placeLocal } from '$lib/core/time/local';
	import type { Asking, Invitation } from '$lib/core/talk/invitation-schema';
	import type { DispatchChoice } from '$lib/server/desk/audience/types';
	import { bench } from '../../parts/bench.svelte';
	import { dayTime } from '../../parts/clock';
	import MomentField from '../../parts/MomentField.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';
	import Folded from './Folded.svelte';
	import CountField from './CountField.svelte';
	import SlotFields from './SlotFields.svelte';

	/** Whether it asks who comes: until when, how many places there are, and to which times; or about which earlier invitation. */
	let { sheet, zone, earlier }: { sheet: Sheet; zone: string; earlier: readonly DispatchChoice[] } =
		$props();

	const asking = $derived(sheet.invitation?.kind === 'asks' ? sheet.invitation : null);
	const about = $derived(sheet.invitation?.kind === 'about' ? sheet.invitation.dispatchId : null);
	const invitations = $derived(earlier.filter((d) => d.asks));
	const subjectOf = (id: number) =>
		earlier.find((d) => d.id === id)?.subject ?? `the invitation #${id}`;
	const change = (part: Partial<Asking>) => {
		if (asking) sheet.invitation = { ...asking, ...part };
	};
	/** A week from now, in the afternoon: time enough to answer, and easily said otherwise. */
	const usualUntil = () =>
		DateTime.fromMillis(bench.now, { zone })
			.plus({ days: 7 })
			.startOf('day')
			.plus({ hours: 17 })
			.toMillis();
	function choose(value: string) {
		const chosen: Invitation =
			value === ''
				? null
				: value === 'asks'
					? {
							...{ kind: 'asks', until: usualUntil(), places: null, slots: [] },
							...{ most: 10, anybody: false }
						}
					: { kind: 'about', dispatchId: Number(value) };
		sheet.invitation = chosen;
	}
	let unread = $state(false);
	$effect(() => {
		sheet.sayUnread(
			'invitation',
			unread && asking ? 'A time of the invitation cannot be read' : ''
		);
	});
	onDestroy(() => sheet.sayUnread('invitation', ''));
	const says = $derived.by(() => {
		if (about !== null) return `whether they come, about “${subjectOf(about)}”`;
		if (!asking) return 'nothing';
		const n = asking.slots.length;
		return [
			'who comes',
			...(asking.until === null ? [] : [`until ${dayTime(asking.until, zone, bench.now)}`]),
			...(n > 0 ? [`${n} ${n === 1 ? 'time' : 'times'} to choose from`] : []),
			...(asking.places === null
				? []
				: [`${asking.places.toLocaleString('en')} ${asking.places === 1 ? 'place' : 'places'}`]),
			...(asking.anybody ? ['anybody with the link'] : [])
		].join(', ');
	});
</script>

<Folded label="Asks" {says}>
	{#snippet fields()}
		<Select
			size="sm"
			labelText="Its readers are asked"
			selected={asking ? 'asks' : about === null ? '' : String(about)}
			on:update={(e) => choose(String(e.detail))}
		>
			<SelectItem value="" text="nothing" />
			<SelectItem value="asks" text="who comes" />
			{#each invitations as d (d.id)}
				<SelectItem value={String(d.id)} text="again about “{d.subject}”" />
			{/each}
			{#if about !== null && !invitations.some((d) => d.id === about)}
				<SelectItem value={String(about)} text="again about “{subjectOf(about)}”" />
			{/if}
		</Select>
		{#if asking}
			<MomentField
				label="Answers until"
				value={localOf(asking.until ?? usualUntil(), zone)}
				now={bench.now}
				{zone}
				bind:unread
				onchange={(at) => change({ until: placeLocal(at, zone).at })}
			/>
			<CountField
				label={asking.slots.length > 0
					? 'Places over all times (empty: as in each)'
					: 'Places (empty: as many as come)'}
				value={asking.places}
				onchange={(places) => change({ places })}
			/>
			<CountField
				label="Come together at most"
				value={asking.most}
				most={20}
				onchange={(most) => change({ most: most ?? 10 })}
			/>
		{/if}
	{/snippet}
	{#snippet after()}
		{#if asking}
			<Checkbox
				labelText="Anybody with its link may answer too: name and address are asked, and confirmed by mail"
				checked={asking.anybody}
				on:check={(e) => change({ anybody: e.detail })}
			/>
			<SlotFields slots={asking.slots} {zone} onchange={(slots) => change({ slots })} />
		{:else if about !== null}
			<p class="small quiet">
				Its readers see the same question, and what they have said. Answers go to the one list.
			</p>
		{/if}
	{/snippet}
</Folded>

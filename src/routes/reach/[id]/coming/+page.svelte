<script lang="ts">
	import { goto } from '$app/navigation';
	import { InlineNotification, Select, SelectItem } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { followDispatch } from '$lib/ui/reach/follow-dispatch';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import { nearTime } from '$lib/ui/parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import LineEnded from '$lib/ui/parts/LineEnded.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import TypedSearch from '$lib/ui/parts/TypedSearch.svelte';
	import ChangePlaces from '$lib/ui/reach/coming/ChangePlaces.svelte';
	import ComingDeeds from '$lib/ui/reach/coming/ComingDeeds.svelte';
	import ComingHead from '$lib/ui/reach/coming/ComingHead.svelte';
	import PutDown from '$lib/ui/reach/coming/PutDown.svelte';
	import { howWords, manyWords, slotSeen } from '$lib/ui/reach/coming/coming-words';
	import type { ComingLine } from '$lib/server/desk/invitations/types';

	/** Who said what to an invitation: everybody who was asked, those who come with their time, those in line in their order. */
	let { data, form } = $props();
	const invitation = $derived(data.invitation);
	const zone = $derived(data.frame!.zone);
	const now = $derived(data.frame!.now);
	const usual = { state: 'all', slot: 0, search: '', page: 1 };
	const turn = (change: Partial<typeof usual>) =>
		void goto(filterQuery({ ...data.filter, page: 1, ...change }, usual), {
			keepFocus: true,
			noScroll: true
		});
	const states = [
		['all', 'everybody asked'],
		['comes', 'who come'],
		['waits', 'who stand in line'],
		['not', 'who do not come'],
		['unsaid', 'who have not answered']
	] as const;
	const id = $derived(invitation.id);
	let endedAt = $state<number | null>(null);
	$effect(() => {
		endedAt = null;
		return followDispatch(id, () => (endedAt = bench.now));
	});
	const slotOf = (line: ComingLine) => invitation.slots.find((s) => s.id === line.slot);
	function says(line: ComingLine): string {
		if (line.state === 'unsaid') return 'has not answered';
		if (line.state === 'not') return 'does not come';
		const slot = slotOf(line);
		return [
			line.state === 'waits' ? `number ${count(line.inLine)} in line, ` : '',
			manyWords(line.people, line.studentsComing),
			slot ? `, ${slotSeen(slot, zone, now)}` : ''
		].join('');
	}
</script>

<svelte:head><title>Who comes · {invitation.subject} · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet">
		<a href="/reach">Reach</a> ·
		<a href="/reach/{invitation.id}" dir="auto">{invitation.subject}</a> · Who comes
	</p>
	<h1 class="spoken">Who comes to {invitation.subject}</h1>
	<LineEnded at={endedAt} {zone} />
	<ComingHead {invitation} {now} {zone} />
	{#if form?.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{/if}
	{#if form?.done}<p role="status">{form.done}</p>{/if}
	<ComingDeeds {invitation} mayWrite={data.mayWrite} />
	{#if invitation.mine}<ChangePlaces {invitation} {now} {zone} />{/if}

	<div class="filter-bar">
		<h2>Everybody</h2>
		<TypedSearch
			label="Find a family or guest"
			placeholder="Find a family or guest"
			value={data.filter.search}
			onsearch={(search) => turn({ search: search.trim() })}
		/>
		<Select
			inline
			size="sm"
			labelText="Show"
			selected={data.filter.state}
			on:update={(e) => turn({ state: String(e.detail) })}
		>
			{#each states as [value, text] (value)}<SelectItem {value} {text} />{/each}
		</Select>
		{#if invitation.slots.length > 0}
			<Select
				inline
				size="sm"
				labelText="Time"
				selected={String(data.filter.slot)}
				on:update={(e) => turn({ slot: Number(e.detail) })}
			>
				<SelectItem value="0" text="all" />
				{#each invitation.slots as slot (slot.id)}
					<SelectItem value={String(slot.id)} text={slotSeen(slot, zone, now)} />
				{/each}
			</Select>
		{/if}
		<span class="quiet">{count(data.list.found)}</span>
	</div>
	{#if data.list.lines.length === 0}
		<p class="quiet">Nobody here fits that.</p>
	{:else}
		<table class="plain">
			<thead><tr><th>Who</th><th>For</th><th>Says</th><th>When, and how</th></tr></thead>
			<tbody>
				{#each data.list.lines as line (line.key)}
					<tr>
						<td
							>{#each line.names as name, i (i)}{i > 0 ? ', ' : ''}<bdi>{name}</bdi
								>{/each}{#if line.address}<br /><span class="quiet small" dir="ltr"
									>{line.address}</span
								>{/if}</td
						>
						<td
							>{#each line.students as name, i (i)}{i > 0 ? ', ' : ''}<bdi>{name}</bdi>{/each}</td
						>
						<td class={line.state}
							>{says(line)}
							{#if invitation.mine}<PutDown {line} {invitation} {now} {zone} />{/if}</td
						>
						<td class="quiet"
							>{#if line.at !== null && line.how !== null}{nearTime(line.at, now, zone)}, {howWords[
									line.how
								]}{line.by && !(line.names.length === 1 && line.names[0] === line.by)
									? ` by ${line.by}`
									: ''}{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<Pages
			all={data.list.found}
			perPage={data.list.perPage}
			page={data.list.page}
			what="Answers"
			onturn={(page) => turn({ page })}
		/>
	{/if}
</div>

<style>
	.page {
		gap: 14px;
	}
	.filter-bar > :global(.bx--search) {
		flex: 0 1 280px;
	}
	.comes {
		color: var(--good);
	}
	.waits {
		color: var(--heed);
	}
	.unsaid {
		color: var(--quiet);
	}
</style>

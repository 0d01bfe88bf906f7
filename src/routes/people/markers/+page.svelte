<script lang="ts">
	import { Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import { markerKinds } from '$lib/core/roster/marker';
	import ListAndNew from '$lib/ui/places/ListAndNew.svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import type { MarkerLine } from '$lib/server/desk/markers/types';

	/** The markers that can be used today, and a new one. */
	let { data, form } = $props();
	const columns = [
		{ key: 'name', value: 'Marker' },
		{ key: 'kind', value: 'Holds' },
		{ key: 'school', value: 'Of' },
		{ key: 'term', value: 'Ends' },
		{ key: 'have', value: 'Students who have it' }
	] as const;
</script>

{#snippet cell(line: MarkerLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}<a href="/people/markers/{line.id}" dir="auto">{line.name}</a>
	{:else if key === 'kind'}{markerKinds[line.kind]}
	{:else if key === 'school'}{line.school ?? 'the whole district'}
	{:else if key === 'term'}{line.term === null ? 'stays' : `with ${line.term}`}
	{:else}{line.have.toLocaleString('en')} of {line.of.toLocaleString('en')}{/if}
{/snippet}

<ListAndNew
	title="Markers"
	count="{data.markers.length} {data.markers.length === 1 ? 'marker' : 'markers'}"
	fresh={data.lists.wholeDistrict || data.lists.schools.length > 0 ? 'A new marker' : null}
	why={form?.why ?? ''}
>
	{#snippet list()}
		<p class="quiet small">
			A marker is a fact about students: slip returned, fee paid, passport until. It is set on a
			section’s list or comes with a list; audiences ask for it, and words can say it.
		</p>
		{#if data.markers.length > 0}
			<LineTable {columns} lines={data.markers} idOf={(line) => line.id} {cell} />
		{/if}
	{/snippet}
	{#snippet fields()}
		<TextInput size="sm" labelText="Name" name="name" maxlength={60} placeholder="museum slip" />
		<Select size="sm" labelText="Holds" name="kind">
			{#each Object.entries(markerKinds) as [kind, words] (kind)}
				<SelectItem value={kind} text={words} />
			{/each}
		</Select>
		<Select size="sm" labelText="Of" name="schoolId" selected={String(data.ownSchool ?? '')}>
			{#if data.lists.wholeDistrict}<SelectItem value="" text="the whole district" />{/if}
			{#each data.lists.schools as s (s.id)}
				<SelectItem value={String(s.id)} text={s.name} />
			{/each}
		</Select>
		<Select size="sm" labelText="Ends" name="termId">
			<SelectItem value="" text="stays until it is given up" />
			{#each data.lists.terms as t (t.id)}
				<SelectItem value={String(t.id)} text="with {t.name}" />
			{/each}
		</Select>
	{/snippet}
</ListAndNew>

<script lang="ts">
	import { Search } from 'carbon-components-svelte';
	import { ways as allWays } from '$lib/core/roster/way';
	import type { ManifestFilter, Facet, ManifestPage } from '$lib/server/desk/plan/types';
	import Choose from '../../parts/Choose.svelte';

	/** Narrows the manifest; every filter holds at once. */
	let {
		filter,
		view,
		onnarrow
	}: {
		filter: ManifestFilter;
		view: ManifestPage;
		onnarrow: (change: Partial<ManifestFilter>) => void;
	} = $props();

	const shows: { value: ManifestFilter['show']; text: string }[] = [
		{ value: 'all', text: 'everyone' },
		{ value: 'copies', text: 'who gets a copy' },
		{ value: 'out', text: 'left out' },
		{ value: 'not-all-ways', text: 'not by every chosen way' },
		{ value: 'several', text: 'for several students' },
		{ value: 'shared', text: 'one copy at a shared address' },
		{ value: 'later', text: 'later, out of quiet hours' },
		{ value: 'by-hand', text: 'changed by hand' }
	];
	const ways: { value: ManifestFilter['way']; text: string }[] = [
		{ value: '', text: 'any' },
		...allWays.map((way) => ({ value: way, text: way }))
	];
	const facets = (list: readonly Facet[]) => [
		{ value: '', text: 'any' },
		...list.map((f) => ({ value: f.value, text: `${f.word} (${f.people})` }))
	];

	let typing: ReturnType<typeof setTimeout> | undefined;
	function type(search: string) {
		if (search === filter.search) return;
		clearTimeout(typing);
		typing = setTimeout(() => onnarrow({ search }), 150);
	}
</script>

<Search
	size="sm"
	labelText="Search the manifest"
	placeholder="Name, student, section or address"
	bind:value={() => filter.search, (value) => type(value ?? '')}
/>
<Choose
	inline
	label="Show"
	options={shows}
	value={filter.show}
	onchoose={(show) => onnarrow({ show })}
/>
<Choose
	inline
	label="Way"
	options={ways}
	value={filter.way}
	onchoose={(way) => onnarrow({ way })}
/>
<Choose
	inline
	label="Language"
	options={facets(view.languages)}
	value={filter.language}
	onchoose={(language) => onnarrow({ language })}
/>
<Choose
	inline
	label="Section"
	options={facets(view.sections)}
	value={filter.section}
	onchoose={(section) => onnarrow({ section })}
/>
{#if view.reasons.length > 0}
	<Choose
		inline
		label="Reason"
		options={facets(view.reasons)}
		value={filter.reason}
		onchoose={(reason) => onnarrow({ reason })}
	/>
{/if}

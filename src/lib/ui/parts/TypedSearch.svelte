<script lang="ts">
	import { Search } from 'carbon-components-svelte';

	/** A search that narrows the list below it, a moment after the last key. */
	let {
		label,
		placeholder,
		value,
		onsearch
	}: {
		label: string;
		placeholder: string;
		/** What is searched for now. */
		value: string;
		onsearch: (words: string) => void;
	} = $props();
	// svelte-ignore state_referenced_locally
	let typed = $state(value);
	let timer: ReturnType<typeof setTimeout> | undefined;
	function soon() {
		clearTimeout(timer);
		timer = setTimeout(() => onsearch(typed), 200);
	}
</script>

<Search
	size="sm"
	labelText={label}
	{placeholder}
	bind:value={typed}
	on:input={soon}
	on:clear={() => {
		typed = '';
		soon();
	}}
/>

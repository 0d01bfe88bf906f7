<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';

	/** A number of people; empty says null. What is no such number changes nothing, and is said. */
	let {
		label,
		value,
		most = 100_000,
		hideLabel = false,
		onchange
	}: {
		label: string;
		value: number | null;
		most?: number;
		hideLabel?: boolean;
		onchange: (value: number | null) => void;
	} = $props();

	/** What is typed and is no such number yet. */
	let typed = $state<string | null>(null);
	function take(text: string) {
		const said = text.trim();
		const n = Number(said);
		const reads = said === '' || (/^\d{1,6}$/.test(said) && n >= 1 && n <= most);
		typed = reads ? null : text;
		if (reads) onchange(said === '' ? null : n);
	}
</script>

<TextInput
	size="sm"
	labelText={label}
	{hideLabel}
	inputmode="numeric"
	maxlength={6}
	value={typed ?? (value === null ? '' : String(value))}
	invalid={typed !== null}
	invalidText="A number from 1 to {most.toLocaleString('en')}."
	on:input={(e) => take(String(e.detail ?? ''))}
/>

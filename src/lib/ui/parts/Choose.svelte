<script lang="ts" generics="T extends string | number">
	import { Select, SelectItem } from 'carbon-components-svelte';

	/** One of a list: Carbon's select over plain data. */
	let {
		label,
		options,
		value,
		onchoose,
		inline = false,
		hideLabel = false
	}: {
		label: string;
		options: readonly { readonly value: T; readonly text: string }[];
		value: T;
		onchoose: (value: T) => void;
		inline?: boolean;
		hideLabel?: boolean;
	} = $props();
	// Carbon hands numbers back as text.
	const chosen = (text: unknown) => options.find((o) => String(o.value) === String(text));
</script>

<Select
	size="sm"
	{inline}
	{hideLabel}
	labelText={label}
	selected={value}
	on:update={(e) => {
		const option = chosen(e.detail);
		if (option && option.value !== value) onchoose(option.value);
	}}
>
	{#each options as o (o.value)}<SelectItem value={o.value} text={o.text} />{/each}
</Select>

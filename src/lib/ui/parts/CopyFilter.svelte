<script lang="ts">
	import { Select, SelectItem } from 'carbon-components-svelte';
	import { ways } from '$lib/core/roster/way';
	import { stateWords } from '$lib/core/track/evidence-words';
	import { deliveryStates } from '$lib/core/track/evidence';

	/** Keeps a list of copies to a state and a way; `extra` are what the list can show beside states. */
	let {
		state,
		way,
		extra,
		onfilter
	}: {
		state: string;
		way: string;
		extra: readonly { readonly value: string; readonly text: string }[];
		onfilter: (change: { state?: string; way?: string }) => void;
	} = $props();
</script>

<Select
	inline
	size="sm"
	labelText="State"
	selected={state}
	on:update={(e) => onfilter({ state: String(e.detail) })}
>
	<SelectItem value="all" text="all states" />
	{#each extra as { value, text } (value)}<SelectItem {value} {text} />{/each}
	{#each deliveryStates as each (each)}<SelectItem value={each} text={stateWords[each]} />{/each}
</Select>
<Select
	inline
	size="sm"
	labelText="Way"
	selected={way}
	on:update={(e) => onfilter({ way: String(e.detail) })}
>
	<SelectItem value="all" text="all ways" />
	{#each ways as each (each)}<SelectItem value={each} text={each} />{/each}
</Select>

<script lang="ts">
	import { stateWords } from '$lib/core/track/evidence-words';
	import type { DeliveryState, Strength } from '$lib/core/track/evidence';

	/** A ring that fills as a delivery goes forward; `nobody` is a dash. Evidence shows in the ring's edge. */
	let {
		state,
		strength = 'none',
		size = 14,
		label
	}: {
		state: DeliveryState | 'nobody';
		strength?: Strength;
		size?: number;
		/** Said instead of the state's word; empty where the word stands beside it. */
		label?: string;
	} = $props();

	const color = $derived(
		state === 'failed'
			? 'var(--fail)'
			: state === 'read' || state === 'answered'
				? 'var(--action)'
				: 'var(--quiet)'
	);
	const edge = $derived(strength === 'strong' ? 2.2 : strength === 'weak' ? 0.8 : 1.4);
	const said = $derived(label ?? (state === 'nobody' ? 'nobody to write to' : stateWords[state]));
	const sector = (share: number): string => {
		const a = 2 * Math.PI * share - Math.PI / 2;
		return `M8 8 L8 2.4 A5.6 5.6 0 ${share > 0.5 ? 1 : 0} 1 ${8 + 5.6 * Math.cos(a)} ${8 + 5.6 * Math.sin(a)} Z`;
	};
</script>

<svg
	width={size}
	height={size}
	viewBox="0 0 16 16"
	role={said ? 'img' : undefined}
	aria-label={said || undefined}
	aria-hidden={said ? undefined : 'true'}
>
	{#if state === 'nobody' || state === 'spared'}
		<path d="M4 8h8" stroke="var(--quiet)" stroke-width="1.8" />
	{:else}
		{#if state === 'read'}
			<circle cx="8" cy="8" r="5.6" fill={color} />
		{:else if state === 'answered'}
			<circle cx="8" cy="8" r="5.6" fill={color} />
			<path d="M8 8 L14.5 4.5 L14.5 11.5 Z" fill="var(--sheet)" />
		{:else if state === 'delivered'}
			<path d={sector(0.5)} fill={color} />
		{:else if state === 'sent'}
			<path d={sector(0.25)} fill={color} />
		{/if}
		<circle
			cx="8"
			cy="8"
			r="5.6"
			fill="none"
			stroke={color}
			stroke-width={edge}
			stroke-dasharray={state === 'held' ? '2 1.6' : undefined}
		/>
		{#if state === 'failed'}
			<path d="M3 13 L13 3" stroke={color} stroke-width="1.8" />
		{/if}
	{/if}
</svg>

<style>
	svg {
		flex: none;
		vertical-align: -2px;
	}
</style>

<script lang="ts">
	import type { Way } from '$lib/core/roster/way';

	/** The icon of a way, with its word or an accessible name. */
	let { way, word = false, size = 15 }: { way: Way; word?: boolean; size?: number } = $props();
	const names: Record<Way, string> = { email: 'Email', text: 'Text', inbox: 'Inbox' };
</script>

<span class="way {way}">
	<svg
		width={size}
		height={size}
		viewBox="0 0 16 16"
		fill="none"
		stroke="currentColor"
		stroke-width="1.3"
		role={word ? undefined : 'img'}
		aria-label={word ? undefined : names[way]}
		aria-hidden={word ? 'true' : undefined}
	>
		{#if way === 'email'}
			<rect x="1.5" y="3.5" width="13" height="9.5" />
			<path d="M1.5 4l6.5 5 6.5-5" />
		{:else if way === 'text'}
			<rect x="4.5" y="1.5" width="7" height="13" rx="1" />
			<path d="M7 12.5h2" />
		{:else}
			<path d="M1.5 9.5h4l1 2h3l1-2h4M1.5 9.5v4h13v-4l-2.5-7h-8z" />
		{/if}
	</svg>
	{#if word}{names[way]}{/if}
</span>

<style>
	.way {
		display: inline-flex;
		align-items: center;
		gap: 5px;
	}
	.email {
		color: var(--email);
	}
	.text {
		color: var(--text);
	}
	.inbox {
		color: var(--inbox);
	}
</style>

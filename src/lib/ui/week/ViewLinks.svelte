<script lang="ts">
	/** The four ways to look at what leaves when. */
	let { at, day = '' }: { at: 'week' | 'month' | 'list' | 'events'; day?: string } = $props();
	const query = $derived(day ? `?day=${day}` : '');
	const links = $derived([
		['week', `/week${query}`, 'Week'],
		['month', `/week/month${query}`, 'Month'],
		['list', '/week/list', 'List'],
		['events', '/week/events', 'Events and closures']
	] as const);
</script>

<nav aria-label="Ways to look">
	{#each links as [key, href, word] (key)}
		<a {href} aria-current={key === at ? 'page' : undefined}>{word}</a>
	{/each}
</nav>

<style>
	nav {
		display: flex;
		gap: 14px;
	}
	a {
		color: var(--action);
	}
	a[aria-current] {
		color: var(--ink);
		font-weight: 600;
		text-decoration: none;
		box-shadow: inset 0 -2px 0 var(--action);
	}
</style>

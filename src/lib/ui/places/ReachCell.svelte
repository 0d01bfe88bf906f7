<script lang="ts">
	import type { Way } from '$lib/core/roster/way';

	/** For how many students of a place somebody can be reached by a way, or by none: a number that opens the names, over its share as a line. */
	let { n, of, by, href }: { n: number; of: number; by: Way | 'none'; href: string } = $props();
	const share = $derived(of === 0 ? 0 : n / of);
	const percent = $derived(
		n > 0 && share < 0.01
			? 'under 1 %'
			: n < of && share > 0.99
				? 'over 99 %'
				: `${Math.round(share * 100)} %`
	);
</script>

{#if by === 'none' && n === 0}<span class="quiet">none</span>
{:else}
	<span class="cell {by}">
		<a {href}>{n.toLocaleString('en')}</a>
		<span class="quiet small">{percent}</span>
		<span class="line" aria-hidden="true"><i style:width="{share * 100}%"></i></span>
	</span>
{/if}

<style>
	.cell {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 1px 7px;
		align-items: baseline;
		min-width: 84px;
	}
	.line {
		grid-column: 1 / -1;
		height: 3px;
		background: var(--line);
	}
	i {
		display: block;
		height: 100%;
		background: currentColor;
	}
	.email i {
		background: var(--email);
	}
	.text i {
		background: var(--text);
	}
	.inbox i {
		background: var(--inbox);
	}
	.none i {
		background: var(--heed);
	}
	.none a {
		color: var(--heed);
		font-weight: 650;
	}
	@media (forced-colors: active) {
		i {
			background: CanvasText;
		}
	}
</style>

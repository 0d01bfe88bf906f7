<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import ShareBar from '$lib/ui/parts/ShareBar.svelte';
	import type { SilentGroup } from '$lib/server/desk/silent/types';

	/** How many families of each school or language nothing reached, with how far chance alone could move the share. */
	let {
		title,
		groups,
		href,
		shown
	}: {
		title: string;
		groups: readonly SilentGroup[];
		/** The page of one group. */
		href: (key: string) => string;
		/** The group that is shown; empty for all. */
		shown: string;
	} = $props();
	const most = $derived(Math.max(0.05, ...groups.map((g) => (g.share.enough ? g.share.high : 0))));
</script>

<section>
	<h2>{title}</h2>
	<table class="lines">
		<thead
			><tr
				><th><span class="spoken">{title}</span></th><th class="n">families</th><th
					>share <span class="spoken">and its bounds</span></th
				></tr
			></thead
		>
		<tbody>
			{#each groups as group (group.key)}
				{@const s = group.share}
				<tr>
					<td
						><a
							href={href(group.key)}
							dir="auto"
							aria-current={shown === group.key ? 'true' : undefined}>{group.name}</a
						></td
					>
					<td class="n"><b>{count(s.count)}</b> <span class="quiet">of {count(s.of)}</span></td>
					<td>
						{#if s.enough}
							<ShareBar low={s.low} high={s.high} at={s.count / s.of} {most} />
							<span class="small quiet"
								>{Math.round((100 * s.count) / s.of)} % ({Math.round(100 * s.low)} to {Math.round(
									100 * s.high
								)})</span
							>
						{:else}<span class="small quiet">too few to tell</span>{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</section>

<style>
	.n {
		text-align: end;
		white-space: nowrap;
	}
	a[aria-current] {
		font-weight: 700;
	}
</style>

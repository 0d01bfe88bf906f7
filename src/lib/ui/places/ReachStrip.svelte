<script lang="ts">
	import { ways } from '$lib/core/roster/way';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import type { PlaceLine } from '$lib/server/desk/places/types';
	import ReachCell from './ReachCell.svelte';

	/** One place's numbers in a line. */
	let { line }: { line: PlaceLine } = $props();
	const at = (query: string) => `/people/reach?of=${encodeURIComponent(line.key)}${query}`;
</script>

<dl>
	<div>
		<dt>Students</dt>
		<dd><a href={at('')}>{line.students.toLocaleString('en')}</a></dd>
	</div>
	{#each ways as way (way)}
		<div>
			<dt><WayMark {way} word /></dt>
			<dd><ReachCell n={line.by[way]} of={line.students} by={way} href={at(`&by=${way}`)} /></dd>
		</div>
	{/each}
	<div>
		<dt>Nobody reached</dt>
		<dd><ReachCell n={line.none} of={line.students} by="none" href={at('&by=none')} /></dd>
	</div>
	<div>
		<dt>Languages</dt>
		<dd><a href="{at('')}#languages">{line.languages}</a></dd>
	</div>
</dl>

<style>
	dl {
		display: flex;
		flex-wrap: wrap;
		gap: 10px 28px;
		background: var(--sheet);
		border: 1px solid var(--line);
		padding: 10px 16px;
	}
	dt {
		color: var(--quiet);
		font-size: 13px;
	}
	dd {
		margin: 0;
	}
</style>

<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { LeftOutLine } from '$lib/server/desk/track/types';

	/** Who got no copy, and why; the first of them. */
	let {
		id,
		all,
		lines
	}: { id: number; all: { people: number; rows: number }; lines: readonly LeftOutLine[] } =
		$props();
</script>

<section>
	<h3>Left out <span class="heed">{count(all.people)}</span></h3>
	<!-- Scrolls by keyboard too. -->
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<ul tabindex="0" aria-label="People left out">
		{#each lines as line (line.id)}
			<li>
				<span dir="auto">{line.name}</span>
				<span class="quiet small" dir="auto"
					>{line.students ? `for ${line.students}. ` : ''}{line.why}{line.reached
						? '. Gets a copy for others'
						: ''}</span
				>
			</li>
		{/each}
		{#if all.rows > lines.length}
			<li class="small">
				<a href="/reach/{id}/left-out">and {count(all.rows - lines.length)} more: all of them</a>
			</li>
		{/if}
	</ul>
</section>

<style>
	ul {
		max-height: 200px;
		overflow: auto;
		margin-top: 6px;
		border-top: 1px solid var(--line);
	}
	li {
		display: grid;
		padding: 5px 0;
		border-bottom: 1px solid var(--line);
	}
</style>

<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { CoverageUnit } from '$lib/core/track/coverage';
	import type { HardlyReached } from '$lib/server/desk/expect/types';

	/** Whom even the best will hardly reach, and why: for the telephone. */
	let { hardly, of }: { hardly: HardlyReached; of: CoverageUnit } = $props();
	const more = $derived(hardly.students - hardly.lines.length);
</script>

{#if hardly.students > 0}
	<section aria-label="Whom even this will hardly reach">
		<h2>Whom even this will hardly reach</h2>
		<table class="lines">
			<tbody>
				{#each hardly.lines as line (line.studentId)}
					<tr>
						<td>
							<a href="/people/{line.studentId}" dir="auto"><b>{line.name}</b></a>
							{#if line.section}<span class="small quiet" dir="auto">{line.section}</span>{/if}
						</td>
						<td dir="auto">{line.why}</td>
					</tr>
				{/each}
				{#if more > 0}
					<tr>
						<td colspan="2" class="quiet">
							{count(more)} more {more === 1
								? of === 'students'
									? 'student is'
									: 'person is'
								: of === 'students'
									? 'students are'
									: 'people are'} likelier than not to stay {of === 'students'
								? 'uncovered'
								: 'without reading it'}
						</td>
					</tr>
				{/if}
			</tbody>
		</table>
	</section>
{/if}

<style>
	section {
		margin-top: 20px;
	}
	h2 {
		margin-bottom: 6px;
	}
	td {
		vertical-align: top;
	}
	.small {
		display: block;
	}
</style>

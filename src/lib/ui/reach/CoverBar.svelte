<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { CoverageUnit } from '$lib/core/track/coverage';

	/** Covered, waiting and unreachable students as one line with its figures. */
	let {
		students,
		covered,
		unreachable,
		unit = 'students'
	}: {
		students: number;
		covered: number;
		unreachable: number;
		unit?: CoverageUnit;
	} = $props();
	const share = (n: number) => (students === 0 ? 0 : (100 * n) / students);
</script>

<span class="cover">
	<span class="bar" aria-hidden="true">
		<span class="covered" style="width: {share(covered)}%"></span>
		<span class="waiting" style="width: {share(students - covered - unreachable)}%"></span>
		<span class="gone" style="width: {share(unreachable)}%"></span>
	</span>
	<span class="figures"
		><b>{count(covered)}</b>
		<span class="quiet">of {count(students)}{unit === 'people' ? ' people' : ''}</span></span
	>
	{#if unreachable > 0}<span class="fail small">{count(unreachable)} cannot be reached</span>{/if}
</span>

<style>
	.cover {
		display: inline-flex;
		align-items: center;
		gap: 10px;
		white-space: nowrap;
	}
	.bar {
		display: inline-flex;
		width: 120px;
		height: 8px;
		gap: 1px;
		background: var(--wash);
	}
	.figures {
		min-width: 72px;
	}
	.covered {
		background: var(--action);
	}
	.waiting {
		background: var(--share);
	}
	.gone {
		background: var(--fail);
	}
</style>

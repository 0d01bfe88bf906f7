<script lang="ts">
	import { habitWords, type Habit } from '$lib/core/track/habit';
	import WayMark from '../parts/WayMark.svelte';

	/** A reading habit: in words, and as an interval on a line from none to all, with everybody's beside it. */
	let { habit }: { habit: Habit } = $props();
	const percent = (share: number) => `${Math.round(share * 100)} %`;
</script>

<li>
	<WayMark way={habit.way} word />
	<span
		class="plot"
		title="Between {percent(habit.low)} and {percent(habit.high)} of what is sent; others {percent(
			habit.usual
		)}"
	>
		<span class="usual" style="left: {habit.usual * 100}%"></span>
		{#if habit.copies > 0}
			<span
				class="bounds"
				style="left: {habit.low * 100}%; width: {(habit.high - habit.low) * 100}%"
			></span>
			<span class="mark" style="left: {habit.share * 100}%"></span>
		{/if}
	</span>
	<span class="small words">{habitWords(habit)}</span>
</li>

<style>
	li {
		display: grid;
		grid-template-columns: 80px 150px 1fr;
		gap: 12px;
		align-items: center;
		padding: 5px 0;
		border-top: 1px solid var(--line);
	}
	.plot {
		position: relative;
		height: 14px;
		background: linear-gradient(var(--line-strong), var(--line-strong)) center / 100% 1px no-repeat;
	}
	.bounds {
		position: absolute;
		top: 5px;
		height: 4px;
		background: var(--share);
	}
	.mark {
		position: absolute;
		top: 1px;
		width: 3px;
		height: 12px;
		margin-left: -1px;
		background: var(--action);
	}
	.usual {
		position: absolute;
		top: 3px;
		width: 1px;
		height: 8px;
		background: var(--quiet);
	}
</style>

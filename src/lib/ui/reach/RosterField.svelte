<script lang="ts">
	import type { RosterFieldLine } from '$lib/server/desk/reach';
	import StateRing from '../parts/StateRing.svelte';

	/** The roster field: one ring for each student, by section, so that a class is seen at a glance. */
	let { field }: { field: readonly RosterFieldLine[] } = $props();
	const legend = [
		{ state: 'read', word: 'covered' },
		{ state: 'delivered', word: 'delivered' },
		{ state: 'sent', word: 'sent' },
		{ state: 'held', word: 'held' },
		{ state: 'failed', word: 'failed' },
		{ state: 'nobody', word: 'nobody to write to' }
	] as const;
	const word = (standing: string) =>
		standing === 'read' || standing === 'answered'
			? 'covered'
			: standing === 'nobody'
				? 'nobody to write to'
				: standing;
</script>

<section>
	<div class="head">
		<h2>By section</h2>
		<ul class="legend">
			{#each legend as l (l.state)}
				<li><StateRing state={l.state} label="" size={13} />{l.word}</li>
			{/each}
		</ul>
	</div>
	{#each field as line (line.section)}
		<div class="line">
			<span dir="auto">{line.section}</span>
			<ul class="rings" aria-label="Students of {line.section}">
				{#each line.rings as ring (ring.studentId)}
					<li title="{ring.name}: {word(ring.standing)}">
						<StateRing state={ring.standing} size={14} label="{ring.name}: {word(ring.standing)}" />
					</li>
				{/each}
			</ul>
			<span class="sum"
				><b>{line.covered}</b> <span class="quiet">of {line.rings.length}</span></span
			>
		</div>
	{/each}
</section>

<style>
	.head {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 4px 16px;
		padding-bottom: 8px;
	}
	.legend {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		font-size: 12.5px;
		color: var(--quiet);
	}
	.legend li {
		display: inline-flex;
		gap: 5px;
		align-items: center;
	}
	.line {
		display: grid;
		grid-template-columns: 150px 1fr 64px;
		align-items: center;
		gap: 10px;
		padding: 6px 0;
		border-top: 1px solid var(--line);
	}
	.rings {
		display: flex;
		flex-wrap: wrap;
		gap: 3px;
		line-height: 0;
	}
	.sum {
		text-align: right;
		white-space: nowrap;
	}
</style>

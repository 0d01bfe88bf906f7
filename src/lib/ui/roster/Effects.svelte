<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import { nearTime } from '../parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import type { EffectSeen } from '$lib/server/desk/roster/types';

	/** What a roster does to whatever is scheduled and kept: who comes in and who leaves, by name. */
	let { effects, zone }: { effects: readonly EffectSeen[]; zone: string } = $props();
	const numbers = (e: EffectSeen) =>
		[
			e.inCount > 0 ? `+${count(e.inCount)}` : '',
			e.outCount > 0 ? `−${count(e.outCount)}` : ''
		].join(' ');
	const names = (list: readonly string[], all: number) =>
		list.join(', ') + (all > list.length ? ` and ${count(all - list.length)} more` : '');
</script>

{#if effects.length === 0}
	<p class="quiet small">Nothing that is scheduled or kept as a rule changes.</p>
{:else}
	<ul>
		{#each effects as effect (`${effect.kind} ${effect.id}`)}
			<li>
				<details>
					<summary>
						<span dir="auto">{effect.kind === 'kept' ? `Kept: ${effect.name}` : effect.name}</span>
						{#if effect.leavesAt}<span class="quiet small"
								>{nearTime(effect.leavesAt, bench.now, zone)}</span
							>{/if}
						<b>{numbers(effect)}</b>
					</summary>
					{#if effect.inCount > 0}<p class="small" dir="auto">
							In: {names(effect.ins, effect.inCount)}
						</p>{/if}
					{#if effect.outCount > 0}<p class="small" dir="auto">
							Out: {names(effect.outs, effect.outCount)}
						</p>{/if}
				</details>
			</li>
		{/each}
	</ul>
{/if}

<style>
	li {
		border-bottom: 1px solid var(--line);
		padding: 5px 0;
	}
	summary {
		display: grid;
		grid-template-columns: minmax(0, 1fr) auto;
		gap: 0 10px;
		cursor: pointer;
	}
	summary > .quiet {
		grid-row: 2;
	}
	summary b {
		grid-column: 2;
		grid-row: 1;
		white-space: nowrap;
	}
	p {
		margin: 4px 0;
	}
</style>

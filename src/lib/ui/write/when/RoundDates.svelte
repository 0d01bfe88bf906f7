<script lang="ts">
	import type { Moment } from '$lib/core/time/timing';
	import { dayTime } from '../../parts/clock';
	import { floating } from '$lib/core/time/local';

	/** The dates at which a sheet would leave, each with what is particular about it. */
	let { moments, now, zone }: { moments: readonly Moment[]; now: number; zone: string } = $props();
	const note = (m: Moment): string => {
		if (m.note === 'skipped') return 'no school, left out';
		if (m.at < now) return 'past, not made';
		const notes: string[] = m.words ? [m.words] : [];
		if (m.note === 'moved')
			notes.push(`no school on ${floating(m.key).setLocale('en-US').toFormat('ccc LLL d')}, moved`);
		if (m.existence === 'skipped') notes.push('clocks go forward: an hour later on the clock');
		if (m.existence === 'twice') notes.push('clocks go back: the first of two');
		return notes.join('; ');
	};
</script>

<ol class="dates">
	{#each moments as m (m.key)}
		<li class:off={m.note === 'skipped' || m.at < now}>
			<span class="mono">{dayTime(m.at, zone, now)}</span>
			<span class="quiet">{note(m)}</span>
		</li>
	{/each}
</ol>

<style>
	.dates {
		list-style: none;
		padding: 0;
		margin: 0;
	}
	li {
		display: flex;
		justify-content: space-between;
		gap: 12px;
		padding: 5px 0;
		border-top: 1px solid var(--line);
	}
	.off .mono {
		text-decoration: line-through;
		color: var(--quiet);
	}
</style>

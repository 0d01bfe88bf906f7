<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { StudentLeftKind } from '$lib/core/plan/students-left';
	import type { StudentLeftLine } from '$lib/server/desk/track/types';

	/** The students of whom no copy speaks, by how that came about, each with the reason. */
	let {
		lines,
		counts
	}: { lines: readonly StudentLeftLine[]; counts: Readonly<Record<StudentLeftKind, number>> } =
		$props();

	const kinds: readonly { kind: StudentLeftKind; one: string; more: string; heed: boolean }[] = [
		{
			kind: 'unreached',
			one: 'student for whom nobody gets a copy',
			more: 'students for whom nobody gets a copy',
			heed: true
		},
		{
			kind: 'alone',
			one: 'student with nobody on file',
			more: 'students with nobody on file',
			heed: true
		},
		{ kind: 'out', one: 'student taken out', more: 'students taken out', heed: false }
	];
</script>

{#each kinds as { kind, one, more, heed } (kind)}
	{#if counts[kind] > 0}
		{@const mine = lines.filter((l) => l.kind === kind)}
		<details class="left">
			<summary>
				<b class:heed>{count(counts[kind])}</b>
				{counts[kind] === 1 ? one : more}
			</summary>
			<ul>
				{#each mine as line (line.studentId)}
					<li>
						<span dir="auto">{line.name}</span>
						<span class="quiet small" dir="auto"
							>{line.section ? `${line.section}. ` : ''}{line.why}</span
						>
					</li>
				{/each}
				{#if counts[kind] > mine.length}
					<li class="quiet small">and {count(counts[kind] - mine.length)} more, all in the CSV</li>
				{/if}
			</ul>
		</details>
	{/if}
{/each}

<style>
	.left {
		border-top: 1px solid var(--line);
		padding: 6px 0;
	}
	ul {
		max-height: 260px;
		overflow: auto;
		margin-top: 4px;
	}
	li {
		display: grid;
		padding: 4px 0;
	}
</style>

<script lang="ts">
	import { fieldWord } from '$lib/core/roster/field-words';
	import { nearTime } from '../parts/clock';
	import type { PersonChange } from '$lib/server/desk/people/types';

	/** What was changed of a person, by whom or by which roster file. */
	let { changes, zone, now }: { changes: readonly PersonChange[]; zone: string; now: number } =
		$props();

	/** "relation to Marlo: parent", "email: a@x to b@x". */
	function said(change: PersonChange): string {
		if (change.field === 'gone') return 'no longer on the roster';
		if (change.field === 'back') return 'on the roster again';
		if (change.field === 'madeOne')
			return change.after === null
				? `told apart again from ${change.about ?? 'somebody'}`
				: `made one with ${change.about ?? 'somebody'}, who was on file as well`;
		const what = fieldWord(change.field);
		const about = change.about === null ? '' : ` for ${change.about}`;
		if (change.before === null) return `${what}${about}: ${change.after ?? 'none'}`;
		if (change.after === null) return `${what}${about}: ${change.before} taken away`;
		return `${what}${about}: ${change.before} to ${change.after}`;
	}
</script>

<section>
	<h2>What was changed</h2>
	<ul class="small">
		{#each changes as change (change.id)}
			<li>
				<span dir="auto">{said(change)}</span>
				{#if change.disputed}<span class="heed">it had been mended here by hand</span>{/if}
				<br />
				<span class="quiet">
					{nearTime(change.at, now, zone)},
					{#if change.fileId}<a href="/people/rosters/{change.fileId}" dir="auto">{change.by}</a>
					{:else}<span dir="auto">{change.by}</span>{/if}
				</span>
			</li>
		{/each}
	</ul>
</section>

<style>
	li {
		padding: 4px 0;
		border-top: 1px solid var(--line);
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { nearTime } from './clock';
	import type { PutBack } from '$lib/server/desk/send/types';

	/** A database that was put back or copied: why nothing leaves, what is due, and what can be done. */
	let {
		held,
		now,
		zone,
		mayOperate
	}: { held: PutBack; now: number; zone: string; mayOperate: boolean } = $props();
	const why = {
		older: 'Copies have left from here since this database was saved; it does not know of them.',
		copied:
			'This database lies elsewhere than when copies last left from it: it was copied or moved.',
		'no-mark':
			'This database has sent copies, and the mark that lies beside it is missing or cannot be read.',
		restored: 'This database was put back from a backup.'
	} as const;
	const copies = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'copy' : 'copies'}`;
	const rest = $derived(held.due - held.dispatches.reduce((sum, d) => sum + d.copies, 0));
</script>

<section aria-labelledby="held">
	<h2 id="held">Nothing leaves until somebody has looked</h2>
	<p>
		{why[held.why]} What it takes for due may have left before, and would reach families twice.
		{#if held.lastLeftAt}The last copy it knows of left {nearTime(held.lastLeftAt, now, zone)}.{/if}
	</p>
	{#if held.due === 0}
		<p>No copy is due. What is scheduled leaves at its time once copies may leave again.</p>
	{:else}
		<table>
			<thead>
				<tr><th>Dispatch</th><th>From</th><th>Was to leave</th><th class="n">Due</th></tr>
			</thead>
			<tbody>
				{#each held.dispatches as d (d.id)}
					<tr>
						<th scope="row"><a href="/reach/{d.id}" dir="auto">{d.subject}</a></th>
						<td>{d.sender}</td>
						<td>{nearTime(d.leavesAt, now, zone)}</td>
						<td class="n">{d.copies.toLocaleString('en')}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if rest > 0}<p class="quiet small">And {copies(rest)} of other dispatches.</p>{/if}
	{/if}
	{#if mayOperate}
		<form method="post" action="?/goOn" use:enhance>
			{#if held.due > 0}
				<Button type="submit" name="due" value="leave-out" size="field"
					>Leave {copies(held.due)} out, let the rest go</Button
				>
				<Button type="submit" name="due" value="send" kind="tertiary" size="field"
					>Send {copies(held.due)} now</Button
				>
			{:else}
				<Button type="submit" name="due" value="send" size="field">Let copies leave again</Button>
			{/if}
		</form>
	{:else}
		<p class="quiet">The district office decides what happens with them.</p>
	{/if}
</section>

<style>
	section {
		border: 1px solid var(--heed);
		background: var(--sheet);
		padding: 12px 16px;
		margin: 0 0 16px;
	}
	h2 {
		font-size: 18px;
		margin: 0 0 6px;
	}
	table {
		border-collapse: collapse;
		margin: 8px 0;
		width: 100%;
	}
	th,
	td {
		text-align: start;
		padding: 5px 10px;
		border-bottom: 1px solid var(--line);
		font-weight: normal;
	}
	thead th {
		font-size: 12.5px;
		color: var(--quiet);
	}
	.n {
		text-align: end;
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 12px;
		margin-top: 10px;
	}
</style>

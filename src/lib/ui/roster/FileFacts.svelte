<script lang="ts">
	import { enhance } from '$app/forms';
	import { count } from '$lib/core/copy/count';
	import type { FileView } from '$lib/server/desk/roster/types';

	/** What a roster file is, table by table, and how it is read. */
	let { view }: { view: FileView } = $props();
	const looked = $derived(view.looked);
	const used = $derived(looked?.tables.filter((t) => t.lines !== null) ?? []);
	const delta = $derived(used.some((t) => t.mode === 'delta'));
	const whole = $derived(used.some((t) => t.mode === 'bulk'));
	const mode = $derived(
		delta && whole ? 'whole and changes' : delta ? 'changes only (delta)' : 'whole (bulk)'
	);
	const list = $derived(looked?.version === 'list');
	const said = $derived(Object.entries(view.custody));
</script>

{#if looked}
	<table class="lines facts">
		<tbody>
			<tr>
				<td
					>{list
						? `Contact list, ${delta ? 'adds and corrects' : 'complete'}`
						: `OneRoster ${looked.version}, ${mode}`}</td
				>
				<td><b>{used.length} {used.length === 1 ? 'table' : 'tables'}</b></td>
			</tr>
			{#each looked.tables as table (table.name)}
				<tr>
					<td>
						<span dir="auto">{table.name}</span>
						{#if table.lines === null}<span class="quiet">not used</span>
						{:else if delta && whole && table.mode === 'delta'}<span class="quiet">changes</span
							>{/if}
						{#if table.unknown.length > 0}
							<details class="small quiet">
								<summary
									>{table.unknown.length}
									{table.unknown.length === 1 ? 'column' : 'columns'} not used</summary
								>
								<span dir="auto">{table.unknown.join(', ')}</span>
							</details>
						{/if}
					</td>
					<td>{table.lines === null ? '' : count(table.lines)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	{#each looked.remarks as remark, i (i)}<p class="small quiet" dir="auto">{remark}</p>{/each}
	<h2>How it is read</h2>
	<table class="lines facts">
		<tbody>
			<tr>
				<td>Custody of new contacts</td>
				<td>
					{#if said.length === 0}<b>asked for each relation</b>{:else}
						{#each said as [relation, value] (relation)}
							<b dir="auto">{relation}: {value}</b><br />
						{/each}
						others: asked{/if}
				</td>
			</tr>
			<tr>
				<td>Numbers in it</td>
				<td
					><b>{list ? 'texted where it says they opted in' : 'not texted until they opt in'}</b></td
				>
			</tr>
			<tr>
				<td>Who is no longer in it</td>
				<td
					><b>{!list ? 'leaves, keeps the log' : delta ? 'stays' : 'is no contact any more'}</b></td
				>
			</tr>
			{#if list}<tr><td>An empty cell</td><td><b>says nothing</b></td></tr>{/if}
			<tr><td>What was mended here</td><td><b>stays, until the file changes it</b></td></tr>
		</tbody>
	</table>
	{#if view.columns && view.state === 'looked'}
		<form method="post" action="?/askColumns" use:enhance>
			<p class="small">
				{view.columns.remembered ? 'Its columns are as they were said of the last such list.' : ''}
				<button class="plain">Say its columns otherwise</button>
			</p>
		</form>
	{/if}
{/if}

<style>
	.facts td:last-child {
		text-align: end;
		padding-inline-end: 0;
	}
	.facts td {
		padding-block: 6px;
		overflow-wrap: anywhere;
	}
	h2 {
		margin-top: 14px;
	}
</style>

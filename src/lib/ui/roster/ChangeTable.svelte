<script lang="ts">
	import type { ChangeLine } from '$lib/server/desk/roster/types';

	/** Changes of one sort: old beside new, with the line of the file. */
	let { lines, what }: { lines: readonly ChangeLine[]; what: 'new' | 'changed' | 'gone' } =
		$props();
</script>

<table class="plain {what}">
	<thead>
		<tr>
			<th class="line">Line</th>
			<th class="who">Who or what</th>
			{#if what === 'changed'}<th class="old">Today</th>{/if}
			{#if what !== 'gone'}<th class="next">In the file</th>{/if}
			<th>What follows</th>
		</tr>
	</thead>
	<tbody>
		{#each lines as line (line.n)}
			<tr>
				<td class="mono line">
					{#if line.file}{line.file}<br />{line.line}{:else}–{/if}
				</td>
				<td>
					{#if line.personId}<a href="/people/{line.personId}" dir="auto"><b>{line.title}</b></a>
					{:else}<b dir="auto">{line.title}</b>{/if}
					<br /><span class="quiet small" dir="auto">{line.note}</span>
				</td>
				{#if what === 'changed'}
					<td>
						{#each line.was as was, i (i)}<span class="was" dir="auto">{was}</span>{/each}
						{#each line.disputes as dispute, i (i)}<span class="heed small" dir="auto"
								>{dispute}</span
							>{/each}
					</td>
				{/if}
				{#if what !== 'gone'}
					<td>
						{#each line.will as will, i (i)}<span class="will" dir="auto">{will}</span>{:else}<span
								class="quiet">–</span
							>{/each}
					</td>
				{/if}
				<td class="small">{line.follows || '–'}</td>
			</tr>
		{/each}
	</tbody>
</table>

<style>
	table {
		table-layout: fixed;
	}
	.who {
		width: 28%;
	}
	.next {
		width: 34%;
	}
	.changed .who,
	.changed .old {
		width: 23%;
	}
	.changed .next {
		width: 26%;
	}
	.gone .who {
		width: 46%;
	}
	.line {
		white-space: nowrap;
		width: 96px;
	}
	.was,
	.will,
	.heed {
		display: block;
	}
	.was {
		color: var(--quiet);
		text-decoration: line-through;
	}
</style>

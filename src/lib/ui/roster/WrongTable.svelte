<script lang="ts">
	import type { WrongLine } from '$lib/server/desk/roster/types';

	/** Lines that are wrong, each with what is wrong with it and the line itself. */
	let { lines }: { lines: readonly WrongLine[] } = $props();
</script>

<table class="plain">
	<thead><tr><th>Line</th><th>What is wrong</th><th>What becomes of it</th></tr></thead>
	<tbody>
		{#each lines as line (line.n)}
			<tr>
				<td class="mono line">{line.file}<br />{line.line}</td>
				<td>
					<span dir="auto">{line.text}</span>
					<details class="small">
						<summary>show the line</summary>
						<dl>
							{#each line.cells as cell, i (i)}
								{#if cell !== ''}
									<dt class="mono">{line.heading[i] ?? `cell ${i + 1}`}</dt>
									<dd dir="auto">{cell.length > 300 ? `${cell.slice(0, 300)}…` : cell}</dd>
								{/if}
							{/each}
						</dl>
					</details>
				</td>
				<td class="small" class:fail={!line.rest}
					>{line.rest ? 'comes in without it' : 'stays out; what is known stays'}</td
				>
			</tr>
		{/each}
	</tbody>
</table>

<style>
	.line {
		white-space: nowrap;
		width: 120px;
	}
	summary {
		cursor: pointer;
	}
	dl {
		display: grid;
		grid-template-columns: max-content minmax(0, 1fr);
		gap: 2px 12px;
	}
	dd {
		overflow-wrap: anywhere;
	}
</style>

<script lang="ts">
	import type { KeptSheet } from './shelf';

	/** Sheets that lie in this browser and that the server does not have: each can be gone on with. */
	let { sheets }: { sheets: readonly KeptSheet[] } = $props();
</script>

{#if sheets.length > 0}
	<details class="small unsaved">
		<summary class="heed"
			>{sheets.length}
			{sheets.length === 1 ? 'sheet is' : 'sheets are'} kept in this browser only</summary
		>
		<ul>
			{#each sheets as sheet (sheet.sheetKey)}
				<li>
					<a href="/write?sheet={sheet.sheetKey}" data-sveltekit-reload dir="auto"
						>{sheet.wording.words.subject || 'No subject yet'}</a
					>
				</li>
			{/each}
		</ul>
	</details>
{/if}

<style>
	ul {
		list-style: none;
		padding: 0;
		margin: 4px 0 0;
	}
	li {
		overflow-wrap: anywhere;
		padding: 3px 0;
	}
</style>

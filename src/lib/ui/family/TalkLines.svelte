<script lang="ts">
	import { page } from '$app/state';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import type { FamilyPhrases } from '$lib/core/copy/family-phrases';
	import type { FamilyLine } from '$lib/server/desk/family/types';

	/** What somebody and school said to each other, as lines. */
	let {
		lines,
		words: w,
		timeOf
	}: {
		lines: readonly FamilyLine[];
		words: FamilyPhrases;
		timeOf: (at: number) => string;
	} = $props();
	const token = $derived(page.params.token);
</script>

<ol>
	{#each lines as line (line.key)}
		<li class:ours={line.who !== null}>
			<p class="quiet head"><bdi>{line.who ?? w.you}</bdi>, {timeOf(line.at)}</p>
			{#if line.words}<p class="said" dir="auto">{line.words}</p>{/if}
			{#each line.files as file (file.id)}
				<p class="file">
					{#if !file.kept}<span class="fail" dir="auto"
							>{fillPhrase(w.fileNotTaken, { why: file.why ?? file.name })}</span
						>
					{:else}<a
							href="/f/{token}/{line.who === null ? 'mine' : 'file'}/{file.id}"
							download
							dir="auto">{file.name}</a
						>{/if}
				</p>
			{/each}
		</li>
	{/each}
</ol>

<style>
	ol {
		display: grid;
		gap: 10px;
		margin-top: 14px;
		padding-top: 10px;
		border-top: 1px solid var(--line);
	}
	li {
		padding-inline-start: 12px;
		border-inline-start: 3px solid var(--line);
	}
	li.ours {
		border-inline-start-color: var(--action);
	}
	.head {
		font-size: 14px;
	}
	.said {
		white-space: pre-line;
		overflow-wrap: anywhere;
	}
	.file {
		font-size: 15px;
		overflow-wrap: anywhere;
	}
</style>

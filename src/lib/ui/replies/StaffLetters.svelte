<script lang="ts">
	import { nearTime } from '../parts/clock';
	import type { StaffLetter } from '$lib/server/desk/replies/types';

	/** Letters of the courier to whoever looks: reports, addresses to mend, what was not sent. */
	let { letters, now, zone }: { letters: readonly StaffLetter[]; now: number; zone: string } =
		$props();
	let open = $state<number | null>(null);
</script>

{#if letters.length > 0}
	<details class="letters">
		<summary
			><b>Letters to you</b>
			<span class="quiet"
				>{letters.length}, the newest from {nearTime(letters[0]!.at, now, zone)}</span
			></summary
		>
		<ul>
			{#each letters as letter (letter.id)}
				<li>
					<button
						class="plain"
						aria-expanded={open === letter.id}
						onclick={() => (open = open === letter.id ? null : letter.id)}
						dir="auto">{letter.subject}</button
					>
					<span class="quiet small">{nearTime(letter.at, now, zone)}</span>
					{#if open === letter.id}
						<!-- Written by us: escaped paragraphs. -->
						<!-- eslint-disable-next-line svelte/no-at-html-tags -->
						<div class="words" dir="auto">{@html letter.html}</div>
						{#if letter.dispatchId !== null}
							<p class="small"><a href="/reach/{letter.dispatchId}">Open it in Reach</a></p>
						{/if}
					{/if}
				</li>
			{/each}
		</ul>
	</details>
{/if}

<style>
	.letters {
		margin-top: 12px;
	}
	summary {
		cursor: pointer;
	}
	li {
		padding: 4px 0;
		border-top: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	.words {
		background: var(--sheet);
		border: 1px solid var(--line);
		padding: 10px 14px;
	}
</style>

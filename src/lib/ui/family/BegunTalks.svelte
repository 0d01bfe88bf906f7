<script lang="ts">
	import { fillPhrase } from '$lib/core/copy/phrases';
	import type { FamilyPhrases } from '$lib/core/copy/family-phrases';
	import type { FamilyTalk } from '$lib/server/desk/family/types';
	import AnswerForm from './AnswerForm.svelte';
	import TalkLines from './TalkLines.svelte';

	/** What a family has begun by itself with the staff of a section, and the box in which it begins. */
	let {
		talks,
		sections,
		person,
		words: w,
		timeOf,
		said
	}: {
		talks: readonly FamilyTalk[];
		sections: readonly { readonly id: number; readonly name: string; readonly hours: string }[];
		person: string;
		words: FamilyPhrases;
		timeOf: (at: number) => string;
		said: { readonly ok: string; readonly bad: string };
	} = $props();
	let chosen = $state(0);
	let subject = $state('');
	const section = $derived(sections.find((s) => s.id === chosen) ?? sections[0]);
</script>

{#each talks as talk (talk.id)}
	<article>
		<div class="addr"><bdi>{talk.section ?? ''}</bdi></div>
		<div class="body">
			<h2 dir="auto">{talk.subject || w.write}</h2>
			<TalkLines lines={talk.lines} words={w} {timeOf} />
			<AnswerForm
				action="?/write"
				place="{person} talk {talk.id}"
				fields={{ talk: String(talk.id) }}
				words={w}
				label={w.answer}
				note={talk.hours}
				said={{ ok: '', bad: '' }}
			/>
		</div>
	</article>
{/each}
{#if sections.length > 0}
	<article>
		<details open={said.ok !== '' || said.bad !== ''}>
			<summary><h2>{w.write}</h2></summary>
			<div class="body">
				<label>
					{w.writeTo}
					<select bind:value={chosen}>
						{#each sections as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
					</select>
				</label>
				<label>
					{w.about}
					<input maxlength="200" dir="auto" bind:value={subject} />
				</label>
				<AnswerForm
					action="?/write"
					place="{person} begin"
					fields={{ section: String(section?.id ?? 0), subject }}
					words={w}
					label={w.answer}
					note={section?.hours ?? ''}
					said={{
						ok: said.ok && fillPhrase(w.begun, { section: section?.name ?? '' }),
						bad: said.bad
					}}
				/>
			</div>
		</details>
	</article>
{/if}

<style>
	article {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		margin: 14px 14px 0;
	}
	.addr {
		padding: 12px 16px;
		border-bottom: 1px dashed var(--dash);
		font-size: 14.5px;
	}
	.body {
		padding: 12px 16px 16px;
		display: grid;
		gap: 8px;
	}
	summary {
		padding: 12px 16px;
		cursor: pointer;
	}
	summary h2 {
		display: inline;
		font-size: 17px;
	}
	label {
		display: grid;
		gap: 4px;
		font-size: 15px;
	}
</style>

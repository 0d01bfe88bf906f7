<script lang="ts">
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import { Button } from 'carbon-components-svelte';
	import { boardPhrases } from '$lib/core/copy/board-phrases';
	import { languageDirection } from '$lib/core/copy/direction';
	import { fillPhrase, pageLanguage, phrasesFor } from '$lib/core/copy/phrases';
	import { familyPhrases } from '$lib/core/copy/family-phrases';
	import { readerTimes } from '$lib/ui/parts/reader-when';
	import AnswerForm from '$lib/ui/family/AnswerForm.svelte';
	import BegunTalks from '$lib/ui/family/BegunTalks.svelte';
	import { followLetter, sayOpened } from '$lib/ui/family/follow-letter.svelte';
	import Coming from '$lib/ui/family/Coming.svelte';
	import FamilyHead from '$lib/ui/family/FamilyHead.svelte';
	import FindLetters from '$lib/ui/family/FindLetters.svelte';
	import NotePlayer from '$lib/ui/family/NotePlayer.svelte';
	import TalkLines from '$lib/ui/family/TalkLines.svelte';

	import type { Letter } from '$lib/server/desk/family/types';

	let { data, form } = $props();
	const inbox = $derived(data.inbox);
	const phrases = $derived(phrasesFor(inbox.language));
	const w = $derived(familyPhrases(inbox.language));
	const talkOf = (dispatchId: number | null) =>
		dispatchId === null ? undefined : inbox.talks.find((t) => t.dispatchId === dispatchId);
	const begun = $derived(inbox.talks.filter((t) => t.dispatchId === null && t.lines.length > 0));
	/** What the server said of what was sent last. */
	const said = $derived({
		letter: form && 'letter' in form ? form.letter : null,
		answered: form && 'answered' in form,
		notSent: (form && 'notSent' in form && form.notSent) || '',
		begun: form && 'begun' in form,
		notBegun: (form && 'notBegun' in form && form.notBegun) || '',
		notKept: (form && 'notKept' in form && form.notKept?.join(' ')) || ''
	});
	const language = $derived(pageLanguage(inbox.language));
	const times = $derived(readerTimes(inbox));
	/** What is over lies behind the others. */
	const ahead = $derived(inbox.letters.filter((l) => !l.over));
	const behind = $derived(inbox.letters.filter((l) => l.over));
	/** By its number alone: what comes anew of the same letter opens no new line to the server. */
	const openLetter = $derived(data.open?.dispatchId ?? null);
	const token = $derived(page.params.token!);
	const lines = $derived(talkOf(openLetter)?.lines.length ?? 0);
	const open = { token: () => token, letter: () => openLetter, lines: () => lines };
	sayOpened(open);
	followLetter(open);
</script>

<svelte:head><title>{inbox.person} · {inbox.district}</title></svelte:head>

{#snippet box(letter: Letter)}
	{@const isOpen = letter.key === data.open?.key}
	<article class="letter" data-open-letter={isOpen ? letter.key : undefined}>
		<div class="addr">
			<span dir="auto">
				{letter.proofAs ? `As ${letter.proofAs} gets it` : letter.about || phrases.forYou}
			</span>
			<span class="quiet">{times.when(letter.leftAt)}</span>
		</div>
		<div class="body">
			{#if isOpen}
				<div lang={letter.language} dir={letter.direction}>
					<h2 dir={letter.direction === 'rtl' ? 'rtl' : 'auto'}>{letter.subject}</h2>
					<!-- Made by us from a wording that holds nothing that could be run; see core/copy/html. -->
					<!-- eslint-disable-next-line svelte/no-at-html-tags -->
					<div class="words on-paper">{@html letter.html}</div>
				</div>
				{#if letter.note}
					<NotePlayer
						note={letter.note}
						token={page.params.token!}
						letter={letter.dispatchId}
						language={inbox.language}
					/>
				{/if}
				{#if letter.files.length > 0}
					<ul class="files">
						{#each letter.files as file (file.id)}
							<li>
								<a href="/f/{page.params.token}/file/{file.id}" download dir="auto">{file.words}</a>
							</li>
						{/each}
					</ul>
				{/if}
				<p class="quiet sign">
					{letter.sender}{letter.senderTitle ? `, ${letter.senderTitle}` : ''}
					{#each letter.sectionLines as line (line)}<br />{line}{/each}
				</p>
				{#if data.coming}
					<Coming
						invitation={data.coming}
						language={inbox.language}
						whenOf={times.when}
						action="?/coming"
						fields={{ letter: String(letter.dispatchId) }}
						fault={(form && 'notComing' in form && form.notComing) || ''}
						meant={form && 'comingSaid' in form ? null : data.meant}
					/>
				{/if}
				{#if letter.proofAs}
					<p class="quiet">A proof: nobody else has it, and nothing is written down.</p>
				{:else if !letter.mayAcknowledge}
					<!-- Written by the courier itself. -->
				{:else if data.coming?.mine && letter.seenAt === null}
					<!-- Whoever has answered has seen it. -->
				{:else if letter.seenAt !== null}
					<p class="seen" role="status">
						{fillPhrase(phrases.seenAt, {
							time: times.time(letter.seenAt),
							sender: letter.sender
						})}
					</p>
				{:else}
					<form method="post" action="?/seen" use:enhance>
						<input type="hidden" name="letter" value={letter.dispatchId} />
						<Button type="submit" class="wide">{phrases.seen}</Button>
						{#if form && 'why' in form && form.why}<p class="fail" role="alert">
								{form.why}
							</p>{/if}
					</form>
				{/if}
				{@const talk = talkOf(letter.dispatchId)}
				{#if talk && talk.lines.length > 0}
					<TalkLines lines={talk.lines} words={w} timeOf={times.when} />
				{/if}
				{#if letter.mayAnswer}
					{#if data.there.length > 0}
						<p class="good sign" role="status">
							{fillPhrase(w.here, { name: data.there.join(', ') })}
						</p>
					{/if}
					{#if talk?.away}
						<p class="quiet sign">
							{fillPhrase(w.away, { name: letter.sender, words: talk.away })}
						</p>
					{/if}
					<AnswerForm
						action="?/answer"
						place="{inbox.person} {letter.key}"
						fields={{ letter: String(letter.dispatchId) }}
						words={w}
						label={w.answer}
						note={fillPhrase(w.answerTo, { name: letter.sender })}
						said={{
							ok:
								said.answered && said.letter === letter.dispatchId
									? fillPhrase(w.sent, { name: letter.sender })
									: '',
							bad: said.letter === letter.dispatchId ? said.notSent || said.notKept : ''
						}}
					/>
				{:else if letter.mayAcknowledge}
					<p class="quiet sign">{w.noAnswers}</p>
				{/if}
			{:else}
				<h2 class="shut">
					<a href="?letter={letter.key}" dir="auto">{letter.subject}</a>
					{#if letter.seenAt === null && letter.mayAcknowledge}<span class="new"
							>{phrases.notSeen}</span
						>{/if}
				</h2>
			{/if}
		</div>
	</article>
{/snippet}

<div class="own-page family" lang={language} dir={languageDirection(language)}>
	<FamilyHead
		district={inbox.district}
		links={[
			{ href: `/f/${page.params.token}/boards`, text: boardPhrases(inbox.language).boards },
			{ href: `/f/${page.params.token}/choices`, text: w.choices }
		]}
	>
		<b>{fillPhrase(phrases.inboxOf, { name: inbox.person })}</b>
	</FamilyHead>
	<main>
		<h1 class="spoken">{fillPhrase(phrases.inboxOf, { name: inbox.person })}, {inbox.district}</h1>
		<FindLetters find={data.find} students={inbox.students} words={w} />
		{#if inbox.letters.length === 0}
			<p class="none">
				{data.find.q || data.find.child !== null ? w.nothingFound : phrases.noLetters}
			</p>
		{/if}
		{#each ahead as letter (letter.key)}{@render box(letter)}{/each}
		{#if behind.length > 0}
			<details class="behind" open={behind.some((l) => l.key === data.open?.key)}>
				<summary>{boardPhrases(inbox.language).earlier} ({behind.length})</summary>
				{#each behind as letter (letter.key)}{@render box(letter)}{/each}
			</details>
		{/if}
		<BegunTalks
			talks={begun}
			sections={data.sections}
			person={inbox.person}
			words={w}
			timeOf={times.when}
			said={{ ok: said.begun ? 'ok' : '', bad: said.notBegun || (said.begun ? said.notKept : '') }}
		/>
	</main>
</div>

<style>
	.family {
		line-height: 1.45;
		padding-bottom: 40px;
	}
	.letter {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		margin: 14px 14px 0;
	}
	.addr {
		padding: 12px 16px;
		border-bottom: 1px dashed var(--dash);
		display: flex;
		justify-content: space-between;
		gap: 12px;
		font-size: 14.5px;
	}
	.addr .quiet {
		white-space: nowrap;
	}
	.body {
		padding: 12px 16px 16px;
	}
	h2 {
		font-size: 20px;
		line-height: 1.25;
		overflow-wrap: anywhere;
	}
	h2.shut {
		font-size: 17px;
		display: flex;
		justify-content: space-between;
		gap: 12px;
		align-items: baseline;
	}
	h2.shut a {
		color: var(--ink);
	}
	.new {
		font-size: 13px;
		font-weight: 400;
		color: var(--heed);
		white-space: nowrap;
	}
	/* A sheet of its own in the dark, with its words where those around it begin. */
	.words {
		margin: 8px -10px;
		padding: 4px 10px;
		overflow-wrap: anywhere;
		overflow-x: auto;
	}
	.files {
		margin: 0 0 10px;
		padding: 8px 12px;
		border: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	.sign {
		font-size: 15px;
	}
	.seen {
		margin-top: 14px;
		padding: 10px 12px;
		border: 1px solid var(--good);
		color: var(--good);
		border-radius: var(--corner);
		font-size: 15px;
	}
	form {
		margin-top: 14px;
	}
	form :global(.wide) {
		font-weight: 650;
		padding: 14px;
		min-height: 52px;
	}
	.behind {
		margin: 14px 0 0;
	}
	.behind summary {
		cursor: pointer;
		padding: 4px 20px;
	}
	.none {
		padding: 24px 20px;
	}
</style>

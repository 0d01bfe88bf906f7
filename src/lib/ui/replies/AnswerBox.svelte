<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { Button, FileUploaderButton, TextArea } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { measureText } from '$lib/core/copy/segments';
	import { nearTime } from '../parts/clock';
	import type { Way } from '$lib/core/roster/way';
	import type { OpenedTalk } from '$lib/server/desk/replies/types';
	import { postJson } from '../parts/post-json';
	import { upload } from '../parts/upload';

	/** The box to answer in: says by which way it goes, where to, and at what length. What is typed is kept in this browser until it has left. */
	let {
		talk,
		now,
		zone,
		userId,
		translator,
		fileLimit,
		here,
		givenBack = $bindable(null)
	}: {
		talk: OpenedTalk;
		now: number;
		zone: string;
		userId: number;
		translator: boolean;
		/** Bytes. */
		fileLimit: number;
		/** Whether the family is there. */
		here: boolean;
		givenBack?: string | null;
	} = $props();

	const names: Readonly<Record<Way, string>> = { email: 'email', text: 'text', inbox: 'inbox' };
	const place = $derived(`idle-courier reply ${userId} ${talk.id}`);
	let words = $state('');
	let translated = $state('');
	let chosen = $state<Way | null>(null);
	let files = $state.raw<readonly { id: number; name: string }[]>([]);
	let key = crypto.randomUUID();
	let why = $state('');
	let busy = $state(false);
	const way = $derived(talk.ways.find((w) => w.way === chosen) ?? talk.ways[0]);
	/** While the family is there and no way was chosen it is said to them there; what they have not seen after two minutes goes by their way. */
	const live = $derived(here && chosen === null);
	const goesAs = $derived(translated.trim() || words.trim());
	const length = $derived(way?.way === 'text' && !live && goesAs ? measureText(goesAs) : null);

	onMount(() => {
		words = localStorage.getItem(place) ?? '';
	});
	$effect(() => {
		if (givenBack === null) return;
		keep(givenBack);
		givenBack = null;
	});
	const keep = (text: string) => {
		words = text;
		if (text.trim()) localStorage.setItem(place, text);
		else localStorage.removeItem(place);
	};

	async function send() {
		if (!way || busy) return;
		busy = true;
		const answered = await postJson('/replies/answer', {
			key,
			conversations: [talk.id],
			words,
			translated:
				talk.language && translated.trim() ? { language: talk.language, words: translated } : null,
			way: live ? 'inbox' : way.way,
			atOnce: live,
			live,
			files: files.map((f) => f.id)
		});
		busy = false;
		why = answered.why;
		if (!answered.ok) return;
		keep('');
		translated = '';
		files = [];
		key = crypto.randomUUID();
		await invalidateAll();
	}
	async function draft() {
		busy = true;
		const drafted = await postJson<{ words: string }>('/replies/translate', {
			words,
			to: talk.language
		});
		busy = false;
		why = drafted.why;
		if (drafted.ok) translated = drafted.body.words;
	}
	async function put(list: readonly File[]) {
		for (const file of list) {
			const kept = await upload(file, 'file', fileLimit);
			why = kept.ok ? '' : kept.why;
			if (kept.ok) files = [...files, kept.file];
		}
	}
	function onkeydown(event: KeyboardEvent) {
		if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void send();
	}
</script>

{#if talk.ways.length === 0}
	<p class="heed">
		{talk.number
			? 'This number is on nobody’s file. Put it on the file of whoever it is (People), or call; then it can be answered here.'
			: 'No way works by which this can be answered: no mailbox and no number that takes texts. Call, or put an address on file.'}
	</p>
{:else}
	<form
		class="box"
		aria-label="Answer"
		onsubmit={(event) => {
			event.preventDefault();
			void send();
		}}
	>
		<TextArea
			labelText="Your answer"
			rows={2}
			dir="auto"
			bind:value={() => words, (text) => keep(String(text ?? ''))}
			on:keydown={onkeydown}
		/>
		{#if talk.language && (translator || translated)}
			<div class="other">
				{#if translated}
					<TextArea
						labelText="In {talk.languageName}, as it goes out. A draft by the translator: look it over."
						rows={2}
						lang={talk.language}
						dir="auto"
						bind:value={translated}
					/>
				{/if}
				<button type="button" class="plain" disabled={busy || !words.trim()} onclick={draft}
					>{translated ? 'Draft it anew' : `Draft in ${talk.languageName}`}</button
				>
				{#if translated}<button type="button" class="plain" onclick={() => (translated = '')}
						>Send it in English</button
					>{/if}
			</div>
		{/if}
		{#if files.length > 0}
			<ul class="small">
				{#each files as file (file.id)}
					<li dir="auto">
						{file.name}
						<button class="plain" onclick={() => (files = files.filter((f) => f.id !== file.id))}
							>Take out</button
						>
					</li>
				{/each}
			</ul>
		{/if}
		<div class="foot">
			<Button type="submit" size="small" disabled={busy || !words.trim()}>
				{#if live}Answer here, at once{:else}Answer by {names[way!.way]}{way!.address
						? ` to ${way!.address}`
						: ''}{/if}
			</Button>
			<span class="small quiet">
				{#if length}{length.parts}
					{length.parts === 1 ? 'part' : 'parts'}, {length.units} of
					{length.parts * length.unitsPerPart}{length.alphabet === '16-bit'
						? ` (16-bit, for ${length.forcing.slice(0, 3).join(' ')})`
						: ''}{/if}
				{#if live}by {names[way!.way]} where it is not seen within two minutes{/if}
				{#if way!.quietUntil !== null && !live}
					<span class="heed">leaves {nearTime(way!.quietUntil, now, zone)}: quiet hours</span>
				{/if}
				{#if talk.ways.length > 1}
					or by
					{#each talk.ways.filter((w) => w.way !== way!.way) as other (other.way)}
						<button type="button" class="plain" onclick={() => (chosen = other.way)}
							>{names[other.way]}</button
						>
					{/each}
				{/if}
			</span>
			{#if way!.way !== 'text'}
				<FileUploaderButton
					size="small"
					kind="ghost"
					labelText="Put a file in"
					disableLabelChanges
					multiple
					on:change={(e) => put(e.detail as unknown as readonly File[])}
				/>
			{/if}
		</div>
		{#if files.length > 0 && way!.way === 'text'}
			<p class="small heed">
				A text carries no files: they are left out. Answer by email or inbox.
			</p>
		{/if}
		{#if why}<p class="fail" role="alert">{why}</p>{/if}
	</form>
{/if}

<style>
	.box {
		display: grid;
		gap: 6px;
		max-width: 900px;
	}
	.foot {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 14px;
		align-items: center;
	}
	.other {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
	}
	.other > :global(.bx--form-item) {
		flex: 1 1 100%;
	}
</style>

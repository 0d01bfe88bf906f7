<script lang="ts">
	import { Button, TextArea } from 'carbon-components-svelte';
	import { onDestroy } from 'svelte';
	import { mostNoteMs, noteLength, type Note } from '$lib/core/copy/note';
	import Film from '../../../parts/Film.svelte';
	import { upload } from '../../../parts/upload';
	import type { Sheet } from '../../sheet/sheet.svelte';
	import CutField from './CutField.svelte';
	import { cutNote, type CutNote } from './cut-note';
	import { notePicture } from './note-picture';
	import { Recorder } from './recorder.svelte';

	/** A voice or video note: recorded here, heard again and cut, and what is said in it written beside. */
	let { sheet, fileLimit }: { sheet: Sheet; fileLimit: number } = $props();

	const note = $derived(sheet.letter.note);
	const recorder = new Recorder();
	onDestroy(() => recorder.leave());
	let kind = $state<Note['kind']>('voice');
	/** What was recorded and is not used yet. */
	let whole = $state.raw<CutNote | null>(null);
	let busy = $state(false);
	let trouble = $state('');
	let live = $state<HTMLVideoElement>();
	$effect(() => {
		if (live) live.srcObject = recorder.seen;
	});

	const cannot =
		'This browser cannot work with what it has recorded. Record it elsewhere and put it in as a file.';

	async function record(of: Note['kind']) {
		kind = of;
		trouble = '';
		whole = null;
		const recorded = await recorder.record(of);
		if (!recorded) return;
		busy = true;
		try {
			whole = await cutNote(recorded, 0, null);
		} catch {
			trouble = cannot;
		}
		busy = false;
	}

	async function use(from: number, to: number) {
		if (!whole) return;
		busy = true;
		trouble = '';
		try {
			const isWhole = from === 0 && to * 1000 >= whole.ms - 100;
			const cut = isWhole ? whole : await cutNote(whole.file, from, to);
			const put = await upload(cut.file, 'file', fileLimit);
			if (!put.ok) trouble = put.why;
			else {
				const made = await notePicture(kind, cut.file);
				const picture = made && (await upload(made.file, 'picture', fileLimit));
				sheet.letter = {
					...sheet.letter,
					note: {
						...{ fileId: put.file.id, kind, words: note?.words ?? '' },
						ms: Math.min(cut.ms, mostNoteMs.voice),
						picture:
							made && picture?.ok
								? { fileId: picture.file.id, width: made.width, height: made.height }
								: null
					}
				};
				whole = null;
			}
		} catch {
			trouble = cannot;
		}
		busy = false;
	}
	const change = (next: Note | null) => (sheet.letter = { ...sheet.letter, note: next });
</script>

<div class="note" role="group" aria-label="Voice or video">
	<div class="head">
		<b>Voice or video</b>
		{#if recorder.state === 'recording'}
			<span class="heed" role="timer">
				recording {noteLength(recorder.elapsed)} of {noteLength(mostNoteMs[kind])}
			</span>
			<Button size="small" kind="danger" on:click={() => recorder.stop()}>Stop</Button>
		{:else if recorder.state === 'asking'}
			<span class="quiet"
				>Allow the {kind === 'voice' ? 'microphone' : 'camera'} in the browser…</span
			>
		{:else if !whole && !busy}
			{#if note === null}<span class="quiet">none;</span>{/if}
			<Button size="small" kind="ghost" on:click={() => record('voice')}>
				{note ? 'Record another voice note' : 'Record a voice note'}
			</Button>
			<Button size="small" kind="ghost" on:click={() => record('video')}>
				{note ? 'or a video note' : 'Record a video note'}
			</Button>
		{/if}
	</div>
	{#if recorder.seen}
		<video class="live" bind:this={live} autoplay muted playsinline></video>
	{/if}
	{#if trouble || recorder.trouble}
		<p class="fail small" role="alert">{trouble || recorder.trouble}</p>
	{/if}
	{#if whole}
		<CutField
			{kind}
			recorded={whole.file}
			ms={whole.ms}
			{busy}
			onuse={use}
			onagain={() => record(kind)}
			onaway={() => (whole = null)}
		/>
	{:else if busy}
		<p class="quiet small" role="status">One moment…</p>
	{/if}
	{#if note && !whole}
		<div class="used">
			{#if note.kind === 'voice'}
				<audio src="/write/file/{note.fileId}" controls preload="metadata"></audio>
			{:else}
				<Film src="/write/file/{note.fileId}" words={note.words} ms={note.ms} />
			{/if}
			<span class="quiet mono">{noteLength(note.ms)}</span>
			<button class="plain" onclick={() => change(null)}>take the note out</button>
		</div>
		<TextArea
			labelText="What is said in it, for those who cannot hear it"
			rows={2}
			maxlength={5000}
			bind:value={() => note.words, (words) => change({ ...note, words })}
		/>
	{/if}
</div>

<style>
	.note {
		border-top: 1px solid var(--line);
		padding-top: 6px;
	}
	.head,
	.used {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 2px 12px;
	}
	.used {
		padding: 4px 0;
	}
	audio,
	video {
		width: 100%;
		max-width: 440px;
	}
</style>

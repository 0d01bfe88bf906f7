<script lang="ts">
	import { noteLinkWords, notePhrases } from '$lib/core/copy/note-phrases';
	import Film from '../parts/Film.svelte';
	import type { Letter } from '$lib/server/desk/family/types';

	/** The note of a letter: heard or seen here, and what is said in it. Played to its end, that is told. */
	let {
		note,
		token,
		letter,
		language
	}: {
		note: NonNullable<Letter['note']>;
		token: string;
		/** The dispatch it belongs to. */
		letter: number | null;
		language: string;
	} = $props();

	const w = $derived(notePhrases(language));
	const label = $derived(noteLinkWords(note, language));
	const address = $derived(`/f/${token}/note/${note.fileId}`);

	/** Whether nearly all of it was played: who jumps to the end has not heard it. */
	function heardIt(media: HTMLMediaElement): boolean {
		let heard = 0;
		for (let i = 0; i < media.played.length; i += 1)
			heard += media.played.end(i) - media.played.start(i);
		return heard >= 0.9 * media.duration;
	}
	function ended(event: Event & { currentTarget: HTMLMediaElement }) {
		if (letter === null || !heardIt(event.currentTarget)) return;
		void fetch(`/f/${token}/played`, {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ letter }),
			keepalive: true
		});
	}
</script>

<div class="note">
	{#if note.kind === 'voice'}
		<audio src={address} controls preload="metadata" aria-label={label} onended={ended}></audio>
	{:else}
		<Film src={address} words={note.words} ms={note.ms} {label} onended={ended} />
	{/if}
	{#if note.words.trim() !== ''}
		<p class="said quiet"><b>{w.said}</b></p>
		<p class="said" dir="auto">{note.words.trim()}</p>
	{/if}
</div>

<style>
	.note {
		margin: 12px 0;
	}
	audio {
		display: block;
		width: 100%;
		max-width: 480px;
	}
	.said {
		margin: 6px 0 0;
		white-space: pre-line;
		overflow-wrap: anywhere;
	}
</style>

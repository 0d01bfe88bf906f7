<script lang="ts">
	import { captionsOf } from '$lib/core/copy/captions';

	/** A film with what is said in it as captions. */
	let {
		src,
		words,
		ms,
		label,
		onended
	}: {
		src: string;
		/** What is said in it. */
		words: string;
		/** Its length. */
		ms: number;
		label?: string;
		onended?: (event: Event & { currentTarget: HTMLMediaElement }) => void;
	} = $props();

	const captions = $derived(
		URL.createObjectURL(new Blob([captionsOf(words, ms)], { type: 'text/vtt' }))
	);
	$effect(() => {
		const made = captions;
		return () => URL.revokeObjectURL(made);
	});
</script>

<video {src} controls playsinline preload="metadata" aria-label={label} {onended}>
	<track kind="captions" src={captions} />
</video>

<style>
	video {
		display: block;
		width: 100%;
		max-width: 480px;
	}
</style>

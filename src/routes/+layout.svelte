<script lang="ts">
	import 'carbon-components-svelte/css/all.css';
	import '@fontsource-variable/atkinson-hyperlegible-next';
	import '@fontsource-variable/atkinson-hyperlegible-next/wght-italic.css';
	import '@fontsource/atkinson-hyperlegible-mono';
	import '@fontsource-variable/noto-sans';
	import '@fontsource-variable/noto-sans-arabic';
	import '$lib/ui/carbon.css';
	import '$lib/ui/theme.css';
	import '$lib/ui/three-columns.css';
	import '$lib/ui/own-page.css';
	import { page } from '$app/state';
	import { onMount } from 'svelte';
	import Frame from '$lib/ui/parts/Frame.svelte';
	import { bench } from '$lib/ui/parts/bench.svelte';

	let { data, children } = $props();

	// svelte-ignore state_referenced_locally
	if (data.frame) bench.set(data.frame.now);
	$effect(() => {
		if (data.frame) bench.set(data.frame.now);
	});
	onMount(() => {
		document.documentElement.dataset.ready = 'true';
		const ticking = setInterval(() => bench.tick(), 1000);
		return () => clearInterval(ticking);
	});
</script>

{#if data.frame && !page.data.bare}
	<Frame frame={data.frame}>{@render children()}</Frame>
{:else}
	{@render children()}
{/if}

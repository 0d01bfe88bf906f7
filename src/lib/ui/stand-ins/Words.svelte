<script lang="ts">
	/** The words of a letter or a text, with its links to be followed. */
	let { text }: { text: string } = $props();
	const parts = $derived(text.split(/(https?:\/\/\S+)/));
	const pathOf = (link: string) => new URL(link).pathname;
</script>

<p dir="auto">
	{#each parts as part, i (i)}{#if i % 2}<a href={pathOf(part)} target="_blank">{part}</a
			>{:else}{part}{/if}{/each}
</p>

<style>
	p {
		white-space: pre-wrap;
		overflow-wrap: anywhere;
		max-height: 230px;
		overflow: auto;
	}
</style>

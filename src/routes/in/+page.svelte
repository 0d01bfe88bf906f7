<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { languageDirection } from '$lib/core/copy/direction';

	/** A family asks for a link to its own page. */
	let { data, form } = $props();
	const w = $derived(data.words);
</script>

<svelte:head><title>{w.title} · {data.district}</title></svelte:head>

<main lang={data.language} dir={languageDirection(data.language)}>
	<p class="quiet">{data.district}</p>
	<h1>{w.title}</h1>
	{#if form && 'sent' in form}
		<p role="status">{w.sent}</p>
	{:else}
		<p>{w.lead}</p>
		<form method="post" use:enhance>
			<label for="address">{w.address}</label>
			<input id="address" name="address" maxlength="320" autocomplete="email" dir="ltr" required />
			<Button type="submit" class="wide">{w.send}</Button>
			{#if form && 'why' in form}<p class="fail" role="alert">{form.why}</p>{/if}
		</form>
	{/if}
	<nav aria-label="Languages">
		{#each data.languages as language (language.tag)}
			<a
				href="/in?language={language.tag}"
				lang={language.tag}
				aria-current={language.tag === data.language ? 'page' : undefined}>{language.name}</a
			>
		{/each}
	</nav>
</main>

<style>
	main {
		max-width: 560px;
		margin: 0 auto;
		padding: 28px 20px;
		font-size: 17px;
		display: grid;
		gap: 14px;
	}
	form {
		display: grid;
		gap: 8px;
	}
	input {
		font: inherit;
		min-height: 48px;
		padding: 8px 12px;
		border: 1px solid var(--line-strong);
		border-radius: var(--corner);
		background: var(--sheet);
		color: var(--ink);
		width: 100%;
	}
	form :global(.wide) {
		max-width: none;
		width: 100%;
		justify-content: center;
		font-size: 17px;
		min-height: 52px;
	}
	nav {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 16px;
	}
	nav a {
		min-height: 28px;
	}
	nav a[aria-current] {
		font-weight: 650;
		text-decoration: none;
		color: var(--ink);
	}
</style>

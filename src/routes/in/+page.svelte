<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { languageDirection } from '$lib/core/copy/direction';

	/** A family asks for a link to its own page. */
	let { data, form } = $props();
	const w = $derived(data.words);
</script>

<svelte:head><title>{w.title} · {data.district}</title></svelte:head>

<main class="own-page" lang={data.language} dir={languageDirection(data.language)}>
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
	form {
		display: grid;
		gap: 8px;
	}
	nav a[aria-current] {
		font-weight: 650;
		text-decoration: none;
		color: var(--ink);
	}
</style>

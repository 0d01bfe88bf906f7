<script lang="ts">
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import { enhance } from '$app/forms';
	import { languageDirection } from '$lib/core/copy/direction';
	import { checkedSaid } from '$lib/ui/settings/checked-said';

	/** The fixed words of one language beside the English, for a speaker to read. */
	let { data, form } = $props();
	const language = $derived(data.language);
	const settled = $derived(language.checked !== null && !language.checked.since);
</script>

<svelte:head><title>Our words in {language.name} · Idle Courier</title></svelte:head>

<h1>Our words in {language.name}</h1>
<p class="quiet">
	{language.words} phrases; {checkedSaid(language, data.frame!)}. What stands in braces is filled
	in. A wrong one is put right with the next version: tell whoever looks after this program.
</p>

{#if form && 'why' in form && form.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{/if}
{#if !settled}
	<form method="post" use:enhance>
		<Button type="submit" kind="tertiary" size="small">A speaker has checked all of them</Button>
	</form>
{/if}

{#each language.places as part (part.place)}
	<section aria-label={part.place}>
		<h2>{part.place}</h2>
		<table>
			<thead class="spoken"><tr><th>English</th><th>{language.name}</th></tr></thead>
			<tbody>
				{#each part.words as word (word.key)}
					<tr>
						<td class="quiet" lang="en">{word.english}</td>
						<td lang={language.tag} dir={languageDirection(language.tag)}>{word.words}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</section>
{/each}

<style>
	form {
		margin-top: 12px;
	}
	section {
		margin-top: 20px;
		max-width: 980px;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		table-layout: fixed;
	}
	td {
		padding: 6px 12px 6px 0;
		border-top: 1px solid var(--line);
		vertical-align: top;
		overflow-wrap: anywhere;
		white-space: pre-line;
	}
</style>

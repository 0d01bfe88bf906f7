<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { languageDirection } from '$lib/core/copy/direction';
	import { sizeWords } from '$lib/core/copy/size-words';
	import type { Proof } from '$lib/server/desk/plan/types';
	import WayMark from '../../parts/WayMark.svelte';

	/** One reader's email, as a page or as plain text, with the addresses it will bear. */
	let {
		email,
		sent,
		onsend
	}: {
		email: Proof['email'];
		/** What became of a proof that was sent. */
		sent: string;
		onsend: () => void;
	} = $props();
	let plain = $state(false);
</script>

<section class="email" aria-label="Email">
	<h2><WayMark way="email" word /></h2>
	{#if email?.ok}
		{@const copy = email.copy}
		<dl class="small">
			<dt>From</dt>
			<dd>{copy.from}</dd>
			<dt>To</dt>
			<dd class="mono">{email.address}</dd>
			<dt>Answers</dt>
			<dd>{copy.answers}</dd>
			<dt>Returns</dt>
			<dd>{copy.returns}</dd>
			<dt>Subject</dt>
			<dd><b dir={languageDirection(copy.language)}>{copy.subject}</b></dd>
			{#each copy.attached as file (file.fileId)}
				<dt>File</dt>
				<dd>{file.name}, {sizeWords(file.bytes)}</dd>
			{/each}
		</dl>
		<div class="do">
			<button class="plain" aria-pressed={!plain} onclick={() => (plain = false)}>as a page</button>
			<button class="plain" aria-pressed={plain} onclick={() => (plain = true)}
				>as plain text</button
			>
			<span class="end">
				<Button size="small" kind="tertiary" on:click={onsend}>Send this email to me</Button>
			</span>
		</div>
		<p class="small" role="status">{sent}</p>
		{#if plain}
			<pre dir="auto">{copy.lines}</pre>
		{:else}
			<!-- No scripts; of our own origin only so that pictures may be shown. -->
			<iframe title="The email as a page" sandbox="allow-same-origin" srcdoc={copy.page}></iframe>
		{/if}
	{:else}
		<p class="quiet">{email?.why ?? 'Not by email.'}</p>
	{/if}
</section>

<style>
	dl {
		display: grid;
		grid-template-columns: 62px 1fr;
		gap: 2px 8px;
	}
	dt {
		color: var(--quiet);
	}
	dd {
		overflow-wrap: anywhere;
	}
	.do {
		display: flex;
		align-items: center;
		gap: 14px;
	}
	.do [aria-pressed='true'] {
		font-weight: 600;
		text-decoration: none;
		color: var(--ink);
	}
	.end {
		margin-inline-start: auto;
	}
	iframe {
		flex: 1;
		min-height: 320px;
		width: 100%;
		border: 1px solid var(--line);
		background: var(--sheet);
	}
	pre {
		flex: 1;
		min-height: 240px;
		overflow: auto;
		padding: 12px;
		border: 1px solid var(--line);
		background: var(--sheet);
		font-family: var(--mono);
		font-size: 13px;
		white-space: pre-wrap;
		unicode-bidi: plaintext;
	}
	@media (max-width: 1000px) {
		iframe {
			min-height: 480px;
		}
	}
</style>

<script lang="ts">
	import { Button, Search, TextInput } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { phoneText } from '$lib/core/format/phone';
	import { languageDirection } from '$lib/core/copy/direction';
	import { sizeWords } from '$lib/core/copy/letter';
	import type { Way } from '$lib/core/roster/way';
	import type { Proof, ProofReader, ProofSent } from '$lib/server/desk/plan/types';
	import { getJson, postJson } from '$lib/ui/parts/post-json';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import { Sheet } from '$lib/ui/write/sheet/sheet.svelte';
	import { Shelf } from '$lib/ui/write/sheet/shelf';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const shelf = new Shelf(data.userId);

	let sheet = $state.raw<Sheet | null>(null);
	let none = $state(false);
	let readers = $state.raw<readonly ProofReader[]>([]);
	let proof = $state.raw<Proof | null>(null);
	let trouble = $state('');
	let search = $state('');
	let plain = $state(false);
	/** What became of a proof sent by each way. */
	let sent = $state<Record<Way, string>>({ email: '', text: '', inbox: '' });
	/** The link to one's own inbox, once a proof lies there. */
	let inboxLink = $state('');

	onMount(() => {
		const kept = shelf.get(shelf.current ?? '');
		none = !kept;
		if (!kept) return;
		sheet = new Sheet(kept, shelf);
		void find('');
	});
	async function find(words: string) {
		const answer = await postJson<ProofReader[]>('/write/proof/readers', {
			sheet: sheet!.data,
			search: words
		});
		trouble = answer.why;
		if (!answer.ok || words !== search) return;
		readers = answer.body;
		if (!proof && readers[0]) await look(readers[0].personId);
	}
	async function look(personId: number) {
		sent = { email: '', text: '', inbox: '' };
		inboxLink = '';
		const answer = await postJson<Proof>('/write/proof/copy', { sheet: sheet!.data, personId });
		trouble = answer.why;
		if (answer.ok) proof = answer.body;
	}
	/** The number of whoever writes, to which proofs by text go. */
	let number = $state('');
	let numberWhy = $state('');
	async function setNumber() {
		const answer = await postJson<{ ok: boolean; why?: string }>('/write/proof/number', { number });
		numberWhy = answer.ok ? '' : (answer.body?.why ?? answer.why);
		if (answer.ok) sent.text = 'Your number is on file; proofs by text go there.';
	}
	async function send(way: Way) {
		sent[way] = 'Handing it over…';
		const answer = await postJson<ProofSent>('/write/proof/send', {
			sheet: sheet!.data,
			personId: proof!.reader.personId,
			way
		});
		if (!answer.ok || !answer.body.ok) {
			sent[way] = answer.why;
			return;
		}
		const { proofId, address } = answer.body;
		if (way === 'inbox') {
			sent.inbox = 'It lies in your inbox.';
			inboxLink = address;
			return;
		}
		for (let i = 0; i < 20; i += 1) {
			await new Promise((r) => setTimeout(r, 500));
			const state = await getJson<{ state: string; detail: string }>(
				`/write/proof/send?id=${proofId}`
			);
			if (!state.ok || state.body.state === 'waiting') continue;
			sent[way] =
				state.body.state === 'sent' ? `Sent to ${address}.` : `Not sent: ${state.body.detail}.`;
			return;
		}
		sent[way] = `It waits to be sent to ${address}; the courier is not there yet.`;
	}
</script>

<svelte:head><title>Proof · Write · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/write">Write</a> · Proof</p>
	{#if none}
		<h1>Nothing to look at yet</h1>
		<p>Put a sheet together in <a href="/write">Write</a> first.</p>
	{:else}
		<h1>
			{#if proof}As <span dir="auto">{proof.reader.name}</span> gets it{:else}Proof{/if}
		</h1>
		{#if proof}
			<p class="quiet">
				{proof.reader.part}, reads {proof.reader.language}{proof.worded === proof.reader.language
					? ''
					: `, gets the words in ${proof.worded}`}
			</p>
		{/if}
		{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
		<div class="grid">
			<nav aria-label="Readers">
				<Search
					size="sm"
					labelText="Find a recipient"
					placeholder="Find a recipient"
					bind:value={search}
					on:input={() => void find(search)}
					on:clear={() => void find('')}
				/>
				{#if readers.length === 0 && sheet}
					<p class="quiet small">
						{search
							? `No recipient fits “${search}”.`
							: 'Nobody gets it yet: pick somebody in Write.'}
					</p>
				{/if}
				<ul>
					{#each readers as reader (reader.personId)}
						<li>
							<button
								type="button"
								aria-pressed={proof?.reader.personId === reader.personId}
								onclick={() => void look(reader.personId)}
							>
								<b dir="auto">{reader.name}</b>
								<span class="small quiet">{reader.why || reader.part}</span>
							</button>
						</li>
					{/each}
				</ul>
				<Button size="small" href="/write">Back to the wording</Button>
			</nav>
			{#if proof}
				<section class="email" aria-label="Email">
					<h2><WayMark way="email" word /></h2>
					{#if proof.email?.ok}
						{@const copy = proof.email.copy}
						<dl class="small">
							<dt>From</dt>
							<dd>{copy.from}</dd>
							<dt>To</dt>
							<dd class="mono">{proof.email.address}</dd>
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
							<button class="plain" aria-pressed={!plain} onclick={() => (plain = false)}
								>as a page</button
							>
							<button class="plain" aria-pressed={plain} onclick={() => (plain = true)}
								>as plain text</button
							>
							<span class="end">
								<Button size="small" kind="tertiary" on:click={() => send('email')}
									>Send this email to me</Button
								>
							</span>
						</div>
						<p class="small" role="status">{sent.email}</p>
						{#if plain}
							<pre dir="auto">{copy.lines}</pre>
						{:else}
							<!-- No scripts; of our own origin only so that pictures may be shown. -->
							<iframe title="The email as a page" sandbox="allow-same-origin" srcdoc={copy.page}
							></iframe>
						{/if}
					{:else}
						<p class="quiet">{proof.email?.why ?? 'Not by email.'}</p>
					{/if}
				</section>
				<section class="phone" aria-label="Text and inbox">
					<h2><WayMark way="text" word /></h2>
					{#if proof.text?.ok}
						{@const { text, length, from } = proof.text.copy}
						<p class="small quiet">
							{length.parts}
							{length.parts === 1 ? 'part' : 'parts'}, {length.units}
							{length.alphabet === '7-bit' ? 'characters' : '16-bit characters'}, from {phoneText(
								from
							)} to {phoneText(proof.text.address ?? '')}
						</p>
						<p class="text" dir="auto">{text}</p>
						<Button size="small" kind="tertiary" on:click={() => send('text')}
							>Send this text to me</Button
						>
						<p class="small" role="status">{sent.text}</p>
						<details class="small">
							<summary>The number my proofs go to</summary>
							<form
								class="number"
								onsubmit={(e) => {
									e.preventDefault();
									void setNumber();
								}}
							>
								<TextInput
									size="sm"
									labelText="Your own number"
									placeholder="(207) 555-0143"
									bind:value={number}
									invalid={numberWhy !== ''}
									invalidText={numberWhy}
								/>
								<Button type="submit" size="small" kind="tertiary">Put it on file</Button>
							</form>
						</details>
					{:else}
						<p class="quiet">{proof.text?.why ?? 'Not by text.'}</p>
					{/if}
					<h2><WayMark way="inbox" word /></h2>
					{#if proof.inbox?.ok}
						{@const letter = proof.inbox.copy}
						<Button size="small" kind="tertiary" on:click={() => send('inbox')}
							>Put this into my inbox</Button
						>
						<p class="small" role="status">
							{sent.inbox}
							{#if inboxLink}<a href={inboxLink} target="_blank" rel="noopener">Open it</a>{/if}
						</p>
						<article>
							<div class="addr" dir="auto">{letter.about || 'For you'}</div>
							<div class="body" lang={letter.language} dir={letter.direction}>
								<h3 dir={letter.direction === 'rtl' ? 'rtl' : 'auto'}>
									{letter.subject || 'No subject yet'}
								</h3>
								<!-- Made by us from a wording that holds nothing that could be run; see core/copy/html. -->
								<!-- eslint-disable-next-line svelte/no-at-html-tags -->
								<div>{@html letter.html}</div>
								{#each letter.files as file (file.fileId)}
									<p class="small">{file.name} ({sizeWords(file.bytes)})</p>
								{/each}
								{#each letter.sectionLines as line (line)}<p class="small quiet">{line}</p>{/each}
							</div>
						</article>
					{:else}
						<p class="quiet">{proof.inbox?.why ?? 'Not by inbox.'}</p>
					{/if}
				</section>
			{:else if !trouble}
				<p class="quiet">Making the copies…</p>
			{/if}
		</div>
	{/if}
</div>

<style>
	.page {
		padding: 16px 24px;
		height: 100%;
		display: flex;
		flex-direction: column;
		min-height: 0;
	}
	h1 {
		font-size: 24px;
		overflow-wrap: anywhere;
	}
	.grid {
		flex: 1;
		min-height: 0;
		display: grid;
		grid-template-columns: 220px minmax(0, 1fr) 330px;
		gap: 22px;
		margin-top: 12px;
	}
	nav,
	section {
		min-height: 0;
		overflow: auto;
		display: flex;
		flex-direction: column;
		gap: 8px;
	}
	nav ul {
		border: 1px solid var(--line);
		background: var(--sheet);
	}
	nav li + li {
		border-top: 1px solid var(--line);
	}
	nav li button {
		display: grid;
		width: 100%;
		padding: 6px 10px;
		border: 0;
		background: none;
		font: inherit;
		color: var(--ink);
		text-align: start;
		cursor: pointer;
		overflow-wrap: anywhere;
	}
	nav li button[aria-pressed='true'] {
		background: var(--wash);
	}
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
	.text {
		border: 1px solid var(--line);
		border-inline-start: 3px solid var(--text);
		background: var(--sheet);
		padding: 8px 12px;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
	.phone > :global(.bx--btn) {
		align-self: start;
	}
	article {
		background: var(--sheet);
		border: 1px solid var(--line);
		font-size: 16px;
		flex: none;
	}
	.addr {
		padding: 8px 14px;
		border-bottom: 1px dashed #bfb49f;
		font-size: 14px;
	}
	.body {
		padding: 10px 14px;
		overflow-wrap: anywhere;
		overflow-x: auto;
	}
	h3 {
		font-size: 18px;
	}
	@media (max-width: 1000px) {
		.page {
			height: auto;
		}
		.grid {
			grid-template-columns: 1fr;
		}
		iframe {
			min-height: 480px;
		}
	}
</style>

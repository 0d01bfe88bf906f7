<script lang="ts">
	import { Button, Search } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import type { Way } from '$lib/core/roster/way';
	import type { Proof, ProofReader, ProofSent } from '$lib/server/desk/plan/types';
	import { getJson, postJson } from '$lib/ui/parts/post-json';
	import EmailProof from '$lib/ui/write/proof/EmailProof.svelte';
	import InboxProof from '$lib/ui/write/proof/InboxProof.svelte';
	import TextProof from '$lib/ui/write/proof/TextProof.svelte';
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
				<EmailProof email={proof.email} sent={sent.email} onsend={() => send('email')} />
				<section class="phone" aria-label="Text and inbox">
					<TextProof
						text={proof.text}
						sent={sent.text}
						onsend={() => send('text')}
						onnumber={() => (sent.text = 'Your number is on file; proofs by text go there.')}
					/>
					<InboxProof
						inbox={proof.inbox}
						sent={sent.inbox}
						link={inboxLink}
						onsend={() => send('inbox')}
					/>
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
	/* Its three panes, each as long as it likes. */
	.grid > :global(*) {
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
	.phone > :global(.bx--btn) {
		align-self: start;
	}
	@media (max-width: 1000px) {
		.page {
			height: auto;
		}
		.grid {
			grid-template-columns: 1fr;
		}
	}
</style>

<script lang="ts">
	import { nameOfLanguage } from '$lib/core/copy/language';
	import { Button, Modal, Search, TextInput } from 'carbon-components-svelte';
	import { fold } from '$lib/core/format/fold';
	import { listWords } from '$lib/core/copy/list-words';
	import { bodyText } from '$lib/core/copy/plain';
	import type { KeptWording } from '$lib/server/desk/sheet/types';
	import { getJson, postJson } from '../../parts/post-json';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Wordings to begin from, and the place to keep this one for later. */
	let { sheet, open = $bindable(false) }: { sheet: Sheet; open: boolean } = $props();

	let kept = $state.raw<readonly KeptWording[] | null>(null);
	let trouble = $state('');
	let said = $state('');
	let search = $state('');
	let searchField = $state<HTMLInputElement | null>(null);
	let name = $state('');
	let chosen = $state.raw<KeptWording | null>(null);
	const shown = $derived(
		(kept ?? []).filter((k) => fold(`${k.name} ${k.wording.words.subject}`).includes(fold(search)))
	);
	const languages = (k: KeptWording) =>
		[k.wording.language, ...k.wording.variants.map((v) => v.language)]
			.map((tag) => nameOfLanguage(tag))
			.join(', ');
	const replaces = $derived(
		(kept ?? []).some((k) => k.id !== null && fold(k.name) === fold(name.trim()))
	);

	$effect(() => {
		if (!open) return;
		said = '';
		chosen = null;
		name = '';
		void getJson<KeptWording[]>('/write/wordings').then((answer) => {
			if (answer.ok) kept = answer.body;
			trouble = answer.why;
		});
	});
	function use(k: KeptWording) {
		sheet.wording = k.wording;
		open = false;
	}
	async function keep() {
		const answer = await postJson<KeptWording[]>('/write/wordings', {
			name,
			wording: sheet.wording
		});
		trouble = answer.why;
		if (!answer.ok) return;
		kept = answer.body;
		said = `Kept as “${name.trim()}”.`;
		name = '';
	}
	async function giveUp(k: KeptWording) {
		const answer = await postJson<KeptWording[]>(`/write/wordings/${k.id}`, {});
		trouble = answer.why;
		if (!answer.ok) return;
		kept = answer.body;
		said = `“${k.name}” is deleted.`;
		chosen = null;
		// The button that had the focus is gone.
		searchField?.focus();
	}
</script>

<Modal passiveModal bind:open modalHeading="Kept wording" hasScrollingContent size="lg">
	{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
	<p role="status" class="good">{said}</p>
	{#if kept === null && !trouble}
		<p class="quiet">Loading…</p>
	{:else if kept !== null}
		<div class="two">
			<div>
				<Search
					size="sm"
					bind:ref={searchField}
					labelText="Search kept wording"
					placeholder="Name or subject"
					bind:value={search}
				/>
				{#if shown.length === 0}<p>None of them fits “{search}”.</p>{/if}
				<ul>
					{#each shown as k (k.id ?? k.name)}
						<li>
							<button
								type="button"
								class="line"
								aria-pressed={chosen === k}
								onclick={() => (chosen = k)}
							>
								<b dir="auto">{k.name}</b>
								<span class="quiet small">{k.id === null ? 'to begin with' : 'your own'}</span>
								<span class="quiet small wide">{languages(k)}</span>
							</button>
						</li>
					{/each}
				</ul>
			</div>
			<div class="look">
				{#if chosen}
					<h3 dir="auto">{listWords(chosen.wording.words.subject)}</h3>
					<p class="words" dir="auto">{listWords(bodyText(chosen.wording.words.body))}</p>
					<div class="do">
						<Button size="small" on:click={() => use(chosen!)}>Put it into the sheet</Button>
						{#if chosen.id !== null}
							<Button size="small" kind="ghost" on:click={() => giveUp(chosen!)}>Delete it</Button>
						{/if}
					</div>
					<p class="quiet small">
						It takes the place of the words that are there; undo brings them back.
					</p>
				{:else}
					<p class="quiet">Choose one to look at it.</p>
				{/if}
			</div>
		</div>
		<form
			onsubmit={(e) => {
				e.preventDefault();
				void keep();
			}}
		>
			<TextInput size="sm" labelText="Keep the words of this sheet as" bind:value={name} />
			<Button type="submit" size="small" kind="tertiary" disabled={name.trim() === ''}
				>{replaces ? 'Keep in place of the one of this name' : 'Keep'}</Button
			>
		</form>
	{/if}
</Modal>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(220px, 2fr) 3fr;
		gap: 20px;
		margin-bottom: 16px;
	}
	ul {
		margin-top: 8px;
		border: 1px solid var(--line);
	}
	li + li {
		border-top: 1px solid var(--line);
	}
	.line {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 10px;
		width: 100%;
		padding: 6px 10px;
		border: 0;
		background: none;
		font: inherit;
		color: var(--ink);
		text-align: start;
		cursor: pointer;
	}
	.line[aria-pressed='true'] {
		background: var(--wash);
	}
	.wide {
		flex-basis: 100%;
	}
	.look {
		border-inline-start: 1px solid var(--line);
		padding-inline-start: 20px;
	}
	.words {
		white-space: pre-wrap;
		margin: 8px 0;
		overflow-wrap: anywhere;
	}
	.do {
		display: flex;
		gap: 8px;
	}
	form {
		display: flex;
		align-items: end;
		gap: 8px;
		border-top: 1px solid var(--line);
		padding-top: 12px;
	}
	@media (max-width: 700px) {
		.two {
			grid-template-columns: 1fr;
		}
		.look {
			border: 0;
			padding: 0;
		}
	}
</style>

<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { tick } from 'svelte';
	import type { SentenceRead } from '$lib/server/desk/audience/types';
	import { postJson } from '../../parts/post-json';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The audience as one sentence, to be read and to be changed; what cannot be read is marked where it stands. */
	let { sheet, open = $bindable() }: { sheet: Sheet; open: boolean } = $props();
	let text = $state('');
	let why = $state('');
	let busy = $state(false);
	let field = $state<HTMLTextAreaElement>();

	$effect(() => {
		if (!open) return;
		why = '';
		text = '';
		busy = true;
		void postJson<{ text: string }>('/write/sentence', { audience: sheet.audience }).then(
			(answer) => {
				busy = false;
				text = answer.body.text ?? '';
				why = answer.why;
			}
		);
	});
	async function use() {
		busy = true;
		const answer = await postJson<SentenceRead>('/write/sentence', {
			audience: sheet.audience,
			text
		});
		busy = false;
		if (answer.ok && answer.body.ok) {
			sheet.setAudience(answer.body.audience);
			open = false;
			return;
		}
		why = answer.why;
		if (answer.status !== 422 || answer.body.ok) return;
		const { at } = answer.body;
		await tick();
		field?.focus();
		field?.setSelectionRange(at, nextEnd(at));
	}
	/** To the end of the word that stands there. */
	const nextEnd = (at: number) => at + /^\S*/.exec(text.slice(at))![0].length;
</script>

<Modal
	bind:open
	modalHeading="The audience as a sentence"
	primaryButtonText="Use this sentence"
	secondaryButtonText="Leave it as it was"
	primaryButtonDisabled={busy || text.trim() === ''}
	selectorPrimaryFocus="#audience-sentence"
	on:click:button--secondary={() => (open = false)}
	on:submit={use}
>
	<label class="small quiet" for="audience-sentence">
		Change it here: sets can be put into each other with “any of (…; …)”, “all of (…; …)” and “(…)
		except (…)”.
	</label>
	<textarea
		id="audience-sentence"
		bind:this={field}
		bind:value={text}
		dir="auto"
		rows="7"
		spellcheck="false"
		readonly={busy}
		aria-describedby="sentence-why"></textarea>
	<p id="sentence-why" class="fail" role="alert">{why}</p>
</Modal>

<style>
	textarea {
		width: 100%;
		font: inherit;
		font-size: 16px;
		line-height: 1.5;
		padding: 10px 12px;
		border: 1px solid var(--line-strong);
		background: var(--sheet);
		color: inherit;
		resize: vertical;
		margin: 6px 0;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox, RadioButton, RadioButtonGroup } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { tooMuch } from '$lib/core/roster/counts';
	import type { Looked, Question } from '$lib/server/desk/roster/types';

	/** What is to be looked at before a roster comes in: custody nobody has said, who may be the same, too much at once. */
	let {
		looked,
		questions,
		custody
	}: {
		looked: Looked;
		questions: readonly Question[];
		custody: Readonly<Record<string, 'yes' | 'no'>>;
	} = $props();
	const much = $derived(tooMuch(looked.shares, looked.mostShare));
	const unsaid = $derived(looked.unsaid.reduce((n, u) => n + u.contacts, 0));
	const percent = $derived(Math.round(looked.mostShare * 100));
	/** Relations said already can be said otherwise as well. */
	const relations = $derived([
		...looked.unsaid.map((u) => ({ relation: u.relation, note: count(u.contacts), is: 'ask' })),
		...Object.entries(custody)
			.filter(([relation]) => !looked.unsaid.some((u) => u.relation === relation))
			.map(([relation, is]) => ({ relation, note: '', is: is as string }))
	]);
</script>

<ul class="checks">
	{#each much as share (share.of)}
		<li>
			<span class="sign fail">■</span>
			<span
				><b>{count(share.touched)} of {count(share.known)} {share.of}</b> would go or change, over
				{percent} %. If that is meant, type the number of changes below.</span
			>
		</li>
	{/each}
	{#if unsaid > 0 || relations.length > 0}
		<li>
			<span class="sign" class:heed={unsaid > 0} class:quiet={unsaid === 0}
				>{unsaid > 0 ? '◇' : '–'}</span
			>
			<details open={false}>
				<summary>
					{#if unsaid > 0}
						{count(unsaid)}
						{unsaid === 1 ? 'guardian is' : 'guardians are'} new, and the file does not say whether they
						have custody. They are left out until somebody says. <b>Say it now</b>
					{:else}Custody of new contacts is said. <b>Change it</b>{/if}
				</summary>
				<form method="post" action="?/custody" use:enhance>
					{#each relations as { relation, note, is } (relation)}
						<RadioButtonGroup
							legendText={note === '' ? relation : `${relation}, ${note}`}
							name="of {relation}"
							selected={is}
						>
							<RadioButton value="yes" labelText="custody" />
							<RadioButton value="no" labelText="none" />
							<RadioButton value="ask" labelText="not yet" />
						</RadioButtonGroup>
					{/each}
					<Checkbox name="always" value="1" labelText="For every file from here" />
					<Button type="submit" size="small" kind="tertiary">Write it down, look again</Button>
				</form>
			</details>
		</li>
	{/if}
	{#if looked.questions > 0}
		<li>
			<span class="sign heed">◇</span>
			<details>
				<summary
					>{count(looked.questions)}
					{looked.questions === 1 ? 'person has' : 'people have'} the same name and the same address,
					number or student as somebody known. They come in as others unless you say so.
					<b>Same or other?</b></summary
				>
				{#if looked.sameTies > 0}
					<form method="post" action="?/sameTies" use:enhance>
						<p>
							{count(looked.sameTies)} of them {looked.sameTies === 1 ? 'is' : 'are'} on file as a contact
							of the same student under the same name.
						</p>
						<Button type="submit" size="small" kind="tertiary">
							{looked.sameTies === 1 ? 'That one is' : `All ${count(looked.sameTies)} are`} the same
						</Button>
					</form>
				{/if}
				<form method="post" action="?/same" use:enhance>
					{#each questions as q (`${q.key} ${q.here.personId}`)}
						<fieldset>
							<legend dir="auto">{q.inFile.name}</legend>
							<dl class="small">
								<dt>in the file</dt>
								<dd dir="auto">
									{q.inFile.note}{#if q.inFile.line}, line {q.inFile.line}{/if}
								</dd>
								<dt>here</dt>
								<dd dir="auto"><a href="/people/{q.here.personId}">{q.here.note}</a></dd>
								<dt>both</dt>
								<dd class="mono" dir="auto">{q.shared}</dd>
							</dl>
							<label
								><input type="radio" name="is {q.here.personId} {q.key}" value="same" /> the same</label
							>
							<label
								><input type="radio" name="is {q.here.personId} {q.key}" value="other" /> another</label
							>
						</fieldset>
					{/each}
					<Button type="submit" size="small" kind="tertiary">Write it down, look again</Button>
				</form>
			</details>
		</li>
	{/if}
	{#if looked.disputes > 0}
		<li>
			<span class="sign heed">◇</span>
			<span
				>{count(looked.disputes)}
				{looked.disputes === 1 ? 'field was' : 'fields were'} mended here, and the file has changed it
				too: the file’s word is taken, yours stands beside it under
				<a href="?what=changed">changed</a>.</span
			>
		</li>
	{/if}
	{#if looked.partly > 0}
		<li>
			<span class="sign heed">◇</span>
			<span
				>Of {count(looked.partly)}
				{looked.partly === 1 ? 'line one cell stays' : 'lines single cells stay'} out; the rest comes
				in. <a href="?what=wrong">Look</a></span
			>
		</li>
	{/if}
	{#if much.length === 0 && looked.shares.some((s) => s.known > 0)}
		<li>
			<span class="sign quiet">–</span>
			<span class="quiet"
				>No more than {percent} % of students, sections and enrolments go or change.</span
			>
		</li>
	{/if}
</ul>

<style>
	.checks {
		display: grid;
		gap: 9px;
	}
	li {
		display: grid;
		grid-template-columns: 14px minmax(0, 1fr);
		gap: 6px;
		font-size: 13px;
	}
	summary {
		cursor: pointer;
		list-style: none;
	}
	summary b {
		color: var(--action);
		text-decoration: underline;
		font-weight: 400;
	}
	form {
		display: grid;
		gap: 10px;
		padding: 8px 0;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		min-width: 0;
	}
	dd {
		overflow-wrap: anywhere;
	}
	form :global(.bx--radio-button__label) {
		white-space: nowrap;
	}
	form :global(.bx--radio-button-wrapper:not(:last-of-type)) {
		margin-inline-end: 10px;
	}
	legend {
		font-weight: 650;
		padding: 0;
	}
	dl {
		display: grid;
		grid-template-columns: max-content minmax(0, 1fr);
		gap: 1px 10px;
	}
	dt {
		color: var(--quiet);
	}
	label {
		margin-inline-end: 14px;
		min-height: 24px;
		display: inline-flex;
		align-items: center;
		gap: 5px;
	}
</style>

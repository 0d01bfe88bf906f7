<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, NumberInput } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import { comingPhrases } from '$lib/core/copy/coming-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import { slotWords } from '$lib/core/talk/invitation';
	import type { OwnInvitation } from '$lib/server/desk/invitations/types';
	import { keepTyped } from '../parts/keep-typed';

	/** Whether somebody comes: what holds, and the answer, changed until its time is over. */
	let {
		invitation,
		language,
		whenOf,
		action,
		fields = {},
		fault = '',
		meant = null,
		heading = 'h3',
		more
	}: {
		invitation: OwnInvitation;
		language: string;
		/** Day and time of an instant (ms), as its reader reads it. */
		whenOf: (at: number) => string;
		action: string;
		/** What the form says beside the answer. */
		fields?: Readonly<Record<string, string>>;
		/** Why the last answer was not taken. */
		fault?: string;
		/** Which answer the link of an email was. */
		meant?: 'yes' | 'no' | null;
		/** Its heading, below the one of the page around it. */
		heading?: 'h2' | 'h3';
		/** Fields of their own above the answer. */
		more?: Snippet;
	} = $props();

	const w = $derived(comingPhrases(language));
	const mine = $derived(invitation.mine);
	const mySlot = $derived(invitation.slots.find((s) => s.id === mine?.slot));
	/** What holds now, in words. */
	const holds = $derived.by(() => {
		if (!mine) return '';
		const n = String(mine.seated ? mine.people : mine.before);
		if (!mine.comes) return w.notComing;
		if (!mine.seated) {
			const line = mine.before === 0 ? w.first : fillPhrase(w.line, { n });
			return mySlot ? `${slotWords(mySlot, whenOf)}: ${line}` : line;
		}
		return mySlot
			? fillPhrase(w.haveAt, { slot: slotWords(mySlot, whenOf), n })
			: fillPhrase(w.have, { n });
	});
	const leftWords = (left: number | null): string =>
		left === null ? '' : left === 0 ? w.none : fillPhrase(w.left, { n: String(left) });
	// What was said stands in the form; typed over, it stays as typed until an answer comes.
	const said = $derived({
		adults: mine?.comes ? mine.people - (mine.students ?? 0) : 1,
		students: mine?.comes ? (mine.students ?? 0) : 0
	});
	const until = $derived(
		fillPhrase(invitation.open ? w.until : w.over, { time: whenOf(invitation.until) })
	);
</script>

{#snippet form()}
	<form method="post" {action} use:enhance={keepTyped}>
		{#each Object.entries(fields) as [name, value] (name)}
			<input type="hidden" {name} {value} />
		{/each}
		{@render more?.()}
		{#if invitation.slots.length > 0}
			<fieldset>
				<legend>{w.time}</legend>
				{#each invitation.slots as slot (slot.id)}
					<label>
						<input
							type="radio"
							name="slot"
							value={slot.id}
							checked={mine?.comes === true && mine.slot === slot.id}
						/>
						<span dir="auto">{slotWords(slot, whenOf)}</span>
						<span class="quiet small">{leftWords(slot.left)}</span>
					</label>
				{/each}
			</fieldset>
		{/if}
		<div class="many">
			<NumberInput
				name="adults"
				labelText={w.adults}
				value={said.adults}
				min={0}
				max={invitation.most}
				hideSteppers
			/>
			<NumberInput
				name="students"
				labelText={w.students}
				value={said.students}
				min={0}
				max={invitation.most}
				hideSteppers
			/>
		</div>
		<div class="answers">
			<Button
				type="submit"
				name="coming"
				value="yes"
				class="wide"
				kind={meant === 'no' ? 'tertiary' : 'primary'}>{w.yes}</Button
			>
			<Button
				type="submit"
				name="coming"
				value="no"
				class="wide"
				kind={meant === 'no' ? 'primary' : 'tertiary'}>{w.no}</Button
			>
		</div>
	</form>
{/snippet}

<section class="coming" id="coming" aria-label={w.question}>
	<svelte:element this={heading} class="question">{w.question}</svelte:element>
	{#if fault}<p class="fail" role="alert">{fault}</p>{/if}
	{#if mine}
		<p class="holds" class:good={mine.seated} role="status" dir="auto">{holds}</p>
		{#if mine.by}<p class="quiet small" dir="auto">{fillPhrase(w.by, { name: mine.by })}</p>{/if}
	{/if}
	<p class="quiet small">
		{until}{#if invitation.open && invitation.slots.length === 0 && invitation.left !== null && !mine?.seated}
			{leftWords(invitation.left)}{/if}
	</p>
	{#if invitation.open}
		{#if mine && !fault && !meant}
			<details>
				<summary>{w.change}</summary>
				{@render form()}
			</details>
		{:else}
			{@render form()}
		{/if}
	{/if}
</section>

<style>
	.coming {
		margin: 14px 0 0;
		padding: 12px 14px;
		border: 1px solid var(--line);
		border-radius: var(--corner);
	}
	.question {
		font-size: 17px;
		margin: 0 0 6px;
	}
	.holds.good {
		color: var(--good);
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 10px 0 0;
		display: grid;
		gap: 2px;
	}
	label {
		display: flex;
		flex-wrap: wrap;
		gap: 0 10px;
		align-items: baseline;
		padding: 8px 0;
		border-bottom: 1px dashed var(--dash);
	}
	form {
		margin-top: 12px;
	}
	.many {
		display: flex;
		flex-wrap: wrap;
		gap: 10px 16px;
		margin: 12px 0;
	}
	.many > :global(*) {
		flex: 0 1 120px;
	}
	.answers {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
	}
	.answers :global(.wide) {
		font-weight: 650;
		min-height: 52px;
		flex: 1 1 130px;
		max-width: none;
	}
	summary {
		cursor: pointer;
		padding: 6px 0;
	}
</style>

<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import type { OpenedTalk } from '$lib/server/desk/replies/types';
	import FindPerson from '../parts/FindPerson.svelte';
	import AsideField from './AsideField.svelte';

	/** What can be done to an open conversation beside answering it. */
	let {
		talk,
		now,
		zone,
		onact
	}: {
		talk: OpenedTalk;
		now: number;
		zone: string;
		onact: (body: object) => Promise<void>;
	} = $props();
	let shown = $state<'aside' | 'pass-on' | 'copy' | null>(null);
	let address = $state('');
	/** What the family wrote last. */
	const last = $derived(talk.lines.findLast((line) => line.kind === 'family')?.id ?? null);
	const toggle = (what: 'aside' | 'pass-on' | 'copy') => (shown = shown === what ? null : what);
	async function act(body: object) {
		shown = null;
		await onact(body);
	}
</script>

<div class="acts" role="group" aria-label="This conversation">
	{#if talk.state === 'settled'}
		<button class="plain" onclick={() => act({ act: 'wait-again' })}>Let it wait again</button>
	{:else}
		<button class="plain" onclick={() => act({ act: 'settle' })}>Settled, no answer needed</button>
		{#if talk.state === 'aside'}
			<button class="plain" onclick={() => act({ act: 'wait-again' })}>Let it wait again</button>
		{/if}
		<button class="plain" aria-expanded={shown === 'aside'} onclick={() => toggle('aside')}
			>Put aside</button
		>
	{/if}
	<button class="plain" onclick={() => act({ act: 'unread' })}>Mark as not looked at</button>
	{#if !talk.byGuest}
		<button class="plain" aria-expanded={shown === 'pass-on'} onclick={() => toggle('pass-on')}
			>Pass on</button
		>
	{/if}
	{#if last !== null}
		<button class="plain" aria-expanded={shown === 'copy'} onclick={() => toggle('copy')}
			>Send a copy on</button
		>
	{/if}
	{#each talk.guests as guest (guest.id)}
		<span class="small quiet" dir="auto"
			>with {guest.name}
			<button class="plain" onclick={() => act({ act: 'take-back', from: guest.id })}
				>Take back</button
			></span
		>
	{/each}
</div>
{#if shown === 'aside'}
	<AsideField {now} {zone} onaside={(until) => act({ act: 'aside', until })} />
{:else if shown === 'pass-on'}
	<div class="pass">
		<FindPerson
			label="Pass it on to"
			among="staff"
			onfound={(person) => act({ act: 'pass-on', to: person.personId })}
		/>
		<p class="small quiet">
			They are told, may see this one conversation and answer in it, and no other.
		</p>
	</div>
{:else if shown === 'copy'}
	<form
		class="pass"
		onsubmit={(event) => {
			event.preventDefault();
			void act({ act: 'forward', answer: last, to: address });
		}}
	>
		<TextInput size="sm" labelText="A copy of what they wrote last, to" bind:value={address} />
		<Button type="submit" size="small" kind="secondary" disabled={!address.includes('@')}
			>Send the copy</Button
		>
		<p class="small quiet">The original stays here, always.</p>
	</form>
{/if}

<style>
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
	}
	.pass {
		display: grid;
		gap: 6px;
		justify-items: start;
		max-width: 420px;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import { localOf, placeLocal } from '$lib/core/time/local';
	import type { InvitationReach } from '$lib/server/desk/invitations/types';
	import { keepTyped } from '../../parts/keep-typed';
	import MomentField from '../../parts/MomentField.svelte';
	import { slotSeen } from './coming-words';

	/** Until when it can be answered, and how many places there are: changed after it has left; and the link for anybody. */
	let { invitation, now, zone }: { invitation: InvitationReach; now: number; zone: string } =
		$props();
	// svelte-ignore state_referenced_locally
	let until = $state(invitation.until);
	let unread = $state(false);
</script>

<details>
	<summary>Change places or time, or let anybody answer</summary>
	<form method="post" action="?/change" use:enhance={keepTyped}>
		<input type="hidden" name="until" value={until} />
		<MomentField
			label="Answers until"
			value={localOf(until, invitation.zone)}
			{now}
			zone={invitation.zone}
			bind:unread
			onchange={(at) => (until = placeLocal(at, invitation.zone).at)}
		/>
		<TextInput
			size="sm"
			name="places"
			labelText={invitation.slots.length > 0 ? 'Places over all times' : 'Places'}
			placeholder="as many as come"
			inputmode="numeric"
			maxlength={6}
			value={invitation.places === null ? '' : String(invitation.places)}
		/>
		<TextInput
			size="sm"
			name="most"
			labelText="Come together at most"
			inputmode="numeric"
			maxlength={2}
			value={String(invitation.most)}
		/>
		{#each invitation.slots as slot (slot.id)}
			<TextInput
				size="sm"
				name="slot-{slot.id}"
				labelText="Places {slotSeen(slot, zone, now)}"
				placeholder="no limit"
				inputmode="numeric"
				maxlength={6}
				value={slot.places === null ? '' : String(slot.places)}
			/>
		{/each}
		<Button type="submit" size="small" disabled={unread}>Change it</Button>
		<p class="small quiet wide">
			Whoever stands in line for new places has them at once, and is told. Fewer places than are
			taken take nobody’s away.
		</p>
	</form>
	<form method="post" action="?/open" class="open" use:enhance>
		<input type="hidden" name="open" value={invitation.link === null ? '1' : '0'} />
		{#if invitation.link === null}
			<span class="quiet">Only those who were written to can answer.</span>
			<Button type="submit" size="small" kind="tertiary">Make a link for anybody</Button>
		{:else}
			<span>Anybody can answer here: <a href={invitation.link} dir="ltr">{invitation.link}</a></span
			>
			<Button type="submit" size="small" kind="danger-tertiary">End this link</Button>
		{/if}
	</form>
</details>

<style>
	summary {
		cursor: pointer;
	}
	form {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
		gap: 10px 18px;
		align-items: end;
		margin: 10px 0;
	}
	.wide {
		grid-column: 1 / -1;
	}
	.open {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		overflow-wrap: anywhere;
	}
</style>

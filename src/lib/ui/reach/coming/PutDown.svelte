<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, NumberInput, Select, SelectItem } from 'carbon-components-svelte';
	import type { ComingLine, InvitationReach } from '$lib/server/desk/invitations/types';
	import { slotSeen } from './coming-words';

	/** Puts down what somebody has said at the phone or at the door. */
	let {
		line,
		invitation,
		now,
		zone
	}: { line: ComingLine; invitation: InvitationReach; now: number; zone: string } = $props();
	/** Fifty forms that nobody looks at are not drawn. */
	let open = $state(false);
	const who = $derived(line.names.join(', '));
	const students = $derived(line.studentsComing ?? 0);
</script>

<details bind:open>
	<summary class="small">put down</summary>
	{#if open}
		<form method="post" action="?/put" use:enhance aria-label="What {who} said">
			<input type="hidden" name="key" value={line.key} />
			{#if invitation.slots.length > 0}
				<Select size="sm" labelText="Time" name="slot" selected={String(line.slot || '')}>
					<SelectItem value="" text="choose" />
					{#each invitation.slots as slot (slot.id)}
						<SelectItem
							value={String(slot.id)}
							text="{slotSeen(slot, zone, now)}{slot.left === 0 ? ' (full)' : ''}"
						/>
					{/each}
				</Select>
			{/if}
			<NumberInput
				size="sm"
				name="adults"
				labelText="Adults"
				value={line.people > 0 ? line.people - students : 1}
				min={0}
				max={invitation.most}
				hideSteppers
			/>
			<NumberInput
				size="sm"
				name="students"
				labelText="Students"
				value={students}
				min={0}
				max={invitation.most}
				hideSteppers
			/>
			<Button type="submit" size="small" name="coming" value="yes">They come</Button>
			<Button type="submit" size="small" kind="tertiary" name="coming" value="no"
				>They do not come</Button
			>
		</form>
	{/if}
</details>

<style>
	summary {
		color: var(--ink);
		cursor: pointer;
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		align-items: end;
		margin: 6px 0;
	}
	form > :global(.bx--form-item) {
		flex: 0 1 100px;
	}
	form > :global(.bx--form-item:has(select)) {
		flex: 1 1 220px;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import type { InvitationReach } from '$lib/server/desk/invitations/types';

	/** What is done about an invitation: reminding those who come, asking the others again, and the list for the door. */
	let { invitation, mayWrite }: { invitation: InvitationReach; mayWrite: boolean } = $props();
	const at = $derived(`/reach/${invitation.id}/coming`);
	const deeds = $derived([
		...(invitation.counts.comes > 0 ? [{ is: 'comes', words: 'Remind those who come' }] : []),
		...(invitation.open && invitation.counts.unsaid > 0
			? [{ is: 'unsaid', words: 'Ask those who have not answered' }]
			: [])
	]);
</script>

<div class="deeds">
	{#if mayWrite}
		{#each deeds as deed (deed.is)}
			<form method="post" action="{at}?/follow" use:enhance>
				<input type="hidden" name="is" value={deed.is} />
				<Button type="submit" size="small" kind="tertiary">{deed.words}</Button>
			</form>
		{/each}
	{/if}
	<span>
		List for the door:
		<a href="{at}/file?as=pdf" download>PDF</a> ·
		<a href="{at}/file?as=csv" download>CSV</a>
	</span>
</div>

<style>
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 16px;
		align-items: center;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import DayField from '$lib/ui/parts/DayField.svelte';
	import { getJson } from '$lib/ui/parts/post-json';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	interface Props {
		groupId: number;
		/** The code it has; empty where it is not open. */
		code: string;
		/** Its last day (ISO date); empty where it stays open. */
		until: string;
		why: string;
	}
	/** Opens a group, or gives it another code or last day; says of a code while it is typed whether it can be taken. */
	let { groupId, code, until, why }: Props = $props();
	// svelte-ignore state_referenced_locally
	let typed = $state(code);
	let refused = $state('');
	let asked = 0;

	$effect(() => {
		const wanted = typed.trim();
		const mine = (asked += 1);
		if (wanted === '' || wanted === code) {
			refused = '';
			return;
		}
		const timer = setTimeout(async () => {
			const answer = await getJson<{ why: string | null }>(
				`/people/groups/${groupId}/joining/code?code=${encodeURIComponent(wanted)}`
			);
			if (mine === asked && answer.ok) refused = answer.body.why ?? '';
		}, 120);
		return () => clearTimeout(timer);
	});
</script>

<form method="post" action="?/open" use:enhance={keepTyped}>
	<TextInput
		size="sm"
		name="code"
		labelText="Code"
		placeholder={code === '' ? 'empty: one is made' : ''}
		bind:value={typed}
		autocomplete="off"
		autocapitalize="characters"
		invalid={refused !== ''}
		invalidText={refused}
		helperText="4 to 12 letters and digits. O and 0, I and 1 and L count as the same: it is found however it is read."
	/>
	<DayField label="Last day, if it ends" name="until" value={until} />
	{#if why}<p class="fail small" role="alert">{why}</p>{/if}
	<Button type="submit" size="small" kind="tertiary" disabled={refused !== ''}>
		{code === '' ? 'Open the group' : 'Change code and day'}
	</Button>
</form>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, TextInput } from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import type { AccountLine } from '$lib/server/desk/work/types';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';
	import RoleFields from '$lib/ui/settings/RoleFields.svelte';
	import RoleWords from '$lib/ui/settings/RoleWords.svelte';

	/** Everybody who works here, and a form to invite somebody. */
	let { data, form } = $props();
	const zone = $derived(data.frame!.zone);
	const open = $derived(data.accounts.filter((a) => a.state === 'open').length);
	const invited = $derived(data.accounts.filter((a) => a.state === 'invited').length);
	const columns = [
		{ key: 'name', value: 'Name' },
		{ key: 'roles', value: 'Here as' },
		{ key: 'factor', value: 'Second factor' },
		{ key: 'seen', value: 'Last here' }
	] as const;
	let known = $state.raw<{ personId: number; name: string } | null>(null);
	const typed = $derived((form?.typed ?? {}) as Readonly<Record<string, string>>);
	const states = {
		open: '',
		invited: 'invited, has not come yet',
		'invitation-over': 'invited; the link’s day is over',
		closed: 'closed',
		gone: 'no longer at the schools'
	} as const;
</script>

<svelte:head><title>People who work here · Idle Courier</title></svelte:head>

{#snippet cell(line: AccountLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}
		<a href="/settings/work/{line.personId}" dir="auto">{line.name}</a>
		<span class="small quiet under"
			>{#if line.userName}<span class="mono">{line.userName}</span>{/if}
			{states[line.state]}</span
		>
	{:else if key === 'roles'}
		{#each line.roles.filter((r) => r.state !== 'over') as r (r.id)}
			<span class="under"><RoleWords line={r} {zone} /></span>
		{:else}<span class="fail">no role: nobody comes in by it</span>{/each}
	{:else if key === 'factor'}{line.factor ? 'on' : line.state === 'open' ? 'off' : ''}
	{:else}{line.seenAt === null ? '' : nearTime(line.seenAt, data.frame!.now, zone)}{/if}
{/snippet}

<h1>
	{open.toLocaleString('en')}
	{open === 1 ? 'person works' : 'people work'} here{invited > 0 ? `, ${invited} invited` : ''}
</h1>
<div class="with-aside" style:--aside="300px">
	<section>
		<LineTable {columns} lines={data.accounts} idOf={(line) => line.personId} {cell} />
	</section>
	<aside>
		<h2>Invite somebody</h2>
		<form class="beside" method="post" use:enhance={keepTyped}>
			{#if form?.why}
				<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
			{/if}
			{#if known}
				<p>
					<b dir="auto">{known.name}</b>
					<button type="button" class="door small" onclick={() => (known = null)}
						>somebody else</button
					>
				</p>
				<input type="hidden" name="who" value="known" />
				<input type="hidden" name="personId" value={known.personId} />
			{:else}
				<FindPerson label="Somebody on file" among="staff" onfound={(p) => (known = p)} />
				<p class="small quiet">or somebody new:</p>
				<input type="hidden" name="who" value="new" />
				<TextInput
					size="sm"
					labelText="Given name"
					name="givenName"
					value={typed.givenName ?? ''}
				/>
				<TextInput
					size="sm"
					labelText="Family name"
					name="familyName"
					value={typed.familyName ?? ''}
				/>
				<TextInput
					size="sm"
					type="email"
					labelText="Mail address"
					name="email"
					value={typed.email ?? ''}
				/>
			{/if}
			<RoleFields choices={data.choices} {typed} />
			<Button type="submit" size="small">Mail the invitation</Button>
		</form>
	</aside>
</div>

<style>
	.under {
		display: block;
	}
</style>

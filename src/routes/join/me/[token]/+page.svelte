<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { joinPhrases } from '$lib/core/copy/join-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import JoinPage from '$lib/ui/joining/JoinPage.svelte';
	import JoinerFields from '$lib/ui/joining/JoinerFields.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** The page of one who was invited, has asked, or is in: joins, and leaves. */
	let { data, form } = $props();
	const words = $derived(joinPhrases(data.language));
	const of = $derived({ group: data.group, to: data.address, name: data.name });
	const within = $derived(data.state === 'in');
</script>

<JoinPage
	language={words.tag}
	title={fillPhrase(within ? words.welcomeSubject : words.title, of)}
	district={data.district}
	offered={data.offered}
>
	<p class="quiet" dir="ltr">{data.address}</p>
	{#if within}
		<p role="status">{data.name}{data.student === '' ? '' : `, ${data.student}`}</p>
		<form method="post" action="?/leave" use:enhance>
			<Button type="submit" kind="tertiary">{fillPhrase(words.leave, of)}</Button>
		</form>
	{:else if data.state === 'removed'}
		<p>{fillPhrase(words.left, of)}</p>
	{:else if !data.open}
		<p>{fillPhrase(words.ended, of)}</p>
	{:else}
		{#if data.state === 'left'}<p role="status">{fillPhrase(words.left, of)}</p>{/if}
		<form method="post" action="?/join" use:enhance={keepTyped}>
			{#if form?.fault}<p class="fail" role="alert">{fillPhrase(words[form.fault], of)}</p>{/if}
			<JoinerFields
				{words}
				language={words.tag}
				name={form?.typed?.name ?? data.name}
				student={form?.typed?.student ?? data.student}
			/>
			<Button type="submit">{words.join}</Button>
		</form>
		{#if data.state !== 'left'}
			<form method="post" action="?/leave" use:enhance>
				<Button type="submit" kind="ghost">{words.notForMe}</Button>
			</form>
		{/if}
	{/if}
</JoinPage>

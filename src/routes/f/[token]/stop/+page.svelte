<script lang="ts">
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import { Button } from 'carbon-components-svelte';

	let { data } = $props();
	const what = $derived(data.kind === 'announcement' ? 'announcements' : 'messages');
</script>

<svelte:head><title>School mail</title></svelte:head>

<main class="own-page">
	{#if data.stopped}
		<h1>You get no more {what} by email.</h1>
		<p>They still stand in your inbox, and other kinds of mail still come.</p>
	{:else}
		<h1>No more {what} by email?</h1>
		<p>
			School {what} to you will stand in your inbox only. Other kinds of mail still come.
		</p>
	{/if}
	<form method="post" use:enhance>
		<input type="hidden" name="wanted" value={data.stopped ? 'again' : 'stop'} />
		<Button type="submit" kind={data.stopped ? 'tertiary' : 'primary'}>
			{data.stopped ? `Get ${what} by email again` : `Stop ${what} by email`}
		</Button>
	</form>
	<p><a href="/f/{page.params.token}">To your inbox</a></p>
</main>

<style>
	h1 {
		font-size: 22px;
	}
</style>

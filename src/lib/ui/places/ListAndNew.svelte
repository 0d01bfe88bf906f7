<script lang="ts">
	import type { Snippet } from 'svelte';
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	interface Props {
		/** "Groups". */
		title: string;
		/** "3 groups". */
		count: string;
		/** The action that makes it. */
		make?: string;
		/** What is made by the form: "A new group"; null where nothing may be made. */
		fresh: string | null;
		why: string;
		list: Snippet;
		fields: Snippet;
		/** Under the form. */
		beside?: Snippet;
	}
	/** A list of what People keeps, and beside it the form for another one. */
	let { make, title, count, fresh, why, list, fields, beside }: Props = $props();
</script>

<svelte:head><title>{title} · People · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/people">People</a> · {title}</p>
	<h1>{count}</h1>
	<div class="with-aside" style:--aside="260px">
		<section>{@render list()}</section>
		{#if fresh !== null}
			<aside>
				<h2>{fresh}</h2>
				<form class="beside" method="post" action={make} use:enhance={keepTyped}>
					{@render fields()}
					{#if why}<p class="fail small" role="alert">{why}</p>{/if}
					<Button type="submit" size="small" kind="tertiary">Make it</Button>
				</form>
				{@render beside?.()}
			</aside>
		{/if}
	</div>
</div>

<style>
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
	}
</style>

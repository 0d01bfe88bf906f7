<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import AccessSheets from '$lib/ui/places/AccessSheets.svelte';
	import { dayName } from '$lib/core/time/zone';

	/** A link to somebody's inbox, on a sheet to be handed over or put into an envelope. */
	let { data, form } = $props();
	const p = $derived(data.person);
	const made = $derived(
		form && 'link' in form && form.link !== undefined && form.endsAt !== undefined
			? { link: form.link, endsAt: form.endsAt }
			: null
	);
	const why = $derived(form && 'why' in form ? form.why : '');
</script>

<svelte:head><title>A link for {p.name} · People · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet noprint">
		<a href="/people">People</a> · <a href="/people/{p.personId}" dir="auto">{p.name}</a> · A link to
		the inbox
	</p>
	{#if made}
		<article class="sheet">
			<p>{p.district}</p>
			<h1 dir="auto">{p.name}</h1>
			<p>
				What the school writes to you stands in your inbox. No password is needed: open this address
				on a phone or computer.
			</p>
			<p class="mono link">{made.link}</p>
			<p>
				It opens your inbox until {dayName(made.endsAt, p.zone, p.now)}. It is for you alone:
				whoever has it can read your letters. Ask the school office for another whenever you need
				one.
			</p>
		</article>
		<p class="noprint">
			<Button size="small" on:click={() => window.print()}>Print this sheet</Button>
			<span class="quiet small">It is shown this once. It was made by you, and that is kept.</span>
		</p>
	{:else}
		<h1 dir="auto">A link for {p.name}</h1>
		<p>
			{p.hasAddress
				? 'They have an address on file as well; a link is for when that is of no use to them.'
				: 'They have no address that works, only an inbox: this is how they get to it.'}
			Make sure that it reaches nobody else: hand it over, or send it by post.
		</p>
		{#if why}<p class="fail" role="alert">{why}</p>{/if}
		<form method="POST" action="?/make" use:enhance>
			<Button type="submit" size="small">Make a link to print</Button>
		</form>
		<h2>Or with a code for the phone, in their language</h2>
		<AccessSheets action="/people/{p.personId}/link/sheet" words="Make a sheet (PDF)" />
		<h2>A link is in the wrong hands</h2>
		<form method="POST" action="?/end" use:enhance>
			<p>
				Every link of {p.name} that is out, in letters and on paper, opens nothing any more. Letters that
				leave later bring a new one.
			</p>
			<Button type="submit" size="small" kind="danger-tertiary">End all their links</Button>
			{#if form && 'ended' in form}<p class="good" role="status">
					Ended. Give them a new one, or wait for the next letter.
				</p>{/if}
		</form>
	{/if}
</div>

<style>
	.sheet {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 2px;
		padding: 24px 28px;
		max-width: 640px;
		margin: 12px 0;
	}
	.link {
		overflow-wrap: anywhere;
		font-size: 18px;
	}
	@media print {
		.noprint {
			display: none;
		}
		.sheet {
			border: 0;
		}
	}
</style>

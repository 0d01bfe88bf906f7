<script lang="ts">
	import { enhance } from '$app/forms';
	import { invalidateAll } from '$app/navigation';
	import { Button, Checkbox, InlineNotification } from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import { sizeWords } from '$lib/core/copy/size-words';
	import type { LeavingView } from '$lib/server/desk/leaving/types';

	/** Everything packed up to be taken along. */
	let { data, form } = $props();
	const zone = $derived(data.frame!.zone);
	const time = (at: number) => nearTime(at, data.frame!.now, zone);
	const making = $derived(data.packages.find((p) => p.state === 'making'));

	// How far it is, while somebody looks.
	$effect(() => {
		if (!making) return;
		const again = setInterval(() => void invalidateAll(), 1500);
		return () => clearInterval(again);
	});

	const parts = [
		['tables', 'Tables', 'people, dispatches, copies, evidence, settings, the log: CSV'],
		[
			'letters',
			'Letters and answers',
			'each dispatch in each language, and what families wrote: mbox'
		],
		['calendars', 'Calendar', 'events and days without school: iCalendar'],
		['cards', 'Guardians', 'by school: vCards'],
		['files', 'Files', 'of letters and answers, under their hashes']
	] as const;
	const states = {
		making: 'is being packed',
		ready: 'ready',
		taken: 'taken',
		failed: 'came to no end',
		gone: 'gone'
	} as const;
	const partWords = (p: LeavingView) =>
		p.parts.length === parts.length
			? 'everything'
			: p.parts.map((code) => parts.find(([c]) => c === code)![1].toLowerCase()).join(', ');
</script>

<svelte:head><title>Taking everything along · Idle Courier</title></svelte:head>

<h1>Taking everything along</h1>
<p class="quiet">
	What the district has here, in forms that other programs read, with a page that says what each
	column holds. No passwords, links or keys are in it. A backup to put back here is another thing:
	it is made on the machine.
</p>

{#if form?.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{/if}

<form
	class="pack"
	method="post"
	action="?/pack"
	use:enhance={() =>
		({ update }) =>
			update({ reset: false })}
>
	<fieldset>
		<legend>What is packed up</legend>
		{#each parts as [code, name, about] (code)}
			<Checkbox name="parts" value={code} checked labelText="{name}: {about}" />
		{/each}
	</fieldset>
	<Button type="submit" disabled={!!making}>{making ? 'Packing…' : 'Pack it up'}</Button>
</form>

{#if data.packages.length > 0}
	<h2>Packed up</h2>
	<ul class="packages">
		{#each data.packages as p (p.id)}
			<li>
				<span><b>{time(p.askedAt)}</b>, {p.by}: {partWords(p)}</span>
				<span role={p.state === 'making' ? 'status' : undefined}>
					{states[p.state]}{p.state === 'making' ? `, ${Math.round(p.done * 100)} %` : ''}
					{#if p.bytes !== null && p.state !== 'gone'}· {sizeWords(p.bytes)}{/if}
					{#if p.until !== null}· goes {time(p.until)}{/if}
					{#if p.why}· {p.why}{/if}
				</span>
				<span class="row">
					{#if p.state === 'ready' && p.mine}
						<form method="post" action="?/take">
							<input type="hidden" name="id" value={p.id} />
							<Button size="small" type="submit">Take it</Button>
						</form>
					{/if}
					{#if p.state === 'ready' || p.state === 'taken'}
						<form method="post" action="?/drop" use:enhance>
							<input type="hidden" name="id" value={p.id} />
							<Button size="small" kind="ghost" type="submit">Delete</Button>
						</form>
					{/if}
				</span>
			</li>
		{/each}
	</ul>
	<p class="quiet small">
		Only whoever asked for a package takes it, once; a transfer that breaks off goes on where it
		was.
	</p>
{/if}

<style>
	.pack {
		display: grid;
		gap: 14px;
		justify-items: start;
		margin: 14px 0 22px;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
	}
	legend {
		font-weight: 600;
		margin-bottom: 4px;
	}
	.packages {
		margin: 8px 0;
		border-top: 1px solid var(--line);
	}
	.packages li {
		display: grid;
		grid-template-columns: minmax(0, 1.4fr) minmax(0, 1.4fr) auto;
		gap: 6px 16px;
		align-items: center;
		min-height: 44px;
		padding: 4px 0;
		border-bottom: 1px solid var(--line);
	}
	.row {
		display: flex;
		gap: 8px;
	}
	@media (max-width: 760px) {
		.packages li {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>

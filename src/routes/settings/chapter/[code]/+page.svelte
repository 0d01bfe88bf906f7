<script lang="ts">
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import BusyForm from '$lib/ui/settings/BusyForm.svelte';
	import LetterPreview from '$lib/ui/settings/LetterPreview.svelte';
	import WordsList from '$lib/ui/settings/WordsList.svelte';
	import ChapterFields from '$lib/ui/settings/ChapterFields.svelte';
	import { nearTime } from '$lib/ui/parts/clock';

	/** A chapter of the settings: what stands there, what a change would do, and what was changed before. */
	let { data, form } = $props();
	const chapter = $derived(data.chapter);
	const values = $derived((form && 'values' in form && form.values) || chapter.values);
	const effect = $derived(form && 'effect' in form ? form.effect : undefined);
	/** What stands in the form now, for what shows it as it changes. */
	let typed = $state.raw<Record<string, string>>({});
	const shown = $derived({ ...(values as Record<string, string>), ...typed });
	function note(event: Event) {
		const { form: of } = event.target as HTMLInputElement;
		if (of)
			typed = Object.fromEntries(
				[...new FormData(of)].flatMap(([name, v]) => (typeof v === 'string' ? [[name, v]] : []))
			);
	}
	const saved = $derived(form && 'saved' in form ? form.saved : undefined);
</script>

<svelte:head><title>{chapter.name} · Idle Courier</title></svelte:head>

<h1>{chapter.name}</h1>
<p class="quiet">{chapter.says} Changed by: {chapter.who.toLowerCase() || 'nobody'}.</p>

{#if form && 'why' in form && form.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{:else if saved}
	<p class="good" role="status">
		{saved.length > 0 ? 'It is changed.' : 'Nothing was different, so nothing was changed.'}
	</p>
{/if}

<div class="both" class:seen={chapter.code === 'letterhead'} oninput={note}>
	<BusyForm>
		{#snippet fields(busy)}
			<input type="hidden" name="seen" value={chapter.seen} />
			{#key values}<ChapterFields fields={chapter.fields} {values} />{/key}
			{#if effect}
				<section class="effect" aria-labelledby="effect" role="status">
					<h2 id="effect">What this changes</h2>
					{#if effect.changes.length === 0}
						<p>Nothing is different.</p>
					{:else}
						<ul>
							{#each effect.changes as change (change.label)}
								<li>{change.label}: <s>{change.before}</s> <b>{change.after}</b></li>
							{/each}
						</ul>
						{#each effect.effects as line (line)}<p><b>{line}</b></p>{/each}
						<div class="buttons">
							<Button type="submit" formaction="?/save" disabled={busy}>Change it</Button>
							<Button href="/settings/chapter/{chapter.code}" kind="ghost">Leave it</Button>
						</div>
					{/if}
				</section>
			{/if}
			<Button
				type="submit"
				formaction="?/look"
				kind={effect ? 'tertiary' : 'primary'}
				disabled={busy}>{busy ? 'Looking…' : 'See what it changes'}</Button
			>
		{/snippet}
	</BusyForm>
	{#if chapter.code === 'letterhead'}
		<LetterPreview values={shown} district={data.frame!.district} />
	{/if}
</div>

{#if data.words}<WordsList languages={data.words} frame={data.frame!} />{/if}

{#if chapter.history.length > 0}
	<section aria-labelledby="before">
		<h2 id="before">What was changed</h2>
		<ul class="history">
			{#each chapter.history as change (change.id)}
				<li>
					<div>
						<p class="small quiet">
							{change.by ?? 'Somebody who was erased'}, {nearTime(
								change.at,
								data.frame!.now,
								data.frame!.zone
							)}
						</p>
						{#each change.changes as one (one.label)}
							<p>{one.label}: <s>{one.before}</s> {one.after}</p>
						{/each}
					</div>
					<a href="/settings/chapter/{chapter.code}?from={change.id}">As it was before</a>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<style>
	/* What changes is seen beside the fields that change it. */
	@media (min-width: 1080px) {
		.both.seen {
			display: grid;
			grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
			gap: 28px;
		}
	}
	.effect {
		border: 1px dashed var(--line-strong);
		padding: 12px 16px;
		width: 100%;
		display: grid;
		gap: 8px;
	}
	s {
		color: var(--quiet);
	}
	.buttons {
		display: flex;
		gap: 10px;
	}
	.history {
		max-width: 760px;
	}
	.history li {
		display: flex;
		justify-content: space-between;
		gap: 16px;
		padding: 8px 0;
		border-top: 1px solid var(--line);
	}
	.history a {
		white-space: nowrap;
	}
	section {
		margin-top: 18px;
	}
	.effect {
		margin-top: 0;
	}
</style>

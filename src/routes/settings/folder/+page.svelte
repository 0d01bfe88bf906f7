<script lang="ts">
	import { Button, InlineNotification, TextInput } from 'carbon-components-svelte';
	import { sizeWords } from '$lib/core/copy/size-words';
	import BusyForm from '$lib/ui/settings/BusyForm.svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import { fileStateWords } from '$lib/ui/roster/words';

	/** The folder in which the student system leaves its rosters: what lies there, and what came of it. */
	let { data, form } = $props();
	const watched = $derived(data.watched);
	const when = (at: number) => nearTime(at, data.frame!.now, data.frame!.zone);
</script>

<svelte:head><title>Watched folder · Idle Courier</title></svelte:head>

<h1>Watched folder</h1>
{#if watched.folder === null}
	<p class="quiet">
		No folder is watched. Whoever runs this machine says which one, by <span class="mono"
			>IDLE_COURIER_ROSTERS</span
		>, and starts the courier again; a page does not reach into the machine. Until then rosters are
		<a href="/people/rosters">brought by hand</a>.
	</p>
{:else}
	<p class="quiet">
		<span class="mono">{watched.folder}</span>, as the machine says. What lies there whole is looked
		at like a roster that is brought by hand. It comes in by itself if no line is wrong that was not
		known to be, no question is open, and no more changes than the share below. Everything else
		waits for somebody under <a href="/people/rosters">Rosters</a>, and so does the first one.
	</p>
	{#if watched.trouble}
		<InlineNotification kind="error" lowContrast hideCloseButton title={watched.trouble} />
	{/if}
{/if}

{#if form && 'why' in form && form.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{:else if form && 'saved' in form}
	<p class="good" role="status">It is changed.</p>
{/if}
{#if watched.source !== null}
	<BusyForm>
		{#snippet fields(busy)}
			<div class="number">
				<TextInput
					name="percent"
					labelText="Students, sections or enrolments that may change by themselves (percent)"
					helperText="Of {watched.source}. Beyond it somebody looks, and types how many."
					inputmode="numeric"
					autocomplete="off"
					value={form && 'typed' in form ? form.typed : String(watched.mostPercent)}
				/>
			</div>
			<Button type="submit" disabled={busy}>Change it</Button>
		{/snippet}
	</BusyForm>
{/if}

{#if watched.folder !== null && !watched.trouble}
	<section aria-labelledby="lies">
		<h2 id="lies">What lies in it</h2>
		{#if watched.lies.length === 0}
			<p class="quiet">Nothing.</p>
		{:else}
			<ul>
				{#each watched.lies as file (file.name)}
					<li>
						<span dir="auto">{file.name}</span>
						<span class="quiet">{sizeWords(file.bytes)}</span>
						<span class="quiet">{when(file.changedAt)}</span>
					</li>
				{/each}
			</ul>
		{/if}
	</section>
{/if}
{#if watched.came.length > 0}
	<section aria-labelledby="came">
		<h2 id="came">What came from it</h2>
		<ul>
			{#each watched.came as file (file.id)}
				<li>
					<a href="/people/rosters/{file.id}" dir="auto">{file.name}</a>
					<span>{fileStateWords(file.state)}</span>
					<span class="quiet">{when(file.cameAt)}</span>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<style>
	section {
		margin-top: 18px;
		max-width: 760px;
	}
	li {
		display: grid;
		grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
		gap: 4px 14px;
		padding: 8px 0;
		border-top: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	.number :global(input) {
		max-width: 200px;
	}
</style>

<script lang="ts">
	import { afterNavigate, replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import { onDestroy, onMount } from 'svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import InCalendar from '$lib/ui/write/ways/InCalendar.svelte';
	import Asking from '$lib/ui/write/ways/Asking.svelte';
	import Following from '$lib/ui/write/ways/Following.svelte';
	import Ways from '$lib/ui/write/ways/Ways.svelte';
	import OnBoards from '$lib/ui/write/ways/OnBoards.svelte';
	import WayTurns from '$lib/ui/write/ways/WayTurns.svelte';
	import Files from '$lib/ui/write/wording/Files.svelte';
	import { feedFields, markerField } from '$lib/core/copy/fields';
	import { feedOf } from '$lib/core/time/timing';
	import { offerFields } from '$lib/ui/write/wording/offered-fields';
	import NoteField from '$lib/ui/write/wording/note/NoteField.svelte';
	import Kind from '$lib/ui/write/ways/Kind.svelte';
	import Landing from '$lib/ui/write/landing/Landing.svelte';
	import Send from '$lib/ui/write/landing/Send.svelte';
	import LetterSettings from '$lib/ui/write/wording/LetterSettings.svelte';
	import When from '$lib/ui/write/when/When.svelte';
	import TextMeter from '$lib/ui/write/wording/TextMeter.svelte';
	import Wording from '$lib/ui/write/wording/Wording.svelte';
	import SheetNotices from '$lib/ui/write/sheet/SheetNotices.svelte';
	import Who from '$lib/ui/write/who/Who.svelte';
	import { AtHand } from '$lib/ui/write/sheet/at-hand.svelte';
	import { GoodTime } from '$lib/ui/write/when/good-time.svelte';
	import { suggestedTime } from '$lib/ui/write/when/suggested-time';

	let { data } = $props();

	// svelte-ignore state_referenced_locally
	const hand = new AtHand(data.userId, data.draft, data.clock.own);
	const sheet = $derived(hand.sheet);
	// A sheet with a feed is there for its words: they come first.
	offerFields(() => [
		...(feedOf(hand.sheet.timing) === null ? [] : feedFields),
		...data.choices.markers.map(({ id, name }) => ({
			name: markerField(id, name),
			label: `marker: ${name}`
		}))
	]);
	const ready = $derived(hand.ready);
	let files: Files;

	onMount(() => {
		hand.open(data.use);
		if (data.about) void hand.beginAbout(data.about);
	});
	onDestroy(() => {
		if (hand.ready) hand.sheet.pageLeft();
	});
	// A kept audience is put in once, not again at each reload.
	afterNavigate(() => {
		if (
			['use', 'sheet', 'section', 'group', 'marker', 'event'].some((name) =>
				page.url.searchParams.has(name)
			)
		) {
			replaceState('/write', {});
		}
	});

	// Picks are counted at once, keys after a short rest; everything is kept in the browser at once.
	$effect(() => {
		void [sheet.sending, sheet.cover, sheet.wanted];
		if (ready) sheet.count(0);
	});
	$effect(() => {
		void [sheet.wording, sheet.letter, sheet.board, sheet.invitation, sheet.event];
		if (ready) sheet.count(250);
	});
	$effect(() => {
		const data = sheet.data;
		if (!ready) return;
		sheet.note(data);
		sheet.keep(data);
		sheet.saveSoon();
	});

	const zone = $derived(data.frame!.zone);
	/** Of the clock that its times are meant by; everything else is shown by the one of whoever writes. */
	const sheetZone = $derived(
		(data.clock.clocks.find((c) => c.schoolId === sheet.timing.clock) ?? data.clock.clocks[0]!).zone
	);
	const suggested = () => suggestedTime(data, sheet.ways, bench.now, sheetZone);

	const soonest = new GoodTime(() => (ready ? sheet : null));

	/** What a change of kind means for what is there, until something else is done. */
	let kindSaid = $state('');
	/** Undo belongs to the sheet; fields that are no part of it keep their own. */
	function sheetKeys(event: KeyboardEvent) {
		if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
		const inField = event.target instanceof HTMLElement && event.target.matches('input, textarea');
		const inWords = event.target instanceof HTMLElement && event.target.closest('.wording');
		if (event.defaultPrevented || (inField && !inWords)) return;
		const key = event.key.toLowerCase();
		if (key === 'z' && !event.shiftKey) sheet.undo();
		else if (key === 'y' || key === 'z') sheet.redo();
		else return;
		event.preventDefault();
	}
</script>

<!-- A file dropped beside a place for it goes with the sheet; the browser would open it in the sheet's place. -->
<svelte:window
	onkeydown={sheetKeys}
	ondragover={(e) => {
		if (e.dataTransfer?.types.includes('Files')) e.preventDefault();
	}}
	ondrop={(e) => {
		const dropped = [...(e.dataTransfer?.files ?? [])];
		if (e.defaultPrevented || dropped.length === 0) return;
		e.preventDefault();
		void files.take(dropped);
	}}
/>
<svelte:head><title>Write · Idle Courier</title></svelte:head>

<div class="write three">
	<h1 class="spoken">Write</h1>
	<nav class="skips" aria-label="On this sheet">
		<a href="#words">To the words</a>
		<a href="#landing">To how it lands</a>
		<a href="#when">To when it goes</a>
	</nav>
	<Who {sheet} choices={data.choices} {zone} />

	<section class="what" id="words" tabindex="-1" aria-label="What">
		<CourierNotice status={data.courier} {zone} />
		<SheetNotices
			{sheet}
			restored={hand.restored}
			{zone}
			unsaved={hand.unsaved}
			said={hand.said}
			onnew={() => void hand.startNew()}
			onother={() => hand.useOther()}
			onundo={() => hand.bringBack()}
		/>
		<div class="head">
			<Ways {sheet} />
			<Kind {sheet} holds={data.holds} onsaid={(words) => (kindSaid = words)} />
		</div>
		<WayTurns {sheet} />
		{#if kindSaid}<p class="small kind" role="status">{kindSaid}</p>{/if}
		<Wording {sheet} fileLimit={data.fileLimit} />
		{#if sheet.ways.includes('text')}
			<TextMeter
				{sheet}
				{zone}
				senderName={data.frame!.user.name}
				publicUrl={data.publicUrl}
				partCents={data.partCents}
			/>
		{/if}
		<Files {sheet} fileLimit={data.fileLimit} bind:this={files} />
		<NoteField {sheet} fileLimit={data.fileLimit} />
		<LetterSettings
			{sheet}
			name={data.frame!.user.name}
			line={[data.frame?.user.title, data.frame?.district].filter(Boolean).join(', ')}
			address={data.address}
		/>
		{#if sheet.kind === 'announcement'}<OnBoards {sheet} zone={sheetZone} />{/if}
		<InCalendar {sheet} zone={sheetZone} />
		<Asking {sheet} zone={sheetZone} earlier={data.choices.dispatches} />
		<Following {sheet} />
		<p class="small saved" class:heed={sheet.saveTrouble !== ''}>
			<span role="status">
				{#if sheet.saveTrouble}
					Not saved: {sheet.saveTrouble}. What you type is kept in this browser.
				{:else if sheet.savedAt !== null}
					Saved as a draft, {nearTime(sheet.savedAt, bench.now, zone)}.
				{/if}
			</span>
			{#if sheet.savedAt !== null && !sheet.other && sheet.sentAs === null}
				<button class="plain" onclick={() => void hand.deleteDraft()}>Delete this draft</button>
			{/if}
		</p>
	</section>

	<aside id="landing" tabindex="-1" aria-label="How it lands">
		<Landing {sheet} zone={sheetZone} />
	</aside>

	<footer>
		<section class="when" id="when" tabindex="-1" aria-label="When it goes">
			<When
				{sheet}
				zone={sheetZone}
				clocks={data.clock.clocks}
				events={data.events}
				markers={data.choices.markers}
				mayUrgent={data.mayUrgent}
				{suggested}
				hint={soonest.hint}
			/>
		</section>
		<Send {sheet} zone={sheetZone} {ready} />
	</footer>
</div>

<style>
	aside {
		padding: 16px 18px;
		overflow: auto;
		border-left: 1px solid var(--line);
	}
	.what {
		background: var(--sheet);
		padding: 12px 24px;
		overflow: auto;
		display: flex;
		flex-direction: column;
		gap: 8px;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		align-items: center;
		gap: 8px 20px;
	}
	.head :global(.bx--form-item) {
		flex: none;
	}
	.what > :global(*) {
		flex: none;
	}
	.what > :global(.wording) {
		flex: 1 0 auto;
		min-height: 360px;
	}
	.kind {
		color: var(--heed);
	}
	.saved {
		min-height: 18px;
		color: var(--quiet);
	}
	.saved.heed {
		color: var(--heed);
	}
	.when {
		flex: 1 1 560px;
		min-width: 0;
	}
	.skips {
		position: absolute;
	}
	.skips a {
		position: absolute;
		z-index: 7;
		inset-inline-start: 12px;
		top: 6px;
		padding: 6px 12px;
		background: var(--sheet);
		border: 1px solid var(--action);
	}
	.skips a:not(:focus) {
		clip-path: inset(50%);
		width: 1px;
		height: 1px;
		padding: 0;
		overflow: hidden;
		white-space: nowrap;
	}
	/* Where there is little room the sheet is one length; only the action stays in view, and nothing that has the focus lies under it. */
	@media (max-width: 1000px), (max-height: 600px) {
		aside,
		.what {
			overflow: visible;
		}
		.write > footer {
			display: contents;
		}
		.when {
			grid-column: 1 / -1;
			padding: 8px 20px;
			border-top: 1px solid var(--line);
			background: var(--wash);
		}
		:global(main:has(.write)) {
			scroll-padding-bottom: 72px;
		}
	}
	@media (max-width: 1000px) {
		aside {
			border: 0;
			border-bottom: 1px solid var(--line);
		}
	}
</style>

<script lang="ts">
	import { afterNavigate, goto, replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import { Button, Select, SelectItem } from 'carbon-components-svelte';
	import { onDestroy, onMount } from 'svelte';
	import { count } from '$lib/core/copy/count';
	import { leadMinutes } from '$lib/core/time/hold';
	import { localOf } from '$lib/core/time/local';
	import { nextAllowed } from '$lib/core/time/quiet';
	import { closureOn, isSchoolDay } from '$lib/core/time/school-days';
	import { clockTime, dayTime, nearTime } from '$lib/core/time/zone';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import type { Draft } from '$lib/server/desk/sheet/types';
	import { type KeptSheet, Shelf } from '$lib/ui/write/sheet/shelf';
	import type { Scheduled } from '$lib/server/desk/send/types';
	import { postJson } from '$lib/ui/parts/post-json';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import CheckCounts from '$lib/ui/write/landing/CheckCounts.svelte';
	import Following from '$lib/ui/write/ways/Following.svelte';
	import Ways from '$lib/ui/write/ways/Ways.svelte';
	import WayTurns from '$lib/ui/write/ways/WayTurns.svelte';
	import Files from '$lib/ui/write/wording/Files.svelte';
	import Landing from '$lib/ui/write/landing/Landing.svelte';
	import LetterSettings from '$lib/ui/write/wording/LetterSettings.svelte';
	import When from '$lib/ui/write/when/When.svelte';
	import TextMeter from '$lib/ui/write/wording/TextMeter.svelte';
	import Wording from '$lib/ui/write/wording/Wording.svelte';
	import SheetNotices from '$lib/ui/write/sheet/SheetNotices.svelte';
	import Who from '$lib/ui/write/who/Who.svelte';
	import { newSheet, openSheet, Sheet } from '$lib/ui/write/sheet/sheet.svelte';
	import { draftMark } from '$lib/ui/write/sheet/draft-mark';

	let { data } = $props();

	// svelte-ignore state_referenced_locally
	const shelf = new Shelf(data.userId);
	// svelte-ignore state_referenced_locally
	let sheet = $state.raw(new Sheet(data.draft ?? newSheet(), shelf));
	let ready = $state(false);
	let restored = $state(false);
	let sending = $state(false);
	let files: Files;
	let check: CheckCounts;
	let trouble = $state('');

	/** Sheets in this browser that the server does not have, beside this one. */
	let unsaved = $state.raw<readonly KeptSheet[]>([]);
	/** What was done to the sheet before this one, with what can be taken back. */
	let said = $state.raw<{ readonly text: string; readonly undo: KeptSheet | Draft | null } | null>(
		null
	);

	const others = () => shelf.unsaved().filter((s) => s.sheetKey !== sheet.sheetKey);
	/** The sheet that this page was asked for or that was worked on last, if it lies here with anything in it. */
	function left(): Sheet | null {
		const kept = shelf.get(page.url.searchParams.get('sheet') ?? shelf.current ?? '');
		const own = kept && new Sheet(kept, shelf);
		return own && !own.empty ? own : null;
	}
	onMount(() => {
		const own = data.draft ? openSheet(data.draft, shelf) : left();
		if (own) sheet = own;
		restored = own !== null && !data.draft;
		shelf.current = sheet.sheetKey;
		if (data.use) sheet.addAudience(data.use);
		ready = true;
		// What only the browser's database still has of a window that was killed comes a moment later.
		const opened = draftMark(sheet.data);
		const { current } = shelf;
		void shelf.recover().then(() => {
			// Started anew and still empty it stays, unless a killed window has left something newer.
			if (shelf.current === current && sheet.empty && !data.draft) {
				unsaved = others();
				return;
			}
			const untouched = draftMark(sheet.data) === opened;
			const newer = data.draft ? openSheet(data.draft, shelf) : left();
			if (untouched && newer && draftMark(newer.data) !== opened && !data.use) {
				sheet = newer;
				restored = !data.draft;
				shelf.current = sheet.sheetKey;
			}
			unsaved = others();
		});
	});
	onDestroy(() => {
		if (ready) sheet.pageLeft();
	});
	// A kept audience is put in once, not again at each reload.
	afterNavigate(() => {
		if (['use', 'sheet', 'section'].some((name) => page.url.searchParams.has(name))) {
			replaceState('/write', {});
		}
	});

	// Picks are counted at once, keys after a short rest; everything is kept in the browser at once.
	$effect(() => {
		void sheet.sending;
		if (ready) sheet.count(20);
	});
	$effect(() => {
		void [sheet.wording, sheet.letter, sheet.board];
		if (ready) sheet.count(250);
	});
	$effect(() => {
		const data = sheet.data;
		if (!ready) return;
		sheet.note(data);
		sheet.keep(data);
		sheet.saveSoon();
	});

	const blocks = $derived(sheet.landing?.checks.filter((c) => c.level === 'block').length ?? 0);
	const copies = $derived(sheet.landing?.tally.copies ?? 0);
	const inTurn = $derived(sheet.landing?.tally.inTurn ?? 0);
	const copiesWord = $derived(
		`${count(copies - inTurn)} ${copies - inTurn === 1 ? 'copy' : 'copies'}${inTurn > 0 ? ` and up to ${count(inTurn)} in turn` : ''}`
	);
	const zone = $derived(data.frame!.zone);
	const leaves = $derived(clockTime(bench.now + sheet.holdMinutes * 60_000, zone));

	/** Half an hour ahead on a round five minutes, or the next moment that is not quiet for the chosen ways. */
	function suggested() {
		const five = 5 * 60_000;
		const soon = Math.ceil((bench.now + leadMinutes * 60_000) / five) * five;
		const closed = (date: string) =>
			data.quietDays === 'closures'
				? closureOn(data.calendar, date) !== null
				: data.quietDays === 'all' && !isSchoolDay(data.calendar, date);
		const hours = [
			...(sheet.ways.includes('text') ? [data.quiet.text] : []),
			...(sheet.ways.some((w) => w !== 'text') ? [data.quiet.mail] : [])
		];
		return localOf(nextAllowed(soon, { zone, hours, closed }) ?? soon, zone);
	}
	const scheduleWords = $derived.by(() => {
		const times = sheet.landing?.times;
		if (!times) return 'Counting…';
		const first = dayTime(times.moment.at, zone, bench.now);
		switch (sheet.timing.when.kind) {
			case 'now':
				return sheet.holdMinutes === 0
					? `Send ${copiesWord} at once`
					: `Send ${copiesWord}, leaving ${leaves}`;
			case 'at':
				return `Schedule ${copiesWord} for ${first}`;
			case 'event':
				return times.coming === 1
					? `Schedule 1 reminder, ${copiesWord}, for ${first}`
					: `Schedule ${times.coming} reminders, the first with ${copiesWord} on ${first}`;
			case 'round':
				return times.coming === 1
					? `Schedule 1 date, ${copiesWord}, for ${first}`
					: `Schedule ${times.coming} dates, the first with ${copiesWord} on ${first}`;
		}
	});
	const action = $derived(
		sheet.unread !== ''
			? sheet.unread
			: blocks > 0
				? `${blocks} ${blocks === 1 ? 'thing' : 'things'} to mend first`
				: scheduleWords
	);

	/** When such people read soonest: asked once who and how are settled, and time is being chosen. */
	let hint = $state('');
	const asksHint = $derived(sheet.timing.when.kind !== 'now');
	const whoAndHow = $derived(JSON.stringify([sheet.audience, sheet.ways, sheet.kind]));
	$effect(() => {
		void whoAndHow;
		hint = '';
		if (!asksHint || !ready) return;
		const timer = setTimeout(async () => {
			const answer = await postJson<{ hint: string }>('/write/good-time', sheet.sending);
			if (answer.ok) hint = answer.body.hint;
		}, 600);
		return () => clearTimeout(timer);
	});

	/** What a change of kind means for what is there, until something else is done. */
	let kindSaid = $state('');
	function setKind(kind: typeof sheet.kind) {
		if (kind === sheet.kind) return;
		// The usual hold of the one becomes that of the other; one that was chosen stays.
		if (sheet.holdMinutes === data.holds[sheet.kind]) sheet.holdMinutes = data.holds[kind];
		sheet.kind = kind;
		const declined =
			'Who has stopped one kind may still get the other: the numbers are counted anew.';
		kindSaid =
			kind === 'announcement'
				? `Now it is one-way: its letters name no address for answers. ${declined}`
				: `Now it may be answered: answers are kept with each copy and passed on to you. ${declined}`;
	}
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

	/** Takes another sheet; the one before it lies on the shelf or with the server. */
	function take(next: Sheet) {
		restored = false;
		sheet = next;
		shelf.current = next.sheetKey;
		unsaved = others();
		if (page.url.search !== '') replaceState('/write', {});
	}
	async function startNew() {
		const before = sheet;
		if (before.sentAs !== null) {
			before.forget();
			said = null;
			take(new Sheet(newSheet(), shelf));
			return;
		}
		// The next key is meant for the new one: the old one is saved behind it.
		said = null;
		take(new Sheet(newSheet(), shelf));
		if (before.empty) {
			before.forget();
			return;
		}
		const saved = await before.leave();
		said = {
			text: saved
				? 'The sheet before is saved as a draft.'
				: 'The sheet before could not be saved; it is kept in this browser.',
			undo: null
		};
		unsaved = others();
	}

	async function deleteDraft() {
		const gone = sheet.data;
		sheet.forget();
		take(new Sheet(newSheet(), shelf));
		const answer = await postJson('/write/draft/throw-away', { sheetKey: gone.sheetKey });
		said = {
			text: answer.ok
				? `Deleted${gone.wording.words.subject ? `: ${gone.wording.words.subject}` : ''}.`
				: 'Deleted here; the server does not answer and may still have it among the drafts.',
			undo: gone
		};
	}
	/** Brings a deleted draft back: as it was, and saved again. */
	function bringBack() {
		if (!said?.undo) return;
		const back = new Sheet({ ...said.undo, savedAt: null }, shelf);
		said = null;
		take(back);
	}
	function useOther() {
		if (sheet.other) take(new Sheet(sheet.other, shelf));
	}

	async function send() {
		trouble = '';
		if (blocks > 0) {
			check.show();
			return;
		}
		sending = true;
		const answer = await postJson<Scheduled>('/write/send', {
			sheet: sheet.data,
			copiesSeen: copies
		});
		if (answer.ok && answer.body.ok) {
			sheet.forget();
			const { dispatchId, roundId } = answer.body;
			await goto(roundId === null ? `/reach/${dispatchId}` : `/week/round/${roundId}`);
			return;
		}
		if (answer.status === 409 && !answer.body.ok && sheet.landing) {
			const { tally, checks } = answer.body;
			sheet.landing = { ...sheet.landing, tally, checks };
			trouble = checks.find((c) => c.level === 'block')?.text ?? '';
		} else {
			trouble =
				answer.status === 0
					? 'No connection, so it was not sent. What you typed is kept; try again.'
					: answer.why;
		}
		sending = false;
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

<div class="write">
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
			{restored}
			{zone}
			{unsaved}
			{said}
			onnew={startNew}
			onother={useOther}
			onundo={bringBack}
		/>
		<div class="head">
			<Ways {sheet} />
			<Select
				inline
				size="sm"
				labelText="Kind"
				selected={sheet.kind}
				on:update={(e) => setKind(e.detail as typeof sheet.kind)}
			>
				<SelectItem value="message" text="message, may be answered" />
				<SelectItem value="announcement" text="announcement, one-way" />
			</Select>
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
		<LetterSettings
			{sheet}
			name={data.frame!.user.name}
			line={[data.frame?.user.title, data.frame?.district].filter(Boolean).join(', ')}
			address={data.address}
		/>
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
				<button class="plain" onclick={deleteDraft}>Delete this draft</button>
			{/if}
		</p>
	</section>

	<aside id="landing" tabindex="-1" aria-label="How it lands"><Landing {sheet} /></aside>

	<footer>
		<section class="when" id="when" tabindex="-1" aria-label="When it goes">
			<When {sheet} {zone} events={data.events} mayUrgent={data.mayUrgent} {suggested} {hint} />
		</section>
		<div class="act">
			<CheckCounts {sheet} bind:this={check} />
			<span class="trouble fail" role="alert">{trouble}</span>
			<Button
				kind={blocks > 0 ? 'tertiary' : 'primary'}
				disabled={sending || !ready || !sheet.landing || sheet.unread !== ''}
				on:click={send}
			>
				{sending ? 'Sending…' : action}
			</Button>
		</div>
	</footer>
</div>

<style>
	.write {
		display: grid;
		grid-template-columns: 304px minmax(0, 1fr) 304px;
		grid-template-rows: minmax(0, 1fr) auto;
		height: 100%;
	}
	aside {
		padding: 16px 18px;
		overflow: auto;
		min-height: 0;
	}
	aside {
		border-left: 1px solid var(--line);
	}
	.what {
		background: var(--sheet);
		padding: 12px 24px;
		overflow: auto;
		display: flex;
		flex-direction: column;
		gap: 8px;
		min-height: 0;
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
	footer {
		grid-column: 1 / 4;
		border-top: 1px solid var(--line);
		background: var(--wash);
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 16px;
		padding: 8px 20px;
	}
	.when {
		flex: 1 1 560px;
		min-width: 0;
	}
	.act {
		position: relative;
		margin-inline-start: auto;
		display: flex;
		flex-wrap: wrap;
		justify-content: flex-end;
		align-items: center;
		gap: 4px 14px;
	}
	.act > :global(.bx--btn) {
		max-width: 340px;
	}
	.trouble {
		max-width: 420px;
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
		.write {
			grid-template-rows: none;
			height: auto;
			min-height: 100%;
		}
		aside,
		.what {
			overflow: visible;
		}
		footer {
			display: contents;
		}
		.when {
			grid-column: 1 / -1;
			padding: 8px 20px;
			border-top: 1px solid var(--line);
			background: var(--wash);
		}
		.act {
			grid-column: 1 / -1;
			position: sticky;
			bottom: 0;
			z-index: 4;
			padding: 6px 12px;
			border-top: 1px solid var(--line);
			background: var(--wash);
		}
		:global(main:has(.write)) {
			scroll-padding-bottom: 72px;
		}
	}
	@media (max-width: 1000px) {
		.write {
			grid-template-columns: minmax(0, 1fr);
		}
		aside {
			border: 0;
			border-bottom: 1px solid var(--line);
		}
	}
</style>

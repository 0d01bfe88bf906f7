<script lang="ts">
	import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
	import type { Audience, MeantKind, People } from '$lib/core/audience/audience';
	import { nameList } from '$lib/core/copy/names';
	import type { Choices } from '$lib/server/desk/audience/types';
	import { getJson } from '../../parts/post-json';
	import KeepDialog from './KeepDialog.svelte';
	import { Line, newLine, newPeopleLine } from '../sheet/line.svelte';
	import Picker from './Picker.svelte';
	import SentenceDialog from './SentenceDialog.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';
	import WhoLine from './WhoLine.svelte';

	/** Who, as lines that read like a sentence, each with its own count; below them the list to pick from for the line at hand. */
	let { sheet, choices, zone }: { sheet: Sheet; choices: Choices; zone: string } = $props();

	let at = $state(0);
	let sentence = $state(false);
	let keeping = $state(false);
	let trouble = $state('');
	/** Names of people just found, until the server says them. */
	let found = $state<Record<number, string>>({});
	const nameOf = (id: number) => sheet.landing?.names[id] ?? found[id];

	const line = $derived(sheet.lines[Math.min(at, sheet.lines.length - 1)]!);
	const several = $derived(sheet.lines.length > 1);
	const outByHand = $derived(sheet.byHand.filter((h) => h.way === 'out').length);
	const inByHand = $derived(sheet.byHand.length - outByHand);

	const meant: { kind: Exclude<MeantKind['kind'], 'relation'>; label: string }[] = [
		{ kind: 'guardians', label: 'guardians with custody, marked for correspondence' },
		{ kind: 'students', label: 'the students themselves' },
		{ kind: 'section-staff', label: 'their teachers' },
		{ kind: 'all-guardians', label: 'all guardians, also without custody' },
		{ kind: 'emergency', label: 'emergency contacts' },
		{ kind: 'other-contacts', label: 'other contacts' }
	];
	/** Those that come in only by an explicit choice are folded away until one is chosen. */
	const usual = 3;
	const relation = $derived(line.to.find((t) => t.kind === 'relation')?.relation ?? '');
	/** Folded, the summary says what is chosen; opened, it stays open. */
	let meantOpen = $state(false);
	let moreOpen = $state(false);
	const chosen = $derived(
		relation !== '' || line.to.some((t) => meant.findIndex((m) => m.kind === t.kind) >= usual)
	);
	$effect(() => {
		if (chosen) moreOpen = true;
	});

	const ofEach = $derived(
		line.to
			.map((t) =>
				t.kind === 'relation'
					? `each ${t.relation}`
					: (meant.find((m) => m.kind === t.kind)?.label ?? t.kind)
			)
			.join('; ') || 'nobody'
	);

	function setMeant(which: MeantKind['kind'], on: boolean) {
		if (on === line.to.some((t) => t.kind === which)) return;
		line.to = on
			? [...line.to, { kind: which } as MeantKind]
			: line.to.filter((t) => t.kind !== which);
	}
	function setRelation(value: string) {
		const others = line.to.filter((t) => t.kind !== 'relation');
		line.to = value ? [...others, { kind: 'relation', relation: value }] : others;
	}
	function add(made: Line) {
		sheet.lines = [...sheet.lines, made];
		at = sheet.lines.length - 1;
	}
	function addPeople(people: People) {
		// A first line in which nothing is picked gives way.
		if (sheet.lines.length === 1 && sheet.lines[0]!.count === 0) sheet.lines = [];
		add(new Line(newPeopleLine(people)));
	}
	function takeOutLine(index: number) {
		sheet.lines = sheet.lines.filter((_, i) => i !== index);
		at = Math.max(0, Math.min(at, sheet.lines.length - 1));
	}
	let more = $state('');

	/** Puts a kept audience into the sheet: a rule's lines, or a line that is the list. */
	async function useKept(id: number) {
		const answer = await getJson<{ audience: Audience }>(`/write/kept/${id}`);
		trouble = answer.why;
		if (!answer.ok) return;
		sheet.addAudience(answer.body.audience);
		at = sheet.lines.length - 1;
	}
	function onMore(value: string) {
		more = '';
		if (value === 'staff')
			addPeople({
				kind: 'staff',
				roles: [],
				schoolIds: choices.anyone ? [] : choices.staffSchools.map((s) => s.id)
			});
		else if (value === 'joined') addPeople({ kind: 'joined', groupIds: [] });
		else if (value === 'named') addPeople({ kind: 'named', ids: [] });
		else if (value) void useKept(Number(value));
	}
</script>

<section class="who" aria-labelledby="who">
	<div class="head">
		<h2 id="who">Who</h2>
		<span class="doors">
			<button class="plain small" onclick={() => (sentence = true)}>as a sentence</button>
			<button
				class="plain small"
				disabled={(sheet.landing?.tally.people ?? 0) + (sheet.landing?.tally.leftOut ?? 0) === 0}
				onclick={() => (keeping = true)}>keep</button
			>
			<a class="small" href="/write/kept">kept</a>
		</span>
	</div>
	{#if trouble}<p class="fail small" role="alert">{trouble}</p>{/if}
	<div class="lines">
		{#each sheet.lines as l, i (l)}
			<WhoLine
				line={l}
				index={i}
				atHand={l === line}
				{several}
				{choices}
				count={sheet.landing?.byLine[i]}
				words={sheet.landing?.words[i]}
				{nameOf}
				ontake={() => (at = i)}
				onremove={() => takeOutLine(i)}
			/>
		{/each}
		{#if sheet.byHand.length > 0}
			<div class="hand">
				<p class="say">
					<span>by hand</span>
					<b>{outByHand > 0 ? `−${outByHand}` : ''}{inByHand > 0 ? ` +${inByHand}` : ''}</b>
				</p>
				<p class="small quiet">
					By {nameList([...new Set(sheet.byHand.map((h) => h.by))])}.
					<a href="/write/manifest">See them in the manifest</a>
					<button class="plain small" onclick={() => (sheet.byHand = [])}
						>let the lines decide again</button
					>
				</p>
			</div>
		{/if}
		<div class="add">
			<button class="plain small" onclick={() => add(new Line(newLine('and')))}>and…</button>
			<button class="plain small" onclick={() => add(new Line(newLine('but-not')))}>but not…</button
			>
			<Select
				hideLabel
				size="sm"
				labelText="Add staff, people or a kept audience"
				bind:selected={more}
				on:update={(e) => onMore(String(e.detail))}
			>
				<SelectItem value="" text="staff, people, kept…" />
				{#if choices.roles.length > 0}<SelectItem value="staff" text="staff by role" />{/if}
				{#if choices.anyone || choices.roles.length > 0}
					<SelectItem value="named" text="people by name" />
				{/if}
				{#if choices.openGroups.length > 0}
					<SelectItem value="joined" text="whoever joined a group" />
				{/if}
				{#each choices.kept as k (k.id)}
					<SelectItem
						value={k.id}
						text="{k.form === 'rule' ? 'kept rule' : 'fixed list'}: {k.name}"
					/>
				{/each}
			</Select>
		</div>
	</div>

	{#if !line.people}
		<details class="meant" bind:open={meantOpen}>
			<summary class="small"
				>Of each student{several ? `, line ${sheet.lines.indexOf(line) + 1}` : ''}: {ofEach}</summary
			>
			<fieldset>
				<legend class="spoken">Who of each student</legend>
				{#each meant.slice(0, usual) as m (m.kind)}
					<Checkbox
						labelText={m.label}
						checked={line.to.some((t) => t.kind === m.kind)}
						on:check={(e) => setMeant(m.kind, e.detail)}
					/>
				{/each}
				<details class="more" bind:open={moreOpen}>
					<summary class="small quiet">others, by explicit choice</summary>
					{#each meant.slice(usual) as m (m.kind)}
						<Checkbox
							labelText={m.label}
							checked={line.to.some((t) => t.kind === m.kind)}
							on:check={(e) => setMeant(m.kind, e.detail)}
						/>
					{/each}
					<Select
						size="sm"
						inline
						labelText="one relation"
						selected={relation}
						on:update={(e) => setRelation(String(e.detail))}
					>
						<SelectItem value="" text="none" />
						{#each choices.relations as r (r.value)}
							<SelectItem value={r.value} text={r.word} />
						{/each}
					</Select>
				</details>
			</fieldset>
		</details>
	{/if}

	<div class="pick">
		<Picker {line} {choices} {zone} onname={(id, name) => (found[id] = name)} />
	</div>
</section>
<SentenceDialog {sheet} bind:open={sentence} />
<KeepDialog {sheet} bind:open={keeping} />

<style>
	.who {
		padding: 16px 18px;
		border-right: 1px solid var(--line);
		display: flex;
		flex-direction: column;
		gap: 8px;
		overflow: auto;
		min-height: 0;
	}
	.pick {
		flex: 1 0 320px;
		display: grid;
		min-height: 0;
	}
	.head {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.doors {
		display: inline-flex;
		align-items: center;
		gap: 12px;
	}
	.say {
		display: flex;
		justify-content: space-between;
		gap: 10px;
	}
	.hand {
		padding: 4px 0 8px;
		border-bottom: 1px solid var(--line);
	}
	.add {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 14px;
		padding-top: 6px;
	}
	.add :global(.bx--form-item) {
		flex: 1;
	}
	.add :global(.bx--select-input) {
		font-size: 12.5px;
		height: 26px;
		padding: 0 28px 0 8px;
	}
	summary {
		cursor: pointer;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
	}
	.more {
		padding-top: 2px;
	}
	@media (max-width: 1000px) {
		.who {
			border: 0;
			border-bottom: 1px solid var(--line);
			overflow: visible;
		}
		.who :global(ul[aria-label='Choices']) {
			max-height: 240px;
		}
	}
</style>

<script lang="ts">
	import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import { comingStates, type Condition } from '$lib/core/audience/audience';
	import { comingStateWords } from '$lib/core/audience/sentence';
	import { mostMarkCharacters, type MarkTest } from '$lib/core/roster/marker';
	import type { Choices } from '$lib/server/desk/audience/types';
	import DayField from '../../parts/DayField.svelte';
	import Slip from '../../parts/Slip.svelte';
	import type { Line } from '../sheet/line.svelte';

	/** The conditions of a line, "only those who …", each to be taken out again. */
	let { line, choices }: { line: Line; choices: Choices } = $props();

	const subjectOf = $derived(new Map(choices.dispatches.map((d) => [d.id, d.subject])));
	const markerName = $derived(new Map(choices.markers.map((m) => [m.id, m.name])));
	const languageWord = $derived(new Map(choices.languages.map((l) => [l.value, l.word])));

	function markWords(is: MarkTest, name: string): string {
		switch (is.test) {
			case 'has':
				return `have the marker “${name}”`;
			case 'lacks':
				return `lack the marker “${name}”`;
			case 'is':
				return `have “${is.value}” in the marker “${name}”`;
			case 'before':
			case 'from':
				return `have a day ${is.test} ${is.day} in the marker “${name}”`;
		}
	}
	function words(c: Condition): string {
		switch (c.kind) {
			case 'language':
				return `read ${c.tags.map((t) => languageWord.get(t) ?? t).join(' or ')}`;
			case 'email':
				return c.works ? 'have a working email' : 'have no working email';
			case 'text':
				return c.optedIn ? 'opted in to text' : 'have not opted in to text';
			case 'household':
				return c.shared ? 'live with the student' : 'live elsewhere';
			case 'outcome':
				return `have ${c.read ? '' : 'not '}read “${subjectOf.get(c.dispatchId) ?? `#${c.dispatchId}`}”`;
			case 'coming':
				return `${comingStateWords[c.is]} “${subjectOf.get(c.dispatchId) ?? `#${c.dispatchId}`}”`;
			case 'marker':
				return markWords(c.is, markerName.get(c.markerId) ?? `#${c.markerId}`);
		}
	}
	const simple: { key: string; word: string; condition: Condition }[] = [
		{ key: 'email', word: 'have a working email', condition: { kind: 'email', works: true } },
		{ key: 'no-email', word: 'have no working email', condition: { kind: 'email', works: false } },
		{ key: 'text', word: 'opted in to text', condition: { kind: 'text', optedIn: true } },
		{
			key: 'no-text',
			word: 'have not opted in to text',
			condition: { kind: 'text', optedIn: false }
		},
		{ key: 'home', word: 'live with the student', condition: { kind: 'household', shared: true } },
		{ key: 'away', word: 'live elsewhere', condition: { kind: 'household', shared: false } }
	];
	let chosen = $state('');

	/** What of a marker is being asked for: a day or words still have to be said. */
	let asked = $state.raw<{
		readonly markerId: number;
		readonly test: 'is' | 'before' | 'from';
	} | null>(null);
	let answer = $state('');

	/** Of one marker there is one condition. */
	function ofMarker(markerId: number, is: MarkTest) {
		const others = line.only.filter((c) => c.kind !== 'marker' || c.markerId !== markerId);
		line.only = [...others, { kind: 'marker', markerId, is }];
	}
	function said() {
		const value = answer.trim();
		if (!asked || value === '') return;
		const { markerId, test } = asked;
		ofMarker(markerId, test === 'is' ? { test, value } : { test, day: value });
		asked = null;
	}

	/** Languages come together in one condition, "read Spanish or Portuguese"; of any other kind there is one. */
	function add(key: string) {
		chosen = '';
		const [kind, value] = key.split(/:(.*)/) as [string, string];
		if (kind === 'language') {
			const before = line.only.find((c) => c.kind === 'language');
			const tags = [...new Set([...(before?.tags ?? []), value])];
			line.only = [...line.only.filter((c) => c !== before), { kind, tags }];
			return;
		}
		if (kind === 'has' || kind === 'lacks') {
			ofMarker(Number(value), { test: kind });
			return;
		}
		if (kind === 'is' || kind === 'before' || kind === 'from') {
			asked = { markerId: Number(value), test: kind };
			answer = '';
			return;
		}
		const is = comingStates.find((state) => state === kind);
		if (is) {
			const dispatchId = Number(value);
			line.only = [
				...line.only.filter((c) => c.kind !== 'coming' || c.dispatchId !== dispatchId),
				{ kind: 'coming', dispatchId, is }
			];
			return;
		}
		const condition: Condition | undefined =
			kind === 'unread' || kind === 'read'
				? { kind: 'outcome', dispatchId: Number(value), read: kind === 'read' }
				: simple.find((s) => s.key === kind)?.condition;
		if (condition) line.only = [...line.only.filter((c) => c.kind !== condition.kind), condition];
	}
	const inLine = $derived(line.people !== null);
</script>

{#if line.only.length > 0}
	<ul class="only" aria-label="Conditions">
		{#each line.only as c (c)}
			<Slip
				condition
				label="Take out the condition: {words(c)}"
				onremove={() => (line.only = line.only.filter((o) => o !== c))}>only who {words(c)}</Slip
			>
		{/each}
	</ul>
{/if}
<div class="choose">
	<Select
		hideLabel
		size="sm"
		labelText="Only those who"
		bind:selected={chosen}
		on:update={(e) => add(String(e.detail))}
	>
		<SelectItem value="" text="only those who…" />
		{#each choices.languages as l (l.value)}
			<SelectItem value="language:{l.value}" text="read {l.word}" />
		{/each}
		{#each simple as s (s.key)}
			{#if !inLine || s.condition.kind !== 'household'}
				<SelectItem value={s.key} text={s.word} />
			{/if}
		{/each}
		{#if !inLine}
			{#each choices.markers as m (m.id)}
				<SelectItem value="lacks:{m.id}" text="lack the marker “{m.name}”" />
				<SelectItem value="has:{m.id}" text="have the marker “{m.name}”" />
				{#if m.kind === 'date'}
					<SelectItem value="before:{m.id}" text="have a day before … in “{m.name}”" />
					<SelectItem value="from:{m.id}" text="have a day from … on in “{m.name}”" />
				{:else if m.kind === 'text'}
					<SelectItem value="is:{m.id}" text="have certain words in “{m.name}”" />
				{/if}
			{/each}
		{/if}
		{#each choices.dispatches.filter((d) => d.asks).slice(0, 10) as d (d.id)}
			{#each comingStates as state (state)}
				<SelectItem value="{state}:{d.id}" text="{comingStateWords[state]} “{d.subject}”" />
			{/each}
		{/each}
		{#each choices.dispatches.slice(0, 30) as d (d.id)}
			<SelectItem value="unread:{d.id}" text="have not read “{d.subject}”" />
		{/each}
	</Select>
	{#if asked}
		<form
			class="asked"
			onsubmit={(e) => {
				e.preventDefault();
				said();
			}}
		>
			{#if asked.test === 'is'}
				<TextInput
					size="sm"
					labelText="Words in “{markerName.get(asked.markerId) ?? ''}”"
					bind:value={answer}
					maxlength={mostMarkCharacters}
				/>
			{:else}
				<DayField
					label="“{markerName.get(asked.markerId) ?? ''}” {asked.test}"
					bind:value={answer}
				/>
			{/if}
			<Button type="submit" size="small" kind="tertiary" disabled={answer.trim() === ''}>
				Only those
			</Button>
			<Button size="small" kind="ghost" on:click={() => (asked = null)}>Not this</Button>
		</form>
	{/if}
</div>

<style>
	.only {
		display: grid;
		gap: 4px;
		margin: 6px 0 0;
		justify-items: start;
	}
	.choose {
		margin-top: 6px;
	}
	.asked {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		align-items: end;
		margin-top: 6px;
	}
	.choose :global(.bx--select-input) {
		font-size: 12.5px;
		height: 26px;
		padding: 0 28px 0 8px;
	}
</style>

<script lang="ts">
	import { whoWords } from '$lib/core/audience/sentence';
	import type { LineCount } from '$lib/core/audience/resolved';
	import type { Choices } from '$lib/server/desk/audience/types';
	import Slip from '../../parts/Slip.svelte';
	import Conditions from './Conditions.svelte';
	import type { Line } from '../sheet/line.svelte';

	/** One line of the audience: who in what, each pick to be taken out, and how many people it comes to. */
	let {
		line,
		index,
		atHand,
		several,
		choices,
		count,
		words,
		nameOf,
		ontake,
		onremove
	}: {
		line: Line;
		index: number;
		/** Whether the lists below belong to this line. */
		atHand: boolean;
		several: boolean;
		choices: Choices;
		count: LineCount | undefined;
		/** The line as the server puts it into words; for what this panel has no slips for. */
		words: string | undefined;
		nameOf: (personId: number) => string | undefined;
		ontake: () => void;
		onremove: () => void;
	} = $props();

	const named = <T extends { id: number; name: string }>(rows: readonly T[]) =>
		new Map(rows.map((r) => [r.id, r.name]));
	const sectionName = $derived(
		new Map(
			choices.terms.flatMap((t) =>
				(choices.sections[t.id] ?? []).map((s) => [
					s.id,
					t.current ? s.name : `${s.name}, ${t.name}`
				])
			)
		)
	);
	const termName = $derived(named(choices.terms));
	const groupName = $derived(named(choices.groups));
	const openName = $derived(named(choices.openGroups));
	const schoolName = $derived(named(choices.schools));
	const keptName = $derived(named(choices.kept));

	interface Picked {
		key: string;
		name: string;
		takeOut: () => void;
	}
	const slips = $derived.by((): Picked[] => {
		const slip = (key: string, name: string | undefined, takeOut: () => void): Picked => ({
			key,
			name: name ?? 'no longer there',
			takeOut
		});
		const p = line.picks;
		const listed = (
			kind: 'sections' | 'groups' | 'schools' | 'terms' | 'students' | 'uncovered',
			name: (id: number) => string | undefined
		) =>
			p[kind].map((id) =>
				slip(`${kind}${id}`, name(id), () => (p[kind] = p[kind].filter((x) => x !== id)))
			);
		if (line.people?.kind === 'named') {
			const people = line.people;
			return people.ids.map((id) =>
				slip(`n${id}`, nameOf(id) ?? `person #${id}`, () => {
					line.people = { ...people, ids: people.ids.filter((x) => x !== id) };
				})
			);
		}
		if (line.people?.kind === 'joined') {
			const people = line.people;
			return people.groupIds.map((id) =>
				slip(`j${id}`, openName.get(id), () => {
					line.people = { ...people, groupIds: people.groupIds.filter((x) => x !== id) };
				})
			);
		}
		return [
			...listed('sections', (id) => sectionName.get(id)),
			...p.courses.flatMap((c) =>
				c.ids.map((id) =>
					slip(
						`c${c.termId}-${id}`,
						`${(choices.courses[c.termId] ?? []).find((x) => x.id === id)?.name ?? 'no longer there'}, ${termName.get(c.termId)}`,
						() =>
							line.setCourses(
								c.termId,
								c.ids.filter((x) => x !== id)
							)
					)
				)
			),
			...listed('groups', (id) => groupName.get(id)),
			...p.grades.map((level) =>
				slip(`y${level}`, `Grade ${level}`, () => (p.grades = p.grades.filter((g) => g !== level)))
			),
			...listed('schools', (id) => schoolName.get(id)),
			...listed('terms', (id) => termName.get(id)),
			...listed('students', (id) => nameOf(id) ?? `student #${id}`),
			...listed('uncovered', (id) => {
				const d = choices.dispatches.find((x) => x.id === id);
				return `not covered by “${d?.subject ?? `#${id}`}”`;
			})
		];
	});
	const joint = $derived(
		index === 0 && line.verb === 'and' ? '' : line.verb === 'and' ? 'and' : 'but not'
	);
	const who = $derived.by(() => {
		switch (line.people?.kind) {
			case 'staff':
				return line.people.roles.length === 0 ? 'all staff' : 'staff';
			case 'joined':
				return 'all who joined';
			case 'named':
				return 'these people';
			case 'list':
				return 'the fixed list';
			default:
				return `${whoWords(line.to)} in`;
		}
	});
	const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);
	const detail = $derived(
		line.people?.kind === 'staff'
			? [
					line.people.roles.join(', '),
					line.people.schoolIds
						.map((id) => choices.staffSchools.find((s) => s.id === id)?.name)
						.join(', ')
				]
					.filter(Boolean)
					.join(', at ')
			: line.people?.kind === 'list'
				? (keptName.get(line.people.keptId) ?? 'no longer there')
				: ''
	);
	/** As many slips as are drawn; the picker and the sentence have all. */
	const most = 60;
</script>

<div class="line" class:at={atHand && several}>
	<p class="say">
		<button class="words" aria-pressed={atHand} onclick={ontake}>
			{#if joint}<b>{joint}</b> {who}{:else}{capital(who)}{/if}
			{#if line.parts > 1 && !line.people && line.mode === 'all'}<b>all of</b>{/if}
		</button>
		<b>{line.verb === 'but-not' && count?.people ? '−' : ''}{count?.people ?? ''}</b>
	</p>
	{#if detail}<p class="detail" dir="auto">{detail}</p>{/if}
	{#if line.count === 0}
		<p class="quiet small">{line.people ? 'nobody yet' : 'nothing picked yet'}</p>
	{:else if slips.length > 0 || line.nested.length > 0}
		<ul class="slips" aria-label="Picked in line {index + 1}">
			{#each slips.slice(0, most) as slip (slip.key)}
				<Slip label="Take out {slip.name}" onremove={slip.takeOut}>{slip.name}</Slip>
			{/each}
			{#if slips.length > most}
				<li class="quiet small">and {slips.length - most} more</li>
			{/if}
			{#each line.nested as set, n (n)}
				<Slip
					label="Take out the set within the set"
					onremove={() => (line.nested = line.nested.filter((x) => x !== set))}
					>a set within the set</Slip
				>
			{/each}
		</ul>
		{#if line.nested.length > 0 && words}<p class="small quiet nest" dir="auto">{words}</p>{/if}
	{/if}
	{#if count && count.already > 0 && line.verb === 'and'}
		<p class="small quiet">
			{count.already === count.people ? 'all of them' : `${count.already} of them`} in by a line above
		</p>
	{/if}
	{#if atHand}
		{#if line.parts > 1 && !line.people}
			<fieldset class="mode small">
				<legend class="spoken">Students in</legend>
				<label
					><input type="radio" checked={line.mode === 'any'} onchange={() => (line.mode = 'any')} /> any
					of these</label
				>
				<label
					><input type="radio" checked={line.mode === 'all'} onchange={() => (line.mode = 'all')} /> all
					of these at once</label
				>
			</fieldset>
		{/if}
		<Conditions {line} {choices} />
		{#if several}
			<button class="plain small" onclick={onremove}>Take out this line</button>
		{/if}
	{:else if line.only.length > 0 && line.nested.length === 0}
		<p class="small quiet">
			{line.only.length === 1 ? 'one condition' : `${line.only.length} conditions`}
		</p>
	{/if}
</div>

<style>
	.line {
		padding: 4px 0 8px;
		border-bottom: 1px solid var(--line);
	}
	.line.at {
		background: var(--sheet);
		margin: 0 -8px;
		padding: 4px 8px 8px;
	}
	.say {
		display: flex;
		justify-content: space-between;
		gap: 10px;
	}
	.words {
		font: inherit;
		text-align: start;
		color: inherit;
		background: none;
		border: 0;
		padding: 0;
		cursor: pointer;
	}
	.slips {
		display: flex;
		flex-wrap: wrap;
		gap: 5px 4px;
		margin: 6px 0 0;
		max-height: 132px;
		overflow: auto;
	}
	.detail {
		font-weight: 600;
		margin-top: 4px;
		overflow-wrap: anywhere;
	}
	.nest {
		margin-top: 4px;
		overflow-wrap: anywhere;
	}
	.mode {
		border: 0;
		padding: 0;
		margin: 6px 0 0;
		display: flex;
		gap: 14px;
	}
	.mode label {
		display: inline-flex;
		gap: 5px;
		align-items: center;
		cursor: pointer;
	}
	.mode input {
		accent-color: var(--action);
		margin: 0;
	}
</style>

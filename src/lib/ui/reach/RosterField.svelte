<script lang="ts">
	import { Select, SelectItem } from 'carbon-components-svelte';
	import type { RingStudent, RosterFieldLine } from '$lib/server/desk/reach/types';
	import StateRing from '../parts/StateRing.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';

	/** The roster field: one ring for each student, by section, so that a class is seen at a glance. */
	let {
		field,
		dispatchId,
		onsection
	}: {
		field: readonly RosterFieldLine[];
		dispatchId: number;
		/** Shows the copies of one section. */
		onsection: (sectionId: number) => void;
	} = $props();
	const legend = [
		{ state: 'read', word: 'covered' },
		{ state: 'delivered', word: 'delivered' },
		{ state: 'sent', word: 'sent' },
		{ state: 'held', word: 'held' },
		{ state: 'failed', word: 'failed' },
		{ state: 'nobody', word: 'nobody to write to' }
	] as const;
	const word = (standing: string) =>
		standing === 'read' || standing === 'answered'
			? 'covered'
			: standing === 'nobody'
				? 'nobody to write to'
				: standing;

	let order = $state<'name' | 'least' | 'open'>('name');
	let only = $state<'all' | 'open'>('all');
	let school = $state('');
	let page = $state(1);
	const perPage = 30;
	const schools = $derived([...new Set(field.map((l) => l.school))].sort());
	const lines = $derived.by(() => {
		const kept = field.filter(
			(l) => (school === '' || l.school === school) && (only === 'all' || l.covered < l.students)
		);
		const share = (l: RosterFieldLine) => l.covered / l.students;
		if (order === 'least') kept.sort((a, b) => share(a) - share(b));
		else if (order === 'open')
			kept.sort((a, b) => b.students - b.covered - (a.students - a.covered));
		return kept;
	});
	const last = $derived(Math.max(1, Math.ceil(lines.length / perPage)));
	const shown = $derived(
		lines.slice((Math.min(page, last) - 1) * perPage, Math.min(page, last) * perPage)
	);
	/** The legend names what can be seen. */
	const named = $derived(
		field.every((l) => l.rings === null)
			? legend
			: legend.filter((l) =>
					field.some((line) => line.rings?.some((r) => word(r.standing) === l.word))
				)
	);

	/** Rings that were asked for by opening a line. */
	let opened = $state<Record<string, readonly RingStudent[] | 'loading' | 'failed'>>({});
	const keyOf = (l: RosterFieldLine) => String(l.sectionId);
	async function open(line: RosterFieldLine) {
		const key = keyOf(line);
		if (Array.isArray(opened[key])) return;
		opened[key] = 'loading';
		try {
			const response = await fetch(`/reach/${dispatchId}/section/${line.sectionId}`);
			opened[key] = response.ok ? ((await response.json()) as RingStudent[]) : 'failed';
		} catch {
			opened[key] = 'failed';
		}
	}
	const sortRings = (rings: readonly RingStudent[]) =>
		only === 'open' ? rings.filter((r) => word(r.standing) !== 'covered') : rings;
</script>

{#snippet ringList(line: RosterFieldLine, rings: readonly RingStudent[])}
	<ul class="rings" aria-label="Students of {line.section}">
		{#each sortRings(rings) as ring (ring.studentId)}
			<li title="{ring.name}: {word(ring.standing)}">
				<StateRing state={ring.standing} size={14} label="{ring.name}: {word(ring.standing)}" />
			</li>
		{/each}
	</ul>
{/snippet}

<section>
	<div class="head">
		<h2>By section</h2>
		<ul class="legend">
			{#each named as l (l.state)}
				<li><StateRing state={l.state} label="" size={13} />{l.word}</li>
			{/each}
		</ul>
	</div>
	{#if field.length > 1}
		<div class="sort">
			<Select
				inline
				size="sm"
				labelText="Order"
				selected={order}
				on:update={(e) => (order = e.detail as typeof order)}
			>
				<SelectItem value="name" text="by name" />
				<SelectItem value="least" text="least covered first" />
				<SelectItem value="open" text="most left to reach first" />
			</Select>
			<Select
				inline
				size="sm"
				labelText="Students"
				selected={only}
				on:update={(e) => (only = e.detail as typeof only)}
			>
				<SelectItem value="all" text="all" />
				<SelectItem value="open" text="not covered" />
			</Select>
			{#if schools.length > 1}
				<Select
					inline
					size="sm"
					labelText="School"
					selected={school}
					on:update={(e) => ((school = String(e.detail)), (page = 1))}
				>
					<SelectItem value="" text="all schools" />
					{#each schools as name (name)}<SelectItem value={name} text={name} />{/each}
				</Select>
			{/if}
		</div>
	{/if}
	{#each shown as line (keyOf(line))}
		<div class="line">
			<button class="plain name" onclick={() => onsection(line.sectionId)} dir="auto"
				>{line.section}{#if schools.length > 1}<span class="quiet small under">{line.school}</span
					>{/if}</button
			>
			{#if line.rings}
				{@render ringList(line, line.rings)}
			{:else}
				{@const got = opened[keyOf(line)]}
				{#if Array.isArray(got)}
					{@render ringList(line, got)}
				{:else}
					<span class="small">
						<span class="bar" aria-hidden="true"
							><span style="width: {(100 * line.covered) / line.students}%"></span></span
						>
						{#if got === 'failed'}<span class="fail">Could not be loaded.</span>{/if}
						<button class="plain" onclick={() => open(line)} disabled={got === 'loading'}
							>{got === 'loading' ? 'loading' : 'each student'}<span class="spoken">
								of {line.section}</span
							></button
						>
					</span>
				{/if}
			{/if}
			<span class="sum"><b>{line.covered}</b> <span class="quiet">of {line.students}</span></span>
		</div>
	{:else}
		<p class="quiet">Every student of every section is covered.</p>
	{/each}
	<Pages
		all={lines.length}
		{perPage}
		page={Math.min(page, last)}
		what="Sections"
		onturn={(to) => (page = to)}
	/>
</section>

<style>
	.head,
	.sort {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 4px 16px;
		padding-bottom: 8px;
	}
	.sort {
		justify-content: flex-start;
		padding-bottom: 4px;
	}
	.sort :global(.bx--form-item) {
		flex: none;
	}
	.legend {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		font-size: 12.5px;
		color: var(--quiet);
	}
	.legend li {
		display: inline-flex;
		gap: 5px;
		align-items: center;
	}
	.line {
		display: grid;
		grid-template-columns: 150px 1fr 74px;
		align-items: center;
		gap: 10px;
		padding: 6px 0;
		border-top: 1px solid var(--line);
	}
	.name {
		text-align: start;
		text-decoration: none;
		color: var(--ink);
	}
	.name:hover {
		text-decoration: underline;
	}
	.under {
		display: block;
	}
	.rings {
		display: flex;
		flex-wrap: wrap;
		gap: 3px;
		line-height: 0;
	}
	.bar {
		display: inline-block;
		width: 160px;
		height: 8px;
		margin-inline-end: 8px;
		background: var(--share);
	}
	.bar span {
		display: block;
		height: 8px;
		background: var(--action);
	}
	.sum {
		text-align: right;
		white-space: nowrap;
	}
</style>

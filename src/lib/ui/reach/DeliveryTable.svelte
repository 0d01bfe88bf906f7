<script lang="ts">
	import { evidenceText, hastyWords } from '$lib/core/track/evidence-words';
	import { enhance } from '$app/forms';
	import { Button, DataTable } from 'carbon-components-svelte';
	import { nearTime } from '../parts/clock';
	import { eventWords, stateWords } from '$lib/core/track/evidence-words';
	import type { DeliveryLine } from '$lib/server/desk/track/types';
	import StateRing from '../parts/StateRing.svelte';
	import Address from '../parts/Address.svelte';
	import WayMark from '../parts/WayMark.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';

	/** Every copy with its state and evidence; a line opens to all that happened to it. */
	let {
		lines,
		habits,
		found,
		page,
		zone,
		now,
		onpage
	}: {
		lines: readonly DeliveryLine[];
		/** How each person reads, in a few words. */
		habits: Readonly<Record<number, string>>;
		found: number;
		page: number;
		zone: string;
		now: number;
		onpage: (page: number) => void;
	} = $props();
	const headers = [
		{ key: 'person', value: 'Person' },
		{ key: 'students', value: 'For' },
		{ key: 'way', value: 'Way' },
		{ key: 'state', value: 'State' },
		{ key: 'evidence', value: 'Latest evidence' },
		{ key: 'personId', value: 'Usual reading' }
	] as const;
	const rows = $derived(lines.map((l) => ({ ...l })));
	/** How much the strongest evidence says, as a phrase; nothing where there is none. */
	const said = (line: Pick<DeliveryLine, 'strength'>): string =>
		line.strength === 'none'
			? ''
			: line.strength === 'weak'
				? 'weak evidence, not counted as read'
				: `${line.strength} evidence of reading`;
	const hasLeft = ({ evidence }: DeliveryLine) =>
		evidence.some((e) => e.kind === 'accepted' || e.kind === 'delivered');
	const perPage = 50;
</script>

{#if rows.length === 0}
	<p class="none">No copy fits this filter.</p>
{:else}
	<DataTable expandable size="short" {headers} {rows}>
		<svelte:fragment slot="cell" let:row let:cell>
			{#if cell.key === 'person'}
				<span dir="auto">{row.person}</span>
				<span class="quiet small under">
					{row.relation}{row.alsoFor ? `, also read by ${row.alsoFor}` : ''}
				</span>
			{:else if cell.key === 'students'}
				<span dir="auto">{row.students}</span>
			{:else if cell.key === 'way'}
				<span class="state"
					><WayMark way={row.way} />{#if row.address}<Address
							way={row.way}
							value={row.address}
						/>{/if}</span
				>
			{:else if cell.key === 'state'}
				<span class="state" class:fail={row.state === 'failed'}>
					<StateRing state={row.state} strength={row.strength} label="" />{stateWords[
						(row as DeliveryLine).state
					]}
				</span>
			{:else if cell.key === 'personId'}
				<span class="small">{habits[row.personId] ?? ''}</span>{#if !habits[row.personId]}<span
						class="quiet small">too few yet</span
					>{/if}
			{:else}
				{@const last = (row as DeliveryLine).evidence.at(-1)}
				{#if last}
					<span>{evidenceText(last)}</span>
					{#if row.state === 'planned' || row.state === 'held'}
						<span class="small under">leaves {nearTime(row.dueAt, now, zone)}</span>
					{/if}
					<span class="quiet small under"
						>{nearTime(last.at, now, zone)}{said(row as DeliveryLine)
							? `; ${said(row as DeliveryLine)}`
							: ''}</span
					>
				{/if}
			{/if}
		</svelte:fragment>
		<svelte:fragment slot="expandedRow" let:row>
			{@const line = row as DeliveryLine}
			<ol aria-label="All evidence">
				{#each line.evidence as e, i (i)}
					<li>
						<span class="mono">{nearTime(e.at, now, zone)}</span>
						<span>{eventWords[e.kind]}</span>
						<span
							>{evidenceText(e)}{#if e.hasty}<span class="heed"> ({hastyWords})</span>{/if}</span
						>
						<span class="quiet">{e.source}{e.strength === 'none' ? '' : `, ${e.strength}`}</span>
					</li>
				{/each}
			</ol>
			{#each line.answers as answer, i (i)}
				<blockquote dir="auto">
					<p class="small quiet">
						{answer.from ? `${answer.from}, ` : ''}{nearTime(answer.at, now, zone)},
						<a href="/replies?open={answer.conversationId}">in Replies</a>
					</p>
					<p class="answer">{answer.text}</p>
					{#if answer.doubt}
						<form method="post" action="?/byPerson" class="doubt" use:enhance>
							<input type="hidden" name="answer" value={answer.id} />
							<span class="heed">Perhaps a machine: {answer.doubt}. It does not count yet.</span>
							<Button type="submit" size="small" kind="ghost">A person wrote this</Button>
						</form>
					{/if}
				</blockquote>
			{/each}
			{#if hasLeft(line)}
				<p class="small">
					<a href="/reach/{line.dispatchId}/copy/{line.id}" download>This letter as a file (EML)</a>
				</p>
			{/if}
			{#each line.returned as back, i (i)}
				<details>
					<summary class="small">What came back {nearTime(back.at, now, zone)}, as it came</summary>
					<p class="answer" dir="auto">{back.words}</p>
					{#if back.machine}<pre class="mono small">{back.machine}</pre>{/if}
				</details>
			{/each}
		</svelte:fragment>
	</DataTable>
	<Pages all={found} {perPage} {page} what="Copies" onturn={onpage} />
{/if}

<style>
	/* Mark, way and evidence of a row begin on one line; by their baselines the longer ones would run over the row's end. */
	:global(.bx--data-table--short td),
	:global(.bx--data-table--short td.bx--table-expand) {
		vertical-align: top;
	}
	:global(.bx--data-table--short td.bx--table-expand .bx--table-expand__button) {
		padding-top: 8px;
		align-items: start;
	}
	.under {
		display: block;
	}
	.state {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	.none {
		padding: 14px 0;
	}
	ol {
		display: grid;
		gap: 4px;
		padding: 4px 0;
	}
	ol li {
		display: grid;
		grid-template-columns: 190px 130px 1fr 180px;
		gap: 12px;
		font-size: 13px;
	}
	blockquote {
		margin: 8px 0 4px;
		padding: 6px 12px;
		border-inline-start: 3px solid var(--action);
		max-width: 720px;
	}
	.doubt {
		display: flex;
		gap: 12px;
		align-items: center;
		font-size: 13px;
	}
	details {
		margin: 6px 0;
		max-width: 720px;
	}
	pre {
		white-space: pre-wrap;
		overflow-wrap: anywhere;
		margin: 4px 0;
	}
	.answer {
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
</style>

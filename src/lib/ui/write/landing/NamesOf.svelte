<script lang="ts" module>
	import type { Door, NamedLines } from '$lib/server/desk/plan/types';

	const titles: Record<Door, string> = {
		people: 'People who get a copy',
		email: 'Copies by email',
		text: 'Copies by text',
		inbox: 'Copies by inbox',
		merged: 'Same address, one copy',
		byOtherLine: 'Meant by more than one line',
		informed: 'Copies for information',
		leftOut: 'Left out',
		leftOutForSome: 'A copy for some students, none for others',
		unreached: 'Nobody gets a copy for these students',
		alone: 'Nobody on file for these students',
		out: 'Students taken out'
	};
	const studentDoors: ReadonlySet<Door> = new Set(['unreached', 'alone', 'out']);
	const whyDoors: ReadonlySet<Door> = new Set([...studentDoors, 'leftOut', 'leftOutForSome']);
</script>

<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { phoneText } from '$lib/core/format/phone';
	import { postJson } from '../../parts/post-json';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The names behind a number of the tally. */
	let { sheet }: { sheet: Sheet } = $props();
	let open = $state(false);
	let door = $state<Door>('people');
	let names = $state.raw<NamedLines | null>(null);
	const lines = $derived(names?.lines ?? null);
	let trouble = $state('');

	export async function show(which: Door) {
		door = which;
		names = null;
		trouble = '';
		open = true;
		const answer = await postJson<NamedLines>('/write/names', { ...sheet.sending, door: which });
		if (answer.ok) names = answer.body;
		trouble = answer.why;
	}
</script>

<Modal passiveModal bind:open modalHeading={titles[door]} hasScrollingContent size="sm">
	{#if trouble}
		<p class="fail">{trouble}</p>
	{:else if lines === null}
		<p class="quiet">Loading names…</p>
	{:else if lines.length === 0}
		<p>Nobody.</p>
	{:else}
		<p class="quiet small">
			{names?.total}
			{names?.total === 1 ? 'line' : 'lines'}{names && names.total > lines.length
				? `; the first ${lines.length} are here, the manifest has all`
				: ''}
		</p>
		<table class="plain">
			<thead
				><tr
					><th>{studentDoors.has(door) ? 'Student' : 'Person'}</th><th
						>{studentDoors.has(door) ? 'Section' : 'Relation'}</th
					><th>{whyDoors.has(door) ? 'Why' : door === 'people' ? 'Ways' : 'Address'}</th></tr
				></thead
			>
			<tbody>
				{#each lines as line, i (i)}
					<tr>
						<td dir="auto">{line.name}</td>
						<td class="quiet" dir="auto">{line.relation}</td>
						<td class:mono={door === 'email' || door === 'text'}
							>{door === 'text' ? phoneText(line.note) : line.note}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</Modal>

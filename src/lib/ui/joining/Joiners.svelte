<script lang="ts">
	import { enhance } from '$app/forms';
	import { phoneText } from '$lib/core/format/phone';
	import { dayName } from '$lib/core/time/zone';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import type { JoinerLine } from '$lib/server/desk/joining/types';
	import Claim from './Claim.svelte';

	/** Who is in an open group by its code, has asked, was invited or has left: by which address, how and when. */
	let { lines, zone, correct }: { lines: readonly JoinerLine[]; zone: string; correct: boolean } =
		$props();
	const columns = [
		{ key: 'name', value: 'Who' },
		{ key: 'address', value: 'By' },
		{ key: 'how', value: 'How and when' },
		{ key: 'student', value: 'For the student' },
		{ key: 'deed', value: 'Do' }
	] as const;
	const ways = {
		text: 'by text',
		mail: 'by mail',
		link: 'on the page',
		invited: 'by invitation',
		cards: 'with cards'
	} as const;
	function howOf(line: JoinerLine): string {
		const day = (at: number | null) => (at === null ? '' : dayName(at, zone));
		switch (line.state) {
			case 'in':
				return [ways[line.how], line.how === 'cards' ? line.by : '', day(line.joinedAt)]
					.filter(Boolean)
					.join(', ');
			case 'asked':
				return `asked ${ways[line.how]}, ${day(line.askedAt)}`;
			case 'invited':
				return `invited ${[line.by ? `by ${line.by}` : '', day(line.askedAt)].filter(Boolean).join(', ')}`;
			case 'left':
				return `left, ${day(line.endedAt)}`;
			case 'removed':
				return `taken out ${[line.by ? `by ${line.by}` : '', day(line.endedAt)].filter(Boolean).join(', ')}`;
		}
	}
	const open = (line: JoinerLine) =>
		line.state === 'in' || line.state === 'asked' || line.state === 'invited';
</script>

{#snippet cell(line: JoinerLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}
		{#if line.personId !== null && line.state === 'in'}
			<a href="/people/{line.personId}" dir="auto">{line.name}</a>
		{:else}<span dir="auto" class:quiet={line.state !== 'in'}>{line.name || '…'}</span>{/if}
	{:else if key === 'address'}
		<span class="by"
			><WayMark way={line.way} size={14} />
			<span>{line.way === 'text' ? phoneText(line.address) : line.address}</span></span
		>
		{#if line.trouble}<p class="small heed">{line.trouble}</p>{/if}
	{:else if key === 'how'}<span class:quiet={line.state !== 'in'}>{howOf(line)}</span>
	{:else if key === 'student'}
		{#if line.student}<a href="/people/{line.student.id}" dir="auto">{line.student.name}</a>
		{:else if line.claim}<Claim {line} correct={correct && line.state === 'in'} />{/if}
	{:else if correct}
		<form
			method="post"
			action={line.state === 'removed' ? '?/letAskAgain' : '?/takeOut'}
			use:enhance
		>
			<input type="hidden" name="id" value={line.id} />
			{#if open(line)}
				<button class="plain" aria-label="Take out {line.name || line.address}">take out</button>
			{:else if line.state === 'removed'}
				<button class="plain" aria-label="Let {line.name || line.address} join again"
					>let join again</button
				>
			{/if}
		</form>
	{/if}
{/snippet}

<LineTable {columns} {lines} idOf={(line) => line.id} {cell} />

<style>
	form :global(button) {
		text-align: start;
	}
	.by {
		display: inline-flex;
		gap: 6px;
		align-items: baseline;
		overflow-wrap: break-word;
	}
</style>

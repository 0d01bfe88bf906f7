<script lang="ts">
	import { goto } from '$app/navigation';
	import { Button } from 'carbon-components-svelte';
	import type { Scheduled, StandingPut } from '$lib/server/desk/send/types';
	import { bench } from '../../parts/bench.svelte';
	import { postJson } from '../../parts/post-json';
	import type { Sheet } from '../sheet/sheet.svelte';
	import CheckCounts from './CheckCounts.svelte';
	import { scheduleWords } from './schedule-words';

	/** The action of the sheet: what it will do, in its own words, and what stands in its way. */
	let { sheet, zone, ready }: { sheet: Sheet; zone: string; ready: boolean } = $props();
	let sending = $state(false);
	let trouble = $state('');
	let check: CheckCounts;

	const blocks = $derived(sheet.landing?.checks.filter((c) => c.level === 'block').length ?? 0);
	const unread = $derived(sheet.unread);
	const words = $derived.by(() => {
		if (unread !== '') return unread;
		if (blocks > 0) return `${blocks} ${blocks === 1 ? 'thing' : 'things'} to mend first`;
		const { holdMinutes, timing } = sheet;
		return scheduleWords(sheet.landing, { when: timing.when, holdMinutes, now: bench.now, zone });
	});

	async function send() {
		trouble = '';
		if (blocks > 0) {
			check.show();
			return;
		}
		sending = true;
		const answer = await postJson<Scheduled | StandingPut>('/write/send', {
			sheet: sheet.data,
			copiesSeen: sheet.landing?.tally.copies ?? 0
		});
		if (answer.ok && answer.body.ok) {
			sheet.forget();
			const { body } = answer;
			await goto(
				'standingId' in body
					? `/week/standing/${body.standingId}`
					: body.roundId === null
						? `/reach/${body.dispatchId}`
						: `/week/round/${body.roundId}`
			);
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

<div class="act">
	<CheckCounts {sheet} bind:this={check} />
	<span class="trouble fail" role="alert">{trouble}</span>
	<Button
		kind={blocks > 0 ? 'tertiary' : 'primary'}
		disabled={sending || !ready || !sheet.landing || unread !== ''}
		on:click={send}
	>
		{sending ? 'Sending…' : words}
	</Button>
</div>

<style>
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
	/* Where there is little room the sheet is one length; only the action stays in view. */
	@media (max-width: 1000px), (max-height: 600px) {
		.act {
			grid-column: 1 / -1;
			position: sticky;
			bottom: 0;
			z-index: 4;
			padding: 6px 12px;
			border-top: 1px solid var(--line);
			background: var(--wash);
		}
	}
</style>

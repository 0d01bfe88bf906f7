<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { InvitationReach } from '$lib/server/desk/invitations/types';
	import { nearTime } from '../../parts/clock';
	import { peopleWords, slotSeen } from './coming-words';

	/** Who comes to an invitation, in figures that lead to the names, and how full each of its times is. */
	let {
		invitation,
		now,
		zone
	}: {
		invitation: InvitationReach;
		/** Instant of the page, ms. */
		now: number;
		zone: string;
	} = $props();
	const c = $derived(invitation.counts);
	const href = (query: string) => `/reach/${invitation.id}/coming${query}`;
	const share = (n: number, of: number) => (of === 0 ? 0 : Math.min(100, (100 * n) / of));
	const who = $derived(
		[
			...(c.adults > 0 ? [`${count(c.adults)} ${c.adults === 1 ? 'adult' : 'adults'}`] : []),
			...(c.students > 0
				? [`${count(c.students)} ${c.students === 1 ? 'student' : 'students'}`]
				: []),
			...(c.unsaidKind > 0 ? [`${count(c.unsaidKind)} not said which`] : [])
		].join(', ')
	);
	const parts = $derived([
		{
			key: 'comes',
			n: c.people,
			words: c.people === 1 ? 'person comes' : 'people come',
			more:
				c.people === 0 ? '' : `${count(c.comes)} ${c.comes === 1 ? 'answer' : 'answers'}: ${who}`
		},
		...(c.waits > 0
			? [
					{
						key: 'waits',
						n: c.waits,
						words: c.waits === 1 ? 'stands in line' : 'stand in line',
						more: `for ${count(c.waitingPeople)} ${c.waitingPeople === 1 ? 'place' : 'places'}`
					}
				]
			: []),
		{ key: 'not', n: c.not, words: c.not === 1 ? 'does not come' : 'do not come', more: '' },
		{
			key: 'unsaid',
			n: c.unsaid,
			words: c.unsaid === 1 ? 'has not answered' : 'have not answered',
			more: `of ${count(c.asked)} ${c.asked === 1 ? 'household or person' : 'households and people'} asked`
		}
	]);
	const places = $derived(
		invitation.left === null
			? ''
			: `${count(invitation.left)} of ${count(invitation.places!)} places left`
	);
</script>

<section class="coming" aria-label="Who comes">
	<div class="head">
		<h2>Who comes</h2>
		<span class="quiet small">
			{invitation.open ? 'Answers until' : 'Answers were taken until'}
			{nearTime(invitation.until, now, zone)}{places ? ` · ${places}` : ''}{c.guests > 0
				? ` · ${peopleWords(c.guests)} from outside answered`
				: ''}
		</span>
	</div>
	<ul class="figures" aria-live="polite">
		{#each parts as part (part.key)}
			<li>
				<a href={href(`?state=${part.key}`)}><b>{count(part.n)}</b> {part.words}</a>
				{#if part.more}<span class="quiet small">{part.more}</span>{/if}
			</li>
		{/each}
	</ul>
	{#if invitation.slots.length > 0}
		<table>
			<thead class="spoken"><tr><th>Time</th><th>Places taken</th><th>In line</th></tr></thead>
			<tbody>
				{#each invitation.slots as slot (slot.id)}
					<tr>
						<th scope="row" dir="auto"
							><a href={href(`?slot=${slot.id}`)}>{slotSeen(slot, zone, now)}</a></th
						>
						<td class="bar">
							{#if slot.places !== null}
								<span class="track" aria-hidden="true"
									><span style="width: {share(slot.people, slot.places)}%"></span></span
								>
							{/if}
						</td>
						<td class="n"
							><b>{count(slot.people)}</b>
							<span class="quiet">{slot.places === null ? 'come' : `of ${count(slot.places)}`}</span
							></td
						>
						<td class="n quiet"
							>{slot.waiting > 0
								? `${count(slot.waiting)} in line`
								: slot.left === 0
									? 'full'
									: ''}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</section>

<style>
	.coming {
		border-top: 1px solid var(--line);
		border-bottom: 1px solid var(--line);
		padding: 12px 0;
		display: grid;
		gap: 8px;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		align-items: baseline;
	}
	.figures {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 34px;
	}
	.figures li {
		display: grid;
	}
	.figures b {
		font-size: 22px;
		line-height: 1.2;
	}
	table {
		border-collapse: collapse;
		font-size: 13.5px;
		max-width: 640px;
	}
	tbody th {
		text-align: start;
		font-weight: 400;
	}
	td,
	th {
		padding: 3px 12px 3px 0;
		border-top: 1px solid var(--line);
	}
	.n {
		text-align: end;
		white-space: nowrap;
	}
	.bar {
		width: 130px;
	}
	.track {
		display: block;
		height: 8px;
		background: var(--stripe);
	}
	.track span {
		display: block;
		height: 8px;
		background: var(--action);
	}
</style>

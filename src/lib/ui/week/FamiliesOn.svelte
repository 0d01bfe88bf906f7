<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { clockTime } from '../parts/clock';
	import type { LoadedFamily } from '$lib/server/desk/load/types';
	import { postJson } from '../parts/post-json';

	/** The families with most messages on a day, and what they get. */
	let { zone }: { zone: string } = $props();
	let open = $state(false);
	let counted = $state.raw<{
		date: string;
		limit: number;
		over: number;
		families: readonly LoadedFamily[];
	} | null>(null);

	export async function show(date: string) {
		counted = null;
		open = true;
		const answer = await postJson<{ limit: number; over: number; families: LoadedFamily[] }>(
			'/week/families',
			{ date }
		);
		if (answer.ok) counted = { date, ...answer.body };
	}
</script>

<Modal
	passiveModal
	bind:open
	modalHeading={counted
		? `${DateTime.fromISO(counted.date, { zone }).setLocale('en-US').toFormat('cccc, LLLL d')}: ${counted.over} ${counted.over === 1 ? 'family' : 'families'} over ${counted.limit}`
		: 'Counting…'}
>
	{#if counted}
		<table class="lines">
			<thead><tr><th>Household</th><th>Messages</th></tr></thead>
			<tbody>
				{#each counted.families as family, i (i)}
					<tr>
						<td><b>{family.household}</b><br /><span class="quiet">{family.people}</span></td>
						<td>
							{#each family.messages as m, n (n)}
								<div>
									<span class="mono">{clockTime(m.at, zone)}</span>
									{#if m.dispatchId !== null}<a href="/reach/{m.dispatchId}" dir="auto"
											>{m.subject}</a
										>{:else}{m.subject}{/if}
									<span class="quiet">{m.sender}{m.digest ? ', in their daily digest' : ''}</span>
								</div>
							{/each}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if counted.families.length === 200}<p class="quiet">The 200 with most are shown.</p>{/if}
	{/if}
</Modal>

<style>
	th:last-child {
		width: 58%;
	}
</style>

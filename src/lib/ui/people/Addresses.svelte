<script lang="ts">
	import { consentWords } from '$lib/core/roster/consent';
	import { dayName } from '$lib/core/time/zone';
	import type { PersonView } from '$lib/server/desk/people/types';
	import Address from '$lib/ui/parts/Address.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import AddressForm from './AddressForm.svelte';
	import MendForm from './MendForm.svelte';

	/** A person's addresses and how they stand, to be mended and changed in place. */
	let {
		person,
		zone,
		refused
	}: {
		person: PersonView;
		zone: string;
		/** What was refused of these, and why. */
		refused: { readonly at: string; readonly id: number; readonly why: string } | null;
	} = $props();
	const why = (at: string, id: number) =>
		refused?.at === at && refused.id === id ? refused.why : '';
</script>

<section>
	<h2>Addresses</h2>
	<ul class="lines">
		{#each person.addresses as a (a.id)}
			{@const said = consentWords({ ...a, how: a.consentHow, said: a.consentSaid })}
			<li>
				<WayMark way={a.way} />
				<Address way={a.way} value={a.shown} />
				{#if said}
					<span class="quiet small" dir="auto"
						>{said}{a.consentAt === null ? '' : `, ${dayName(a.consentAt, zone)}`}</span
					>
				{/if}
				{#if a.failing}
					<p class="fail small">
						{a.failing}{#if a.since}, since {dayName(a.since, zone)}{/if}
					</p>
					{#if person.mayMend}
						<MendForm
							{...{ id: a.id, way: a.way, value: a.value }}
							typed=""
							why={why('mend', a.id)}
							action="?/mend"
						/>
					{/if}
				{:else if a.mended}
					<p class="quiet small">
						mended {dayName(a.mended.at, zone)} by {a.mended.by}{a.mended.before !== a.shown
							? `, before ${a.mended.before}`
							: ''}
					</p>
				{/if}
				{#if person.own && person.goneAt === null}
					<AddressForm personId={person.id} address={a} why={why('address', a.id)} />
				{/if}
			</li>
		{:else}
			<li class="quiet">None on file.</li>
		{/each}
	</ul>
	{#if person.own && person.goneAt === null}
		<AddressForm personId={person.id} why={why('address', 0)} />
	{/if}
	{#if person.mayGiveLink && person.hasInbox}
		<p class="small"><a href="/people/{person.id}/link">A link to the inbox, on paper</a></p>
	{/if}
</section>

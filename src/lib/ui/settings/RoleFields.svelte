<script lang="ts">
	import { Select, SelectItem } from 'carbon-components-svelte';
	import { getJson } from '$lib/ui/parts/post-json';
	import type { RoleChoices } from '$lib/server/desk/work/types';
	import DayField from '$lib/ui/parts/DayField.svelte';

	/** A role: what, where, and from when until when. */
	let {
		choices,
		typed = {}
	}: {
		choices: RoleChoices;
		typed?: Readonly<Record<string, string>>;
	} = $props();
	// svelte-ignore state_referenced_locally
	let role = $state(typed.role ?? 'teacher');
	// svelte-ignore state_referenced_locally
	let place = $state(
		typed.place || (choices.schools[0] ? `school ${choices.schools[0].id}` : 'district')
	);
	let search = $state('');
	let found = $state.raw<{ id: number; name: string; note: string }[]>([]);
	let section = $state.raw<{ id: number; name: string } | null>(null);
	const chosen = $derived(choices.roles.find((r) => r.role === role)!);
	let asked = 0;
	$effect(() => {
		const q = search.trim();
		const mine = (asked += 1);
		if (q.length < 2) {
			found = [];
			return;
		}
		const timer = setTimeout(async () => {
			const answer = await getJson<typeof found>(
				`/settings/work/sections?q=${encodeURIComponent(q)}`
			);
			if (mine === asked && answer.ok) found = answer.body;
		}, 150);
		return () => clearTimeout(timer);
	});
</script>

<Select size="sm" labelText="As" name="role" bind:selected={role}>
	{#each choices.roles as r (r.role)}<SelectItem value={r.role} text={r.name} />{/each}
</Select>
<p class="small quiet about">{chosen.about}</p>
{#if !chosen.school}
	<input type="hidden" name="place" value="district" />
{:else if section && chosen.section}
	<p class="small">
		Stands in for <b>{section.name}</b>.
		<button type="button" class="door" onclick={() => (section = null)}>Take it out</button>
	</p>
	<input type="hidden" name="place" value="section {section.id}" />
{:else}
	<Select size="sm" labelText="Where" name="place" bind:selected={place}>
		{#if chosen.district}<SelectItem value="district" text="the whole district" />{/if}
		{#each choices.schools as s (s.id)}<SelectItem value="school {s.id}" text={s.name} />{/each}
	</Select>
	{#if chosen.section}
		<div class="section">
			<label for="stand-in" class="small">Stands in for one section</label>
			<input id="stand-in" type="search" placeholder="Name of a section" bind:value={search} />
			{#if found.length > 0}
				<ul>
					{#each found as s (s.id)}
						<li>
							<button
								type="button"
								class="door"
								onclick={() => {
									section = s;
									search = '';
								}}>{s.name}</button
							>
							<span class="small quiet">{s.note}</span>
						</li>
					{/each}
				</ul>
			{/if}
		</div>
	{/if}
{/if}
<div class="days">
	<DayField label="From (or now)" name="from" value={typed.from ?? ''} />
	<DayField label="Last day (or open)" name="until" value={typed.until ?? ''} />
</div>

<style>
	.about {
		margin-top: -6px;
	}
	.section {
		display: grid;
		gap: 4px;
	}
	.section input {
		font: inherit;
		padding: 5px 10px;
		border: 1px solid var(--line-strong);
		border-radius: var(--corner);
		background: var(--sheet);
		color: var(--ink);
	}
	.days {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 10px;
	}
</style>

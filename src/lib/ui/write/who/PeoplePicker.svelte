<script lang="ts">
	import { Checkbox } from 'carbon-components-svelte';
	import type { Choices } from '$lib/server/desk/audience/types';
	import Choose from '../../parts/Choose.svelte';
	import FindPerson from '../../parts/FindPerson.svelte';
	import type { Line } from '../sheet/line.svelte';
	import PickList from './PickList.svelte';

	/** What a line of people picked for themselves can pick from: staff, names, open groups, a fixed list. */
	let {
		line,
		choices,
		onname
	}: {
		line: Line;
		choices: Choices;
		/** Hands over the name of somebody who was found, so that it can be shown before the server says it. */
		onname: (id: number, name: string) => void;
	} = $props();

	const named = (rows: readonly { id: number; name: string }[]) =>
		rows.map((r) => ({ value: r.id, text: r.name }));
	function setRole(role: string, on: boolean) {
		const people = line.people;
		if (people?.kind !== 'staff' || people.roles.includes(role) === on) return;
		line.people = {
			...people,
			roles: on ? [...people.roles, role] : people.roles.filter((r) => r !== role)
		};
	}
	const lists = $derived(choices.kept.filter((k) => k.form === 'list'));
</script>

{#if line.people}
	<div class="people">
		{#if line.people.kind === 'staff'}
			<p class="small quiet">Which staff; none ticked means all.</p>
			<div class="roles">
				{#each choices.roles as role (role.value)}
					<Checkbox
						labelText="{role.word} ({role.people})"
						checked={line.people.roles.includes(role.value)}
						on:check={(e) => setRole(role.value, e.detail)}
					/>
				{/each}
			</div>
			{#if choices.staffSchools.length > 1}
				<Choose
					label="At"
					options={[
						{ value: 0, text: 'everywhere in the district' },
						...named(choices.staffSchools)
					]}
					value={line.people.schoolIds[0] ?? 0}
					onchoose={(id) => {
						if (line.people?.kind === 'staff')
							line.people = { ...line.people, schoolIds: id === 0 ? [] : [id] };
					}}
				/>
			{/if}
		{:else if line.people.kind === 'named'}
			<FindPerson
				label="Add a person"
				among={choices.anyone ? 'anyone' : 'staff'}
				onfound={(p) => {
					onname(p.personId, p.name);
					if (line.people?.kind === 'named' && !line.people.ids.includes(p.personId))
						line.people = { ...line.people, ids: [...line.people.ids, p.personId] };
				}}
			/>
		{:else if line.people.kind === 'joined'}
			<PickList
				choices={choices.openGroups}
				bind:picked={
					() => (line.people?.kind === 'joined' ? line.people.groupIds : []),
					(groupIds) => (line.people = { kind: 'joined', groupIds })
				}
				what="open groups"
				hint="Name or school"
			/>
		{:else}
			<Choose
				label="Fixed list"
				options={named(lists)}
				value={line.people.keptId}
				onchoose={(keptId) => (line.people = { kind: 'list', keptId })}
			/>
		{/if}
	</div>
{/if}

<style>
	.people {
		display: grid;
		align-content: start;
		gap: 6px;
		min-height: 0;
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	.roles {
		max-height: 260px;
		overflow: auto;
	}
</style>

<script lang="ts">
	import { Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import SeenCards from '$lib/ui/joining/SeenCards.svelte';
	import ListUpload from '$lib/ui/parts/ListUpload.svelte';
	import ListAndNew from '$lib/ui/places/ListAndNew.svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import type { GroupLine } from '$lib/server/desk/groups/types';

	/** The groups, and a new one. */
	let { data, form } = $props();
	const columns = [
		{ key: 'name', value: 'Group' },
		{ key: 'kind', value: 'Kind' },
		{ key: 'school', value: 'School' },
		{ key: 'members', value: 'Students' },
		{ key: 'joined', value: 'Joined by a code' },
		{ key: 'write', value: 'Write' }
	] as const;
</script>

{#snippet cell(line: GroupLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}<a href="/people/groups/{line.id}" dir="auto">{line.name}</a>
	{:else if key === 'write'}
		<a href="/write?group={line.id}" aria-label="Write to them: {line.name}">Write to them</a>
	{:else if key === 'school'}{line.school || 'the whole district'}
	{:else if key === 'joined'}
		{#if line.code !== null || line.joined > 0}
			<a href="/people/groups/{line.id}/joining"
				>{line.joined}{line.code === null ? '' : `, ${line.code}`}</a
			>
		{/if}
	{:else}<span dir="auto">{line[key]}</span>{/if}
{/snippet}

<ListAndNew
	title="Groups"
	count="{data.groups.length} {data.groups.length === 1 ? 'group' : 'groups'}"
	make="?/make"
	fresh={data.lists ? 'A new group' : null}
	why={form?.why ?? ''}
>
	{#snippet list()}
		{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
		{#if form && form.not.length > 0}
			<ul class="small">
				{#each form.not.slice(0, 100) as line (line)}<li class="heed" dir="auto">{line}</li>{/each}
			</ul>
		{/if}
		{#if form?.seen}<SeenCards seen={form.seen} />{/if}
		{#if data.groups.length === 0}<p class="quiet">No group here yet.</p>
		{:else}<LineTable {columns} lines={data.groups} idOf={(line) => line.id} {cell} />{/if}
	{/snippet}
	{#snippet beside()}
		<section class="cards">
			<h2>From cards</h2>
			<ListUpload
				words="vCard 3.0 or 4.0: what a card belongs to (CATEGORIES) becomes a group."
				action="?/lookAtCards"
				what="file of cards"
				accept={['.vcf', '.vcard']}
			/>
			{#if form?.whyCards}<p class="fail small" role="alert">{form.whyCards}</p>{/if}
		</section>
	{/snippet}
	{#snippet fields()}
		{#if data.lists}
			<TextInput size="sm" labelText="Name" name="name" maxlength={200} />
			<TextInput
				size="sm"
				labelText="Kind"
				name="kind"
				maxlength={60}
				placeholder="team, choir, ferry run"
			/>
			<Select size="sm" labelText="Of" name="schoolId" selected={String(data.ownSchool ?? '')}>
				{#if data.lists.wholeDistrict}<SelectItem value="" text="the whole district" />{/if}
				{#each data.lists.schools as s (s.id)}
					<SelectItem value={String(s.id)} text={s.name} />
				{/each}
			</Select>
		{/if}
	{/snippet}
</ListAndNew>

<style>
	.cards {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
		margin-top: 24px;
	}
</style>

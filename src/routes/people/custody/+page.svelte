<script lang="ts">
	import { enhance } from '$app/forms';
	import { goto } from '$app/navigation';
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import Pages from '$lib/ui/parts/Pages.svelte';

	/** Guardians of whom nobody has said whether they have custody: they are left out until somebody says it. */
	let { data, form } = $props();
	const all = $derived(data.unsaid.relations.reduce((n, r) => n + r.contacts, 0));
	const query = (change: Record<string, string>) =>
		`/people/custody?${new URLSearchParams({ relation: data.filter.relation, ...change })}`;
</script>

<svelte:head><title>Custody nobody has said · People · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/people">People</a> · Custody nobody has said</p>
	<h1>
		{#if all === 0}Custody is said of every guardian{:else}
			<span class="heed">{count(all)}</span>
			{all === 1 ? 'guardian is' : 'guardians are'} left out, since nobody has said whether they have
			custody
		{/if}
	</h1>
	{#if form && 'why' in form}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{:else if form && 'contacts' in form}
		<p class="good" role="status">
			{count(form.contacts ?? 0)}
			{form.contacts === 1 ? 'guardian has' : 'guardians have'}
			{form.custody === 'yes' ? 'custody' : 'no custody'}, written down with your name.
		</p>
	{/if}
	{#if all > 0}
		<table class="plain relations">
			<thead><tr><th>Relation</th><th>Guardians</th><th>Students</th><th></th></tr></thead>
			<tbody>
				{#each data.unsaid.relations as r (r.relation)}
					<tr>
						<td
							><a href="/people/custody?relation={encodeURIComponent(r.relation)}" dir="auto"
								>{r.relation}</a
							></td
						>
						<td>{count(r.contacts)}</td>
						<td>{count(r.students)}</td>
						<td>
							{#if data.mayMany}
								<form method="post" use:enhance>
									<input type="hidden" name="relation" value={r.relation} />
									<Button type="submit" size="small" kind="tertiary" name="custody" value="yes"
										>{r.contacts === 1 ? 'This one has' : `All ${count(r.contacts)} have`} custody</Button
									>
									<Button type="submit" size="small" kind="ghost" name="custody" value="no"
										>None has</Button
									>
								</form>
							{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		<h2>
			{data.filter.relation === '' ? 'One by one' : `One by one: ${data.filter.relation}`}
			{#if data.filter.relation !== ''}<a class="small" href="/people/custody">show all</a>{/if}
		</h2>
		<table class="plain">
			<thead><tr><th>Guardian</th><th>Student</th><th>Custody</th></tr></thead>
			<tbody>
				{#each data.unsaid.lines as line (`${line.studentId} ${line.personId}`)}
					<tr>
						<td>
							<a href="/people/{line.personId}" dir="auto">{line.person}</a>
							<span class="quiet small" dir="auto">{line.relation}</span>
						</td>
						<td><a href="/people/{line.studentId}" dir="auto">{line.student}</a></td>
						<td>
							<form method="post" use:enhance>
								<input type="hidden" name="studentId" value={line.studentId} />
								<input type="hidden" name="personId" value={line.personId} />
								<button class="plain" name="custody" value="yes">has custody</button>
								<button class="plain" name="custody" value="no">has none</button>
							</form>
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		<Pages
			all={data.unsaid.found}
			perPage={50}
			page={data.filter.page}
			what="Guardians"
			onturn={(page) => void goto(query({ page: String(page) }))}
		/>
	{/if}
</div>

<style>
	.relations {
		max-width: 760px;
	}
	form {
		display: flex;
		gap: 10px;
	}
	h2 {
		margin-top: 10px;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox, InlineNotification } from 'carbon-components-svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** What each role can do, in words, and changed here. */
	let { data, form } = $props();
	let open = $state<string | null>(null);
	const wordsOf = (right: string) => data.rights.find((r) => r.right === right)?.words ?? '';
</script>

<svelte:head><title>What each role can do · Idle Courier</title></svelte:head>

<h1>What each role can do</h1>
<p class="quiet about">
	A role holds where it is given: for the district, a school, or a section. What is changed here
	holds from the next thing that anybody asks for; what somebody had scheduled and may no longer
	send is held up, and they are told.
</p>
<ul class="roles">
	{#each data.roles as r (r.role)}
		<li>
			<h2>
				{r.name}
				<span class="quiet small"
					>{r.about} · {r.people.toLocaleString('en')}
					{r.people === 1 ? 'person' : 'people'}{r.factor
						? ' · a second factor is asked for'
						: ''}</span
				>
			</h2>
			{#if form?.role === r.role && form.why}
				<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
			{:else if form?.role === r.role && form.said}<p class="good" role="status">
					{form.said}
				</p>{/if}
			{#if open === r.role}
				<form method="post" use:enhance={keepTyped}>
					<input type="hidden" name="role" value={r.role} />
					<fieldset>
						<legend class="small quiet">Can</legend>
						{#each data.rights as right (right.right)}
							<Checkbox
								name="right"
								value={right.right}
								checked={r.rights.includes(right.right)}
								labelText="{right.words}{right.whole ? ' (for the district alone)' : ''}"
							/>
						{/each}
					</fieldset>
					<div class="row">
						<Button type="submit" size="small"
							>Save for {r.people.toLocaleString('en')}
							{r.people === 1 ? 'person' : 'people'}</Button
						>
						<Button size="small" kind="ghost" on:click={() => (open = null)}>Leave it</Button>
					</div>
				</form>
			{:else}
				<p>
					{r.rights.length === 0 ? 'Can do nothing.' : `Can ${r.rights.map(wordsOf).join('; ')}.`}
				</p>
				<Button size="small" kind="tertiary" on:click={() => (open = r.role)}>Change it</Button>
			{/if}
		</li>
	{/each}
</ul>

<style>
	.about {
		max-width: 76ch;
	}
	.roles {
		margin-top: 12px;
	}
	.roles > li {
		border-top: 1px solid var(--line);
		padding: 12px 0 16px;
		display: grid;
		gap: 8px;
		justify-items: start;
		max-width: 860px;
	}
	h2 .small {
		font-weight: 400;
	}
	fieldset {
		border: 0;
		padding: 0;
		display: grid;
		gap: 2px;
	}
	.row {
		display: flex;
		gap: 8px;
		margin-top: 10px;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import PersonFields from '$lib/ui/people/PersonFields.svelte';
	import TieFields from '$lib/ui/people/TieFields.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Adds one person by hand: a student, a contact of one, or a member of the staff. */
	let { data, form } = $props();
	const kinds = [
		{ as: 'student', text: 'A student' },
		{ as: 'staff', text: 'A member of the staff' }
	] as const;
	const fresh = $derived({
		...{ givenName: '', familyName: data.student?.familyName ?? '', identifier: '' },
		language: data.student?.language ?? data.lists.languages[0]?.tag ?? 'en',
		hasInbox: data.as !== 'student',
		schoolId:
			data.ownSchool ?? (data.lists.schools.length === 1 ? data.lists.schools[0]!.id : null),
		gradeLevel: ''
	});
	const usual = {
		...{ word: '', guardian: true, custody: null },
		...{ correspondence: true, emergency: false }
	};
	let livesThere = $state(true);
	let another = $state(false);
	const alike = $derived(form?.alike ?? []);
</script>

<svelte:head><title>Somebody new · People · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/people">People</a> · Somebody new</p>
	{#if data.student}
		<h1>A new contact of <span dir="auto">{data.student.name}</span></h1>
	{:else}
		<h1>Somebody new</h1>
		<p class="small">
			{#each kinds as kind, i (kind.as)}{i > 0 ? ' · ' : ''}{#if kind.as === data.as}<b
						>{kind.text}</b
					>{:else}<a href="?as={kind.as}">{kind.text}</a>{/if}{/each}
			<span class="quiet"
				>· Guardians and other contacts are added on the page of their student.</span
			>
		</p>
	{/if}
	{#key data.as}
		<form method="post" use:enhance={keepTyped}>
			<input type="hidden" name="as" value={data.as} />
			<div class="columns">
				<fieldset>
					<legend>Who it is</legend>
					<PersonFields own={fresh} student={data.as === 'student'} lists={data.lists} />
				</fieldset>
				{#if data.student}
					<fieldset>
						<legend>What they are to <span dir="auto">{data.student.givenName}</span></legend>
						<input type="hidden" name="studentId" value={data.student.id} />
						<TieFields tie={usual} />
						<input type="hidden" name="livesThere" value={livesThere ? 'yes' : 'no'} />
						<Checkbox labelText="lives with {data.student.givenName}" bind:checked={livesThere} />
					</fieldset>
				{:else if data.as === 'staff'}
					<fieldset>
						<legend>What they do here</legend>
						<TextInput
							size="sm"
							labelText="Role"
							name="role"
							maxlength={80}
							placeholder={data.lists.roles.slice(0, 3).join(', ')}
						/>
						<Select
							size="sm"
							labelText="Where"
							name="staffSchoolId"
							selected={String(data.ownSchool ?? '')}
						>
							{#if data.lists.wholeDistrict}<SelectItem value="" text="the whole district" />{/if}
							{#each data.lists.schools as s (s.id)}
								<SelectItem value={String(s.id)} text={s.name} />
							{/each}
						</Select>
						<p class="small quiet">
							They are found and written to as staff. This gives nobody a sign-in.
						</p>
					</fieldset>
				{/if}
				<fieldset>
					<legend>How they are reached</legend>
					<TextInput size="sm" labelText="Email address" name="email" maxlength={320} />
					<TextInput size="sm" labelText="Number" name="number" maxlength={40} />
					<TextInput
						size="sm"
						labelText="Who allowed texts to it, or on which paper; empty where nobody has"
						name="consentSaid"
						maxlength={200}
						placeholder="enrolment form"
					/>
				</fieldset>
			</div>
			{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
			{#if alike.length > 0}
				<ul class="alike" aria-label="People like this">
					{#each alike as one (one.personId)}
						<li>
							<a href="/people/{one.personId}" dir="auto">{one.name}</a>
							<span class="quiet small" dir="auto">{one.note}</span>
						</li>
					{/each}
				</ul>
				<input type="hidden" name="another" value={another ? 'yes' : 'no'} />
				<Checkbox labelText="It is none of them: somebody else" bind:checked={another} />
			{/if}
			<p><Button type="submit" size="small">Add this person</Button></p>
		</form>
	{/key}
</div>

<style>
	form {
		display: grid;
		gap: 16px;
		margin-top: 14px;
	}
	.columns {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(260px, 100%), 1fr));
		gap: 18px 36px;
		align-items: start;
		max-width: 1000px;
	}
	fieldset {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		min-width: 0;
		gap: 10px;
		border: 0;
		border-top: 1px solid var(--line-strong);
		padding: 10px 0 0;
	}
	legend {
		font-weight: 700;
		padding-inline-end: 10px;
	}
	.alike li {
		padding: 4px 0;
	}
</style>

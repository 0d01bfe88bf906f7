<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import type { MarkerKind } from '$lib/core/roster/marker';
	import { dayName } from '$lib/core/time/zone';
	import type { MarkedStudent, MarkerView } from '$lib/server/desk/markers/types';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** One section's list, each student with what a marker says of them, to be set. */
	let {
		section,
		kind,
		name,
		zone
	}: {
		section: NonNullable<MarkerView['section']>;
		kind: MarkerKind;
		name: string;
		zone: string;
	} = $props();
	const note = (s: MarkedStudent) =>
		[
			s.by === null || s.since === null
				? ''
				: `${s.byHand ? 'by hand' : 'with a list'}, ${s.by}, ${dayName(s.since, zone)}`,
			s.differs ? `the list says ${s.listSays}` : ''
		]
			.filter(Boolean)
			.join('; ');
	const all = (event: MouseEvent & { currentTarget: HTMLButtonElement }) => {
		const boxes = [
			...event.currentTarget.form!.querySelectorAll<HTMLInputElement>('[type=checkbox]')
		];
		const on = boxes.some((box) => !box.checked);
		for (const box of boxes) box.checked = on;
	};
</script>

<form method="post" action="?/set" use:enhance={keepTyped}>
	<h2 dir="auto">{section.name}</h2>
	{#if section.students.length === 0}
		<p class="quiet">No student of this section could have this marker.</p>
	{:else}
		<table>
			<thead>
				<tr>
					<th scope="col">Student</th>
					<th scope="col" dir="auto">{name}</th>
					<th scope="col">Set</th>
				</tr>
			</thead>
			<tbody>
				{#each section.students as s (s.studentId)}
					<tr>
						<td><a href="/people/{s.studentId}" dir="auto">{s.name}</a></td>
						<td>
							<input type="hidden" name="was-{s.studentId}" value={s.value ?? ''} />
							{#if kind === 'yes-no'}
								<input
									type="checkbox"
									name="now-{s.studentId}"
									value="yes"
									checked={s.value !== null}
									aria-label="{name}: {s.name}"
								/>
							{:else}
								<input
									type={kind === 'date' ? 'date' : 'text'}
									class="said"
									name="now-{s.studentId}"
									value={s.value ?? ''}
									maxlength={kind === 'text' ? 120 : undefined}
									dir="auto"
									aria-label="{name}: {s.name}"
								/>
							{/if}
						</td>
						<td class="quiet small" dir="auto">{note(s)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		<div class="deeds">
			<Button type="submit" size="small">Set it so</Button>
			{#if kind === 'yes-no'}
				<button type="button" class="plain" onclick={all}>tick all, or none</button>
			{/if}
		</div>
	{/if}
</form>

<style>
	form {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 10px;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	th,
	td {
		text-align: start;
		padding: 6px 12px 6px 0;
		border-bottom: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	.said {
		font: inherit;
		width: min(100%, 220px);
		padding: 3px 8px;
		border: 1px solid var(--line-strong);
		background: var(--sheet);
		color: inherit;
	}
	.deeds {
		display: flex;
		gap: 16px;
		align-items: center;
		position: sticky;
		bottom: 0;
		background: var(--paper);
		padding: 8px 0;
	}
</style>

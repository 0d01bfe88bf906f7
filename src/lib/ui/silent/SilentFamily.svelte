<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import { languagesWords } from '$lib/core/copy/language';
	import { silenceWords } from '$lib/core/track/silent-words';
	import type { SilentLine } from '$lib/server/desk/silent/types';
	import { nearTime } from '$lib/ui/parts/clock';

	/** A family that nothing has reached: who it is, why, what would probably work; and that somebody spoke to it. */
	let {
		line,
		now,
		zone,
		mayPutDown
	}: { line: SilentLine; now: number; zone: string; mayPutDown: boolean } = $props();
	const others = $derived(
		[...new Set(line.adults.map((a) => a.language))].filter((tag) => tag !== 'en')
	);
	let open = $state(false);
	const name = $derived(line.adults.map((a) => a.name).join(', ') || line.students[0]!.name);
</script>

<tr>
	<td>
		{#each line.adults as adult (adult.personId)}
			<span class="under"
				><a href="/people/{adult.personId}" dir="auto">{adult.name}</a>
				<span class="quiet small" dir="auto">{adult.relation}</span></span
			>
		{:else}<span class="heed">Nobody who may be written to</span>{/each}
		{#if others.length > 0}<span class="quiet small under"
				>reads {others.map(languagesWords).join(', ')}</span
			>{/if}
	</td>
	<td>
		{#each line.students as student (student.id)}
			<span class="under"
				><a href="/people/{student.id}" dir="auto">{student.name}</a>
				<span class="quiet small" dir="auto">{student.section}</span></span
			>
		{/each}
		<span class="quiet small under" dir="auto">{line.school}</span>
	</td>
	<td>
		<b class="under">{silenceWords[line.kind].name}</b>
		{#each line.why as why (why)}<span class="small under" dir="auto">{why}</span>{/each}
		<span class="quiet small under"
			>{line.meant === 1 ? '1 dispatch was' : `${line.meant} dispatches were`} meant for them; last read
			{line.lastReadAt === null ? 'never' : nearTime(line.lastReadAt, now, zone)}</span
		>
	</td>
	<td>
		<span class="under">{line.try}</span>
		{#if line.spoken}<span class="quiet small under"
				>spoken to {nearTime(line.spoken.at, now, zone)} by
				<span dir="auto">{line.spoken.by}</span>{#if line.spoken.words}:
					<span dir="auto">{line.spoken.words}</span>{/if}</span
			>{/if}
		{#if open}
			<form method="post" action="?/spoken" use:enhance>
				{#if line.householdId !== null}<input
						type="hidden"
						name="householdId"
						value={line.householdId}
					/>{:else}<input type="hidden" name="studentId" value={line.studentId} />{/if}
				<TextInput
					size="sm"
					name="words"
					labelText="What was said, if it matters"
					maxlength={500}
					autocomplete="off"
				/>
				<div class="deeds">
					<Button size="small" type="submit">Put down</Button>
					<button type="button" class="plain" onclick={() => (open = false)}>Not now</button>
				</div>
			</form>
		{:else if mayPutDown}
			<button class="plain" onclick={() => (open = true)} aria-label="Spoken to: {name}"
				>Spoken to</button
			>
		{/if}
	</td>
</tr>

<style>
	.under {
		display: block;
		overflow-wrap: anywhere;
	}
	td {
		vertical-align: top;
	}
	form {
		margin-top: 6px;
	}
	.deeds {
		display: flex;
		gap: 12px;
		align-items: center;
		margin-top: 6px;
	}
</style>

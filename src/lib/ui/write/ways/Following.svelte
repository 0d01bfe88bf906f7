<script lang="ts">
	import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
	import type { CoverRule } from '$lib/core/track/coverage';
	import { coverWords } from '$lib/core/track/coverage';
	import type { Sheet } from '../sheet/sheet.svelte';
	import Folded from './Folded.svelte';

	/** How it is followed once it has left: who must have read, and what is asked of mail programs. */
	let { sheet }: { sheet: Sheet } = $props();
	const rules: readonly CoverRule[] = ['adult', 'households', 'student-too'];
</script>

<Folded
	label="Covered when"
	says="{coverWords[sheet.cover]}{sheet.accountByMail ? ', account by mail' : ''}"
>
	{#snippet fields()}
		<Select
			size="sm"
			labelText="A student is covered when"
			selected={sheet.cover}
			on:update={(e) => (sheet.cover = e.detail as CoverRule)}
		>
			{#each rules as rule (rule)}<SelectItem value={rule} text={coverWords[rule]} />{/each}
		</Select>
		<div>
			<Checkbox
				labelText="Report of the whole by mail when it has ended"
				checked={sheet.accountByMail}
				on:check={(e) => (sheet.accountByMail = e.detail)}
			/>
			{#if sheet.ways.includes('email')}
				<Checkbox
					labelText="Ask mail programs for a read receipt"
					checked={sheet.letter.askReceipt}
					on:check={(e) => (sheet.letter = { ...sheet.letter, askReceipt: e.detail })}
				/>
			{/if}
		</div>
	{/snippet}
</Folded>

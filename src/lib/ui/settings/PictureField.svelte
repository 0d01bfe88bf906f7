<script lang="ts">
	import { FileUploaderButton } from 'carbon-components-svelte';
	import { tick } from 'svelte';
	import { logoLimitBytes, logoSize } from '$lib/core/copy/letterhead';
	import { upload } from '../parts/upload';
	import type { Field } from '$lib/server/desk/district/types';

	/** A picture of the settings: taken in at once, and kept with the rest of its form. Its value is its number and its size in px. */
	let { field, value }: { field: Field; value: string } = $props();
	let own = $state<string | null>(null);
	let why = $state('');
	let busy = $state(false);
	let hidden: HTMLInputElement;
	const now = $derived(own ?? value);
	const parts = $derived(now === '' ? null : now.split(' ').map(Number));
	const size = $derived(parts && logoSize({ width: parts[1]!, height: parts[2]! }));

	async function set(next: string) {
		own = next;
		await tick();
		// What shows the form as it changes hears of it as of any other field.
		hidden.dispatchEvent(new Event('input', { bubbles: true }));
	}
	async function take([chosen]: readonly File[]) {
		if (!chosen) return;
		busy = true;
		const came = await upload(chosen, 'picture', logoLimitBytes);
		busy = false;
		why = came.ok ? '' : came.why;
		if (came.ok) await set(`${came.file.id} ${came.file.width} ${came.file.height}`);
	}
</script>

<div class="bx--form-item" role="group" aria-labelledby="label-{field.name}">
	<span class="bx--label" id="label-{field.name}">{field.label}</span>
	<input bind:this={hidden} type="hidden" name={field.name} value={now} />
	{#if parts && size}
		<p class="shown">
			<img src="/write/file/{parts[0]}" width={size.width} height={size.height} alt={field.label} />
			<button type="button" class="plain" onclick={() => set('')}>Take it out</button>
		</p>
	{/if}
	<FileUploaderButton
		kind="tertiary"
		size="small"
		labelText={parts ? 'Choose another picture' : 'Choose a picture'}
		accept={['.png', '.jpg', '.jpeg', '.gif']}
		disableLabelChanges
		disabled={busy}
		on:change={(e) => take(e.detail)}
	/>
	<div class="bx--form__helper-text">{busy ? 'Taking it in…' : field.help}</div>
	{#if why}<p class="bad" role="alert">{why}</p>{/if}
</div>

<style>
	.shown {
		display: flex;
		align-items: center;
		gap: 16px;
		margin-bottom: 8px;
	}
	img {
		max-width: 100%;
		height: auto;
		background: #ffffff;
	}
</style>

<script lang="ts">
	import { Checkbox, FileUploaderButton, Select, SelectItem } from 'carbon-components-svelte';
	import { sizeWords } from '$lib/core/copy/size-words';
	import { encodedBytes } from '$lib/core/plan/check-wording';
	import type { KeptFile } from '$lib/server/desk/sheet/types';
	import type { Sheet } from '../sheet/sheet.svelte';
	import { upload } from '../../parts/upload';

	/** Files that go with it: in each email, or kept here with a private link for each recipient. */
	let { sheet, fileLimit }: { sheet: Sheet; fileLimit: number } = $props();

	/** Files just put in, until the server tells of them. */
	let fresh = $state.raw<readonly KeptFile[]>([]);
	let over = $state(false);
	let said = $state<readonly string[]>([]);
	let working = $state(0);
	let chosen = $state.raw<readonly File[]>([]);

	const known = $derived(
		new Map([...(sheet.landing?.files ?? []), ...fresh].map((f) => [f.id, f]))
	);
	const lines = $derived(
		sheet.letter.files.map((f) => ({ ...f, file: known.get(f.fileId) ?? null }))
	);
	const emails = $derived(sheet.landing?.tally.byWay.email ?? 0);
	const inEach = $derived(
		encodedBytes(
			lines.reduce((sum, l) => sum + (l.mode === 'attach' ? (l.file?.bytes ?? 0) : 0), 0)
		)
	);

	/** Puts files in, wherever on the sheet they were dropped. */
	export async function take(files: readonly File[]) {
		said = [];
		working += 1;
		for (const file of files) {
			const answer = await upload(file, 'file', fileLimit);
			if (!answer.ok) {
				said = [...said, answer.why];
				continue;
			}
			fresh = [...fresh, answer.file];
			// What would fill mailboxes goes by link to begin with.
			const mode = answer.file.bytes > 3_000_000 ? 'link' : 'attach';
			sheet.letter = {
				...sheet.letter,
				files: [...sheet.letter.files, { fileId: answer.file.id, mode, private: false }]
			};
		}
		working -= 1;
	}
	const change = (fileId: number, how: Partial<(typeof sheet.letter.files)[number]>) =>
		(sheet.letter = {
			...sheet.letter,
			files: sheet.letter.files.map((f) => (f.fileId === fileId ? { ...f, ...how } : f))
		});
	const takeOut = (fileId: number) =>
		(sheet.letter = {
			...sheet.letter,
			files: sheet.letter.files.filter((f) => f.fileId !== fileId)
		});
</script>

<div
	class="files"
	class:over
	role="group"
	aria-label="Files"
	ondragover={(e) => {
		if (!e.dataTransfer?.types.includes('Files')) return;
		e.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(e) => {
		e.preventDefault();
		over = false;
		void take([...(e.dataTransfer?.files ?? [])]);
	}}
>
	<div class="head">
		<b>Files</b>
		{#if lines.length === 0}<span class="quiet">none; drag them here, or</span>{/if}
		<FileUploaderButton
			kind="ghost"
			size="small"
			multiple
			disableLabelChanges
			disabled={working > 0}
			labelText={working > 0 ? 'Putting in…' : 'Choose files'}
			aria-label="Files to go with it"
			bind:files={chosen}
			on:change={(e) => {
				const files = [...e.detail];
				chosen = [];
				void take(files);
			}}
		/>
		{#if inEach > 0}
			<span class="quiet"
				>{sizeWords(inEach)} in each email, {sizeWords(inEach * emails)} in all for {emails}</span
			>
		{/if}
	</div>
	{#each said as why (why)}<p class="fail small" role="alert">{why}</p>{/each}
	{#each lines as line (line.fileId)}
		<div class="line">
			{#if line.file?.width}
				<img src="/write/file/{line.fileId}" alt="" />
			{:else}
				<span class="kind">{line.file?.name.split('.').pop() ?? '?'}</span>
			{/if}
			<span class="name" dir="auto">{line.file?.name ?? `file ${line.fileId}`}</span>
			<span class="quiet">{line.file ? sizeWords(line.file.bytes) : ''}</span>
			<Select
				inline
				hideLabel
				size="sm"
				labelText="How {line.file?.name ?? 'the file'} goes"
				selected={line.mode}
				on:update={(e) => change(line.fileId, { mode: e.detail as 'attach' | 'link' })}
			>
				<SelectItem value="attach" text="in each email" />
				<SelectItem value="link" text="by a private link" />
			</Select>
			{#if sheet.kind === 'announcement' && sheet.board.on}
				<Checkbox
					labelText="private: on no board that anybody can open"
					checked={line.private}
					on:check={(e) => change(line.fileId, { private: e.detail })}
				/>
			{/if}
			<button
				class="plain"
				onclick={() => takeOut(line.fileId)}
				aria-label="Take {line.file?.name} out">take out</button
			>
		</div>
	{/each}
</div>

<style>
	.files {
		border-top: 1px solid var(--line);
		padding-top: 6px;
	}
	.files.over {
		background: var(--tint-action);
	}
	.head,
	.line {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 2px 12px;
	}
	.line {
		padding: 4px 0;
	}
	.name {
		overflow-wrap: anywhere;
		font-weight: 600;
	}
	img {
		width: 36px;
		height: 36px;
		object-fit: cover;
		border: 1px solid var(--line);
	}
	.kind {
		width: 36px;
		height: 36px;
		display: inline-flex;
		align-items: center;
		justify-content: center;
		border: 1px solid var(--line);
		font-family: var(--mono);
		font-size: 12px;
	}
	.line :global(.bx--form-item) {
		flex: none;
	}
</style>

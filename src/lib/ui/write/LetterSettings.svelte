<script lang="ts">
	import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import type { Sheet } from './sheet.svelte';

	/** Who signs, where answers go, what names the section; for an announcement, when it stands on the board. */
	let {
		sheet,
		zone,
		name,
		line,
		address
	}: {
		sheet: Sheet;
		zone: string;
		name: string;
		line: string;
		/** The sender's own address, to which answers go if no other is given. */
		address: string | null;
	} = $props();

	const languages = [
		['en', 'English'],
		['es', 'Spanish'],
		['pt', 'Portuguese'],
		['vi', 'Vietnamese'],
		['ar', 'Arabic']
	] as const;
	/** An instant as the field of a form has it, in the district's zone. */
	const local = (at: number | null) =>
		at === null ? '' : DateTime.fromMillis(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
	const instant = (text: string) =>
		text === '' ? null : DateTime.fromISO(text, { zone }).toMillis();
	const change = (part: Partial<Sheet['letter']>) => (sheet.letter = { ...sheet.letter, ...part });
</script>

<details class="settings" open={sheet.kind === 'announcement'}>
	<summary>
		<b>{name}</b> <span class="quiet">{line}</span>
		<span class="quiet small">
			{sheet.letter.replyTo.trim() || address
				? `answers to ${sheet.letter.replyTo.trim() || address}`
				: 'no reply address'}
		</span>
	</summary>
	<div class="grid">
		<TextInput
			size="sm"
			labelText="Reply address"
			placeholder={address ?? 'none'}
			value={sheet.letter.replyTo}
			on:input={(e) => change({ replyTo: String(e.detail ?? '') })}
		/>
		<Select
			size="sm"
			labelText="The original is written in"
			selected={sheet.wording.language}
			on:update={(e) => {
				const language = String(e.detail);
				sheet.wording = {
					...sheet.wording,
					language,
					variants: sheet.wording.variants.filter((v) => v.language !== language)
				};
			}}
		>
			{#each languages as [tag, word] (tag)}<SelectItem value={tag} text={word} />{/each}
		</Select>
		<div>
			<Checkbox
				labelText="Section’s name at the head of emails"
				checked={sheet.letter.sectionBefore}
				on:check={(e) => change({ sectionBefore: e.detail })}
			/>
			<Checkbox
				labelText="Section, period and teacher below the words"
				checked={sheet.letter.sectionLine}
				on:check={(e) => change({ sectionLine: e.detail })}
			/>
		</div>
		{#if sheet.kind === 'announcement'}
			<div class="board">
				<label
					>On the board from
					<input
						type="datetime-local"
						value={local(sheet.board.from)}
						onchange={(e) =>
							(sheet.board = { ...sheet.board, from: instant(e.currentTarget.value) })}
					/></label
				>
				<label
					>until
					<input
						type="datetime-local"
						value={local(sheet.board.until)}
						onchange={(e) =>
							(sheet.board = { ...sheet.board, until: instant(e.currentTarget.value) })}
					/></label
				>
				<Checkbox
					labelText="pinned on top"
					checked={sheet.board.pinned}
					on:check={(e) => (sheet.board = { ...sheet.board, pinned: e.detail })}
				/>
				<p class="small quiet">
					From when it leaves where no beginning is given; until it is taken off where there is no
					end.
				</p>
			</div>
		{/if}
	</div>
</details>

<style>
	.settings {
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	summary {
		cursor: pointer;
	}
	summary .small {
		margin-inline-start: 10px;
		overflow-wrap: anywhere;
	}
	.grid {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
		gap: 10px 20px;
		margin-top: 8px;
		align-items: start;
	}
	.board {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 16px;
		align-items: end;
		grid-column: 1 / -1;
	}
	.board label {
		display: grid;
		gap: 3px;
		font-size: 12.5px;
		color: var(--quiet);
	}
	.board input {
		font: inherit;
		padding: 4px 6px;
		border: 1px solid var(--line-strong);
	}
</style>

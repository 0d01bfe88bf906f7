<script lang="ts">
	import {
		Checkbox,
		FormGroup,
		Select,
		SelectItem,
		TextArea,
		TextInput
	} from 'carbon-components-svelte';
	import PictureField from './PictureField.svelte';
	import type { Field } from '$lib/server/desk/district/types';

	/** The fields of a chapter of the settings, each as its kind is filled in. */
	let {
		fields,
		values
	}: {
		fields: readonly Field[];
		values: Readonly<Record<string, string | readonly string[]>>;
	} = $props();
	/** Times of day in a row stand beside each other. */
	const rows = $derived(
		fields.reduce<Field[][]>((all, field) => {
			const last = all.at(-1);
			if (field.kind === 'clock' && last?.[0]?.kind === 'clock') last.push(field);
			else all.push([field]);
			return all;
		}, [])
	);
	const one = (name: string): string => {
		const value = values[name];
		return typeof value === 'string' ? value : '';
	};
	const has = (name: string, value: string): boolean => {
		const all = values[name];
		return typeof all !== 'string' && (all?.includes(value) ?? false);
	};
	/** What stands there and is none of the choices is a choice too, so that looking at it changes nothing. */
	const choicesOf = ({ name, choices = [] }: Field) =>
		choices.some((c) => c.value === one(name))
			? choices
			: [{ value: one(name), text: one(name) || 'Choose one' }, ...choices];
</script>

{#snippet input(field: Field)}
	{#if field.kind === 'choice'}
		<Select
			name={field.name}
			labelText={field.label}
			helperText={field.help ?? ''}
			selected={one(field.name)}
		>
			{#each choicesOf(field) as { value, text } (value)}<SelectItem {value} {text} />{/each}
		</Select>
	{:else if field.kind === 'many'}
		<FormGroup legendText={field.label}>
			<div class="many">
				{#each field.choices ?? [] as { value, text } (value)}
					<Checkbox name={field.name} {value} labelText={text} checked={has(field.name, value)} />
				{/each}
			</div>
		</FormGroup>
	{:else if field.kind === 'picture'}
		<PictureField {field} value={one(field.name)} />
	{:else if field.kind === 'colour'}
		<div class="bx--form-item">
			<label class="bx--label" for="field-{field.name}">{field.label}</label>
			<input id="field-{field.name}" type="color" name={field.name} value={one(field.name)} />
			<div class="bx--form__helper-text">{field.help}</div>
		</div>
	{:else if field.kind === 'words' || field.kind === 'lines'}
		<TextArea
			name={field.name}
			labelText={field.label}
			helperText={field.help ?? ''}
			value={one(field.name)}
			rows={field.kind === 'lines' ? 4 : 3}
		/>
	{:else if field.kind === 'number'}
		<div class="number">
			<TextInput
				name={field.name}
				labelText={field.unit ? `${field.label} (${field.unit})` : field.label}
				helperText={field.help ?? ''}
				inputmode="decimal"
				autocomplete="off"
				value={one(field.name)}
			/>
		</div>
	{:else}
		<TextInput
			class={field.kind === 'clock' ? 'clock' : ''}
			name={field.name}
			labelText={field.label}
			helperText={field.help ?? ''}
			type={field.kind === 'clock' ? 'time' : 'text'}
			autocomplete="off"
			value={one(field.name)}
		/>
	{/if}
{/snippet}

{#each rows as row (row[0]!.name)}
	{#if row.length > 1}
		<div class="clocks">
			{#each row as field (field.name)}{@render input(field)}{/each}
		</div>
	{:else}{@render input(row[0]!)}{/if}
{/each}

<style>
	.clocks {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(100%, 240px), 1fr));
		gap: 14px;
		width: 100%;
	}
	.many {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 22px;
	}
	.many > :global(.bx--form-item) {
		flex: 0 0 auto;
		margin: 0;
	}
	.number {
		width: 100%;
	}
	.number :global(input),
	:global(input.clock) {
		max-width: 200px;
	}
</style>

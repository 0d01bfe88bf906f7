<script lang="ts">
	import {
		Checkbox,
		FormGroup,
		Select,
		SelectItem,
		TextArea,
		TextInput
	} from 'carbon-components-svelte';
	import type { Field } from '$lib/server/desk/district/types';

	/** The fields of a chapter of the settings, each as its kind is filled in. */
	let {
		fields,
		values
	}: {
		fields: readonly Field[];
		values: Readonly<Record<string, string | readonly string[]>>;
	} = $props();
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

{#each fields as field (field.name)}
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
	{:else if field.kind === 'words'}
		<TextArea
			name={field.name}
			labelText={field.label}
			helperText={field.help ?? ''}
			value={one(field.name)}
			rows={3}
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
{/each}

<style>
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

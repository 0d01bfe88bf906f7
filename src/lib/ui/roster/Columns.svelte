<script lang="ts">
	import { enhance } from '$app/forms';
	import { RadioButton, RadioButtonGroup, Select, SelectItem } from 'carbon-components-svelte';
	import { listFieldNames, listFields } from '$lib/core/roster/list/fields';
	import type { ColumnsView } from '$lib/server/desk/roster/types';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** What each column of a contact list is: as was found by heading and content, to be put right by hand. */
	let { view }: { view: ColumnsView } = $props();
	const passed = $derived(view.columns.filter((c) => c === null).length);
</script>

<h2>What are its columns?</h2>
<p>
	Found by their headings and by what stands in them; put right what is not so.
	{#if passed > 0}{passed}
		{passed === 1 ? 'column is' : 'columns are'} passed over.{/if}
	It is remembered for the next list with the same headings.
</p>
<form id="columns" method="post" action="?/columns" use:enhance={keepTyped}>
	<table class="plain">
		<thead><tr><th>Column</th><th>What stands in it</th><th>It is</th></tr></thead>
		<tbody>
			{#each view.heading as title, i (i)}
				<tr>
					<th scope="row" dir="auto">{title || `column ${i + 1}`}</th>
					<td class="quiet small" dir="auto">
						{#each view.examples as row, n (n)}<span class="example">{row[i] || '–'}</span>{/each}
					</td>
					<td class="is">
						<Select
							size="sm"
							hideLabel
							labelText="What “{title}” is"
							name="column {i}"
							selected={view.columns[i] ?? ''}
						>
							<SelectItem value="" text="passed over" />
							{#each listFieldNames as field (field)}
								<SelectItem value={field} text={listFields[field]} />
							{/each}
						</Select>
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<RadioButtonGroup
		legendText="Who is not in it"
		name="complete"
		selected={view.complete ? 'yes' : 'no'}
		orientation="vertical"
	>
		<RadioButton value="no" labelText="stays: the list adds and corrects" />
		<RadioButton value="yes" labelText="is no contact any more: the list is complete" />
	</RadioButtonGroup>
</form>

<style>
	form {
		display: grid;
		gap: 14px;
		justify-items: start;
	}
	table {
		width: 100%;
	}
	th[scope='row'] {
		text-align: start;
		overflow-wrap: anywhere;
	}
	.example {
		display: block;
		overflow-wrap: anywhere;
	}
	.is {
		width: 250px;
	}
</style>

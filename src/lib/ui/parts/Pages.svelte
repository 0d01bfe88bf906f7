<script lang="ts">
	import { Pagination } from 'carbon-components-svelte';

	/** The pages of a list, where there are more than one. */
	let {
		all,
		perPage,
		page,
		what,
		onturn
	}: {
		/** How many lines there are in all. */
		all: number;
		perPage: number;
		page: number;
		/** What the lines are: "Households". */
		what: string;
		onturn: (page: number) => void;
	} = $props();
</script>

{#if all > perPage}
	<Pagination
		totalItems={all}
		pageSize={perPage}
		pageSizeInputDisabled
		{page}
		itemRangeText={(min: number, max: number, total: number) =>
			`${what} ${min} to ${max} of ${total}`}
		on:change={(e) => {
			// It says so as well when it is drawn.
			if (e.detail.page && e.detail.page !== page) onturn(e.detail.page);
		}}
	/>
{/if}

<script lang="ts">
	/** Mailboxes or phones that are set to fail, each to be picked, with how it fails. */
	let {
		what,
		faults,
		words,
		onpick
	}: {
		/** "mailboxes", "phones". */
		what: string;
		faults: readonly { readonly address: string; readonly fault: string }[];
		words: Readonly<Record<string, string>>;
		onpick: (address: string) => void;
	} = $props();
</script>

{#if faults.length > 0}
	<details>
		<summary class="small">{faults.length} {what} fail</summary>
		<ul>
			{#each faults as f (f.address)}
				<li>
					<button class="door mono" onclick={() => onpick(f.address)}>{f.address}</button>
					{words[f.fault]}
				</li>
			{/each}
		</ul>
	</details>
{/if}

<style>
	ul {
		font-size: 12.5px;
		padding: 6px 0;
		columns: 2;
	}
</style>

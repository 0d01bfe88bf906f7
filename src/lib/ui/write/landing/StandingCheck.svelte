<script lang="ts">
	import type { Check } from '$lib/core/plan/check';

	/** What stands in the way, what to look at, and what is well. */
	let { checks }: { checks: readonly Check[] } = $props();
</script>

<h2>Before it goes</h2>
<ul class="checks">
	{#each checks as check (check.text)}
		<li class={check.level}>
			<span class="sign" aria-hidden="true"></span>
			<span>
				<span class="spoken"
					>{check.level === 'block'
						? 'Mend first: '
						: check.level === 'caution'
							? 'Look at: '
							: 'Fine: '}</span
				>
				{check.text}
				{#if check.names}
					<details class="who">
						<summary>their names</summary>
						<ul class="small">
							{#each check.names as name, i (i)}<li dir="auto">{name}</li>{/each}
						</ul>
					</details>
				{/if}
			</span>
		</li>
	{/each}
</ul>

<style>
	ul {
		display: grid;
		gap: 8px;
		margin-top: 8px;
	}
	li {
		display: grid;
		grid-template-columns: 12px 1fr;
		gap: 8px;
		font-size: 13px;
	}
	.who ul {
		display: block;
		max-height: 200px;
		overflow: auto;
		margin-top: 2px;
	}
	.who li {
		display: block;
		font-size: inherit;
	}
	.who summary {
		cursor: pointer;
	}
	.sign {
		width: 9px;
		height: 9px;
		margin-top: 5px;
	}
	.block .sign {
		background: var(--fail);
	}
	.caution .sign {
		border: 2px solid var(--heed);
		transform: rotate(45deg) scale(0.85);
	}
	.fine .sign {
		border-bottom: 2px solid var(--good);
		height: 5px;
	}
	.fine {
		color: var(--quiet);
	}
</style>

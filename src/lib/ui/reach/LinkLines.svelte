<script lang="ts">
	import type { LinkLine } from '$lib/server/desk/reach/types';

	/** The links of the words, each with who followed it. */
	let { links }: { links: readonly LinkLine[] } = $props();
</script>

<section>
	<h3>Links followed</h3>
	<ul>
		{#each links as link (link.href)}
			<li>
				<details>
					<summary
						><b>{link.people}</b>
						{link.people === 1 ? 'person' : 'people'}
						<span class="mono href">{link.href}</span>{#if link.machines > 0}<span
								class="quiet small"
							>
								and {link.machines} that only a machine may have followed</span
							>{/if}</summary
					>
					<p class="small" dir="auto">{link.names.join(', ') || 'Nobody yet.'}</p>
				</details>
			</li>
		{/each}
	</ul>
</section>

<style>
	li {
		padding: 4px 0;
		border-top: 1px solid var(--line);
	}
	summary {
		cursor: pointer;
	}
	.href {
		overflow-wrap: anywhere;
	}
</style>

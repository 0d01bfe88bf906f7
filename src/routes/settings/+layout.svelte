<script lang="ts">
	import { page } from '$app/state';

	/** Settings: the chapters at the left, the sheet of one beside them. */
	let { data, children } = $props();
	/** What a school has of its own stands below the list of schools, the words of a language below the languages. */
	const at = $derived(
		page.url.pathname
			.replace(/^\/settings\/chapter\/school-/, '/settings/schools/')
			.replace(/^\/settings\/languages\//, '/settings/chapter/languages/')
	);
	const here = (path: string) => at === path || at.startsWith(`${path}/`);
</script>

<div class="settings">
	<nav aria-label="Chapters of the settings">
		<p class="quiet small">Settings</p>
		<ul>
			{#each data.chapters as chapter (chapter.path)}
				<li>
					<a href={chapter.path} aria-current={here(chapter.path) ? 'page' : undefined}
						>{chapter.name}</a
					>
				</li>
			{/each}
		</ul>
	</nav>
	<div class="sheet">{@render children()}</div>
</div>

<style>
	.settings {
		display: grid;
		grid-template-columns: 216px minmax(0, 1fr);
		min-height: 100%;
	}
	nav {
		border-right: 1px solid var(--line);
		padding: 20px 0 20px 20px;
	}
	ul {
		margin-top: 6px;
	}
	a {
		display: block;
		padding: 7px 12px;
		margin-right: -1px;
		border: 1px solid transparent;
		border-right: 0;
		border-radius: 3px 0 0 3px;
		color: var(--ink);
		text-decoration: none;
	}
	a:hover {
		text-decoration: underline;
	}
	a[aria-current] {
		background: var(--sheet);
		border-color: var(--line);
		font-weight: 600;
	}
	.sheet {
		background: var(--sheet);
		padding: 22px 28px 40px;
	}
	@media (max-width: 900px) {
		.settings {
			grid-template-columns: minmax(0, 1fr);
		}
		nav {
			border: 0;
			padding: 12px 12px 0;
		}
		ul {
			display: flex;
			flex-wrap: wrap;
		}
		a,
		a[aria-current] {
			border-right: 1px solid transparent;
			border-radius: 3px 3px 0 0;
		}
		a[aria-current] {
			border: 1px solid var(--line);
			border-bottom: 0;
		}
		.sheet {
			padding: 16px 12px 32px;
		}
	}
</style>

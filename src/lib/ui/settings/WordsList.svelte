<script lang="ts">
	import type { CheckedWords } from '$lib/server/desk/district/types';
	import { checkedSaid } from './checked-said';

	/** The languages that there are fixed words of ours in, and whether a speaker has checked them. */
	let {
		languages,
		frame
	}: {
		languages: readonly CheckedWords[];
		frame: { readonly now: number; readonly zone: string };
	} = $props();
</script>

<section aria-labelledby="ours">
	<h2 id="ours">Our words around letters, and on families’ pages</h2>
	<ul>
		{#each languages as language (language.tag)}
			<li>
				<a href="/settings/languages/{language.tag}">{language.name}</a>
				<span
					>{language.people.toLocaleString('en-US')}
					{language.people === 1 ? 'adult reads' : 'adults read'} it</span
				>
				<span class:heed={language.checked === null && language.tag !== 'en'}
					>{checkedSaid(language, frame)}</span
				>
			</li>
		{/each}
	</ul>
</section>

<style>
	section {
		margin-top: 18px;
		max-width: 760px;
	}
	li {
		display: grid;
		grid-template-columns: 120px 160px 1fr;
		gap: 4px 14px;
		padding: 8px 0;
		border-top: 1px solid var(--line);
	}
	@media (max-width: 700px) {
		li {
			grid-template-columns: 1fr;
		}
	}
</style>

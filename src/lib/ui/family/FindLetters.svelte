<script lang="ts">
	import type { FamilyPhrases } from '$lib/core/copy/family-phrases';
	import type { FamilyStudent } from '$lib/server/desk/family/types';

	/** Finds letters by words, and by the child they are about; works without a script. */
	let {
		find,
		students,
		words: w
	}: {
		find: { readonly q: string; readonly child: number | null };
		students: readonly FamilyStudent[];
		words: FamilyPhrases;
	} = $props();
	const href = (child: number | null) => {
		const query = [
			child === null ? '' : `child=${child}`,
			find.q ? `q=${encodeURIComponent(find.q)}` : ''
		]
			.filter(Boolean)
			.join('&');
		return `?${query}`;
	};
</script>

<div class="find">
	{#if students.length > 1}
		<nav aria-label={w.find}>
			<a href={href(null)} aria-current={find.child === null ? 'page' : undefined}>{w.everyone}</a>
			{#each students as student (student.id)}
				<a href={href(student.id)} aria-current={find.child === student.id ? 'page' : undefined}
					><bdi>{student.name}</bdi></a
				>
			{/each}
		</nav>
	{/if}
	<form method="get" role="search">
		{#if find.child !== null}<input type="hidden" name="child" value={find.child} />{/if}
		<input type="search" name="q" value={find.q} placeholder={w.find} aria-label={w.find} />
	</form>
</div>

<style>
	.find {
		display: grid;
		gap: 8px;
		padding: 12px 14px 0;
	}
	nav a {
		color: var(--ink);
		text-decoration: none;
	}
	nav a[aria-current] {
		box-shadow: inset 0 -2px 0 var(--action);
		font-weight: 650;
	}
</style>

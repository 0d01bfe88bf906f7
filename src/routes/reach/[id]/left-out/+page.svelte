<script lang="ts">
	import { goto } from '$app/navigation';

	import { count } from '$lib/core/copy/count';
	import StudentsLeft from '$lib/ui/parts/StudentsLeft.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';

	/** Everyone who got no copy of a dispatch, and every student of whom none speaks. */
	let { data } = $props();
	const left = $derived(data.left);
	const turn = (page: number) => void goto(`?page=${page}`, { keepFocus: true });
</script>

<svelte:head><title>Left out · {left.subject} · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet">
		<a href="/reach">Reach</a> · <a href="/reach/{data.id}" dir="auto">{left.subject}</a> · Left out
	</p>
	<h1>{count(left.all.people)} {left.all.people === 1 ? 'person' : 'people'} left out</h1>
	<StudentsLeft lines={left.students} counts={left.studentCounts} />
	{#if left.lines.length === 0}
		<p class="quiet">Nobody was left out.</p>
	{:else}
		<table class="plain">
			<thead><tr><th>Person</th><th>For</th><th>Why</th></tr></thead>
			<tbody>
				{#each left.lines as line (line.id)}
					<tr>
						<td dir="auto"><a href="/people/{line.personId}">{line.name}</a></td>
						<td dir="auto">{line.students}</td>
						<td dir="auto">{line.why}{line.reached ? '. Gets a copy for others' : ''}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		<Pages
			all={left.all.rows}
			perPage={left.perPage}
			page={left.page}
			what="Left out"
			onturn={turn}
		/>
	{/if}
</div>

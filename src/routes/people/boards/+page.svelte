<script lang="ts">
	import { count } from '$lib/core/copy/count';

	/** The boards of the district and its schools; those of sections and groups stand on their own pages. */
	let { data } = $props();
	const many = (n: number, one: string, more: string) => `${count(n)} ${n === 1 ? one : more}`;
</script>

<svelte:head><title>Boards · People · Idle Courier</title></svelte:head>

<div class="page">
	<header>
		<p class="quiet"><a href="/people">People</a></p>
		<h1>Boards</h1>
		<p class="quiet">
			An announcement stands on the boards of what its audience names as a whole. Those of sections
			and groups are on the pages of <a href="/people/sections">Sections</a> and
			<a href="/people/groups">Groups</a>.
		</p>
	</header>
	<table class="lines">
		<thead>
			<tr><th scope="col">Board of</th><th scope="col">Stands there now</th></tr>
		</thead>
		<tbody>
			{#each data.boards as board (board.key)}
				<tr>
					<td><a href="/people/boards/{board.key}" dir="auto">{board.name}</a></td>
					<td
						>{board.standing === 0
							? 'nothing'
							: many(board.standing, 'announcement', 'announcements')}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

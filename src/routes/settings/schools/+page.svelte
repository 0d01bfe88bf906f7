<script lang="ts">
	/** Every school, with what it has of its own about time. */
	let { data } = $props();
</script>

<svelte:head><title>Schools · Idle Courier</title></svelte:head>

<h1>Schools</h1>
<p class="quiet">
	Each keeps to the district’s clock, quiet hours and school day, but for what it has of its own.
	Its families’ letters, quiet hours and times are by its clock, and so is everything that whoever
	works there alone sees and plans.
</p>

{#if data.schools.length === 0}
	<p>There is no school here yet. They come with the <a href="/people/rosters">roster</a>.</p>
{:else}
	<ul>
		{#each data.schools as school (school.id)}
			<li>
				<a href="/settings/chapter/school-{school.id}" dir="auto">{school.name}</a>
				<span class:quiet={school.own.length === 0}
					>{school.own.join('; ') || 'as in the district'}</span
				>
			</li>
		{/each}
	</ul>
{/if}

<style>
	ul {
		max-width: 760px;
		margin-top: 14px;
	}
	li {
		display: grid;
		grid-template-columns: minmax(160px, 1fr) 2fr;
		gap: 4px 16px;
		padding: 9px 0;
		border-top: 1px solid var(--line);
	}
</style>

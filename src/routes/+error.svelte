<script lang="ts">
	import { page } from '$app/state';
</script>

<svelte:head><title>{page.status} · Idle Courier</title></svelte:head>

<div class="problem">
	<h1>{page.error?.message}</h1>
	{#if page.data.frame}<p><a href="/week">To the week</a></p>{/if}
</div>

<style>
	.problem {
		max-width: 560px;
		margin: 80px auto;
		padding: 0 20px;
		display: grid;
		gap: 12px;
	}
</style>

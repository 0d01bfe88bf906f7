<svelte:head><title>Replies · Idle Courier</title></svelte:head>

<div class="page">
	<h1>Replies</h1>
	<p>
		Answers by email, text and inbox will stand here, each conversation beside the dispatch it
		answers. It is not built yet: for now a copy says who wrote it, and “I have seen this” is the
		one thing a family can send back.
	</p>
</div>

<style>
	.page {
		max-width: 640px;
	}
</style>

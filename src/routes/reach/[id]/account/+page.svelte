<script lang="ts">
	import { Button } from 'carbon-components-svelte';

	/** The account of a dispatch: the same words as in the mail and on paper. */
	let { data } = $props();
	const account = $derived(data.account);
</script>

<svelte:head><title>Report: {account.title} · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet">
		<a href="/reach">Reach</a> · <a href="/reach/{data.id}" dir="auto">{account.title}</a> · Report
	</p>
	<header class="page-head">
		<h1>{account.sentence}</h1>
		<span class="page-head">
			<Button kind="tertiary" href="/reach/{data.id}/account/file?as=csv" download
				>Every copy as CSV</Button
			>
			<Button kind="tertiary" href="/reach/{data.id}/account/file?as=pdf" download
				>The account as PDF</Button
			>
		</span>
	</header>
	<div>
		{#each account.about as about, i (i)}<p dir="auto">{about}</p>{/each}
	</div>
	<div class="parts">
		{#each account.parts as part (part.heading)}
			<section>
				<h2>{part.heading}</h2>
				<table class="lines">
					<tbody>
						{#each part.rows as row, i (i)}
							<tr>
								<td class="n">{row.value}</td>
								<th scope="row" dir="auto">{row.label}</th>
								<td class="quiet">{row.note}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</section>
		{/each}
	</div>
</div>

<style>
	.parts {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(420px, 1fr));
		gap: 20px 36px;
		align-items: start;
	}
	.n {
		text-align: end;
		font-weight: 650;
		white-space: nowrap;
		width: 1%;
	}
	@media (max-width: 900px) {
		.parts {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>

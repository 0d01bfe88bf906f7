<script lang="ts">
	import { nearTime } from '../parts/clock';
	import type { SentLine } from '$lib/server/desk/places/types';

	/** What was last sent about a place's students, and how many of them are covered. */
	let { sent, zone, now }: { sent: readonly SentLine[]; zone: string; now: number } = $props();
</script>

<section>
	<h2>Last sent</h2>
	<ul>
		{#each sent as line (line.dispatchId)}
			<li>
				<a href="/reach/{line.dispatchId}" dir="auto">{line.subject}</a>
				<p class="small">
					<b>{line.covered}</b> of {line.students} covered
					<span class="quiet">{nearTime(line.leavesAt, now, zone)}, {line.sender}</span>
				</p>
			</li>
		{:else}
			<li class="quiet">Nothing has been sent yet.</li>
		{/each}
	</ul>
</section>

<style>
	li {
		padding: 6px 0;
		border-top: 1px solid var(--line);
	}
</style>

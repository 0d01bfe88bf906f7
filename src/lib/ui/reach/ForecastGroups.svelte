<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { JudgedGroup } from '$lib/server/desk/expect/types';

	/** How far off forecasts were for parts of the students. */
	let { title, what, groups }: { title: string; what: string; groups: readonly JudgedGroup[] } =
		$props();
	const off = (share: number) => {
		const n = Math.round(share * 100);
		return n === 0 ? 'as said' : `${Math.abs(n)} of 100 ${n > 0 ? 'more' : 'fewer'}`;
	};
</script>

<section>
	<h2>{title}</h2>
	<table class="lines">
		<thead
			><tr
				><th>{what}</th><th class="n">students</th><th class="n">expected</th><th class="n"
					>covered</th
				><th>came</th></tr
			></thead
		>
		<tbody>
			{#each groups as group (group.name)}
				<tr>
					<td dir="auto">{group.name}</td>
					<td class="n">{count(group.of)}</td>
					<td class="n">{count(group.expected)}</td>
					<td class="n"><b>{count(group.came)}</b></td>
					<td>{group.of < 30 ? 'too few to tell' : off(group.off)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</section>

<style>
	.n {
		text-align: end;
	}
</style>

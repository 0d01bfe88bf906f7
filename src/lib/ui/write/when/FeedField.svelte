<script lang="ts">
	import {
		Button,
		Checkbox,
		InlineLoading,
		NumberInput,
		TextInput
	} from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import type { FeedSource } from '$lib/core/time/timing';
	import type { FeedShown } from '$lib/server/desk/feeds/types';
	import { bench } from '../../parts/bench.svelte';
	import { nearTime } from '../../parts/clock';
	import { postJson } from '../../parts/post-json';

	/** The feed that a repetition takes its words from: its address, tried before anything is put down. */
	let {
		feed,
		zone,
		onchange,
		ontried
	}: {
		feed: FeedSource;
		zone: string;
		onchange: (next: FeedSource) => void;
		/** Somebody has tried it: what it has is known now. */
		ontried: () => void;
	} = $props();

	let trying = $state(false);
	let trouble = $state('');
	let shown = $state.raw<{ address: string; feed: FeedShown } | null>(null);
	const here = $derived(shown?.address === feed.address ? shown.feed : null);
	const address = $derived(feed.address.trim());

	async function tryIt() {
		if (address === '' || trying) return;
		trying = true;
		trouble = '';
		const asked = address;
		const answer = await postJson<FeedShown>('/write/feed', { address: asked }, 30_000);
		trying = false;
		if (answer.ok) {
			shown = { address: asked, feed: answer.body };
			ontried();
		} else
			trouble =
				answer.status === 0 ? 'No connection, so it was not tried. Try it again.' : answer.why;
	}
</script>

<div class="address">
	<TextInput
		size="sm"
		labelText="Feed (RSS or Atom)"
		placeholder="https://news.example/feed.xml"
		value={feed.address}
		autocomplete="off"
		inputmode="url"
		on:change={(e) => {
			onchange({ ...feed, address: String(e.detail ?? '').trim() });
			void tryIt();
		}}
	/>
</div>
<Button size="small" kind="tertiary" disabled={address === '' || trying} on:click={tryIt}>
	Try it
</Button>
<div class="most">
	<NumberInput
		size="sm"
		labelText="Entries at most"
		min={1}
		max={20}
		value={feed.most}
		on:change={(e) => {
			const most = Math.round(Number(e.detail));
			if (most >= 1 && most <= 20) onchange({ ...feed, most });
		}}
	/>
</div>
<Checkbox
	labelText="also what is there already, with the first date"
	checked={feed.old}
	on:check={(e) => onchange({ ...feed, old: e.detail })}
/>
<div class="came" aria-live="polite">
	{#if trying}<InlineLoading description="The feed is asked…" />
	{:else if trouble}<span class="fail">{trouble}</span>
	{:else if here?.why}<span class="fail">{here.why}</span>
	{:else if here}
		<span>
			<b dir="auto">{here.title || 'The feed'}</b>:
			{here.entries === 0
				? 'nothing is there yet.'
				: `${count(here.entries)} ${here.entries === 1 ? 'entry' : 'entries'}, the newest`}
			{#each here.newestOf.slice(0, 1) as entry (entry.title)}
				<span dir="auto">“{entry.title}”</span>{entry.at === null
					? ''
					: `, ${nearTime(entry.at, bench.now, zone)}`}
			{/each}
		</span>
	{/if}
</div>

<style>
	.address {
		flex: 1 1 260px;
		max-width: 380px;
	}
	.most {
		width: 160px;
	}
	.came {
		flex: 1 1 100%;
		font-size: 13px;
	}
	.came:empty {
		display: none;
	}
</style>

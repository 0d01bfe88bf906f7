<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { noteLength, type Note } from '$lib/core/copy/note';

	/** What was recorded, heard or seen again, and cut at both ends before it is used. */
	let {
		kind,
		recorded,
		ms,
		busy,
		onuse,
		onagain,
		onaway
	}: {
		kind: Note['kind'];
		recorded: Blob;
		/** Its length. */
		ms: number;
		busy: boolean;
		/** It is used, from and to so many seconds. */
		onuse: (from: number, to: number) => void;
		onagain: () => void;
		onaway: () => void;
	} = $props();

	const seconds = $derived(Math.max(0.1, Math.floor(ms / 100) / 10));
	/** A note keeps half a second at least. */
	const least = 0.5;
	let from = $state(0);
	let cutTo = $state<number | null>(null);
	const to = $derived(cutTo ?? seconds);
	const address = $derived(URL.createObjectURL(recorded));
	$effect(() => {
		const made = address;
		return () => URL.revokeObjectURL(made);
	});

	let player = $state<HTMLMediaElement>();
	function hear(at: number) {
		if (!player) return;
		player.currentTime = at;
		void player.play();
	}
	/** What is cut off is not played either. */
	function atTime() {
		if (player && !player.paused && player.currentTime >= to) player.pause();
	}
</script>

<div class="cut">
	{#if kind === 'voice'}
		<audio bind:this={player} src={address} controls ontimeupdate={atTime}></audio>
	{:else}
		<video bind:this={player} src={address} controls playsinline ontimeupdate={atTime}>
			<!-- What is said is written beside it before it is sent. -->
			<track kind="captions" />
		</video>
	{/if}
	<div class="ends">
		<label>
			<span>Begins at <b>{from.toFixed(1)} s</b></span>
			<input
				type="range"
				min="0"
				max={Math.max(0, to - least)}
				step="0.1"
				bind:value={from}
				onchange={() => hear(from)}
			/>
		</label>
		<label>
			<span>Ends at <b>{to.toFixed(1)} s</b></span>
			<input
				type="range"
				min={Math.min(seconds, from + least)}
				max={seconds}
				step="0.1"
				value={to}
				oninput={(e) => (cutTo = Number(e.currentTarget.value))}
				onchange={() => hear(Math.max(from, to - 2))}
			/>
		</label>
	</div>
	<div class="deeds">
		<Button size="small" disabled={busy} on:click={() => onuse(from, to)}>
			{busy ? 'Putting in…' : `Use it, ${noteLength((to - from) * 1000)}`}
		</Button>
		<Button size="small" kind="tertiary" disabled={busy} on:click={onagain}>Record again</Button>
		<Button size="small" kind="ghost" disabled={busy} on:click={onaway}>Throw it away</Button>
	</div>
</div>

<style>
	audio,
	video {
		width: 100%;
		max-width: 440px;
	}
	.ends {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 20px;
		margin: 6px 0;
	}
	label {
		flex: 1 1 200px;
		max-width: 300px;
		font-size: 13px;
	}
	input {
		width: 100%;
		accent-color: var(--action);
	}
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 12px;
	}
</style>

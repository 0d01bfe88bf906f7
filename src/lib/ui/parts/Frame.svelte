<script lang="ts">
	import { afterNavigate, beforeNavigate, goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Modal } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import BenchClock from './BenchClock.svelte';
	import Brand from './Brand.svelte';
	import Jump from './Jump.svelte';

	/** The frame: one bar on top with the five places, and the sheet below. */
	let {
		frame,
		children
	}: {
		frame: {
			user: { name: string; title: string };
			zone: string;
			demo: boolean;
			/** Conversations that wait for an answer. */
			waiting: number;
			mayWrite: boolean;
		};
		children: Snippet;
	} = $props();

	const places = $derived([
		{ name: 'Week', path: '/week' },
		...(frame.mayWrite ? [{ name: 'Write', path: '/write' }] : []),
		{ name: 'Reach', path: '/reach' },
		{ name: 'People', path: '/people' },
		{ name: 'Replies', path: '/replies' }
	]);
	/** The sheet scrolls, and not the page: another one begins at its top, and going back leads to where one was. */
	let sheet: HTMLElement | undefined = $state();
	const left: Record<string, number> = {};
	beforeNavigate(({ from }) => {
		if (from && sheet) left[from.url.href] = sheet.scrollTop;
	});
	afterNavigate(({ type, from, to }) => {
		if (!sheet || !to || to.url.hash !== '' || from?.url.pathname === to.url.pathname) return;
		sheet.scrollTop = type === 'popstate' ? (left[to.url.href] ?? 0) : 0;
	});
	let keysOpen = $state(false);
	let jumpOpen = $state(false);
	const here = (path: string) =>
		page.url.pathname === path || page.url.pathname.startsWith(`${path}/`);

	function onkeydown(event: KeyboardEvent) {
		const target = event.target as HTMLElement;
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if (target.closest('input, textarea, select, [contenteditable]')) return;
		if (event.key === '?') keysOpen = true;
		const place = places[Number(event.key) - 1];
		if (place) void goto(place.path);
		if (event.key === '/') {
			event.preventDefault();
			jumpOpen = true;
		}
		if (event.key === 's') {
			const search = document.querySelector<HTMLInputElement>(
				'main input[type="search"], main input[role="searchbox"]'
			);
			if (search) {
				event.preventDefault();
				search.focus();
			}
		}
	}
</script>

<svelte:window {onkeydown} />

<div class="frame">
	<a class="skip" href="#sheet">To the sheet</a>
	<header>
		<a class="home" href="/week" aria-label="Idle Courier, to the week"><Brand /></a>
		<nav aria-label="Places">
			{#each places as place (place.path)}
				<a class="tab" href={place.path} aria-current={here(place.path) ? 'page' : undefined}>
					{place.name}{#if place.path === '/replies' && frame.waiting > 0}
						<b class="count" aria-label="{frame.waiting} wait for an answer"
							>{frame.waiting.toLocaleString('en')}</b
						>{/if}
				</a>
			{/each}
		</nav>
		<div class="right">
			<button class="plain small jumper" onclick={() => (jumpOpen = true)}
				>Jump to… <span class="mono quiet">/</span></button
			>
			{#if frame.demo}
				<a class="small" href="/stand-ins">Stand-ins</a>
				<BenchClock zone={frame.zone} />
			{/if}
			<details class="person">
				<summary>{frame.user.name}</summary>
				<div class="panel">
					<p class="small quiet">{frame.user.title}</p>
					<p class="small"><a href="/settings">Settings</a></p>
					<p class="small"><a href="/courier">How the courier is</a></p>
					<form method="post" action="/sign-out">
						<button class="plain">Sign out</button>
					</form>
				</div>
			</details>
		</div>
	</header>
	<!-- It scrolls, so it can be reached by keyboard. -->
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<main id="sheet" tabindex="0" bind:this={sheet}>{@render children()}</main>
</div>

<Jump bind:open={jumpOpen} />
<Modal passiveModal bind:open={keysOpen} modalHeading="Keys" size="sm">
	<dl class="keys">
		{#each places as place, i (place.path)}
			<dt class="mono">{i + 1}</dt>
			<dd>{place.name}</dd>
		{/each}
		<dt class="mono">/</dt>
		<dd>Jump to a person, dispatch, section, page or setting</dd>
		<dt class="mono">s</dt>
		<dd>Search on this page</dd>
		<dt class="mono">Esc</dt>
		<dd>Close what is open</dd>
		<dt class="mono">?</dt>
		<dd>This list</dd>
	</dl>
</Modal>

<style>
	.frame {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		grid-template-rows: auto minmax(0, 1fr);
		height: 100dvh;
	}
	header {
		display: flex;
		align-items: flex-end;
		min-height: 52px;
		padding: 0 20px;
		background: var(--wash);
		border-bottom: 1px solid var(--line);
	}
	.home {
		align-self: center;
		color: var(--ink);
		text-decoration: none;
		margin-right: 28px;
	}
	nav {
		display: flex;
		gap: 2px;
		margin-bottom: -1px;
	}
	.tab {
		padding: 8px 18px 10px;
		border: 1px solid transparent;
		border-bottom: 0;
		border-radius: 3px 3px 0 0;
		color: var(--quiet);
		font-weight: 550;
		text-decoration: none;
	}
	.count {
		color: var(--heed);
		margin-inline-start: 3px;
	}
	.tab:hover {
		color: var(--ink);
	}
	.tab[aria-current] {
		background: var(--paper);
		border-color: var(--line);
		color: var(--ink);
	}
	.right {
		margin-left: auto;
		align-self: center;
		display: flex;
		gap: 14px;
		align-items: center;
	}
	.person {
		position: relative;
	}
	summary {
		display: flex;
		align-items: center;
		cursor: pointer;
		list-style: none;
		white-space: nowrap;
	}
	summary::-webkit-details-marker {
		display: none;
	}
	.panel {
		min-width: 180px;
	}
	main {
		min-height: 0;
		overflow: auto;
	}
	main:focus {
		outline-offset: -2px;
	}
	.skip {
		position: absolute;
		left: 8px;
		top: -60px;
		background: var(--sheet);
		padding: 8px 12px;
		z-index: 40;
	}
	.skip:focus {
		top: 8px;
	}
	.keys {
		display: grid;
		grid-template-columns: 40px 1fr;
		row-gap: 6px;
	}
	@media (max-width: 900px) {
		header {
			flex-wrap: wrap;
			padding: 6px 12px 0;
			row-gap: 4px;
		}
		.home {
			margin-right: 12px;
		}
		.tab {
			padding: 6px 10px 8px;
		}
		nav {
			order: 3;
			flex-basis: 100%;
			flex-wrap: wrap;
		}
	}
	@media (max-width: 480px) {
		.tab {
			padding: 5px 7px 7px;
			font-size: 14px;
		}
		.right {
			flex-wrap: wrap;
			gap: 4px 10px;
			min-width: 0;
		}
		.jumper .mono {
			display: none;
		}
		.frame {
			height: auto;
			min-height: 100dvh;
		}
		main {
			overflow: visible;
		}
	}
</style>

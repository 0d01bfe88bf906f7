<script lang="ts">
	import { longTextCheck } from '$lib/core/plan/check-wording';
	import StandingCheck from './StandingCheck.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The standing check as counts beside the action, in view however long the tally is; they open onto the list. */
	let { sheet }: { sheet: Sheet } = $props();
	let open = $state(false);
	let button = $state<HTMLButtonElement>();
	let panel = $state<HTMLElement>();

	/** With what is known of the texts once each has been measured. */
	const checks = $derived.by(() => {
		const said = sheet.landing?.checks ?? [];
		const long = sheet.texts ? longTextCheck(sheet.texts.longest.length.parts) : null;
		const before = said.filter((c) => c.level !== 'fine');
		return long ? [...before, long, ...said.filter((c) => c.level === 'fine')] : said;
	});
	const count = (level: 'block' | 'caution') => checks.filter((c) => c.level === level).length;
	const blocks = $derived(count('block'));
	const cautions = $derived(count('caution'));

	/** Opens the list and goes there: for whoever pressed the action while something stands in its way. */
	export function show(): void {
		open = true;
		requestAnimationFrame(() => panel?.focus());
	}
	function close(): void {
		open = false;
		button?.focus();
	}
</script>

<div class="counts">
	{#if sheet.landing}
		<button
			bind:this={button}
			class="plain"
			aria-expanded={open}
			aria-controls="check"
			onclick={() => (open ? close() : show())}
		>
			{#if blocks > 0}<span class="fail">{blocks} to mend</span>{/if}
			{#if cautions > 0}<span class="heed">{cautions} to look at</span>{/if}
			{#if blocks + cautions === 0}<span class="good">Nothing to look at</span>{/if}
		</button>
	{/if}
	<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
	<div
		id="check"
		class="above"
		hidden={!open}
		tabindex="-1"
		role="region"
		aria-label="Before it goes"
		bind:this={panel}
		onkeydown={(e) => e.key === 'Escape' && close()}
	>
		<StandingCheck {checks} />
		<button class="plain" onclick={close}>Close</button>
	</div>
</div>

<style>
	.counts > button {
		display: flex;
		flex-wrap: wrap;
		gap: 0 10px;
		min-height: 24px;
		align-items: center;
	}
	.good {
		color: var(--good);
	}
	.above {
		position: absolute;
		z-index: 6;
		inset-inline-end: 16px;
		bottom: calc(100% + 6px);
		width: min(460px, calc(100vw - 32px));
		max-height: min(60vh, 520px);
		overflow: auto;
		padding: 12px 16px;
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		border-radius: 2px;
		box-shadow: 0 4px 18px var(--shade);
	}
	.above > button {
		margin-top: 10px;
		min-height: 24px;
	}
</style>

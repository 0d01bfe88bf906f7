<script lang="ts">
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import type { Moving } from './moving.svelte';

	/** What came of a move, with what takes it back: where the eye and the next key are. */
	let { moving }: { moving: Moving } = $props();
	let saidAt = $state<HTMLElement>();
	$effect(() => {
		if (!moving.said) return;
		saidAt?.focus({ preventScroll: true });
		saidAt?.scrollIntoView({ block: 'nearest' });
	});
</script>

{#if moving.said}
	<div class="said" role="status" tabindex="-1" bind:this={saidAt}>
		<InlineNotification
			lowContrast
			kind={moving.said.kind}
			title={moving.said.kind === 'success' ? 'Moved.' : 'Not moved.'}
			subtitle={moving.said.text}
			on:close={() => (moving.said = null)}
		>
			<svelte:fragment slot="actions">
				{#if moving.said.undo}
					{@const { line, to, base } = moving.said.undo}
					<Button kind="ghost" size="small" on:click={() => moving.move(line, to, base)}
						>Move it back</Button
					>
				{/if}
			</svelte:fragment>
		</InlineNotification>
	</div>
{/if}

<style>
	.said {
		padding: 0 18px 10px;
	}
</style>

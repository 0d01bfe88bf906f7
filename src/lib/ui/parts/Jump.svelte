<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import Finder from './Finder.svelte';

	/** Search-and-jump: people, dispatches, sections, groups, pages and what is done on them, by a few letters, by keyboard alone. */
	let { open = $bindable(false) }: { open?: boolean } = $props();
	let typed = $state('');
</script>

<Modal
	passiveModal
	bind:open
	modalLabel="Jump to"
	modalHeading="By a few letters"
	size="sm"
	selectorPrimaryFocus=".jump input"
	on:close={() => (typed = '')}
>
	<div class="jump">
		<Finder
			label="A person, dispatch, section, group, page or setting"
			bind:typed
			ongo={() => (open = false)}
		/>
	</div>
</Modal>

<style>
	.jump {
		min-height: 300px;
	}
</style>

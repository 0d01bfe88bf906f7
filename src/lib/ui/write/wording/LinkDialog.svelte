<script lang="ts">
	import type { Editor } from '@tiptap/core';
	import { Button, Modal, TextInput } from 'carbon-components-svelte';
	import { isLinkAddress } from '$lib/core/copy/doc';

	/** Where the marked words lead to. */
	let {
		editor,
		marked
	}: {
		editor: Editor;
		/** Whether a link stands there already. */
		marked: boolean;
	} = $props();

	const run = () => editor.chain().focus();
	let shown = $state(false);
	let href = $state('');
	let trouble = $state('');

	export function open() {
		href = (editor.getAttributes('link') as { href?: string }).href ?? '';
		trouble = '';
		shown = true;
	}
	function setLink() {
		const typed = href.trim();
		// An address without its scheme is meant for the web, one with an @ for mail.
		const full = /^[a-z]+:/i.test(typed)
			? typed
			: /^[^\s/]+@[^\s/]+$/.test(typed)
				? `mailto:${typed}`
				: `https://${typed}`;
		if (!isLinkAddress(full)) {
			trouble = 'A link is a web address (https://…) or a mail address.';
			return;
		}
		shown = false;
		if (editor.state.selection.empty && !marked) {
			run()
				.insertContent({
					type: 'text',
					text: typed,
					marks: [{ type: 'link', attrs: { href: full } }]
				})
				.run();
		} else run().extendMarkRange('link').setLink({ href: full }).run();
	}
</script>

<Modal
	bind:open={shown}
	size="sm"
	modalHeading="Link"
	primaryButtonText="Set the link"
	secondaryButtonText="Leave as it is"
	selectorPrimaryFocus="#link-address"
	on:click:button--primary={setLink}
	on:click:button--secondary={() => (shown = false)}
>
	<TextInput
		id="link-address"
		labelText="Address"
		bind:value={href}
		invalid={trouble !== ''}
		invalidText={trouble}
		on:keydown={(e) => e.key === 'Enter' && setLink()}
	/>
	{#if marked}
		<Button
			kind="ghost"
			size="small"
			on:click={() => {
				shown = false;
				run().extendMarkRange('link').unsetLink().run();
			}}>Take the link off</Button
		>
	{/if}
</Modal>

<script lang="ts">
	import { Button, InlineNotification } from 'carbon-components-svelte';

	let { data } = $props();
</script>

<svelte:head><title>Identity provider · Idle Courier</title></svelte:head>

<h1>Nobody could be sent there</h1>
{#if data.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={data.why} />
{/if}
<Button kind="tertiary" href="/settings/identity">Back to the identity provider</Button>

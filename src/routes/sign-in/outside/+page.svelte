<script lang="ts">
	import OutsideFailed from '$lib/ui/settings/OutsideFailed.svelte';

	let { data } = $props();
</script>

<OutsideFailed name={data.name} why={data.why} />

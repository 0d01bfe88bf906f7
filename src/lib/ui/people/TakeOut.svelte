<script lang="ts">
	import type { PersonView } from '$lib/server/desk/people/types';

	/** Everything about a person, to be taken along; and the way to erase them. */
	let { person }: { person: Pick<PersonView, 'id'> } = $props();
</script>

<details>
	<summary>Everything about them</summary>
	<form method="post" action="/people/{person.id}/file">
		<p class="small">
			In one file, for whoever asks what we have about them:
			<button class="plain" name="as" value="pdf">to be read (PDF)</button>,
			<button class="plain" name="as" value="json">as data (JSON)</button>. That it was taken out is
			written down.
		</p>
	</form>
	<p class="small">
		<a href="/people/{person.id}/erase">Erase them</a>, where the law asks for it.
	</p>
</details>

<style>
	summary {
		cursor: pointer;
	}
	p {
		margin-top: 6px;
	}
</style>

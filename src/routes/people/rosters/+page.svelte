<script lang="ts">
	import { goto } from '$app/navigation';
	import {
		Button,
		FileUploaderDropContainer,
		InlineNotification,
		ProgressBar,
		TextInput
	} from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { nearTime } from '$lib/ui/parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import { NotSent, sendRoster } from '$lib/ui/roster/send-file';
	import { fileStateWords } from '$lib/ui/roster/words';

	/** Rosters that came, and a new one to be brought. */
	/** Carbon calls its label a button, which a label must not be called (ARIA in HTML). */
	const noRole = null as unknown as string;
	let { data } = $props();
	// svelte-ignore state_referenced_locally
	let source = $state(data.sources[0]?.name ?? '');
	let sentShare = $state<number | null>(null);
	let why = $state('');

	async function bring(files: readonly File[]) {
		if (files.length === 0) return;
		why = '';
		if (source.trim() === '') {
			why = 'Say first where the roster comes from: the name of the system that exports it.';
			return;
		}
		sentShare = 0;
		try {
			const id = await sendRoster(files, source, data.pieceBytes, (bytes, all) => {
				sentShare = all === 0 ? 1 : bytes / all;
			});
			const look = await fetch(`/people/rosters/${id}?/look`, {
				method: 'POST',
				body: new FormData(),
				headers: { accept: 'application/json', 'x-sveltekit-action': 'true' }
			});
			if (!look.ok) throw new NotSent('The file has come, and could not be looked at. Try again.');
			await goto(`/people/rosters/${id}`);
		} catch (error) {
			why = error instanceof NotSent ? error.message : 'The file could not be brought. Try again.';
		} finally {
			sentShare = null;
		}
	}
	const when = (at: number) => nearTime(at, bench.now, data.frame!.zone);
</script>

<svelte:head><title>Rosters · People · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/people">People</a> · Rosters</p>
	<h1>Rosters</h1>
	<div class="with-aside" style:--aside="320px">
		<section aria-labelledby="came">
			<h2 id="came">What has come</h2>
			{#if data.files.length === 0}
				<p class="quiet">
					No roster has come yet. Bring the export of your student system: nothing changes until you
					have seen what would.
				</p>
			{:else}
				<table class="plain">
					<thead>
						<tr>
							<th>File</th>
							<th>Came</th>
							<th class="n">New</th>
							<th class="n">Changed</th>
							<th class="n">Gone</th>
							<th class="n">Wrong</th>
							<th>How it stands</th>
						</tr>
					</thead>
					<tbody>
						{#each data.files as file (file.id)}
							<tr>
								<td
									><a href="/people/rosters/{file.id}" dir="auto">{file.name}</a><br /><span
										class="quiet small"
										dir="auto">{file.source}</span
									></td
								>
								<td
									>{when(file.cameAt)}<br /><span class="quiet small">{file.by ?? 'by night'}</span
									></td
								>
								{#each file.numbers ?? [null, null, null, null] as n, i (i)}
									<td class="n" class:fail={i === 3 && n !== null && n > 0}
										>{n === null ? '' : count(n)}</td
									>
								{/each}
								<td class={file.state === 'refused' ? 'fail' : ''}>
									{fileStateWords(file.state)}
									{#if file.state === 'taken' && file.takenAt}{when(file.takenAt)}{/if}
									{#if file.state === 'taken-back' && file.backAt}{when(file.backAt)}{/if}
									{#if file.state === 'refused' && file.why}<span class="small why">{file.why}</span
										>{/if}
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
			{/if}
		</section>
		<aside aria-labelledby="bring">
			<h2 id="bring">Bring one</h2>
			<TextInput
				labelText="Where it comes from"
				helperText="The system that exports it, by any name; the next file of the same name is compared with this one."
				placeholder="Student records"
				maxlength={80}
				list="sources"
				bind:value={source}
			/>
			<datalist id="sources">
				{#each data.sources as s (s.id)}<option value={s.name}></option>{/each}
			</datalist>
			<FileUploaderDropContainer
				multiple
				role={noRole}
				labelText="A OneRoster zip or its tables (.csv), or contacts (.csv, .xlsx, .vcf): drop it here or choose it"
				disabled={sentShare !== null}
				on:add={(e) => void bring(e.detail as readonly File[])}
			/>
			{#if sentShare !== null}
				<ProgressBar
					value={Math.round(sentShare * 100)}
					labelText="It is coming"
					helperText="{Math.round(sentShare * 100)} %"
				/>
			{/if}
			{#if why}
				<InlineNotification kind="error" lowContrast hideCloseButton title={why} />
			{/if}
			<p class="quiet small">
				OneRoster CSV 1.1 or 1.2, whole or changes only; or a list of contacts with one line for
				each student and adult, its columns in any order. It is shown line by line what would be
				new, changed and gone before anything is.
			</p>
			<h2>Out</h2>
			<p class="quiet small">
				Everything that is held, as a OneRoster 1.2 zip. Brought in again it changes nothing.
			</p>
			<Button kind="tertiary" size="small" href="/people/rosters/out" download>OneRoster zip</Button
			>
			<p class="quiet small">
				Every contact of every student with relation, custody, language and consent, as a list.
			</p>
			<Button kind="tertiary" size="small" href="/people/rosters/contacts" download
				>Contacts (CSV)</Button
			>
		</aside>
	</div>
</div>

<style>
	aside {
		display: grid;
		gap: 12px;
	}
	.n {
		text-align: end !important;
	}
	.why {
		display: block;
		max-width: 46ch;
	}
</style>

<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { sizeWords } from '$lib/core/copy/size-words';
	import { stateWords } from '$lib/core/track/evidence-words';
	import { doubtWords } from '$lib/core/track/auto-answer';
	import { clockTime, nearTime } from '../parts/clock';
	import type { OpenedTalk, TalkLine } from '$lib/server/desk/replies/types';
	import { deleteJson, postJson } from '../parts/post-json';
	import StateRing from '../parts/StateRing.svelte';
	import WayMark from '../parts/WayMark.svelte';
	import AnswerBox from './AnswerBox.svelte';
	import TalkActs from './TalkActs.svelte';

	/** One conversation opened in place: lines of time, who and words, and the box to answer in. */
	let {
		talk,
		now,
		zone,
		userId,
		translator,
		fileLimit,
		mayAnswer,
		there
	}: {
		talk: OpenedTalk;
		now: number;
		zone: string;
		userId: number;
		translator: boolean;
		/** Bytes. */
		fileLimit: number;
		/** Whether whoever reads may answer families; what needs it is not offered else. */
		mayAnswer: boolean;
		/** Whether the family is there, and which colleagues are. */
		there: { readonly family: boolean; readonly staff: readonly string[] } | null;
	} = $props();
	let why = $state('');
	/** Words of an answer that was called back, for the box. */
	let givenBack = $state<string | null>(null);
	const when = (at: number) => nearTime(at, now, zone);

	async function act(body: object) {
		const done = await postJson<{ ok: boolean }>(`/replies/${talk.id}`, body);
		why = done.why;
		await invalidateAll();
	}
	async function callBack(dispatch: number) {
		const called = await deleteJson<{ words: string }>('/replies/answer', { dispatch });
		why = called.why;
		if (called.ok) givenBack = called.body.words;
		await invalidateAll();
	}
	async function draft(answer: number) {
		why = (await postJson('/replies/translate', { answer })).why;
		await invalidateAll();
	}
	const actWords: Readonly<Record<(TalkLine & { kind: 'act' })['act'], string>> = {
		settled: 'settled it',
		aside: 'put it aside',
		'waits-again': 'lets it wait again',
		unread: 'marked it as not looked at',
		'passed-on': 'passed it on',
		'taken-over': 'took it back',
		forwarded: 'sent a copy on',
		'called-back': 'called an answer back',
		'by-a-person': 'said that a person wrote',
		'moved-here': 'put an answer here',
		'term-ended': 'Settled by itself: its term has ended',
		'told-one-way': 'Told by itself that nobody reads answers to an announcement',
		'told-away': 'Told by itself that you are away'
	};
	const said = (line: TalkLine & { kind: 'act' }) =>
		[
			line.by,
			actWords[line.act],
			line.to ? (line.act === 'taken-over' ? `from ${line.to}` : `to ${line.to}`) : '',
			line.until === null ? '' : `until ${when(line.until)}`
		]
			.filter(Boolean)
			.join(' ');
</script>

<div class="open">
	<ol>
		{#each talk.lines as line (`${line.kind} ${line.id}`)}
			<li class={line.kind}>
				{#if line.kind === 'family'}
					<span class="when">
						<WayMark way={line.way} size={13} />
						{when(line.at)}
					</span>
					<span class="who" dir="auto">{line.who}</span>
					<div class="words">
						{#if line.words}<p dir="auto">{line.words}</p>
						{:else if line.files.length === 0}<p class="quiet">no words</p>{/if}
						{#if line.translated}
							<p class="quiet" dir="auto">“{line.translated}” <i>draft by the translator</i></p>
						{:else if talk.language && translator && line.words && mayAnswer}
							<button class="plain" onclick={() => draft(line.id)}>Draft in English</button>
						{/if}
						{#if line.elsewhere}
							<p class="heed small">
								From {line.elsewhere}, which is not on file: whoever has the letter can have written
								it.
							</p>
						{/if}
						{#if line.doubt}
							<p class="heed small">
								Perhaps a machine: {doubtWords[line.doubt]}. It does not count yet.
								{#if mayAnswer}
									<button class="plain" onclick={() => act({ act: 'by-person', answer: line.id })}
										>A person wrote this</button
									>
								{/if}
							</p>
						{/if}
						{#each line.files as file (file.id)}
							{#if file.picture}
								<a class="picture" href="/replies/file/{file.id}" target="_blank" rel="noopener"
									><img
										src="/replies/file/{file.id}"
										alt={file.name}
										width={file.width}
										height={file.height}
										loading="lazy"
									/></a
								>
							{:else if file.why}
								<p class="small fail" dir="auto">Not kept: {file.why}</p>
							{:else}
								<p class="small">
									<a href="/replies/file/{file.id}" download dir="auto">{file.name}</a>
									<span class="quiet">{sizeWords(file.bytes)}</span>
								</p>
							{/if}
						{/each}
						{#if line.orAbout.length > 0}
							<p class="quiet small">
								Or it is about {#each line.orAbout as other, i (other.dispatchId)}{i > 0
										? ', or '
										: ''}<a href="/reach/{other.dispatchId}" dir="auto">{other.subject}</a>
									<button
										class="plain"
										onclick={() =>
											act({ act: 'move', answer: line.id, dispatch: other.dispatchId })}
										>move it there</button
									>{/each}, since that went to the same phone.
							</p>
						{/if}
						{#if line.whole}
							<details class="whole">
								<summary class="small quiet">All of it as it came</summary>
								<p class="quiet" dir="auto">{line.whole}</p>
							</details>
						{/if}
					</div>
				{:else if line.kind === 'ours'}
					<span class="when">
						<StateRing state={line.state} strength={line.strength} size={13} label="" />
						{clockTime(line.stateAt, zone)}, {stateWords[line.state]}
					</span>
					<span class="who" dir="auto">{line.mine ? 'you' : line.who}</span>
					<div class="words">
						<p dir="auto">{line.words}</p>
						{#if line.sentAs}<p class="quiet" dir="auto">as it went: {line.sentAs}</p>{/if}
						{#if line.files.length > 0}<p class="small quiet" dir="auto">
								with {line.files.join(', ')}
							</p>{/if}
						{#if line.why}<p class="fail small">{line.why}</p>{/if}
						{#if line.held}
							<p class="small">
								<span class="quiet"
									>{line.copies > 1 ? `${line.copies} copies leave` : 'Leaves'}
									{when(line.dueAt)}.</span
								>
								<button class="plain" onclick={() => callBack(line.dispatchId)}>Call back</button>
							</p>
						{/if}
					</div>
				{:else}
					<span class="when quiet">{when(line.at)}</span>
					<span class="quiet small note" dir="auto">{said(line)}</span>
				{/if}
			</li>
		{/each}
	</ol>
	{#if there?.family}
		<p class="good small" role="status">
			The family is here: what you write stands on their page at once.
		</p>
	{/if}
	{#if (there?.staff.length ?? 0) > 1}
		<p class="heed small" role="status">Also open with: {there?.staff.join(', ')}</p>
	{/if}
	{#if why}<p class="fail" role="alert">{why}</p>{/if}
	{#if mayAnswer}
		{#key talk.id}
			<AnswerBox
				{talk}
				{now}
				{zone}
				{userId}
				{translator}
				{fileLimit}
				here={there?.family ?? false}
				bind:givenBack
			/>
		{/key}
		<TalkActs {talk} {now} {zone} onact={act} />
	{:else}
		<p class="quiet">You may read here, and not answer.</p>
	{/if}
</div>

<style>
	.open {
		padding: 4px 14px 12px 36px;
		display: grid;
		gap: 8px;
	}
	ol {
		display: grid;
	}
	li {
		display: grid;
		grid-template-columns: 150px minmax(90px, 150px) minmax(0, 1fr);
		gap: 2px 12px;
		padding: 5px 0;
		align-items: baseline;
	}
	.when {
		font-size: 13px;
		color: var(--quiet);
	}
	.who,
	.words {
		overflow-wrap: anywhere;
	}
	.words p {
		white-space: pre-line;
	}
	.ours .words > p:first-child,
	.ours .who {
		color: var(--action-deep);
	}
	.note {
		grid-column: 2 / -1;
	}
	.picture img {
		display: block;
		max-width: 260px;
		max-height: 200px;
		width: auto;
		height: auto;
		border: 1px solid var(--line);
		margin: 4px 0;
	}
	.whole p {
		border-inline-start: 2px solid var(--line);
		padding-inline-start: 10px;
	}
	@media (max-width: 760px) {
		.open {
			padding: 4px 14px 12px;
		}
		li {
			grid-template-columns: auto minmax(0, 1fr);
		}
		.words,
		.note {
			grid-column: 1 / -1;
		}
	}
</style>

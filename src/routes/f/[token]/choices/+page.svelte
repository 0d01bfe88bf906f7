<script lang="ts">
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import { Button } from 'carbon-components-svelte';
	import { choicePhrases } from '$lib/core/copy/choice-phrases';
	import { familyPhrases } from '$lib/core/copy/family-phrases';
	import { languageDirection } from '$lib/core/copy/direction';
	import { nameOfLanguage } from '$lib/core/copy/language';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import type { ChoiceChange } from '$lib/server/desk/family/types';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** What somebody gets and how, to be changed by themselves; works without a script. */
	let { data, form } = $props();
	/** What was typed and could not be taken stands there still. */
	const typed = $derived((form && 'typed' in form && form.typed) || {});
	const c = $derived({ ...data.choices, ...typed });
	const w = $derived(choicePhrases(c.language));
	const nameIn = (tag: string) =>
		new Intl.DisplayNames([tag], { type: 'language' }).of(tag) ?? nameOfLanguage(tag);
	const when = (at: number) =>
		new Intl.DateTimeFormat(c.language, {
			timeZone: c.zone || data.zone,
			dateStyle: 'medium',
			timeStyle: 'short'
		}).format(at);
	/** A number stands from left to right within any words (Unicode 16.0, UAX 9 section 2.4). */
	const isolated = (text: string) =>
		`${String.fromCharCode(0x2066)}${text}${String.fromCharCode(0x2069)}`;
	/** "21:00" as the reader’s language writes it. */
	const clock = (time: string) =>
		new Intl.DateTimeFormat(c.language, { timeStyle: 'short', timeZone: 'UTC' }).format(
			Date.parse(`1970-01-01T${time}:00Z`)
		);
	const kinds = ['announcement', 'message'] as const;
	const ways = ['email', 'inbox'] as const;
	function wishWords(mark: string): string {
		const [kind, way] = mark.split(' ') as [(typeof kinds)[number], (typeof ways)[number]];
		return `${w[kind] ?? kind} ${w[way] ?? way}`;
	}
	function said({ field, before, after }: ChoiceChange): string {
		switch (field) {
			case 'wants':
				return after === null
					? fillPhrase(w.notWanted, { what: wishWords(before ?? '') })
					: fillPhrase(w.wanted, { what: wishWords(after) });
			case 'language':
				return `${w.language}: ${after === null ? '' : nameIn(after)}`;
			case 'texts':
				return after === null
					? fillPhrase(w.textsOff, { phone: before ?? '' })
					: fillPhrase(w.textsOn, { phone: after });
			case 'quiet':
				return `${w.quiet}: ${after?.replace(' to ', '–') ?? '–'}`;
			case 'digest':
				return `${w.digest}: ${after === null ? '–' : clock(after)}`;
			default:
				return `${w.zone}: ${after ?? data.zone}`;
		}
	}
</script>

<svelte:head><title>{w.title} · {data.district}</title></svelte:head>

<main class="own-page" lang={c.language} dir={languageDirection(c.language)}>
	{#if form && 'ended' in form}
		<h1>{form.ended}</h1>
	{:else}
		<p><a href="/f/{page.params.token}">{familyPhrases(c.language).back}</a></p>
		<h1>{w.title}</h1>
		{#if form && 'said' in form}<p class="good" role="status">{form.said}</p>{/if}
		{#if form && 'why' in form}<p class="fail" role="alert">{form.why}</p>{/if}
		<form method="post" action="?/save" use:enhance={keepTyped}>
			<label>
				{w.language}
				<select name="language" value={c.language}>
					{#each c.languages as tag (tag)}<option value={tag}>{nameIn(tag)}</option>{/each}
				</select>
			</label>
			<p class="quiet note">{w.languageMeans}</p>
			{#each kinds as kind (kind)}
				<fieldset>
					<legend>{w[kind]}</legend>
					{#each ways as way (way)}
						<label class="tick">
							<input
								type="checkbox"
								name="wants"
								value="{kind} {way}"
								checked={c.wants.includes(`${kind} ${way}`)}
							/>
							{w[way]}
						</label>
					{/each}
				</fieldset>
			{/each}
			<p class="quiet note">{w.waysMean} {w.urgent}</p>
			<fieldset>
				<legend>{w.quiet}</legend>
				<label>{w.from} <input type="time" name="quietFrom" value={c.quietFrom} /></label>
				<label>{w.to} <input type="time" name="quietTo" value={c.quietTo} /></label>
			</fieldset>
			<p class="quiet note">
				{fillPhrase(w.quietMeans, {
					from: clock(c.usualQuiet.text.from),
					to: clock(c.usualQuiet.text.to)
				})}
			</p>
			<label>
				{w.digest}
				<input type="time" name="digest" value={c.digest} />
			</label>
			<p class="quiet note">{w.digestMeans}{c.sharesMail ? ` ${w.digestShared}` : ''}</p>
			<label>
				{w.zone}
				<select name="zone" value={c.zone}>
					<option value=""></option>
					{#each data.zones as zone (zone)}<option value={zone}>{zone}</option>{/each}
				</select>
			</label>
			<p class="quiet note">{fillPhrase(w.zoneMeans, { zone: data.zone })}</p>
			<Button type="submit" class="wide">{w.save}</Button>
		</form>
		{#if c.phones.length > 0}
			<section>
				<h2>{w.texts}</h2>
				{#each c.phones as phone (phone.id)}
					<form method="post" action="?/texts" use:enhance>
						<input type="hidden" name="phone" value={phone.id} />
						<input type="hidden" name="on" value={phone.on ? 'no' : 'yes'} />
						<p>
							{fillPhrase(phone.on ? w.textsOn : w.textsOff, {
								phone: isolated(phone.value)
							})}
						</p>
						<Button type="submit" kind="tertiary" class="wide"
							>{phone.on ? w.stopTexts : w.startTexts}</Button
						>
						{#if form && 'asked' in form && form.asked === phone.id}
							<p class="good" role="status">
								{fillPhrase(w.textsAsked, { phone: isolated(phone.value) })}
							</p>
						{/if}
					</form>
				{/each}
			</section>
		{/if}
		{#if c.changes.length > 0}
			<section>
				<h2>{w.changes}</h2>
				<ul>
					{#each c.changes as change, i (i)}
						<li>
							{said(change)}
							<span class="quiet">{change.own === 1 ? w.you : w.school}, {when(change.at)}</span>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		<section>
			<h2>{w.notForMe}</h2>
			<p class="quiet">{w.notForMeMeans}</p>
			<!-- What is asked for anew is ended: the page stays as it is and says so. -->
			<form
				method="post"
				action="?/end"
				use:enhance={() =>
					({ update }) =>
						update({ invalidateAll: false })}
			>
				<Button type="submit" kind="danger-tertiary" class="wide">{w.endLink}</Button>
			</form>
		</section>
	{/if}
</main>

<style>
	form,
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 10px;
	}
	section {
		border-top: 1px solid var(--line);
		padding-top: 14px;
	}
	label {
		display: grid;
		gap: 4px;
	}
	fieldset {
		min-width: 0;
		border: 1px solid var(--line);
		padding: 8px 12px 10px;
		display: flex;
		flex-wrap: wrap;
		gap: 6px 20px;
	}
	.tick {
		display: flex;
		align-items: center;
		gap: 8px;
		min-height: 44px;
	}
	.tick input {
		width: 22px;
		height: 22px;
		accent-color: var(--action);
	}
	.note {
		font-size: 15px;
	}
	li {
		padding: 6px 0;
		border-top: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
</style>

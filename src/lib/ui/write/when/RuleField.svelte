<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';
	import type { RepetitionRead } from '$lib/core/time/rule-of';
	import type { When } from '$lib/core/time/timing';
	import { dateOrder } from '../../parts/date-order';

	/** A repetition as it is typed, and as it was understood. */
	type Round = Extract<When, { kind: 'round' }>;
	let {
		when,
		typed = $bindable(null),
		unread = $bindable(false),
		onchange
	}: {
		when: Round;
		/** What stands in the field and is not taken yet; null where the field says what was taken. */
		typed: string | null;
		/** Whether what stands in the field cannot be read. */
		unread: boolean;
		onchange: (next: Round) => void;
	} = $props();

	let why = $state('');
	let said = $state('');
	let choices = $state.raw<readonly RepetitionRead[]>([]);
	$effect(() => {
		const { rule, except } = when;
		if (rule === '') said = '';
		else
			void import('$lib/core/time/rule-of').then((m) => (said = m.repetitionWords(rule, except)));
	});
	const reader = () => import('$lib/core/time/read-rule');
	async function takeRule(text: string, ended: boolean) {
		typed = text;
		unread = true;
		const { readRule } = await reader();
		// A later key has come meanwhile.
		if (typed !== text) return;
		const read = readRule(text, when.first, dateOrder());
		why = read.ok || !ended ? '' : read.why;
		choices = read.ok || !ended ? [] : read.choices;
		unread = !read.ok;
		if (read.ok) setRule(read, ended);
	}
	function setRule(read: RepetitionRead, ended: boolean) {
		unread = false;
		if (ended) {
			typed = null;
			why = '';
			choices = [];
		}
		const first = `${read.starts ?? when.first.slice(0, 10)}T${read.time ?? when.first.slice(11)}`;
		const offDays = read.schoolDays && when.offDays === 'send' ? 'skip' : when.offDays;
		onchange({
			...(when.feed ? { feed: when.feed } : {}),
			kind: 'round',
			first,
			rule: read.rule,
			offDays,
			...(read.except.length > 0 ? { except: [...read.except] } : {})
		});
	}
</script>

<div class="rule">
	<TextInput
		size="sm"
		labelText="Repeats"
		placeholder="every tuesday until june 11, 2027"
		value={typed ?? said}
		invalid={why !== ''}
		invalidText={why}
		autocomplete="off"
		on:input={(e) => void takeRule(String(e.detail ?? ''), false)}
		on:change={(e) => {
			const text = String(e.detail ?? '');
			if (typed !== null || text !== said) void takeRule(text, true);
		}}
	/>
	{#each choices as choice (choice.rule)}
		<button type="button" class="plain" onclick={() => setRule(choice, true)}>{choice.words}</button
		>
	{/each}
</div>

<style>
	.rule {
		width: 300px;
	}
</style>

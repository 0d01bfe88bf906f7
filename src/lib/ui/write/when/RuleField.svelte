<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';
	import type { RepetitionRead } from '$lib/core/time/rule-of';
	import type { When } from '$lib/core/time/timing';
	import { dateOrder } from '../../parts/date-order';

	/** A repetition as it is typed, and as it was understood. */
	type Round = Extract<When, { kind: 'round' }>;
	let {
		when,
		unread = $bindable(false),
		onchange
	}: {
		when: Round;
		/** Whether what stands in the field cannot be read. */
		unread: boolean;
		onchange: (next: Round) => void;
	} = $props();

	let ruleTyped = $state<string | null>(null);
	let ruleWhy = $state('');
	let ruleSaid = $state('');
	let ruleChoices = $state.raw<readonly RepetitionRead[]>([]);
	$effect(() => {
		const { rule, except } = when;
		if (rule === '') ruleSaid = '';
		else
			void import('$lib/core/time/rule-of').then(
				(m) => (ruleSaid = m.repetitionWords(rule, except))
			);
	});
	const reader = () => import('$lib/core/time/read-rule');
	async function takeRule(text: string, ended: boolean) {
		ruleTyped = text;
		unread = true;
		const { readRule } = await reader();
		// A later key has come meanwhile.
		if (ruleTyped !== text) return;
		const read = readRule(text, when.first, dateOrder());
		ruleWhy = read.ok || !ended ? '' : read.why;
		ruleChoices = read.ok || !ended ? [] : read.choices;
		unread = !read.ok;
		if (read.ok) setRule(read, ended);
	}
	function setRule(read: RepetitionRead, ended: boolean) {
		unread = false;
		if (ended) {
			ruleTyped = null;
			ruleWhy = '';
			ruleChoices = [];
		}
		const first = `${read.starts ?? when.first.slice(0, 10)}T${read.time ?? when.first.slice(11)}`;
		const offDays = read.schoolDays && when.offDays === 'send' ? 'skip' : when.offDays;
		onchange({
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
		value={ruleTyped ?? ruleSaid}
		invalid={ruleWhy !== ''}
		invalidText={ruleWhy}
		autocomplete="off"
		on:input={(e) => void takeRule(String(e.detail ?? ''), false)}
		on:change={(e) => {
			const text = String(e.detail ?? '');
			if (ruleTyped !== null || text !== ruleSaid) void takeRule(text, true);
		}}
	/>
	{#each ruleChoices as choice (choice.rule)}
		<button type="button" class="plain" onclick={() => setRule(choice, true)}>{choice.words}</button
		>
	{/each}
</div>

<style>
	.rule {
		width: 300px;
	}
</style>

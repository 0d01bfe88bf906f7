<script lang="ts">
	import {
		Button,
		Checkbox,
		NumberInput,
		Select,
		SelectItem,
		TextInput
	} from 'carbon-components-svelte';
	import { ways as allWays, type Way } from '$lib/core/roster/way';
	import { turnsInUse, type Turn } from '$lib/core/plan/turns';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Whether the chosen ways are used at once, or one after another for those who have not read. */
	let { sheet }: { sheet: Sheet } = $props();

	const used = $derived(turnsInUse(sheet.turns, sheet.ways));
	const waiting = $derived(new Set(used.flatMap((t) => t.ways)));
	const first = $derived(allWays.filter((w) => sheet.ways.includes(w) && !waiting.has(w)));
	const usual: Turn['after'] = { kind: 'time', time: '17:00' };

	function setInTurn(on: boolean) {
		if (!on) {
			sheet.turns = [];
			return;
		}
		// Text costs most and disturbs most: it is kept for the last (common practice).
		const last: Way = sheet.ways.includes('text') ? 'text' : sheet.ways.at(-1)!;
		sheet.turns = [{ ways: [last], after: usual }];
	}
	const change = (i: number, part: Partial<Turn>) =>
		(sheet.turns = used.map((t, n) => (n === i ? { ...t, ...part } : t)));
	/** A way has one turn: it is taken out of the one it was in. */
	const setWay = (i: number, way: Way) =>
		(sheet.turns = used
			.map((t, n) =>
				n === i ? { ...t, ways: [way] } : { ...t, ways: t.ways.filter((w) => w !== way) }
			)
			.filter((t) => t.ways.length > 0));
	const more = $derived(first.length > 1 && used.length > 0 && used.length < 2);
</script>

{#if sheet.chases !== null && sheet.ways.length > 1}
	<Checkbox
		labelText="Each by one way: the one tried least so far"
		checked={sheet.leastTried}
		on:check={(e) => (sheet.leastTried = e.detail)}
	/>
{/if}
{#if sheet.ways.length > 1 && !(sheet.chases !== null && sheet.leastTried)}
	<div class="turns">
		<Select
			inline
			size="sm"
			labelText="Ways are used"
			selected={used.length > 0 ? 'turn' : 'once'}
			on:update={(e) => setInTurn(e.detail === 'turn')}
		>
			<SelectItem value="once" text="all at once" />
			<SelectItem value="turn" text="in turn" />
		</Select>
		{#if used.length > 0}
			<span class="small"><b>{first.join(' and ')}</b> first</span>
			{#each used as turn, i (i)}
				<span class="turn small">
					<span>then</span>
					<Select
						inline
						size="sm"
						labelText="Way of turn {i + 2}"
						hideLabel
						selected={turn.ways[0]}
						on:update={(e) => setWay(i, e.detail as Way)}
					>
						{#each sheet.ways as way (way)}
							<SelectItem
								value={way}
								text={way}
								disabled={way !== turn.ways[0] && first.length === 1 && first[0] === way}
							/>
						{/each}
					</Select>
					<span>to those who have not read</span>
					<Select
						inline
						size="sm"
						labelText="When turn {i + 2} comes"
						hideLabel
						selected={turn.after.kind}
						on:update={(e) =>
							change(i, {
								after: e.detail === 'time' ? usual : { kind: 'minutes', minutes: 120 }
							})}
					>
						<SelectItem value="time" text="by" />
						<SelectItem value="minutes" text="within" />
					</Select>
					{#if turn.after.kind === 'time'}
						<TextInput
							size="sm"
							type="time"
							labelText="Time of turn {i + 2}"
							hideLabel
							value={turn.after.time}
							on:change={(e) => {
								const time = String(e.detail ?? '');
								if (/^\d\d:\d\d$/.test(time)) change(i, { after: { kind: 'time', time } });
							}}
						/>
					{:else}
						<NumberInput
							size="sm"
							hideSteppers
							labelText="Minutes of turn {i + 2}"
							hideLabel
							min={5}
							max={20160}
							value={turn.after.minutes}
							on:change={(e) => {
								const minutes = Math.round(Number(e.detail));
								if (minutes >= 5 && minutes <= 20160)
									change(i, { after: { kind: 'minutes', minutes } });
							}}
						/>
						<span>minutes</span>
					{/if}
				</span>
			{/each}
			{#if more}
				<Button
					kind="ghost"
					size="small"
					on:click={() => {
						const way = first.at(-1)!;
						sheet.turns = [...used, { ways: [way], after: { kind: 'minutes', minutes: 1440 } }];
					}}>another turn</Button
				>
			{/if}
		{/if}
	</div>
{/if}

<style>
	.turns,
	.turn {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 8px;
	}
	.turns :global(.bx--form-item) {
		flex: none;
	}
	.turns :global(input) {
		width: 128px;
	}
</style>

<script lang="ts">
	import { enhance } from '$app/forms';
	import {
		Button,
		InlineNotification,
		Select,
		SelectItem,
		TextInput
	} from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import Failing from '$lib/ui/stand-ins/Failing.svelte';
	import Words from '$lib/ui/stand-ins/Words.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	let { data, form } = $props();
	const view = $derived(data.view);
	// svelte-ignore state_referenced_locally
	let address = $state(data.search);
	const words: Record<string, string> = {
		refuse: 'refused at once',
		return: 'taken, then returned',
		later: 'not taking mail now',
		full: 'full for now',
		dead: 'not in service',
		off: 'off too long',
		busy: 'busy for now'
	};
	const options = $derived(
		address.startsWith('+')
			? ['dead', 'off', 'refuse', 'busy']
			: ['refuse', 'return', 'later', 'full']
	);
</script>

<svelte:head><title>Stand-ins · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head">
		<div>
			<h1>Stand-ins</h1>
			<p class="quiet">
				Outside services of the demo: what arrived in the mailboxes and on the phones, and what
				fails there.
			</p>
		</div>
		<form method="get" class="search">
			<TextInput
				size="sm"
				name="to"
				labelText="One mailbox or phone"
				value={data.search}
				placeholder="an address or a number"
			/>
			<Button type="submit" size="small" kind="tertiary">Show</Button>
			{#if data.search}<a href="/stand-ins">all</a>{/if}
		</form>
	</div>
	<form method="post" action="?/fault" use:enhance={keepTyped} class="fault">
		<TextInput size="sm" name="address" labelText="Mailbox or phone" bind:value={address} />
		<Select size="sm" name="fault" labelText="From now on">
			<SelectItem value="works" text="works" />
			{#each options as fault (fault)}<SelectItem
					value={fault}
					text={words[fault] ?? fault}
				/>{/each}
		</Select>
		<Button type="submit" size="small">Set</Button>
		<span role="status">
			{#if form && 'why' in form}<span class="fail">{form.why}</span>{/if}
			{#if form && 'done' in form}<span class="good">Set for {form.done}.</span>{/if}
		</span>
	</form>

	<form method="post" action="?/say" use:enhance={keepTyped} class="fault">
		<TextInput size="sm" name="phone" labelText="A phone" placeholder="+12075550143" />
		<TextInput size="sm" name="text" labelText="sends a text" placeholder="STOP" />
		<Button type="submit" size="small">Send it</Button>
		<span role="status"
			>{#if form && 'sent' in form}<span class="good">Sent from {form.sent}.</span>{/if}</span
		>
	</form>

	<div class="two">
		<section>
			<h2>
				<WayMark way="email" word />
				{view.mail ? `${view.mail.count} letters in the mailhouse` : ''}
			</h2>
			{#if !view.mail}
				<InlineNotification
					kind="warning"
					lowContrast
					hideCloseButton
					title="The mailhouse does not answer."
				/>
			{:else}
				<Failing
					what="mailboxes"
					faults={view.mail.faults.map((f) => ({ address: f.mailbox, fault: f.fault }))}
					{words}
					onpick={(picked) => (address = picked)}
				/>
				{#each view.mail.letters as letter (letter.number)}
					<article>
						<div class="addr">
							<span class="mono">{letter.to}</span><span class="quiet small"
								>{nearTime(Date.parse(letter.date), data.frame!.now, data.frame!.zone)}</span
							>
						</div>
						<div class="low">
							<b dir="auto">{letter.subject}</b>
							{#if letter.repeat}<span class="small heed">not put in the mailbox</span>{/if}
							<Words text={letter.text} />
							<details>
								<summary class="small">Answer it, as whoever reads there</summary>
								<form method="post" action="?/answer" use:enhance class="answer">
									<input type="hidden" name="number" value={letter.number} />
									<TextInput size="sm" name="text" labelText="What they write" />
									<Button type="submit" size="small" kind="tertiary">Send it</Button>
									{#if form && 'answered' in form && form.answered === letter.number}<span
											class="good small"
											role="status">Sent.</span
										>{/if}
								</form>
							</details>
						</div>
					</article>
				{:else}
					<p class="quiet">No letters{data.search ? ` for ${data.search}` : ' yet'}.</p>
				{/each}
			{/if}
		</section>
		<section>
			<h2>
				<WayMark way="text" word />
				{view.phone ? `${view.phone.count} texts at the exchange` : ''}
			</h2>
			{#if !view.phone}
				<InlineNotification
					kind="warning"
					lowContrast
					hideCloseButton
					title="The text exchange does not answer."
				/>
			{:else}
				<Failing
					what="phones"
					faults={view.phone.faults.map((f) => ({ address: f.phone, fault: f.fault }))}
					{words}
					onpick={(picked) => (address = picked)}
				/>
				{#each view.phone.texts as text (text.number)}
					<article>
						<div class="addr">
							<span class="mono">{text.to}</span>{#if !text.arrived}<span class="small fail"
									>did not arrive</span
								>{/if}
						</div>
						<div class="low"><Words text={text.text} /></div>
					</article>
				{:else}
					<p class="quiet">No texts{data.search ? ` for ${data.search}` : ' yet'}.</p>
				{/each}
			{/if}
		</section>
	</div>
</div>

<style>
	.answer {
		display: grid;
		gap: 6px;
		justify-items: start;
	}
	.search {
		flex-wrap: wrap;
		min-width: min(460px, 100%);
	}
	.search,
	.fault {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: flex-end;
	}
	.search :global(.bx--form-item),
	.fault :global(.bx--form-item) {
		flex: 0 1 280px;
	}
	.fault {
		border: 1px solid var(--line);
		background: var(--sheet);
		padding: 10px 14px;
	}
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
		gap: 24px;
		align-items: start;
	}
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
		/* An address of a link is one long word. */
		overflow-wrap: anywhere;
	}
	article {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		font-size: 13px;
	}
	.addr {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		padding: 4px 10px;
		border-bottom: 1px dashed var(--dash);
	}
	.low {
		padding: 6px 10px 8px;
	}
	@media (max-width: 900px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>

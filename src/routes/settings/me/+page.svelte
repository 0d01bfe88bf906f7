<script lang="ts">
	import { enhance } from '$app/forms';
	import {
		Button,
		InlineNotification,
		PasswordInput,
		RadioButton,
		RadioButtonGroup,
		TextInput
	} from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';

	/** How one signs in: password, second factor, and the browsers that are signed in. */
	let { data, form } = $props();
	const own = $derived(data.own);
	const zone = $derived(data.frame!.zone);
	const others = $derived(own.sessions.filter((s) => !s.here).length);
</script>

<svelte:head><title>Your sign-in · Idle Courier</title></svelte:head>

{#snippet came(part: string)}
	{#if form?.part === part && form.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{:else if form?.part === part && form.said}
		<p class="good" role="status">{form.said}</p>
	{/if}
{/snippet}

<h1>Your sign-in</h1>
<p class="quiet">Your user name is <span class="mono">{own.userName}</span>.</p>
{#if own.must}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="A second factor is asked for of your role."
		subtitle="Set it up below; until then nothing else opens."
	/>
{/if}

<section aria-labelledby="factor">
	<h2 id="factor">Second factor</h2>
	{@render came('factor')}
	{#if form?.part === 'factor' && form.codes && form.codes.length > 0}
		<div class="codes">
			<p>
				<b>Print these, or write them down.</b> Each stands in once for a code of your app, if your phone
				is lost. They are shown this once.
			</p>
			<ol class="mono">
				{#each form.codes as code (code)}<li>{code}</li>{/each}
			</ol>
		</div>
	{/if}
	{#if own.factor}
		<p>
			It is <b>on</b>: after your password a code from your app is asked for. {own.codesLeft} of the codes
			on your paper {own.codesLeft === 1 ? 'is' : 'are'} still good.
		</p>
		<form method="post" action="?/codes" class="row" use:enhance>
			<TextInput
				size="sm"
				name="code"
				labelText="Code from your app"
				autocomplete="one-time-code"
			/>
			<Button type="submit" size="small" kind="tertiary">New codes for paper</Button>
			<Button type="submit" size="small" kind="danger-tertiary" formaction="?/off"
				>Turn it off</Button
			>
		</form>
	{:else if own.begun}
		<div class="begun">
			<svg
				viewBox="0 0 {own.begun.square.side} {own.begun.square.side}"
				width="190"
				height="190"
				role="img"
				aria-label="A picture that your app’s camera reads"
			>
				<rect width="100%" height="100%" fill="#fff" />
				<path d={own.begun.square.path} fill="#000" />
			</svg>
			<div>
				<p>
					Point the camera of an app for one-time codes at the picture, or write this into it:
					<span class="mono secret">{own.begun.secret}</span>
				</p>
				<form method="post" action="?/confirm" class="row" use:enhance>
					<TextInput
						size="sm"
						name="code"
						labelText="The six figures it shows now"
						autocomplete="one-time-code"
						inputmode="numeric"
					/>
					<Button type="submit" size="small">Turn it on</Button>
				</form>
			</div>
		</div>
	{:else}
		<p>
			It is <b>off</b>: whoever learns your password comes in. With it, a code from an app on your
			phone is asked for as well.
		</p>
		<form method="post" action="?/begin" use:enhance>
			<Button type="submit" size="small" kind="tertiary">Set it up</Button>
		</form>
	{/if}
</section>

<section aria-labelledby="password">
	<h2 id="password">Password</h2>
	{@render came('password')}
	{#if own.hasPassword}
		<form method="post" action="?/password" class="fields" use:enhance>
			<PasswordInput
				size="sm"
				name="before"
				labelText="The one you have now"
				autocomplete="current-password"
				tooltipAlignment="end"
				required
			/>
			<PasswordInput
				size="sm"
				name="password"
				labelText="New password"
				helperText="{own.least} characters or more. A few words in a row are easy to keep in mind; nothing else is asked of it."
				autocomplete="new-password"
				tooltipAlignment="end"
				required
			/>
			<PasswordInput
				size="sm"
				name="again"
				labelText="The same once more"
				autocomplete="new-password"
				tooltipAlignment="end"
				required
			/>
			<Button type="submit" size="small">Change it, and end other sessions</Button>
		</form>
	{:else}
		<p>You come in by the district’s own sign-in; no password of yours is kept here.</p>
	{/if}
</section>

<section aria-labelledby="sessions">
	<h2 id="sessions">Where you are signed in</h2>
	{@render came('sessions')}
	<ul class="sessions">
		{#each own.sessions as s (s.id)}
			<li>
				<span>
					<b>{s.browser || 'an unknown browser'}</b>
					{#if s.here}<span class="good">this one</span>{/if}
					<span class="small quiet under"
						>from {s.address || 'an unknown address'}; signed in {nearTime(
							s.beganAt,
							data.frame!.now,
							zone
						)}, last used
						{nearTime(s.seenAt, data.frame!.now, zone)}; session {s.id}</span
					>
				</span>
				{#if !s.here}
					<form method="post" action="?/end" use:enhance>
						<input type="hidden" name="id" value={s.id} />
						<Button type="submit" size="small" kind="ghost">End it</Button>
					</form>
				{/if}
			</li>
		{/each}
	</ul>
	{#if others > 0}
		<form method="post" action="?/end" use:enhance>
			<input type="hidden" name="id" value="others" />
			<Button type="submit" size="small" kind="tertiary"
				>End {others === 1 ? 'the other session' : `the other ${others} sessions`}</Button
			>
		</form>
	{/if}
</section>

<section aria-labelledby="look">
	<h2 id="look">How pages look</h2>
	{@render came('look')}
	<form
		method="post"
		action="?/look"
		use:enhance={({ formData }) => {
			// At once; a page that is loaded later brings it along.
			document.documentElement.dataset.look = String(formData.get('look'));
			return ({ update }) => update({ reset: false });
		}}
	>
		<RadioButtonGroup name="look" legendText="In this browser" selected={data.look}>
			<RadioButton value="device" labelText="As the device is set" />
			<RadioButton value="paper" labelText="On paper" />
			<RadioButton value="dark" labelText="In the dark" />
		</RadioButtonGroup>
		<p class="row"><Button type="submit" size="small" kind="tertiary">Look like this</Button></p>
	</form>
</section>

<style>
	section {
		border-top: 1px solid var(--line);
		margin-top: 18px;
		padding-top: 14px;
		display: grid;
		gap: 10px;
		justify-items: start;
		max-width: 760px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: flex-end;
	}
	.fields {
		display: grid;
		gap: 12px;
		justify-items: start;
		width: min(100%, 420px);
	}
	.fields > :global(.bx--form-item) {
		width: 100%;
	}
	.begun {
		display: flex;
		flex-wrap: wrap;
		gap: 18px;
		align-items: center;
	}
	.begun > div {
		display: grid;
		gap: 12px;
		flex: 1 1 300px;
	}
	svg {
		border: 1px solid var(--line);
	}
	.secret {
		display: block;
		margin-top: 4px;
		overflow-wrap: anywhere;
	}
	.codes {
		border: 1px dashed var(--line-strong);
		padding: 12px 16px;
	}
	.codes ol {
		display: grid;
		grid-template-columns: repeat(2, auto);
		gap: 4px 28px;
		margin-top: 8px;
		list-style: none;
	}
	.sessions {
		width: 100%;
	}
	.sessions li {
		display: flex;
		justify-content: space-between;
		gap: 12px;
		padding: 8px 0;
		border-bottom: 1px solid var(--line);
	}
	.under {
		display: block;
	}
</style>

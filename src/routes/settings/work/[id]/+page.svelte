<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import RoleFields from '$lib/ui/settings/RoleFields.svelte';
	import RoleWords from '$lib/ui/settings/RoleWords.svelte';

	/** One who works here: what as, what they can do and see, and how they come in. */
	let { data, form } = $props();
	const a = $derived(data.account);
	const zone = $derived(data.frame!.zone);
	const invited = $derived(a.state === 'invited' || a.state === 'invitation-over');
	const number = (n: number, one: string, more: string) =>
		`${n.toLocaleString('en')} ${n === 1 ? one : more}`;
</script>

<svelte:head><title>{a.name} · People who work here · Idle Courier</title></svelte:head>

<p class="quiet"><a href="/settings/work">People who work here</a></p>
<h1 dir="auto">{a.name}</h1>
<p class="quiet">
	{#if a.userName}signs in as <span class="mono">{a.userName}</span>{/if}
	{#if a.state === 'invited'}was invited and has not come yet{/if}
	{#if a.state === 'invitation-over'}<span class="fail">was invited; the link’s day is over</span
		>{/if}
	{#if a.state === 'closed'}<span class="fail">The account is closed.</span>{/if}
	{#if a.state === 'gone'}<span class="fail">Is no longer at the schools, so nobody comes in.</span
		>{/if}
	{#if a.email}· <span class="mono">{a.email}</span>{:else}·
		<span class="fail">no mail address: no letter reaches them</span>{/if}
	· <a href="/people/{a.personId}">their page in People</a>
</p>
{#if form?.why}<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{:else if form?.said}<p class="good" role="status">{form.said}</p>{/if}

<div class="with-aside" style:--aside="300px">
	<div class="parts">
		<section aria-labelledby="roles">
			<h2 id="roles">Here as</h2>
			<ul class="lines">
				{#each a.roles as r (r.id)}
					<li>
						<RoleWords line={r} {zone} />
						{#if r.state !== 'over'}
							<form method="post" action="?/end" use:enhance>
								<input type="hidden" name="role" value={r.id} />
								<Button type="submit" size="small" kind="ghost"
									>{r.state === 'coming' ? 'Take it away' : 'End it now'}</Button
								>
							</form>
						{/if}
					</li>
				{:else}<li class="quiet">No role: nobody comes in by this account.</li>{/each}
			</ul>
		</section>
		<section aria-labelledby="can">
			<h2 id="can">Can, today</h2>
			{#if a.rights.length === 0}<p class="quiet">Nothing.</p>{/if}
			<ul class="lines">
				{#each a.rights as r (r.right)}
					<li><span>{r.words} <span class="quiet">{r.where}</span></span></li>
				{/each}
			</ul>
		</section>
		{#if a.sees}
			<section aria-labelledby="sees">
				<h2 id="sees">Sees, today</h2>
				<p>
					{number(a.sees.students, 'student', 'students')}, {number(
						a.sees.people,
						'person',
						'people'
					)} in all,
					{number(a.sees.dispatches, 'dispatch', 'dispatches')} and
					{number(a.sees.conversations, 'conversation', 'conversations')}; writes to
					{number(a.sees.sections, 'section', 'sections')}{a.sees.named.length > 0 ? ':' : '.'}
				</p>
				{#if a.sees.named.length > 0}
					<p class="small quiet" dir="auto">
						{a.sees.named.join(', ')}{a.sees.sections > a.sees.named.length
							? ` and ${(a.sees.sections - a.sees.named.length).toLocaleString('en')} more`
							: ''}
					</p>
				{/if}
			</section>
		{/if}
		<section aria-labelledby="in">
			<h2 id="in">Coming in</h2>
			<p>
				{#if invited}
					No password has been set yet.
				{:else}
					Second factor: <b>{a.factor ? 'on' : 'off'}</b>. {a.sessions.length === 0
						? 'Signed in nowhere.'
						: `Signed in with ${a.sessions
								.slice(0, 4)
								.map(
									(s) =>
										`${s.browser || 'an unknown browser'} (${nearTime(s.seenAt, data.frame!.now, zone)})`
								)
								.join(', ')}.`}
				{/if}
			</p>
			<div class="row">
				{#if a.state === 'open' || invited}
					<form method="post" action="?/mail" use:enhance>
						<Button type="submit" size="small" kind="tertiary"
							>{invited ? 'Mail the invitation again' : 'Mail a link for a new password'}</Button
						>
					</form>
				{/if}
				{#if invited}
					<form method="post" action="?/uninvite" use:enhance>
						<Button type="submit" size="small" kind="danger-tertiary"
							>Take the invitation back</Button
						>
					</form>
				{/if}
				{#if a.sessions.length > 0}
					<form method="post" action="?/sessions" use:enhance>
						<Button type="submit" size="small" kind="tertiary">End their sessions</Button>
					</form>
				{/if}
				{#if a.outside}
					<form method="post" action="?/letgo" use:enhance>
						<Button type="submit" size="small" kind="tertiary"
							>Let go of their name at the identity provider</Button
						>
					</form>
				{/if}
				{#if a.factor && !a.self}
					<form method="post" action="?/factor" use:enhance>
						<Button type="submit" size="small" kind="tertiary">Take the second factor away</Button>
					</form>
				{/if}
				{#if a.state === 'open' && !a.self}
					<form method="post" action="?/close" use:enhance>
						<Button type="submit" size="small" kind="danger-tertiary">Close the account</Button>
					</form>
				{:else if a.state === 'closed'}
					<form method="post" action="?/open" use:enhance>
						<Button type="submit" size="small" kind="tertiary">Open the account again</Button>
					</form>
				{/if}
			</div>
		</section>
	</div>
	<aside>
		<h2>Give a role</h2>
		<form method="post" action="?/give" class="beside" use:enhance>
			<RoleFields choices={data.choices} />
			<Button type="submit" size="small" kind="tertiary">Give it</Button>
		</form>
	</aside>
</div>

<style>
	.with-aside {
		margin-top: 16px;
	}
	.parts {
		display: grid;
		gap: 18px;
		align-content: start;
	}
	.lines {
		border-top: 1px solid var(--line);
		margin-top: 6px;
	}
	.lines li {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		padding: 5px 2px;
		border-bottom: 1px solid var(--line);
		min-height: 36px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		margin-top: 8px;
	}
</style>

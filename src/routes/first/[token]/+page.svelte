<script lang="ts">
	import { onMount } from 'svelte';
	import { Button, PasswordInput, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';

	/** The first start: the district, and whoever is the first to sign in there. */
	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	const typed = form?.typed ?? {};
	let zone = $state(typed.zone ?? '');
	let clock = $state(typed.clock || '12');
	let country = $state(typed.country || 'US');
	onMount(() => {
		// Most districts are where the browser is, and write as it does.
		if (zone !== '') return;
		const { timeZone, locale } = Intl.DateTimeFormat().resolvedOptions();
		if (data.zones.includes(timeZone)) zone = timeZone;
		const { region } = new Intl.Locale(locale).maximize();
		if (data.countries.some((c) => c.value === region)) country = region!;
		const { hourCycle } = new Intl.DateTimeFormat(locale, { hour: 'numeric' }).resolvedOptions();
		clock = hourCycle?.startsWith('h2') ? '24' : '12';
	});
</script>

{#if !data.fits}
	<Door title="This address opens nothing">
		{#snippet after()}
			<p>
				It has been used, or the server was started again since: it prints another one at each start
				until the first person is in.
			</p>
			<p>If somebody works here already, <a href="/sign-in">sign in</a>.</p>
		{/snippet}
	</Door>
{:else}
	<Door title="Set up Idle Courier" why={form?.why}>
		<p>By it a district writes to its families, and sees who has read it.</p>
		<h2>The district</h2>
		<TextInput name="name" labelText="Its name" value={typed.name} maxlength={200} required />
		<Select name="zone" labelText="The zone of its clocks" bind:selected={zone}>
			{#if zone === ''}<SelectItem value="" text="Choose it" />{/if}
			{#each data.zones as name (name)}
				<SelectItem value={name} text={name.replaceAll('_', ' ')} />
			{/each}
		</Select>
		<Select name="clock" labelText="A time of day is written" bind:selected={clock}>
			<SelectItem value="12" text="2:15 pm" />
			<SelectItem value="24" text="14:15" />
		</Select>
		<Select
			name="country"
			labelText="A number without a country’s code is read as in"
			bind:selected={country}
		>
			{#each data.countries as { value, text } (value)}<SelectItem {value} {text} />{/each}
		</Select>
		<h2>You</h2>
		<p class="quiet small">You can do everything here, and invite others later.</p>
		<TextInput
			name="givenName"
			labelText="Given name"
			autocomplete="given-name"
			value={typed.givenName}
			required
		/>
		<TextInput
			name="familyName"
			labelText="Family name"
			autocomplete="family-name"
			value={typed.familyName}
			required
		/>
		<TextInput
			name="email"
			type="email"
			labelText="Mail address"
			autocomplete="email"
			value={typed.email}
			required
		/>
		<TextInput
			name="userName"
			labelText="User name, to sign in"
			autocomplete="username"
			value={typed.userName}
			maxlength={60}
			required
		/>
		<PasswordInput
			name="password"
			labelText="Password"
			helperText="{data.least} characters or more. A few words in a row are easy to keep in mind; nothing else is asked of it."
			autocomplete="new-password"
			tooltipAlignment="end"
			required
		/>
		<PasswordInput
			name="again"
			labelText="The same once more"
			autocomplete="new-password"
			tooltipAlignment="end"
			required
		/>
		<Button type="submit">Go on</Button>
	</Door>
{/if}

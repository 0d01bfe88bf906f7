<script lang="ts">
	import { emailPage } from '$lib/core/copy/email-page';
	import { colourPattern, usualColour } from '$lib/core/copy/letterhead';
	import { pictureCid } from '$lib/core/copy/picture-cid';

	/** A letter with the letterhead as its form has it now. */
	let { values, district }: { values: Readonly<Record<string, string>>; district: string } =
		$props();

	const logo = $derived.by(() => {
		const [fileId, width, height] = (values.logo ?? '').split(' ').map(Number);
		return fileId && width && height ? { fileId, width, height } : null;
	});
	const page = $derived(
		emailPage({
			...{ language: 'en', direction: 'ltr', subject: 'The last boat leaves early' },
			...{ head: district, about: 'For Ana and Rui' },
			body: '<p>On Friday the last boat leaves at noon. Whoever comes by boat is let go at half past eleven.</p>',
			lines: [],
			signature: { name: 'Whoever writes', line: district },
			...{ files: [], filesWords: '' },
			read: { words: 'Read it in your inbox and say that you have seen it', href: '#' },
			stop: { words: 'No more of these by email', href: '#' },
			dot: null,
			letterhead: {
				...{ logo, alt: district },
				colour: colourPattern.test(values.colour ?? '') ? values.colour! : usualColour,
				footer: (values.footer ?? '').trim() === '' ? [] : (values.footer ?? '').split('\n')
			}
		}).replaceAll(logo ? `cid:${pictureCid(logo.fileId)}` : ' none ', `/write/file/${logo?.fileId}`)
	);
</script>

<section aria-labelledby="preview">
	<h2 id="preview">A letter with it</h2>
	<!-- No scripts; of our own origin only so that the logo may be shown. -->
	<iframe title="A letter with this letterhead" sandbox="allow-same-origin" srcdoc={page}></iframe>
</section>

<style>
	section {
		margin-top: 14px;
	}
	h2 {
		margin-bottom: 8px;
	}
	iframe {
		width: min(100%, 720px);
		height: 540px;
		border: 1px solid var(--line);
		background: #faf7f0;
		color-scheme: light;
	}
</style>

import { sveltekit } from '@sveltejs/kit/vite';
import { optimizeCss } from 'carbon-preprocess-svelte';
import { defineConfig, type Plugin } from 'vite';

/** Carbon's style sheet names fonts on an outside host; ours are shipped, and no page asks anyone else for anything. */
const withoutOutsideFonts: Plugin = {
	name: 'without-outside-fonts',
	enforce: 'pre',
	transform(code, id) {
		if (!/carbon-components-svelte.*\.css/.test(id)) return null;
		return {
			code: code
				.replace(/@font-face\s*\{[^}]*\}/g, '')
				.replace(/font-family:[^;}]*IBM Plex Mono[^;}]*/g, 'font-family:var(--mono)')
				.replace(/font-family:[^;}]*IBM Plex[^;}]*/g, 'font-family:var(--font)'),
			map: null
		};
	}
};

export default defineConfig({
	plugins: [withoutOutsideFonts, sveltekit(), optimizeCss()],
	build: { chunkSizeWarningLimit: 1500 }
});

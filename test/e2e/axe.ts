import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';

const axeSource = readFileSync(
	createRequire(import.meta.url).resolve('axe-core/axe.min.js'),
	'utf8'
);

interface AxeResult {
	violations: { id: string; nodes: { html: string; failureSummary: string }[] }[];
}

/**
 * Brings what fades or glides to its end; what goes round for ever does not count. Brought, not waited
 * for: on a busy machine a browser without a screen may draw no frame for minutes, and then nothing ends.
 */
export async function still(page: Page): Promise<void> {
	// One expression: what a test's compiler says of named functions is not known in the page.
	await page.evaluate(async () => {
		for (;;) {
			const left = document
				.getAnimations()
				.filter(
					(a) =>
						a.playState !== 'finished' &&
						Number.isFinite(Number(a.effect?.getComputedTiming().endTime ?? 0))
				);
			if (left.length === 0) return;
			for (const a of left) a.finish();
			// What ends may begin another; what is told of its end comes between.
			await Promise.allSettled(left.map((a) => a.finished));
		}
	});
}

/** While axe-core looks nothing fades: what comes into the page meanwhile has its colours at once. */
const withoutFading = `(async () => {
	const none = new CSSStyleSheet();
	none.replaceSync('*, *::before, *::after { transition: none !important }');
	const before = document.adoptedStyleSheets;
	document.adoptedStyleSheets = [...before, none];
	try {
		return await axe.run({ resultTypes: ['violations'] });
	} finally {
		document.adoptedStyleSheets = before;
	}
})()`;

/** What axe-core (WCAG 2.2 A and AA, and good practice) has against a page as it stands once it is still: colours on their way are no colours of ours. */
export async function faults(page: Page): Promise<string[]> {
	await still(page);
	await page.evaluate(axeSource);
	const result = (await page.evaluate(withoutFading)) as AxeResult;
	return result.violations.flatMap((v) =>
		v.nodes.map(
			(n) =>
				`${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.replace(/\s+/g, ' ').slice(0, 200)}`
		)
	);
}

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
	await page.evaluate(async () => {
		const passing = () =>
			document
				.getAnimations()
				.filter((a) => Number.isFinite(Number(a.effect?.getComputedTiming().endTime ?? 0)));
		// What ends may begin another; what it told of its end comes between.
		for (let left = passing(); left.length > 0; left = passing()) {
			for (const a of left) a.finish();
			await Promise.allSettled(left.map((a) => a.finished));
		}
	});
}

/** What axe-core (WCAG 2.2 A and AA, and good practice) has against a page as it stands once it is still: colours on their way are no colours of ours. */
export async function faults(page: Page): Promise<string[]> {
	await still(page);
	await page.evaluate(axeSource);
	const result = (await page.evaluate('axe.run({ resultTypes: ["violations"] })')) as AxeResult;
	return result.violations.flatMap((v) =>
		v.nodes.map(
			(n) =>
				`${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.replace(/\s+/g, ' ').slice(0, 200)}`
		)
	);
}

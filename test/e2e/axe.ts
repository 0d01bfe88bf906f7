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

/** Waits until what fades or glides has come to its end; what goes round for ever does not count. */
export async function still(page: Page): Promise<void> {
	await page.evaluate(async () => {
		await new Promise(requestAnimationFrame);
		const passing = document
			.getAnimations()
			.filter((a) => Number.isFinite(Number(a.effect?.getComputedTiming().endTime ?? 0)));
		// One that is taken away meanwhile has ended as well.
		await Promise.all(passing.map((a) => a.finished.catch(() => {})));
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

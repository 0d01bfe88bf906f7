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

/** What axe-core (WCAG 2.2 A and AA, and good practice) has against a page as it stands. */
export async function faults(page: Page): Promise<string[]> {
	await page.evaluate(axeSource);
	const result = (await page.evaluate('axe.run({ resultTypes: ["violations"] })')) as AxeResult;
	return result.violations.flatMap((v) =>
		v.nodes.map(
			(n) =>
				`${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.replace(/\s+/g, ' ').slice(0, 200)}`
		)
	);
}

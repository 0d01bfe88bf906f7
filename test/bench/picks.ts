/**
 * How soon the tally is new after a pick, measured in the browser from the click to the changed
 * page: `picks.ts <demo|district>`. Prints one line of JSON.
 */
export {};
process.env.DEMO_SIZE = process.argv[2];
const { stack } = await import('../e2e/stack');
const { draws } = await import('../unit/random');
const { openWrite } = await import('../e2e/write-page');

const s = await stack();
const page = await s.signedIn('maren');
await openWrite(page, s.url);
// The planner reads the roster at its start; nobody writes in the first seconds after that.
await page.waitForTimeout(process.argv[2] === 'district' ? 15_000 : 3_000);
await page.evaluate(() => {
	const times: number[] = [];
	let start = 0;
	(window as unknown as { times: number[] }).times = times;
	addEventListener('click', () => (start = performance.now()), true);
	new MutationObserver(() => {
		const lands = document.querySelector('.lands')!;
		if (start === 0 || lands.getAttribute('aria-busy') !== 'false') return;
		times.push(performance.now() - start);
		start = 0;
	}).observe(document.querySelector('.lands')!, {
		attributes: true,
		attributeFilter: ['aria-busy']
	});
});
const r = draws(9);
const settled = async (n: number) => {
	await page.waitForFunction(
		(count) => (window as unknown as { times: number[] }).times.length >= count,
		n
	);
	await page.waitForTimeout(30);
};
let n = 0;
const click = async (selector: string) => {
	const all = page.locator(selector);
	await all.nth(r.int(0, (await all.count()) - 1)).evaluate((e) => (e as HTMLElement).click());
	await settled((n += 1));
};
const kind = page.locator('.from select').first();
const box = '.picker li input';
// As a coordinator picks: mostly sections, some groups and grade levels, a whole school, some taken out again.
for (let i = 0; i < 36; i += 1) await click(box);
await kind.selectOption('groups');
for (let i = 0; i < 8; i += 1) await click(box);
await kind.selectOption('grades');
for (let i = 0; i < 6; i += 1) await click(box);
await kind.selectOption('schools');
for (let i = 0; i < 4; i += 1) await click(box);
for (let i = 0; i < 6; i += 1) await click('.slips .slip button');
const usual = await page.evaluate(() => (window as unknown as { times: number[] }).times.slice());
// Then the whole district at once, and single picks on top of it.
await click('.picker .sum button');
for (let i = 0; i < 20; i += 1) await click(box);
const all = await page.evaluate(() => (window as unknown as { times: number[] }).times.slice());
const percentile = (times: number[], p: number) =>
	[...times].sort((a, b) => a - b)[Math.ceil(times.length * p) - 1]!;
const whole = all.slice(usual.length);
const people = await page.locator('.lands button.big').evaluate((b) => b.firstChild!.textContent);
process.stdout.write(
	JSON.stringify({
		picks: usual.length,
		p50: percentile(usual, 0.5),
		p95: percentile(usual, 0.95),
		wholePicks: whole.length,
		wholeP50: percentile(whole, 0.5),
		wholeP95: percentile(whole, 0.95),
		people: Number(people!.replace(/\D/g, ''))
	})
);
await s.close();
process.exit(0);

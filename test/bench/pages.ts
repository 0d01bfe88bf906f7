/**
 * How soon each place shows its first figures in the browser, demo district: from asking for the page to its first painted
 * content, which the server has written whole, and from a click on its name to its heading. `pages.ts`. Prints one line of JSON.
 */
export {};
process.env.DEMO_SIZE = 'demo';
process.env.DEMO_WEEKS = '2';
const { stack } = await import('../e2e/stack');

const s = await stack();
const page = await s.signedIn('maren');
const { id } = (await s.db.one<{ id: number }>(
	`SELECT max(id) AS id FROM dispatch WHERE state = 'sent'`
))!;
const places = {
	...{ Week: '/week', Write: '/write', Reach: '/reach' },
	...{ 'a dispatch': `/reach/${id}`, People: '/people', Replies: '/replies' }
};
const middle = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

const found: Record<string, number> = {};
for (const [name, path] of Object.entries(places)) {
	const times: number[] = [];
	for (let i = 0; i < 7; i += 1) {
		await page.goto(s.url + path);
		await page.waitForSelector('html[data-ready]');
		times.push(
			await page.evaluate(
				() => performance.getEntriesByName('first-contentful-paint')[0]!.startTime
			)
		);
	}
	found[name] = middle(times);
}
const clicked: Record<string, number> = {};
for (const name of ['Week', 'Write', 'Reach', 'People', 'Replies'] as const) {
	const times: number[] = [];
	for (let i = 0; i < 7; i += 1) {
		await page.goto(`${s.url}/settings/me`);
		await page.waitForSelector('html[data-ready]');
		times.push(
			await page.evaluate(
				async ({ path }) => {
					const link = document.querySelector<HTMLAnchorElement>(`nav a[href^="${path}"]`)!;
					const start = performance.now();
					link.click();
					while (
						!location.pathname.startsWith(path) ||
						!document.querySelector('main h1')?.textContent ||
						document.querySelector('main h1')?.textContent === 'Your sign-in'
					)
						await new Promise((go) => requestAnimationFrame(go));
					return performance.now() - start;
				},
				{ path: places[name] }
			)
		);
	}
	clicked[name] = middle(times);
}
process.stdout.write(`${JSON.stringify({ found, clicked })}\n`);
await s.close();
process.exit(0);

/**
 * What a key costs the page's own script while a text of 160 characters is written with its meter
 * open: counting, marking, what could be exchanged, keeping the sheet. Prints one line of JSON.
 */
export {};
process.env.DEMO_SIZE = 'demo';
const { stack } = await import('../e2e/stack');
const { openWrite, pick, setWay, settled } = await import('../e2e/write-page');

const s = await stack();
const page = await s.signedIn('maren');
await openWrite(page, s.url);
await pick(page, 'Homeroom 2-A');
await setWay(page, 'Text', true);
await settled(page);
await page.locator('.for').getByRole('button', { name: 'text', exact: true }).click();
await page.locator('.meter summary').click();
const field = page.getByLabel('Words of the text');
await field.fill('');
await page.evaluate(() => {
	const times: number[] = [];
	(window as unknown as { times: number[] }).times = times;
	let start = 0;
	// Once the event has come up to the window, all that it set off at once has run: microtasks run between listeners.
	addEventListener('input', () => (start = performance.now()), true);
	addEventListener('input', () => times.push(performance.now() - start));
});
const text =
	'Fog at the breakwater: the 7:20 boat leaves at 7:45, and nobody is marked late. Bring a coat, “boots” and a book for the trip; the hall opens at six - ask us.';
await field.pressSequentially(text.slice(0, 160));
const times = await page.evaluate(() => (window as unknown as { times: number[] }).times.slice());
times.sort((a, b) => a - b);
process.stdout.write(
	JSON.stringify({
		keys: times.length,
		p50: times[Math.floor(times.length / 2)],
		p95: times[Math.ceil(times.length * 0.95) - 1],
		most: times.at(-1)
	})
);
await s.close();
process.exit(0);

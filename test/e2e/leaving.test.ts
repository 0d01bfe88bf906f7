import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { stack, until, type Stack } from './stack';

describe('taking everything along', () => {
	let s: Stack;
	before(async () => void (s = await stack()));

	it('is packed while the page says how far it is, and taken once: a transfer that breaks off goes on where it was', async () => {
		const page = await s.signedIn('maren');
		await page.goto(`${s.url}/settings/leaving`);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('button', { name: 'Pack it up' }).click();
		await page.getByRole('button', { name: 'Take it' }).waitFor();
		const [file] = readdirSync(join(s.folder, 'leaving'));
		const there = readFileSync(join(s.folder, 'leaving', file!));
		expect(await page.locator('.packages li').first().innerText()).to.match(/everything/);

		const link = page.waitForRequest((r) => r.url().includes('/file?key='));
		const [download] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: 'Take it' }).click()
		]);
		const got = readFileSync(await download.path());
		expect(got.equals(there)).to.equal(true);
		const url = (await link).url();

		// In the same session, from the middle: RFC 9110 section 14.2.
		const ask = (headers: Record<string, string> = {}) =>
			page.context().request.get(url, { headers });
		const first = await ask({ range: 'bytes=0-99' });
		expect(first.status()).to.equal(206);
		const tag = first.headers().etag!;
		const rest = await ask({ range: 'bytes=100-', 'if-range': tag });
		expect(rest.headers()['content-range']).to.equal(
			`bytes 100-${there.length - 1}/${there.length}`
		);
		expect(Buffer.concat([await first.body(), await rest.body()]).equals(there)).to.equal(true);
		expect((await ask({ range: 'bytes=5-9', 'if-range': '"another"' })).status()).to.equal(200);
		expect((await ask({ range: `bytes=${there.length}-` })).status()).to.equal(416);

		// Another session of the same person, and somebody else.
		for (const name of ['maren', 'ines']) {
			const other = await s.signedIn(name);
			expect((await other.context().request.get(url)).status(), name).to.equal(404);
			await other.context().close();
		}
		await page.reload();
		expect(await page.getByRole('button', { name: 'Take it' }).count()).to.equal(0);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('button', { name: 'Delete' }).click();
		await until(
			'its file is gone',
			async () => readdirSync(join(s.folder, 'leaving')).length === 0
		);
		expect((await ask()).status()).to.equal(404);
		await page.context().close();
	});

	it('whoever does not look after the whole district finds neither the chapter nor the page', async () => {
		const page = await s.signedIn('ines');
		await page.goto(`${s.url}/settings/me`);
		expect(await page.getByRole('link', { name: 'Taking everything along' }).count()).to.equal(0);
		const answer = await page.goto(`${s.url}/settings/leaving`);
		expect(answer!.status()).to.equal(403);
		await page.context().close();
	});
});

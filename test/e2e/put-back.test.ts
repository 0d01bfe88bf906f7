import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { stack, until, type Stack } from './stack';

describe('a backup that was put back, and a key that is not the right one', () => {
	let s: Stack;
	let page: Page;
	const key = () => join(s.folder, 'link.key');
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	for (const [what, spoil, said] of [
		['empty', () => writeFileSync(key(), ''), /link\.key cannot be used: it is empty\.\s+Put back/],
		['garbled', () => writeFileSync(key(), 'half a ke'), /link\.key cannot be used: it is not 43/],
		[
			'missing',
			() => renameSync(key(), `${key()}.away`),
			/link\.key is missing, and this database has sent links/
		]
	] as const) {
		it(`neither process starts with a link key that is ${what}, and both say what to do`, async () => {
			const whole = readFileSync(key());
			await s.stop('courier');
			await s.stop('web');
			spoil();
			try {
				for (const name of ['web', 'courier'] as const) {
					const { code, said: words } = await s.refused(name);
					expect([name, code]).to.deep.equal([name, 1]);
					expect(words).to.match(said);
					// Words for whoever runs it, and no stack of calls.
					expect(words).not.to.match(/\n\s+at /);
				}
			} finally {
				writeFileSync(key(), whole, { mode: 0o600 });
				await s.mend();
			}
		});
	}

	it('lets nothing leave until the district office has looked, says so where it matters, and goes on when told', async () => {
		await s.stop('courier');
		// As an older database has it: copies have left since that it does not know of.
		await s.db.run('UPDATE mark SET number = number - 1');
		await s.start('courier');
		await until(
			'it is noticed',
			async () =>
				(await s.db.one<{ held: number }>('SELECT held IS NOT NULL AS held FROM mark'))!.held === 1
		);
		await page.goto(`${s.url}/week`);
		await page.getByText('Nothing leaves: this database was put back or copied.').waitFor();
		// Who may see it is told; anybody else only that the web server is up.
		expect(await (await fetch(`${s.url}/health`)).json()).to.deep.equal({ web: 'up' });
		const health = (await (await page.request.get(`${s.url}/health`)).json()) as {
			courier: { held: boolean };
		};
		expect(health.courier.held).to.equal(true);
		const office = await s.signedIn('ines');
		await office.goto(`${s.url}/courier`);
		await office.getByText('The district office decides what happens with them.').waitFor();
		expect(await office.locator('form button[name=due]').count()).to.equal(0);
		await office.context().close();
		await page.goto(`${s.url}/courier`);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('heading', { name: 'Nothing leaves until somebody has looked' }).waitFor();
		await page.locator('button[name=due][value=send]').click();
		await page.getByText(/^Copies leave again/).waitFor();
		expect(await page.getByText('Nothing leaves until somebody').count()).to.equal(0);
		const { held } = (await s.db.one<{ held: string | null }>('SELECT held FROM mark'))!;
		expect(held).to.equal(null);
		// Started again, it is the same database: nothing is held.
		await s.stop('courier');
		await s.start('courier');
		await until(
			'the courier is at work',
			async () =>
				(
					(await (await page.request.get(`${s.url}/health`)).json()) as {
						courier: { atWork: boolean };
					}
				).courier.atWork
		);
		expect((await s.db.one<{ held: string | null }>('SELECT held FROM mark'))!.held).to.equal(null);
	});
});

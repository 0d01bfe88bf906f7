import { join } from 'node:path';
import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { csvText, putZip, smallSchool } from '../unit/server/desk/roster/roster-files';
import { emptyStack, json, until, type Stack } from './stack';
import { sendSheet, setHold, settled, tally, write } from './write-page';

describe('from an empty data folder', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await emptyStack();
		page = await s.signedIn('maren');
	});
	after(() => s.close());
	const open = async (path: string) => {
		await page.goto(`${s.url}${path}`);
		await page.waitForSelector('html[data-ready]');
	};

	it('every place opens; People and Write say that nobody is here yet, and where the roster is brought', async () => {
		for (const place of ['/week', '/reach', '/people', '/replies', '/write']) {
			await open(place);
			expect(await page.locator('body').innerText(), place).not.to.contain('went wrong');
			if (place === '/people' || place === '/write')
				await page
					.locator('main a[href="/people/rosters"]', { hasText: 'Bring a roster' })
					.waitFor();
		}
		expect(s.consoleErrors).to.deep.equal([]);
	});

	it('a roster is brought, custody is said, it comes in, and a section’s families are written to', async () => {
		const path = join(s.folder, 'harbor.zip');
		await putZip(
			path,
			Object.fromEntries(Object.entries(smallSchool()).map(([name, rows]) => [name, csvText(rows)]))
		);
		await open('/people/rosters');
		await page.getByLabel('Where it comes from').fill('Harbor Office');
		await page.setInputFiles('input[type=file]', {
			...{ name: 'harbor.zip', mimeType: 'application/zip' },
			buffer: readFileSync(path)
		});
		await page.waitForURL(/\/people\/rosters\/\d+/);
		await page.locator('summary', { hasText: 'Say it now' }).click();
		await page.locator('form[action="?/custody"] label', { hasText: 'custody' }).first().click();
		await page.getByRole('button', { name: 'Write it down, look again' }).click();
		await page.locator('summary', { hasText: 'Custody of new contacts is said' }).waitFor();
		await page.getByRole('button', { name: /^Take in \d+ new, 0 changed, 0 gone$/ }).click();
		await page.getByText('It came in').waitFor();

		await open('/people');
		await page.locator('main input').first().fill('homeroom 4-a');
		await page.locator('.found li', { hasText: 'Homeroom 4-A' }).first().waitFor();
		await page.keyboard.press('Enter');
		await page.waitForURL(/\/people\/sections\/\d+/);
		await page.getByRole('link', { name: 'Write to them' }).click();
		await settled(page);
		await write(page, 'The first boat', 'It leaves at eight.');
		await setHold(page, 0);
		await settled(page);
		expect(await tally(page)).to.include({ people: 2, students: 2 });
		const id = await sendSheet(page);
		const letters = await until('both letters are there', async () => {
			const all = await json<{ letters: { to: string; subject: string }[] }>(
				`${s.mailhouse}/letters?newest=1`
			);
			const ours = all.letters.filter((l) => l.subject.includes('The first boat'));
			return ours.length === 2 && ours;
		});
		expect(letters.map((l) => l.to).sort()).to.deep.equal([
			'ana@harbormail.example',
			'b.pham@ferrynet.example'
		]);
		await until('Reach knows that they arrived', async () => {
			const row = await s.db.one<{ n: number }>(
				`SELECT count(*) AS n FROM delivery WHERE dispatch_id = ${id} AND state = 'delivered'`
			);
			return row!.n === 2;
		});
		expect(s.consoleErrors).to.deep.equal([]);
		expect(s.outside).to.deep.equal([]);
	});
});

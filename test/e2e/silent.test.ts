import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { now, setClock } from '../../src/lib/server/clock';
import { faults } from './axe';
import { countOf, stack, type Stack } from './stack';

describe('families that nothing reaches', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		// Counted as of each full ten minutes: all that follows is within the same.
		const tens = 600_000;
		await setClock(s.db, Math.ceil((await now(s.db)) / tens) * tens + 1_000);
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	const headline = /^(\d[\d,]*) of (\d[\d,]*) famil(?:y|ies) ha(?:s|ve) had nothing reach them/;
	const silent = async (): Promise<number> => {
		const heading = page.getByRole('heading', { level: 1, name: headline });
		return Number(headline.exec(await heading.innerText())![1]!.replaceAll(',', ''));
	};

	it('stand in People as a number, which is the door to them', async () => {
		await page.goto(`${s.url}/people`);
		const door = page.locator('aside a[href="/people/silent"]');
		const said = Number((await door.innerText()).replaceAll(',', ''));
		await door.click();
		await page.waitForURL('**/people/silent');
		expect(await silent()).to.equal(said);
		// All kinds together are as many, and so are all schools.
		const numbers = async (places: string) =>
			(await page.locator(places).allInnerTexts())
				.map((n) => Number(n.replaceAll(',', '')))
				.reduce((sum, n) => sum + n, 0);
		expect(await numbers('nav.kinds a:not(:first-child) b')).to.equal(said);
		expect(await numbers('aside section:nth-of-type(1) td.n b')).to.equal(said);
		await page.getByText(/Fisher’s exact test/).waitFor();
		expect(await faults(page)).to.deep.equal([]);
	});

	it('are narrowed by why, by school and by language, and go out as a phone sheet', async () => {
		await page.getByRole('link', { name: /^No working way/ }).click();
		await page.waitForURL(/kind=no-way/);
		for (const kind of await page.locator('table.plain td b').allInnerTexts())
			expect(kind).to.equal('No working way');
		await page.getByRole('link', { name: /^all / }).click();
		await page.waitForURL((url) => !url.search.includes('kind'));
		const school = page.locator('aside section:nth-of-type(1) tbody tr').first();
		const count = Number((await school.locator('b').innerText()).replaceAll(',', ''));
		const name = await school.getByRole('link').innerText();
		await school.getByRole('link').click();
		await page.locator('p.small', { hasText: `Of ${name}: ` }).waitFor();
		const path = (await page.getByRole('link', { name: 'CSV' }).getAttribute('href'))!;
		const csv = await (await page.request.get(s.url + path)).text();
		const lines = csv.trim().split('\r\n').slice(1);
		expect(lines.every((line) => line.includes(name))).to.equal(true);
		expect(lines.length).to.be.at.least(count);
		const pdf = await page.request.get(s.url + path.replace('as=csv', 'as=pdf'));
		expect(pdf.headers()['content-type']).to.equal('application/pdf');
		await page.getByRole('link', { name: 'Show all' }).click();
		await page.waitForURL((url) => !url.search.includes('school'));
	});

	it('one that somebody spoke to is off the list for a while, and back where that was a slip', async () => {
		const before = await silent();
		const row = page.locator('table.plain tbody tr').first();
		const family = await row.locator('td').first().innerText();
		await row.getByRole('button', { name: /^Spoken to/ }).click();
		await page.getByLabel('What was said, if it matters').fill('They will come on Friday.');
		await page.getByRole('button', { name: 'Put down' }).click();
		await page.getByText('Put down with your name.').waitFor();
		expect(await silent()).to.equal(before - 1);
		expect(await countOf(s.db, 'spoken_to')).to.equal(1);
		await page.getByText('1 family more was spoken to').waitFor();
		await page.getByRole('button', { name: 'take it back' }).click();
		await page.getByText('Taken back.').waitFor();
		expect(await silent()).to.equal(before);
		expect(
			await page.locator('table.plain tbody tr').first().locator('td').first().innerText()
		).to.equal(family);
		expect(await countOf(s.db, 'spoken_to')).to.equal(0);
	});
});

import { readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { heldTables } from '../../src/lib/server/desk/roster/export';
import { csvText, putZip, smallSchool } from '../unit/server/desk/roster/roster-files';
import { faults } from './axe';
import { countOf, stack, until, type Stack } from './stack';
import { openWrite, pick, settled, tally } from './write-page';

describe('a roster comes in', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});

	/** Brings a file through the page and waits until it was looked at. */
	async function bring(name: string, buffer: Buffer, source: string): Promise<void> {
		await page.goto(`${s.url}/people/rosters`);
		await page.waitForSelector('html[data-ready]');
		await page.getByLabel('Where it comes from').fill(source);
		await page.setInputFiles('input[type=file]', {
			name,
			mimeType: 'application/octet-stream',
			buffer
		});
		await page.waitForURL(/\/people\/rosters\/\d+/);
		await page.locator('h2', { hasText: /^(If it comes in|It cannot be read)/ }).waitFor();
	}
	const head = () => page.locator('.changes h2.head').innerText();
	const fileId = () => Number(/rosters\/(\d+)/.exec(page.url())![1]);

	it('what the district holds goes out, comes in again and changes nothing', async () => {
		const out = await page.context().request.get(`${s.url}/people/rosters/out`);
		expect(out.headers()['content-type']).to.equal('application/zip');
		await bring('oneroster.zip', await out.body(), 'Harbor Records');
		expect(await head()).to.equal('If it comes in, nothing changes');
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('button', { name: 'Take in 0 new, 0 changed, 0 gone' }).click();
		await page.getByText('It came in', { exact: true }).waitFor();
		expect(await countOf(s.db, `roster_file WHERE state = 'taken'`)).to.equal(1);
	});

	it('the file of the night comes in by itself, is told, and is taken back', async () => {
		const tables = Object.fromEntries(
			(await heldTables(s.db, await s.key())).map(({ name, rows }) => [
				name,
				[...rows].map((r) => [...r])
			])
		);
		const users = tables['users.csv']!;
		const email = users[0]!.indexOf('email');
		const row = users.slice(1).find((r) => r[email] !== '')!;
		const before = row[email]!;
		row[email] = 'moved.by.night@islandpost.example';
		const half = join(s.folder, 'tonight.zip.part');
		await putZip(
			half,
			Object.fromEntries(Object.entries(tables).map(([name, rows]) => [name, csvText(rows)]))
		);
		renameSync(half, join(s.folder, 'incoming', 'tonight.zip'));
		const file = await until('the file of the night is in', () =>
			s.db.one<{ id: number }>(`SELECT id FROM roster_file WHERE by_id IS NULL AND state = 'taken'`)
		);
		expect(
			await countOf(s.db, `address WHERE value = 'moved.by.night@islandpost.example'`)
		).to.equal(1);
		await until('the office is told', () =>
			s.db.one(
				`SELECT 1 FROM notice WHERE kind = 'roster' AND subject = 'The roster came in: 0 new, 1 changed, 0 gone'`
			)
		);
		await page.goto(`${s.url}/people/rosters/${file.id}?what=changed`);
		await page.waitForSelector('html[data-ready]');
		expect(await page.locator('.changes tbody').innerText()).to.contain(before);
		await page.getByRole('button', { name: 'Take it back' }).click();
		await page.getByText('It was taken back').waitFor();
		expect(
			await countOf(s.db, `address WHERE value = 'moved.by.night@islandpost.example'`)
		).to.equal(0);
	});

	it('another school comes in: custody is said, its section is written to, and it is taken back', async () => {
		const path = join(s.folder, 'harbor.zip');
		// Its term is the one that is here already: lists open on it.
		const term = (await s.db.one<{ name: string; starts: string; ends: string }>(
			`SELECT name, starts_on AS starts, ends_on AS ends FROM term WHERE name LIKE 'Winter%'`
		))!;
		await putZip(
			path,
			Object.fromEntries(
				Object.entries(smallSchool()).map(([name, rows]) => [
					name,
					csvText(rows)
						.replaceAll('Heron Landing', 'Far Reef')
						.replaceAll('Homeroom 4-A', 'Lagoon 4-A')
						.replace(
							'Winter,term,2026-12-01,2027-03-22',
							`${term.name},term,${term.starts},${term.ends}`
						)
				])
			)
		);
		await bring('harbor.zip', readFileSync(path), 'Harbor Office');
		expect(await page.locator('aside').innerText()).to.contain(
			'2 guardians are new, and the file does not say whether they have custody'
		);
		await page.locator('summary', { hasText: 'Say it now' }).click();
		await page.locator('form[action="?/custody"] label', { hasText: 'custody' }).first().click();
		await page.getByRole('button', { name: 'Write it down, look again' }).click();
		await page.locator('summary', { hasText: 'Custody of new contacts is said' }).waitFor();
		// A name is found among the changes; a wrong word finds none.
		await page.getByRole('searchbox', { name: 'Search these lines' }).fill('ferreira marlo');
		await page.waitForURL(/q=ferreira/);
		await page.locator('.changes tbody tr').first().waitFor();
		expect(await page.locator('.changes tbody').innerText()).to.contain('Marlo Ferreira');
		await page.getByRole('button', { name: /^Take in \d+ new, 0 changed, 0 gone$/ }).click();
		await page.getByText('It came in', { exact: true }).waitFor();
		const id = fileId();

		await openWrite(page, s.url);
		await pick(page, 'Lagoon 4-A');
		await settled(page);
		expect(await tally(page)).to.include({ students: 2, people: 2 });

		await page.goto(`${s.url}/people/rosters/${id}`);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('button', { name: 'Take it back' }).click();
		await page.getByText('It was taken back').waitFor();
		expect(
			await countOf(s.db, `person WHERE family_name = 'Ferreira' AND given_name = 'Marlo'`)
		).to.equal(0);
		expect(await countOf(s.db, `section WHERE name = 'Lagoon 4-A'`)).to.equal(0);
	});

	it('a file that is none is refused in words, and nothing changes', async () => {
		await bring('roster.zip', Buffer.from('Dear Maren'), 'Harbor Office');
		expect(await page.locator('.changes').innerText()).to.contain(
			'“roster.zip” is no zip, whatever its name says'
		);
		expect(await page.locator('footer button').count()).to.equal(0);
	});

	it('whoever may not bring rosters is not let in', async () => {
		const chidi = await s.signedIn('chidi');
		const answer = await chidi.goto(`${s.url}/people/rosters`);
		expect(answer!.status()).to.equal(403);
		for (const path of ['/out', '/1/progress', '/1/to-mend'])
			expect(
				(await chidi.context().request.get(`${s.url}/people/rosters${path}`)).status()
			).to.be.oneOf([403, 404]);
		await chidi.context().close();
	});
});

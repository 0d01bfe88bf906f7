import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { countOf, stack, until, type Stack } from './stack';
import { openWrite, pick, sendSheet, setWay, settled, tally, write } from './write-page';

describe('who gets it: lines, terms, groups, and the manifest', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		// Without the courier no address can fail between a number read and the same number counted.
		await s.stop('courier');
		page = await s.signedIn('maren');
	});
	after(async () => {
		await page.context().close();
		await s.start('courier');
	});
	const count = (from: string) => countOf(s.db, from);
	const from = () => page.locator('.from select');
	const checks = () => page.locator('.checks').textContent();

	it('keeps picks through searches, terms and lists, and points out two terms with the students in both', async () => {
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 2-A');
		await pick(page, 'Homeroom 3-A');
		await page.fill('.picker input', 'homeroom k-');
		expect(await page.locator('.picker .sum').innerText()).to.contain(
			'3 of 38 sections, Winter 2026–27; 2 picked'
		);
		await page.getByRole('button', { name: 'Pick these 3' }).click();
		await from().nth(1).selectOption({ label: 'Fall 2026' });
		await pick(page, 'Homeroom 2-A');
		await settled(page);
		const both = await count(
			`(SELECT student_id FROM enrolment JOIN section ON section.id = section_id WHERE name = 'Homeroom 2-A' AND term_id IN (1, 2) GROUP BY student_id HAVING count(*) = 2)`
		);
		expect(both).to.be.above(10);
		expect(await checks()).to.contain(
			`Picks from Fall 2026 and Winter 2026–27: ${both} students in more than one of them, each counted once.`
		);
		await page.getByRole('button', { name: 'Take out Homeroom 2-A, Fall 2026' }).click();
		await settled(page);
		expect(await checks()).not.to.contain('Picks from');
		expect(await page.locator('.slips').innerText()).to.contain('Homeroom K-C');
	});

	it('adds a group and takes a school out again, each line with its own count', async () => {
		await page.getByRole('button', { name: 'and…' }).click();
		await from().first().selectOption('groups');
		await page.fill('.picker input', '');
		await page.locator('.picker label', { hasText: 'Kelp Garden' }).click();
		await settled(page);
		const before = (await tally(page)).students;
		await page.getByRole('button', { name: 'but not…' }).click();
		await from().first().selectOption('grades');
		await page.locator('.picker label', { hasText: 'Grade 3' }).click();
		await settled(page);
		const grade3 =
			await count(`(SELECT DISTINCT id FROM person WHERE grade_level = '3' AND (id IN (SELECT student_id FROM enrolment JOIN section ON section.id = section_id WHERE name = 'Homeroom 3-A' AND term_id = 2)
			OR id IN (SELECT person_id FROM group_member JOIN school_group ON school_group.id = group_id WHERE name = 'Kelp Garden')))`);
		expect((await tally(page)).students).to.equal(before - grade3);
		expect(await page.locator('.line').nth(2).innerText()).to.match(
			/but not guardians of students in\s+−\d+/
		);
	});

	it('brings emergency contacts in only by choice, and says so', async () => {
		await page.locator('.line .words').nth(1).click();
		await page.locator('.meant > summary').click();
		await page.locator('.meant .more > summary').click();
		await page.locator('.meant label', { hasText: 'emergency contacts' }).click();
		await settled(page);
		expect(await checks()).to.contain('The list takes in emergency contacts, by your choice.');
		await page.locator('.meant label', { hasText: 'emergency contacts' }).click();
		await settled(page);
		expect(await checks()).not.to.contain('emergency contacts');
	});

	it('lists everyone by household with the reason, and takes one out by hand', async () => {
		await setWay(page, 'Text', true);
		await write(page, 'Manifest test', 'To exactly these.');
		await settled(page);
		const { people, copies } = await tally(page);
		await page.getByRole('link', { name: 'Open the manifest' }).click();
		await page.waitForURL('**/write/manifest');
		await page.locator('section summary').first().waitFor();
		expect(await page.locator('h1').innerText()).to.match(
			new RegExp(`^${people} people get ${copies} copies`)
		);
		const first = page
			.locator('section details', { hasNotText: /custody|correspondence|No email/ })
			.first();
		const name = await first.locator('.name b').innerText();
		await first.locator('summary').click();
		expect(await first.innerText()).to.match(/guardians of students in .*(Homeroom|Kelp Garden)/);
		await first.getByRole('button', { name: `Take ${name} out` }).click();
		await until('one less', async () =>
			(await page.locator('h1').innerText()).startsWith(`${people - 1} people`)
		);
		await page.fill('.filters input', name);
		await page.locator('section details', { hasText: 'Taken out by hand' }).first().waitFor();
		await page.getByRole('button', { name: 'show everyone again' }).click();
	});

	it('puts somebody in by hand, who then stands there with that reason', async () => {
		await page.getByPlaceholder('Put someone in by hand: name').fill('lindq ru');
		await page.getByRole('button', { name: /Ruth Lindqvist/ }).click();
		await page.fill('.filters input', 'Lindqvist');
		// The list that is shown until the answer comes has her too, and is drawn anew with it.
		await until('only her', async () =>
			(await page.locator('.found').innerText()).startsWith('1 of')
		);
		const ruth = page.locator('section details', { hasText: 'Ruth Lindqvist' });
		await ruth.waitFor();
		expect(await ruth.innerText()).to.contain('put in by hand');
		await ruth.locator('summary').click();
		expect(await ruth.innerText()).to.contain('Put in by Maren Quill.');
		await page.getByRole('button', { name: 'show everyone again' }).click();
	});

	it('keeps it as a rule and as a fixed list, and uses them again on a new sheet', async () => {
		const keep = async (name: string, form: 'rule' | 'list') => {
			await page.getByRole('button', { name: 'Keep…' }).click();
			await page.fill('#kept-name', name);
			if (form === 'list') await page.getByText('a fixed list of the people').click();
			await page.getByRole('button', { name: `Keep the ${form}` }).click();
			await page.locator('#kept-name').waitFor({ state: 'hidden' });
		};
		await keep('Shore families', 'rule');
		await keep('Shore families today', 'list');
		await page.getByRole('button', { name: 'Keep…' }).click();
		await page.fill('#kept-name', 'shore families');
		await page.getByRole('button', { name: 'Keep the rule' }).click();
		await page.getByText('You keep an audience "shore families" already.').waitFor();
		await page.getByRole('button', { name: 'Do not keep it' }).click();

		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
		await settled(page);
		const before = await tally(page);
		const rows = async () =>
			(await page.locator('.page li').allInnerTexts()).map((t) => t.replace(/\s+/g, ' '));
		await page.goto(`${s.url}/write/kept`);
		expect(await page.locator('h1').innerText()).to.equal('3 rules and 2 fixed lists kept');
		const all = await rows();
		expect(all.find((r) => r.startsWith('Shore families Rule'))).to.match(
			/^Shore families Rule Guardians of students in Homeroom 2-A.* without .* by hand By Maren Quill, .*; not used yet \d+ people today/
		);
		expect(all.find((r) => r.startsWith('Shore families today'))).to.match(
			/^Shore families today Fixed list Kept from: Guardians/
		);
		// What changed since it was kept is counted and named.
		const crew = page.locator('.page li', { hasText: 'Crew families' });
		await crew.getByRole('link', { name: /came in, .* in Crew families/ }).click();
		const change = await page.locator('.change').innerText();
		const words = (await crew.innerText()).replace(/\s+/g, ' ');
		expect(words).to.match(/\d+ came in, \d+ dropped out.*since it was kept/);
		for (const [side, word] of [
			['Came in', 'came in'],
			['Dropped out', 'dropped out']
		] as const) {
			const names = new RegExp(`${side}: (.*)`).exec(change)![1]!.split(', ');
			expect(words).to.contain(`${names.length} ${word}`);
		}
		for (const name of ['Shore families', 'Shore families today']) {
			await page.goto(`${s.url}/write`);
			await page.getByRole('button', { name: 'Start a new one' }).click();
			await page.goto(`${s.url}/write/kept`);
			await page
				.locator('.page li', { has: page.getByRole('heading', { name, exact: true }) })
				.getByRole('link', { name: 'Use in Write' })
				.click();
			await page.waitForSelector('button.door.big');
			await setWay(page, 'Text', true);
			await settled(page);
			const { people, copies } = await tally(page);
			expect({ name, people, copies }).to.deep.equal({
				name,
				people: before.people,
				copies: before.copies
			});
		}
		// The list stands on the sheet now; the rule is what is sent.
		await page.getByRole('button', { name: 'Start a new one' }).isVisible();
		await page.goto(`${s.url}/write`);
		await page.getByRole('button', { name: 'Start a new one' }).click();
		await page.locator('.add select').selectOption({ label: 'kept rule: Shore families' });
		await page.locator('.slips').first().waitFor();
		await setWay(page, 'Text', true);
		await write(page, 'Manifest test', 'To exactly these.');
		await settled(page);
		await page.getByRole('link', { name: 'Open the manifest' }).click();
		await page.locator('section summary').first().waitFor();
	});

	it('exports exactly the people that are then sent to, and nobody else', async () => {
		const [download] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: /^CSV of/ }).click()
		]);
		const csv = readFileSync((await download.path())!, 'utf8');
		const addresses = [...csv.matchAll(/,(email|text),('?)([^,\r]+),/g)].map((m) => m[3]!).sort();
		const [plain] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: 'Addresses for blind copy' }).click()
		]);
		const list = readFileSync((await plain.path())!, 'utf8')
			.split(', ')
			.sort();
		const [cards] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: 'vCard' }).click()
		]);
		const inCards = [
			...readFileSync((await cards.path())!, 'utf8')
				.replace(/\r\n /g, '')
				.matchAll(/^EMAIL:(.*)\r$/gm)
		].map((m) => m[1]!);
		expect([...new Set(inCards)].sort()).to.deep.equal(list);
		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
		expect(await page.locator('.lines').innerText())
			.to.contain('by hand')
			.and.contain('By Maren Quill.');
		await settled(page);
		const { copies } = await tally(page);
		const id = await sendSheet(page);
		expect(await count(`delivery WHERE dispatch_id = ${id}`)).to.equal(copies);
		const sent = await s.db.all<{ address: string; way: string; also: number }>(
			`SELECT address, way, (SELECT count(*) FROM delivery_also WHERE delivery_id = delivery.id) AS also FROM delivery WHERE dispatch_id = ${id} AND address IS NOT NULL`
		);
		// A shared address stands in the CSV once for each who reads there.
		expect(addresses).to.deep.equal(
			sent.flatMap((d) => Array.from({ length: 1 + d.also }, () => d.address)).sort()
		);
		expect(list).to.deep.equal(
			sent
				.filter((d) => d.way === 'email')
				.map((d) => d.address)
				.sort()
		);
		const words = await s.db.one<{ w: string }>(
			`SELECT audience_words AS w FROM dispatch WHERE id = ${id}`
		);
		expect(words!.w).to.match(
			/^Guardians of students in Homeroom 2-A, .* and Homeroom K-C, and guardians of students in group Kelp Garden, but not guardians of students in grade 3, with Ruth Lindqvist by hand, without .* by hand$/
		);
		// What was sent unchanged is noted as used.
		const used = await s.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM kept_audience WHERE name = 'Shore families' AND used_at > made_at`
		);
		expect(used!.n).to.equal(1);
		await page.getByRole('button', { name: /^Call back/ }).click();
		await page.waitForURL(/draft=/);
		await page.waitForSelector('button.door.big');
		expect(await page.locator('.line, .hand').count()).to.equal(4);
	});

	it('an export that is asked for with a broken sheet says what is wrong', async () => {
		const response = await page.request.post(`${s.url}/write/manifest/export`, {
			form: { as: 'csv', sheet: '{' },
			headers: { origin: s.url }
		});
		expect(response.status()).to.equal(400);
		expect(await response.text()).to.contain('sheet: is not valid JSON');
	});
});

import { expect } from 'chai';
import { wordingOf } from '../../src/lib/core/copy/words';
import type { Page } from 'playwright-core';
import { countOf, stack, until, type Stack } from './stack';
import { openFresh, pick, sendSheet, setWay, settled, tally, write } from './write-page';

describe('who gets it: sentences, staff, conditions, copies', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		await s.stop('courier');
		page = await s.signedIn('maren');
	});
	after(async () => {
		await page.context().close();
		await s.start('courier');
	});
	beforeEach(async () => {
		await openFresh(page, s.url);
		await settled(page);
	});
	const count = (from: string) => countOf(s.db, from);
	const from = () => page.locator('.from select');
	const checks = () => page.locator('.checks').textContent();
	const sentence = async (text: string) => {
		await page.getByRole('button', { name: 'as a sentence' }).click();
		await until(
			'the sentence is there',
			async () => (await page.locator('#audience-sentence').inputValue()) !== ''
		);
		await page.locator('#audience-sentence').fill(text);
		await page.getByRole('button', { name: 'Use this sentence' }).click();
	};

	it('shows the picks as a sentence, takes a changed one, and marks what it cannot read', async () => {
		await pick(page, 'Drama 7-A');
		await settled(page);
		await page.getByRole('button', { name: 'as a sentence' }).click();
		const field = page.locator('#audience-sentence');
		await until('the sentence is there', async () => (await field.inputValue()) !== '');
		expect(await field.inputValue()).to.equal('Guardians of students in Drama 7-A');
		await field.fill('Guardians of students in all of (grade 7; group North Runn)');
		await page.getByRole('button', { name: 'Use this sentence' }).click();
		await page.getByText('There is no group "North Runn".').waitFor();
		expect(
			await field.evaluate((f: HTMLTextAreaElement) =>
				f.value.slice(f.selectionStart, f.selectionEnd)
			)
		).to.equal('North');
		await field.fill('Guardians of students in all of (grade 7; group North Run)');
		await page.getByRole('button', { name: 'Use this sentence' }).click();
		await field.waitFor({ state: 'hidden' });
		await settled(page);
		expect((await tally(page)).students).to.equal(
			await count(`person WHERE grade_level = '7' AND id IN (SELECT person_id FROM group_member
				JOIN school_group ON school_group.id = group_id WHERE name = 'North Run')`)
		);
		await page.getByText('any of these').click();
		await settled(page);
		expect((await tally(page)).students).to.equal(
			await count(`person WHERE kind = 'student' AND (grade_level = '7' OR id IN
				(SELECT person_id FROM group_member
				JOIN school_group ON school_group.id = group_id WHERE name = 'North Run'))`)
		);
	});

	it('keeps a line to those who read a language, and says so in its words', async () => {
		await from().first().selectOption('grades');
		await page.locator('.picker label', { hasText: 'Grade 4' }).click();
		await page.getByLabel('Only those who').selectOption('language:vi');
		await page.getByLabel('Only those who').selectOption('language:pt');
		await settled(page);
		const wanted = `SELECT DISTINCT person_id FROM contact JOIN person AS student ON student.id = student_id
			JOIN person ON person.id = person_id WHERE student.grade_level = '4'
			AND guardian AND custody AND correspondence AND person.language IN ('vi', 'pt')`;
		const names = await page.locator('.line b').first().innerText();
		expect(Number(names)).to.equal(await count(`(${wanted})`));
		await page.getByRole('button', { name: /^Take out the condition: read/ }).click();
		await settled(page);
		expect(Number(await page.locator('.line b').first().innerText())).to.be.above(Number(names));
	});

	it('writes to staff by role and to people by name, beside the families', async () => {
		await page.getByLabel('Add staff, people or a kept audience').selectOption('staff');
		await page.locator('.roles label', { hasText: 'aide' }).click();
		await settled(page);
		expect((await tally(page)).people).to.equal(await count(`staff WHERE role = 'aide'`));
		await page.getByLabel('Add staff, people or a kept audience').selectOption('named');
		await page.getByPlaceholder('Add a person: name').fill('okafor');
		await page.getByRole('button', { name: /Chidi Okafor/ }).click();
		await settled(page);
		expect((await tally(page)).people).to.equal((await count(`staff WHERE role = 'aide'`)) + 1);
		expect(await page.locator('.lines').innerText()).to.match(
			/and these people\s+1\s+Chidi Okafor/
		);
	});

	it('makes a copy for each student where asked, sends one to the sender and a colleague, and sends what it says', async () => {
		await from().first().selectOption('schools');
		await page.locator('.picker label', { hasText: 'Heron Landing' }).click();
		await setWay(page, 'Email', false);
		await write(page, 'One for each', 'Words that differ by student.');
		await settled(page);
		const one = await tally(page);
		await page.getByRole('button', { name: 'one copy per student' }).click();
		await settled(page);
		const each = await tally(page);
		expect(each.people).to.equal(one.people);
		expect(each.copies).to.equal(
			await count(`contact JOIN person AS student ON student.id = student_id
				JOIN person ON person.id = person_id WHERE student.school_id = 1
				AND guardian AND custody AND correspondence AND person.has_inbox`)
		);
		expect(each.copies).to.be.above(one.copies);
		await page.getByText('Copies for information').click();
		await page.getByText('one for me').click();
		await page.getByPlaceholder('One for a colleague: name').fill('tavar');
		await page.getByRole('button', { name: /Ines Tavares/ }).click();
		await settled(page);
		expect((await tally(page)).copies).to.equal(each.copies + 2);
		expect((await tally(page)).text).to.match(/of these, for information\s+2/);
		const id = await sendSheet(page);
		expect(await count(`delivery WHERE dispatch_id = ${id}`)).to.equal(each.copies + 2);
		expect(
			await count(`(SELECT delivery_id FROM delivery_student JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = ${id} GROUP BY delivery_id HAVING count(*) > 1)`)
		).to.equal(0);
		expect(
			await count(
				`delivery WHERE dispatch_id = ${id} AND way = 'email' AND id NOT IN (SELECT delivery_id FROM delivery_student)`
			)
		).to.equal(2);
		// Called back, the sheet still has its copies as they were chosen.
		await page.getByRole('button', { name: /^Call back/ }).click();
		await page.waitForURL(/draft=/);
		await settled(page);
		expect((await tally(page)).copies).to.equal(each.copies + 2);
	});

	it('changes the way for one person in the manifest, filters by reason and section, and keeps to it', async () => {
		await pick(page, 'Drama 7-A');
		await settled(page);
		const before = await tally(page);
		await page.getByRole('link', { name: 'Open the manifest' }).click();
		await page.locator('section summary').first().waitFor();
		await page.getByLabel('Way', { exact: true }).selectOption('email');
		await page.locator('.filters[aria-busy=false]').waitFor();
		const first = page.locator('section details').first();
		const name = await first.locator('.name b').innerText();
		await first.locator('summary').click();
		const boxes = first.getByRole('checkbox');
		// Once it is off, this person leaves the filtered list: there is nothing left to look at.
		await boxes.nth(0).click();
		await page.locator('.filters[aria-busy=false]').waitFor();
		await page.getByLabel('Show').selectOption('by-hand');
		await page.getByLabel('Way', { exact: true }).selectOption('');
		await until('only the changed one', async () =>
			(await page.locator('.found').innerText()).startsWith('1 of')
		);
		expect(await page.locator('section details').innerText()).to.contain(name);
		await page.getByRole('button', { name: 'show everyone again' }).click();
		const reason = page.getByLabel('Reason');
		const options = await reason.locator('option').allInnerTexts();
		expect(options.join()).to.contain('Another way was chosen by hand (1)');
		await reason.selectOption({ label: 'Another way was chosen by hand (1)' });
		await until('by its reason', async () =>
			(await page.locator('.found').innerText()).startsWith('1 of')
		);
		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
		await settled(page);
		expect((await tally(page)).copies).to.equal(before.copies - 1);
	});

	it('keeps what is changed in the manifest while a save of the sheet has not been answered', async () => {
		await pick(page, 'Drama 7-A');
		await settled(page);
		const before = await tally(page);
		let answer = () => {};
		const held = new Promise<void>((resolve) => (answer = resolve));
		let saves = 0;
		let first = 'on its way';
		// The first save is taken, and its answer is long on its way: so long, on a slow machine, that the page no longer waits for it.
		await page.route('**/write/draft', async (route) => {
			saves += 1;
			if (saves > 1) return route.continue();
			const response = await route.fetch();
			await held;
			first = await route.fulfill({ response }).then(
				() => 'answered',
				() => 'given up by the page'
			);
		});
		await page.getByLabel('Subject').fill('Slow to be saved');
		await until('a save is on its way', () => Promise.resolve(saves === 1));
		await page.getByRole('link', { name: 'Open the manifest' }).click();
		await page.waitForURL('**/write/manifest');
		await page.getByLabel('Way', { exact: true }).selectOption('email');
		await page.locator('.filters[aria-busy=false]').waitFor();
		const household = page.locator('section details').first();
		await household.locator('summary').click();
		await household.getByRole('checkbox').nth(0).click();
		await page.locator('.filters[aria-busy=false]').waitFor();
		answer();
		await until('the first save has ended', () => Promise.resolve(first !== 'on its way'));
		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
		await settled(page);
		expect((await tally(page)).copies).to.equal(before.copies - 1);
		expect(await page.getByLabel('Subject').inputValue()).to.equal('Slow to be saved');
		await page.unroute('**/write/draft');
	});

	it('narrows the list by teacher and course, and walks it by the arrow keys', async () => {
		const narrow = page.locator('.narrow > summary');
		if (!(await page.getByLabel('Teacher', { exact: true }).isVisible())) await narrow.click();
		await page.getByLabel('Teacher', { exact: true }).selectOption('Okafor');
		expect(await page.locator('.picker .sum').innerText()).to.match(/^3 of 38 sections/);
		await page.locator('.picker input').first().press('ArrowDown');
		await page.keyboard.press('ArrowDown');
		await page.keyboard.press('Space');
		await page.keyboard.press('End');
		await page.keyboard.press('Space');
		await settled(page);
		expect(await page.locator('.slips').innerText()).to.match(
			/^Boatbuilding 1-B\s+×\s+Boatbuilding 2-A\s+×$/
		);
	});

	it('says where a posted audience is broken, and takes 5,000 picks but not 5,001', async () => {
		const post = (ids: number[], over: object = {}) =>
			page.request.post(`${s.url}/write/tally`, {
				headers: { origin: s.url, accept: 'application/json' },
				data: {
					sheetKey: '3f0d1c1e-6f0a-4a83-9d5b-0f4f2b8f8f11',
					audience: {
						version: 2,
						lines: [
							{
								verb: 'and',
								to: [{ kind: 'guardians' }],
								of: { kind: 'sections', ids },
								only: [],
								...over
							}
						],
						byHand: []
					},
					ways: ['email'],
					wording: wordingOf('', ''),
					holdMinutes: 5
				}
			});
		const many = Array.from({ length: 5001 }, (_, i) => i + 1);
		const right = await post(many.slice(1));
		expect(right.status()).to.equal(200);
		expect(JSON.stringify(await right.json())).to.match(
			/\d+ of what is picked are no longer on the roster/
		);
		const wrong = await post(many);
		expect(wrong.status()).to.equal(400);
		expect((await wrong.json()).message).to.equal(
			'audience.lines.0.of.ids: A line holds 5,000 picks at most.'
		);
		const broken = await post([1], { people: { kind: 'staff', roles: 'all', schoolIds: [] } });
		expect((await broken.json()).message).to.match(/^audience\.lines\.0\.people\.roles: /);
	});

	it('two terms, emergency contacts and an empty audience are pointed out in words', async () => {
		await page.getByRole('button', { name: 'as a sentence' }).click();
		await page.getByRole('button', { name: 'Leave it as it was' }).click();
		await sentence('All guardians whether with custody or without of students in grade 7');
		await page.locator('#audience-sentence').waitFor({ state: 'hidden' });
		await settled(page);
		expect(await checks()).to.match(
			/\d+ people without custody are in, by your choice\. Look at them in the manifest\./
		);
		await sentence('Nobody yet');
		await page.locator('#audience-sentence').waitFor({ state: 'hidden' });
		await settled(page);
		expect(await checks()).to.contain('Nobody is picked.');
	});
});

import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { countOf, stack, until, type Stack } from './stack';
import { setHold, setWhen, settled, tally, write } from './write-page';

describe('markers', () => {
	let s: Stack;
	let page: Page;
	let section: number;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		section = (await s.db.one<{ id: number }>(
			`SELECT id FROM section WHERE name = 'Homeroom 3-B' AND term_id = 2`
		))!.id;
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});
	const open = async (path: string) => {
		await page.goto(`${s.url}${path}`);
		await page.waitForSelector('html[data-ready]');
	};
	const id = () => Number(/markers\/(\d+)/.exec(page.url())![1]);

	it('one is made, found in a section and set there; whoever lacks it is chased', async () => {
		await open('/people/markers');
		await page.locator('.lines-table tbody tr').first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.getByLabel('Name').fill('swim slip');
		await page.getByRole('button', { name: 'Make it' }).click();
		await page.getByRole('heading', { level: 1, name: 'swim slip' }).waitFor();
		const marker = id();
		await page.getByRole('searchbox', { name: 'Find a section to set it in' }).fill('homeroom 3-b');
		await page.getByRole('link', { name: /^Homeroom 3-B/ }).click();
		await page.waitForURL(/section=/);
		const boxes = page.locator('input[type=checkbox]');
		await boxes.first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
		const students = await boxes.count();
		expect(students).to.equal(
			await countOf(
				s.db,
				`enrolment_now JOIN person_now ON person_now.id = student_id WHERE section_id = ${section}`
			)
		);
		for (const n of [0, 1]) await boxes.nth(n).check();
		await page.getByRole('button', { name: 'Set it so' }).click();
		await page.getByText('Set for 2 students, written down with your name.').waitFor();
		expect(await countOf(s.db, `marked WHERE marker_id = ${marker} AND value = 'yes'`)).to.equal(2);
		await open(`/people/markers/${marker}`);
		await page.getByRole('link', { name: /^Chase those who lack it in Homeroom 3-B/ }).click();
		await page.waitForURL(/\/write/);
		await page.waitForSelector('html[data-ready]');
		await settled(page);
		await page.getByText('only who lack the marker “swim slip”').waitFor();
		const { students: chased } = await tally(page);
		expect(chased).to.equal(students - 2);
		await page.getByRole('button', { name: 'as a sentence' }).click();
		await until(
			'the sentence says it',
			async () =>
				(await page.locator('#audience-sentence').inputValue()) ===
				'Guardians of students in Homeroom 3-B, who lack the marker swim slip'
		);
	});

	it('a list is looked at first, and what it says is kept', async () => {
		await open('/people/markers');
		await page.getByRole('link', { name: 'swim slip' }).click();
		await page.getByRole('heading', { level: 1, name: 'swim slip' }).waitFor();
		const names = await s.db.all<{ name: string; grade: string }>(
			`SELECT given_name || ' ' || family_name AS name, grade_level AS grade FROM person_now JOIN enrolment_now ON student_id = id
			WHERE section_id = ${section} AND id NOT IN (SELECT student_id FROM marked WHERE marker_id = ${id()}) ORDER BY id LIMIT 3`
		);
		const text = `Student,Grade,swim slip\n${names.map((n, i) => `${n.name},${n.grade},${i === 2 ? 'perhaps' : 'x'}`).join('\n')}\n`;
		await page
			.locator('input[type=file]')
			.setInputFiles({ name: 'slips.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
		await page.getByRole('button', { name: 'Look at the list' }).click();
		await page.getByText('neither a yes nor a no').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('button', { name: 'Change it for 2 students' }).click();
		await page.getByText('Changed for 2 students, written down with your name.').waitFor();
		expect(await countOf(s.db, `marked WHERE marker_id = ${id()} AND value = 'yes'`)).to.equal(4);
	});

	it('a sheet waits for one, leaves when it is gained, and is ended', async () => {
		await open(`/write?section=${section}`);
		await settled(page);
		await write(page, 'Swimming: thank you', 'The slip is here.');
		await setWhen(page, 'gain');
		await page.getByLabel('Marker', { exact: true }).selectOption({ label: 'swim slip' });
		await setHold(page, 0);
		await settled(page);
		await page.getByRole('button', { name: /^Let it wait for the marker/ }).click();
		await page.waitForURL(/\/week\/standing\/\d+/);
		await page.getByText('Nothing has left yet.').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		const standing = page.url();
		await open('/people/markers');
		await page.getByRole('link', { name: 'swim slip' }).click();
		await page.getByRole('link', { name: /^Homeroom 3-B/ }).click();
		await page.waitForURL(/section=/);
		const box = page.locator('input[type=checkbox]:not(:checked)').first();
		const name = (await box.getAttribute('aria-label'))!.replace('swim slip: ', '');
		await box.check();
		await page.getByRole('button', { name: 'Set it so' }).click();
		await page.getByText('Set for 1 student, written').waitFor();
		await until('it has left for the student', async () =>
			s.db.one(
				`SELECT 1 FROM delivery JOIN delivery_student ON delivery_id = delivery.id
				JOIN dispatch ON dispatch.id = dispatch_id JOIN person ON person.id = student_id
				WHERE subject = 'Swimming: thank you' AND given_name || ' ' || family_name = $name
					AND delivery.state NOT IN ('planned', 'held', 'claimed')`,
				{ name }
			)
		);
		await page.goto(standing);
		await page.getByText('1 student so far').waitFor();
		await open('/week');
		await page.getByRole('link', { name: 'Swimming: thank you' }).first().waitFor();
		await page.goto(standing);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('button', { name: 'End it' }).click();
		await page.getByText('Ended. What has left stays.').waitFor();
		expect(await page.getByRole('button', { name: 'End it' }).count()).to.equal(0);
	});

	it('a condition can ask for the day that a marker says', async () => {
		const { id: boats } = (await s.db.one<{ id: number }>(
			`SELECT id FROM section WHERE name = 'Boatbuilding 1-A' AND term_id = 2`
		))!;
		await open(`/write?section=${boats}`);
		await settled(page);
		await page
			.getByLabel('Only those who')
			.selectOption({ label: 'have a day before … in “ferry pass until”' });
		await page.getByLabel('“ferry pass until” before').fill('06/15/2027');
		await page.getByRole('button', { name: 'Only those' }).click();
		await page
			.getByText('only who have a day before 2027-06-15 in the marker “ferry pass until”')
			.waitFor();
		await settled(page);
		const { students } = await tally(page);
		expect(students).to.equal(
			await countOf(
				s.db,
				`marked JOIN marker ON marker.id = marker_id WHERE name = 'ferry pass until' AND value < '2027-06-15'
					AND student_id IN (SELECT student_id FROM enrolment_now WHERE section_id = ${boats})`
			)
		);
		expect(students).to.be.above(0);
		expect(await faults(page)).to.deep.equal([]);
	});
});

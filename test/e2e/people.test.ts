import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { countOf, stack, until, type Stack } from './stack';
import { sendSheet, setWhen, settled, tally, typeMoment, write } from './write-page';

describe('people', () => {
	let s: Stack;
	let page: Page;
	let student: { id: number; name: string };
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		student = (await s.db.one<{ id: number; name: string }>(
			`SELECT person.id, given_name || ' ' || family_name AS name FROM person_now AS person
			WHERE kind = 'student' AND (SELECT count(*) FROM contact_now WHERE student_id = person.id) > 1 ORDER BY id LIMIT 1`
		))!;
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});
	const open = async (path: string) => {
		await page.goto(`${s.url}${path}`);
		await page.waitForSelector('html[data-ready]');
	};
	const done = () => page.getByText('Done, and written down with your name.').waitFor();
	const changes = () => page.locator('section', { hasText: 'What was changed' }).innerText();

	it('opens on how well families are reached; each number is a door to as many names', async () => {
		await open('/people');
		const row = page.locator('.lines-table tbody tr').first();
		await row.waitFor();
		expect(await faults(page)).to.deep.equal([]);
		const school = await row.locator('td').first().innerText();
		expect(Number((await row.locator('td').nth(1).innerText()).replace(',', ''))).to.equal(
			await countOf(
				s.db,
				`person_now AS person JOIN school ON school.id = school_id WHERE kind = 'student' AND school.name = '${school}'`
			)
		);
		const text = row.locator('td').nth(3).locator('a');
		const n = await text.innerText();
		await text.click();
		await page.locator('h2', { hasText: `${n} students` }).waitFor();
		expect(await page.getByRole('heading', { level: 1 }).innerText()).to.equal(school);
		await page.locator('.lines-table').first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
	});

	it('a section is found by a few letters, and shows its students with their people', async () => {
		await open('/people');
		await page.locator('main input').first().fill('homeroom 2-c');
		await page.locator('.found li', { hasText: 'Homeroom 2-C' }).first().waitFor();
		await page.keyboard.press('Enter');
		await page.waitForURL(/\/people\/sections\/\d+/);
		const id = Number(page.url().split('/').pop());
		await page.locator('.lines-table tbody tr').first().waitFor();
		expect(await page.locator('.lines-table tbody tr').count()).to.equal(
			await countOf(s.db, `enrolment_now WHERE section_id = ${id}`)
		);
		expect(await faults(page)).to.deep.equal([]);
	});

	it('a contact is added by hand, corrected, made one with somebody, told apart, and ended', async () => {
		await open(`/people/${student.id}`);
		await page.locator('summary', { hasText: 'Add a contact' }).click();
		await page.getByRole('link', { name: 'Somebody new' }).click();
		await page.waitForURL(/people\/new/);
		await page.getByLabel('Given name').fill('Ida');
		await page.getByLabel('Family name').fill('Sund');
		await page.getByLabel('Relation').fill('aunt');
		await page.getByLabel('Email address').fill('no address');
		await page.getByRole('button', { name: 'Add this person' }).click();
		await page.getByText('is no mail address').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		// What was typed is still there.
		expect(await page.getByLabel('Relation').inputValue()).to.equal('aunt');
		await page.getByLabel('Email address').fill('ida.sund@islandpost.example');
		await page.getByLabel('Number', { exact: true }).fill('(207) 555-0177');
		await page.getByLabel(/^Who allowed texts/).fill('enrolment form');
		await page.getByRole('button', { name: 'Add this person' }).click();
		await page.getByRole('heading', { level: 1, name: 'Ida Sund' }).waitFor();
		const id = Number(page.url().split('/').pop());
		expect(await page.locator('.facts').innerText()).to.contain('opted in: enrolment form');
		expect(await faults(page)).to.deep.equal([]);

		await page.locator('summary', { hasText: 'Correct names' }).click();
		await page.getByLabel('Reads').selectOption({ label: 'Portuguese' });
		await page.getByRole('button', { name: 'Correct it' }).first().click();
		await done();
		expect(await changes()).to.contain('language: en to pt');
		expect(await changes()).to.contain('Maren Quill');

		const other = (await s.db.one<{ id: number; name: string }>(
			`SELECT person.id, given_name || ' ' || family_name AS name FROM contact_now AS contact
			JOIN person ON person.id = person_id WHERE student_id = ${student.id} AND person_id != ${id} ORDER BY guardian DESC LIMIT 1`
		))!;
		await open(`/people/${other.id}/same?with=${id}`);
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('button', { name: 'One person: this one stays' }).first().click();
		await page.waitForURL(new RegExp(`/people/${other.id}$`));
		await page.getByText('Was on file twice, also as').waitFor();
		expect(
			await countOf(s.db, `address WHERE person_id = ${other.id} AND value LIKE 'ida.sund@%'`)
		).to.equal(1);
		await page.getByRole('button', { name: 'Take that back' }).click();
		await done();
		expect(await countOf(s.db, `address WHERE person_id = ${id}`)).to.equal(2);

		await open(`/people/${id}`);
		await page.locator('summary', { hasText: 'Correct names' }).click();
		await page.getByRole('button', { name: 'No longer at the schools' }).click();
		await page.getByText(/^No longer at the schools since/).waitFor();
		expect(await countOf(s.db, `person_now WHERE id = ${id}`)).to.equal(0);
	});

	it('a contact list comes in: its columns are said, who is the same is told, and it goes back', async () => {
		const contact = (await s.db.one<{ name: string }>(
			`SELECT given_name || ' ' || family_name AS name FROM contact_now AS contact
			JOIN person_now AS person ON person.id = person_id WHERE student_id = ${student.id} LIMIT 1`
		))!;
		const list = [
			'Pupil;Who;Relationship;Home language;Texts allowed',
			`${student.name};${contact.name};;Vietnamese;`,
			`${student.name};Bo Lund;neighbour;Spanish;`,
			'Nobody Atall;Bo Lund;neighbour;;'
		].join('\n');
		await open('/people/rosters');
		await page.getByLabel('Where it comes from').fill('Office lists');
		await page.setInputFiles('input[type=file]', {
			...{ name: 'contacts.csv', mimeType: 'text/csv' },
			buffer: Buffer.from(list)
		});
		await page.getByText('What are its columns?').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		// Nothing says who "Who" is until somebody does.
		const look = page.getByRole('button', { name: 'Look at it with these columns' });
		await look.click();
		await page.getByText('No column says who the contact is').waitFor();
		await page.getByLabel('What “Who” is').selectOption({ label: 'Contact: full name' });
		await look.click();
		await page.locator('h2', { hasText: 'If it comes in' }).waitFor();
		expect(await page.locator('.changes h2.head').innerText()).to.contain('1 line stays out');
		await page.locator('summary', { hasText: 'Same or other?' }).click();
		await page.getByRole('button', { name: 'That one is the same' }).click();
		await page.getByRole('button', { name: 'Take in 2 new, 1 changed, 0 gone' }).click();
		await page.getByText('It came in', { exact: true }).waitFor();
		expect(await faults(page)).to.deep.equal([]);
		expect(
			await countOf(
				s.db,
				`person_now WHERE given_name = 'Bo' AND family_name = 'Lund' AND language = 'es'`
			)
		).to.equal(1);
		await page.getByRole('button', { name: 'Take it back' }).click();
		await page.getByText('It was taken back').waitFor();
		expect(await countOf(s.db, `person WHERE given_name = 'Bo' AND family_name = 'Lund'`)).to.equal(
			0
		);
	});

	it('who loses custody after a letter was scheduled is in no copy of it', async () => {
		const tie = (await s.db.one<{ section: number; student: number; name: string; adult: number }>(
			`SELECT section_id AS section, student_id AS student, person_id AS adult,
				student.given_name || ' ' || student.family_name AS name
			FROM contact_now AS contact JOIN enrolment_now AS enrolment USING (student_id)
			JOIN section ON section.id = section_id JOIN person_now AS student ON student.id = student_id
			WHERE section.name = 'Homeroom 4-A' AND term_id = 2 AND guardian AND custody AND correspondence
				AND person_id IN (SELECT person_id FROM address WHERE way = 'email' AND failing IS NULL)
				AND (SELECT count(*) FROM contact_now AS other WHERE other.person_id = contact.person_id) = 1
			ORDER BY student_id LIMIT 1`
		))!;
		await open(`/write?section=${tie.section}`);
		await settled(page);
		await write(page, 'Boat day', 'Bring a hat.');
		await setWhen(page, 'at');
		await typeMoment(page, 'Leaves', 'tomorrow 3 pm');
		expect(await settled(page)).to.match(/^Schedule \d+ copies for Wed/);
		const dispatch = await sendSheet(page);
		const copies = () =>
			countOf(
				s.db,
				`delivery WHERE dispatch_id = ${dispatch} AND person_id = ${tie.adult} AND state = 'planned'`
			);
		expect(await copies()).to.be.above(0);
		await open(`/people/${tie.student}`);
		const line = page.locator('li', { has: page.locator(`a[href="/people/${tie.adult}"]`) });
		await line.locator('summary', { hasText: 'Correct' }).click();
		await line.getByLabel('Custody').selectOption('no');
		await line.getByRole('button', { name: 'Correct it' }).click();
		await done();
		// In the same moment, before anything is planned anew.
		expect(await copies()).to.equal(0);
		await until('it is planned anew, and says why', async () =>
			s.db.one('SELECT 1 FROM left_out WHERE dispatch_id = $dispatch AND person_id = $adult', {
				dispatch,
				adult: tie.adult
			})
		);
		await open(`/people/${tie.adult}`);
		expect(await changes()).to.contain('custody');
	});

	it('every contact goes out as a list, to whoever may bring one', async () => {
		const out = await page.context().request.get(`${s.url}/people/rosters/contacts`);
		expect(out.headers()['content-type']).to.contain('text/csv');
		expect((await out.text()).trim().split('\r\n')).to.have.length(
			1 +
				(await countOf(
					s.db,
					`contact_now AS contact JOIN person_now AS student ON student.id = student_id
					JOIN person_now AS person ON person.id = contact.person_id`
				))
		);
		const ines = await s.signedIn('ines');
		const refused = await ines.context().request.get(`${s.url}/people/rosters/contacts`);
		expect(refused.status()).to.equal(403);
		await ines.context().close();
	});

	it('a group is made, filled by name and by list, and written to', async () => {
		await open('/people/groups');
		expect(await faults(page)).to.deep.equal([]);
		await page.getByLabel('Name').fill('Lantern Carriers');
		await page.getByLabel('Kind').fill('team');
		await page.getByRole('button', { name: 'Make it' }).click();
		await page.getByRole('heading', { level: 1, name: 'Lantern Carriers' }).waitFor();
		await page.getByRole('searchbox', { name: 'A student' }).fill(student.name);
		await page.getByRole('button', { name: student.name }).first().click();
		await page.getByRole('button', { name: `Put ${student.name} in` }).click();
		await page.getByText('1 student came in').waitFor();
		const others = await s.db.all<{ name: string }>(
			`SELECT given_name || ' ' || family_name AS name FROM person_now WHERE kind = 'student' AND id != ${student.id}
			GROUP BY name HAVING count(*) = 1 ORDER BY id LIMIT 2`
		);
		await page.setInputFiles('input[name=list]', {
			...{ name: 'slips.csv', mimeType: 'text/csv' },
			buffer: Buffer.from(['Student', ...others.map((o) => o.name), 'Nobody Atall'].join('\n'))
		});
		await page.getByRole('button', { name: 'Look at the list' }).click();
		await page.getByText('Line 4: No student of yours is “Nobody Atall”.').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('button', { name: 'Put 2 students in' }).click();
		await page.getByText('2 students came in').waitFor();
		expect(await page.locator('.lines-table tbody tr').count()).to.equal(3);
		await page.getByRole('link', { name: 'Write to them' }).click();
		await page.waitForURL(/\/write/);
		await settled(page);
		expect(await tally(page)).to.include({ students: 3 });
	});

	it('a teacher sees own students and changes nobody', async () => {
		const chidi = await s.signedIn('chidi');
		expect((await chidi.goto(`${s.url}/people/new`))!.status()).to.equal(403);
		await chidi.goto(`${s.url}/people`);
		await chidi.locator('.lines-table tbody tr').first().waitFor();
		expect(await chidi.locator('.lines-table th').first().innerText()).to.equal('Section');
		await chidi.locator('.lines-table tbody a').first().click();
		await chidi.waitForURL(/\/people\/sections\/\d+/);
		await chidi.locator('.lines-table tbody a').first().click();
		await chidi.waitForURL(/\/people\/\d+$/);
		expect(await chidi.locator('summary', { hasText: 'Correct' }).count()).to.equal(0);
		for (const [path, form] of [
			['correct', { id: String(student.id), givenName: 'Mine' }],
			['end', { id: String(student.id) }]
		] as const) {
			const answer = await chidi.context().request.post(`${s.url}/people/${student.id}?/${path}`, {
				form,
				headers: { origin: s.url }
			});
			expect(await answer.text()).to.not.contain('written down');
		}
		expect(
			await countOf(s.db, `person_now WHERE id = ${student.id} AND given_name != 'Mine'`)
		).to.equal(1);
		await chidi.context().close();
	});
});

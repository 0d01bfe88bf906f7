import { expect } from 'chai';
import { Secret, TOTP } from 'otpauth';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { countOf, json, stack, until, type Stack } from './stack';

const password = 'four wet boots on deck';

describe('people who work here', () => {
	let s: Stack;
	let page: Page;
	let theirs: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		theirs = await (await s.context()).newPage();
	});
	after(async () => {
		await page.context().close();
		await theirs.context().close();
	});
	const open = async (on: Page, path: string) => {
		await on.goto(`${s.url}${path}`);
		await on.waitForSelector('html[data-ready]');
	};
	/** The newest link of a kind that came to a mailbox. */
	const linkIn = (to: string, about: string): Promise<string> =>
		until(`a letter to ${to} about “${about}”`, async () => {
			const { letters } = await json<{ letters: { subject: string; text: string }[] }>(
				`${s.mailhouse}/letters?newest=1&limit=20&to=${encodeURIComponent(to)}`
			);
			const letter = letters.find((l) => l.subject.includes(about));
			return letter && /http\S+\/account\/\S+/.exec(letter.text)?.[0];
		});
	const signIn = async (on: Page, name: string, word: string) => {
		await open(on, '/sign-in');
		await on.getByLabel('User name').fill(name);
		await on.getByLabel('Password', { exact: true }).fill(word);
		await on.getByRole('button', { name: 'Sign in' }).click();
	};

	it('somebody new is invited by mail, sets a password, and comes in with their role', async () => {
		await open(page, '/settings/work');
		expect(await faults(page)).to.deep.equal([]);
		await page.getByLabel('Given name').fill('Wren');
		await page.getByLabel('Family name').fill('Sato');
		await page.getByLabel('Mail address').fill('wren.sato@brackwater.example');
		await page.getByLabel('As', { exact: true }).selectOption('helper');
		await page.getByLabel('Where').selectOption({ index: 1 });
		await page.getByRole('button', { name: 'Mail the invitation' }).click();
		await page.getByText('was invited and has not come yet').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		const link = await linkIn('wren.sato@brackwater.example', 'You can sign in');
		await theirs.goto(link);
		await theirs.waitForSelector('html[data-ready]');
		expect(await faults(theirs)).to.deep.equal([]);
		await theirs.getByLabel('New password').fill('short');
		await theirs.getByLabel('The same once more').fill('short');
		await theirs.getByRole('button', { name: 'Set the password' }).click();
		await theirs.getByText('15 are the least').waitFor();
		expect(await theirs.getByLabel('User name').inputValue()).to.equal('wren.sato');
		await theirs.getByLabel('New password').fill(password);
		await theirs.getByLabel('The same once more').fill(password);
		await theirs.getByRole('button', { name: 'Set the password' }).click();
		await theirs.getByText('Your password is set').waitFor();
		await theirs.goto(link);
		await theirs.getByText('It has been used').waitFor();
		await signIn(theirs, 'wren.sato', password);
		await theirs.waitForURL('**/week');
	});

	it('what they may not do is not offered, and refused and written down where it is tried', async () => {
		await theirs.waitForSelector('html[data-ready]');
		expect(await theirs.getByRole('link', { name: 'Write', exact: true }).count()).to.equal(0);
		for (const path of ['/write', '/people/rosters', '/settings/work', '/settings/log'])
			expect((await theirs.goto(`${s.url}${path}`))!.status(), path).to.equal(403);
		expect(
			await countOf(s.db, `log_line WHERE act = 'refused' AND after LIKE '%bring-roster%'`)
		).to.be.above(0);
		await open(page, '/settings/log?kind=refused');
		await page.getByText('tried to bring a roster in, and may not').first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
	});

	it('set a second factor up, and come in by it; a code is good once', async () => {
		await open(theirs, '/settings/me');
		await theirs.getByRole('button', { name: 'Set it up' }).click();
		const secret = (await theirs.locator('.secret').innerText()).replace(/\s/g, '');
		expect(await faults(theirs)).to.deep.equal([]);
		const app = new TOTP({ secret: Secret.fromBase32(secret) });
		const first = app.generate();
		await theirs.getByLabel('The six figures it shows now').fill(first);
		await theirs.getByRole('button', { name: 'Turn it on' }).click();
		const paper = await theirs.locator('.codes li').first().innerText();
		await signIn(theirs, 'wren.sato', password);
		await theirs.waitForURL(/sign-in\/factor/);
		await theirs.waitForSelector('html[data-ready]');
		expect(await faults(theirs)).to.deep.equal([]);
		// With the password alone nothing opens.
		const week = await theirs.request.get(`${s.url}/week`, { maxRedirects: 0 });
		expect(week.status()).to.equal(303);
		await theirs.getByLabel('Code').fill(first);
		await theirs.getByRole('button', { name: 'Go on' }).click();
		await theirs.getByText('That code does not fit').waitFor();
		await theirs.getByLabel('Code').fill(paper);
		await theirs.getByRole('button', { name: 'Go on' }).click();
		await theirs.waitForURL('**/week');
	});

	it('a right taken away acts at the next request and on what is open', async () => {
		const id = (await s.db.one<{ id: number }>(
			`SELECT person_id AS id FROM sign_in WHERE user_name = 'wren.sato'`
		))!.id;
		// Of one that is long over nothing comes by itself.
		const over = (await s.db.one<{ id: number }>(
			`SELECT id FROM dispatch WHERE state = 'sent' AND kind != 'answer'
				AND school_id = (SELECT school_id FROM role WHERE person_id = $id) ORDER BY leaves_at LIMIT 1`,
			{ id }
		))!.id;
		await open(theirs, `/reach/${over}`);
		await open(page, `/settings/work/${id}`);
		await page.getByText('answer families').waitFor();
		await page.getByRole('button', { name: 'End it now' }).click();
		await page.getByText('The role has ended.').waitFor();
		// The line says so at its next beat, and the page that it keeps nothing new.
		await theirs.getByText('This page shows nothing new since').waitFor();
		expect(await faults(theirs)).to.deep.equal([]);
		const next = await theirs.goto(`${s.url}/people`);
		expect(next!.url()).to.contain('/sign-in');
		await page.getByLabel('As', { exact: true }).selectOption('helper');
		await page.getByLabel('Where').selectOption('district');
		await page.getByRole('button', { name: 'Give it' }).click();
		await page.getByText('The role is given.').waitFor();
	});

	it('who has forgotten their password is mailed a link, and every session ends by it', async () => {
		await open(theirs, '/forgot');
		expect(await faults(theirs)).to.deep.equal([]);
		await theirs.getByLabel('User name or mail address').fill('wren.sato');
		await theirs.getByRole('button', { name: 'Mail me the link' }).click();
		await theirs.getByText('If there is such an account').waitFor();
		await theirs.goto(await linkIn('wren.sato@brackwater.example', 'A new password'));
		await theirs.waitForSelector('html[data-ready]');
		await theirs.getByLabel('New password').fill('five dry boots ashore');
		await theirs.getByLabel('The same once more').fill('five dry boots ashore');
		await theirs.getByRole('button', { name: 'Set the password' }).click();
		await theirs.getByText('Your password is set').waitFor();
		expect(
			await countOf(
				s.db,
				`session JOIN sign_in USING (person_id) WHERE user_name = 'wren.sato' AND NOT waits_factor`
			)
		).to.equal(0);
	});

	it('what was done stands in the log, bound line by line', async () => {
		await open(page, '/settings/log');
		await page.getByText('invited Wren Sato to sign in here').first().waitFor();
		await open(page, '/settings/roles');
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('button', { name: 'Change it' }).first().click();
		expect(await faults(page)).to.deep.equal([]);
	});

	it('everything about a contact is taken out, and who has gone is erased after their name was written', async () => {
		const id = (await s.db.one<{ id: number }>(
			`SELECT max(person.id) AS id FROM person_now AS person JOIN contact_now AS contact ON contact.person_id = person.id
			WHERE kind = 'adult' AND NOT EXISTS (SELECT 1 FROM delivery WHERE person_id = person.id AND state IN ('held', 'planned'))
				AND person.id NOT IN (SELECT person_id FROM joining WHERE person_id IS NOT NULL)`
		))!.id;
		await open(page, `/people/${id}`);
		const name = await page.locator('h1').innerText();
		await page.getByText('Everything about them').click();
		const data = page.waitForEvent('download');
		await page.getByRole('button', { name: 'as data (JSON)' }).click();
		const stream = await (await data).createReadStream();
		let text = '';
		for await (const piece of stream) text += String(piece);
		expect((JSON.parse(text) as { person: string }).person).to.equal(name);
		await open(page, `/people/${id}/erase`);
		await page.getByText('the next file would bring them back').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await s.db.run('UPDATE person SET gone_at = 1 WHERE id = $id', { id });
		await open(page, `/people/${id}/erase`);
		const erase = page.getByRole('button', { name: 'Erase them for good' });
		await page.getByLabel('Write their name').fill('somebody');
		expect(await erase.isDisabled()).to.equal(true);
		await page.getByLabel('Write their name').fill(name);
		expect(await faults(page)).to.deep.equal([]);
		await erase.click();
		await page.getByRole('heading', { name: 'Erased' }).waitFor();
		await open(page, `/people/${id}`);
		await page.getByRole('heading', { name: '(erased)', level: 1 }).waitFor();
		await open(page, `/people/${id}/erase`);
		await page.getByText('They have been erased').waitFor();
	});
});

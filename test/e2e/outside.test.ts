import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { stack, type Stack } from './stack';

describe('coming in by the district’s own sign-in', () => {
	let s: Stack;
	let keeper: Page;
	before(async () => {
		s = await stack();
		await s.start('identity');
		keeper = await s.signedIn('maren');
	});
	after(async () => {
		await s.db.run(`DELETE FROM setting WHERE key = 'identity-provider'`);
		await s.db.run('DELETE FROM outside_name');
		await s.stop('identity');
		await keeper.context().close();
	});
	const mailOf = async (userName: string): Promise<string> =>
		(await s.db.one<{ value: string }>(
			`SELECT value FROM address JOIN sign_in USING (person_id) WHERE user_name = $userName AND way = 'email'`,
			{ userName }
		))!.value;
	const post = (path: string, body: object = {}) =>
		fetch(`${s.identity.desk}${path}`, { method: 'POST', body: JSON.stringify(body) });

	/** Signs in at the stand-in, which has been reached. */
	async function atTheirs(page: Page, mail: string, how: 'in' | 'no' = 'in'): Promise<void> {
		await page.waitForURL(`**/sign-in/*`);
		await page.waitForSelector('#mail');
		await page.fill('#mail', mail);
		await page.fill('#password', 'slow-ferry');
		await page.click(`button[value=${how}]`);
	}
	/** A browser of its own that goes to sign in by it. */
	async function browser(to = ''): Promise<Page> {
		const page = await (await s.context()).newPage();
		await page.goto(`${s.url}/sign-in${to}`);
		await page.getByRole('link', { name: 'Sign in with Harbor' }).click();
		return page;
	}
	const said = async (page: Page): Promise<string> => {
		await page.waitForURL('**/sign-in/outside/back?*');
		return page.locator('main').innerText();
	};
	async function fill(fields: Readonly<Record<string, string>>): Promise<string> {
		await keeper.goto(`${s.url}/settings/identity`);
		await keeper.waitForSelector('html[data-ready]');
		for (const [name, value] of Object.entries(fields))
			await keeper.fill(`input[name=${name}]`, value);
		await keeper.getByRole('button', { name: 'Try it, and keep it' }).click();
		const came = keeper.getByRole('status', { name: 'What came of trying it' });
		await came.waitFor();
		return came.innerText();
	}

	it('is tried before it is kept, with the failing step in words, and proven before it stands on the sign-in page', async () => {
		const fields = { name: 'Harbor', clientId: 'idle-courier', password: 'tide-table' };
		const wrong = s.identity.issuer.replace('/district', '/nothing');
		expect(await fill({ ...fields, issuer: wrong })).to.contain(
			'It stopped at: It says what it can do'
		);
		expect(await keeper.locator('input[name=issuer]').inputValue()).to.equal(wrong);
		expect(await fill({ ...fields, issuer: s.identity.issuer })).to.contain(
			'It works, and is kept'
		);
		const door = await (await s.context()).newPage();
		await door.goto(`${s.url}/sign-in`);
		expect(await door.getByText('Harbor').count()).to.equal(0);
		// Somebody else's sign-in proves nothing.
		await keeper.getByRole('link', { name: 'See whom it says you are' }).click();
		await atTheirs(keeper, 'nobody@sand.example');
		expect(await said(keeper)).to.contain('Nobody who works here is known by it');
		await keeper.context().clearCookies({ domain: 'localhost', name: /^_(session|interaction)/ });
		await keeper.goto(`${s.url}/settings/identity`);
		await keeper.getByRole('link', { name: 'See whom it says you are' }).click();
		await atTheirs(keeper, await mailOf('maren'));
		expect(await said(keeper)).to.match(
			/Here that is Maren Quill[.]\s+Harbor stands on the sign-in page/
		);
		await door.reload();
		expect(await door.getByRole('link', { name: 'Sign in with Harbor' }).count()).to.equal(1);
		await door.context().close();
	});

	it('brings a colleague in, to where they wanted; ended there, or meant for another browser, it brings nobody', async () => {
		const mail = await mailOf('chidi');
		const page = await browser('?to=/people');
		await atTheirs(page, mail, 'no');
		expect(await said(page)).to.contain('The sign-in was ended there');
		await page.getByRole('link', { name: 'Begin once more' }).click();
		await atTheirs(page, mail);
		await page.waitForURL('**/week');
		expect(await page.locator('header').innerText()).to.contain('Chidi Okafor');
		// The keys are others from one moment to the next.
		await post('/rotate');
		const again = await browser('?to=/people');
		let back = '';
		again.on('request', (r) => {
			if (r.url().includes('/outside/back?')) back = r.url();
		});
		await atTheirs(again, mail);
		await again.waitForURL('**/people');
		// Whoever gets hold of that address has neither the code nor the browser any more.
		const other = await (await s.context()).newPage();
		await other.goto(back);
		expect(await other.locator('main').innerText()).to.contain(
			'No sign-in was begun in this browser'
		);
		for (const one of [page, again, other]) await one.context().close();
	});

	it('what it has not confirmed, and whom nobody knows, is told why', async () => {
		await post('/says', { email_verified: false });
		const page = await browser();
		await atTheirs(page, await mailOf('ines'));
		expect(await said(page)).to.contain('has confirmed your mail address');
		await post('/says');
		await page.getByRole('link', { name: 'Begin once more' }).click();
		await page.waitForURL('**/week');
		expect(await page.locator('header').innerText()).to.contain('Ines Tavares');
		await page.context().close();
	});

	it('when it is gone, the page says so, and a password brings in who looks after settings', async () => {
		await keeper.goto(`${s.url}/settings/identity`);
		await keeper.waitForSelector('html[data-ready]');
		await keeper.selectOption('select[name=passwords]', 'keepers');
		await keeper.getByRole('button', { name: 'Try it, and keep it' }).click();
		await keeper.getByText('It works, and is kept.').waitFor();
		await s.stop('identity');
		await s.stop('web');
		await s.start('web');
		const page = await browser();
		await page.waitForURL('**/sign-in/outside?*');
		expect(await page.locator('main').innerText()).to.contain('It cannot be reached');
		await page.goto(`${s.url}/sign-in`);
		await page.waitForSelector('html[data-ready]');
		await page.fill('input[name=name]', 'chidi');
		await page.fill('input[name=password]', 'slow-ferry');
		await page.click('form button[type=submit]');
		await page.getByText('or sign in with Harbor').waitFor();
		await page.context().close();
		const mine = await s.signedIn('maren');
		await mine.context().close();
	});
});

import { expect } from 'chai';
import { wordingOf } from '../../src/lib/core/copy/words';
import type { Locator, Page } from 'playwright-core';
import { tokenOf } from '../named';
import { faults } from './axe';
import { stack, until, type Stack } from './stack';
import { openWrite, pick, sendButton, setWay, settled, write } from './write-page';

describe('every screen', () => {
	let s: Stack;
	let page: Page;
	let familyLink: string;
	let dispatch: number;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		const row = (await s.db.one<{ id: number; dispatch: number }>(
			`SELECT id, dispatch_id AS dispatch FROM delivery WHERE way = 'email' AND state IN ('delivered', 'read') ORDER BY id LIMIT 1`
		))!;
		dispatch = row.dispatch;
		familyLink = `/f/${await tokenOf(s.db, await s.key(), row.id)}`;
	});
	after(() => page.context().close());

	it('Sign in, the keys and an open list of names: axe-core finds nothing', async () => {
		const other = await (await s.context()).newPage();
		await other.goto(`${s.url}/sign-in`);
		await other.waitForSelector('html[data-ready]');
		expect(await faults(other)).to.deep.equal([]);
		await other.context().close();
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 2-B');
		await settled(page);
		await page.locator('.lands button.big').click();
		await page.locator('.bx--modal.is-visible tbody tr').first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.keyboard.press('Escape');
		await page.locator('.bx--modal.is-visible').waitFor({ state: 'hidden' });
		await page.evaluate(() => (document.activeElement as HTMLElement).blur());
		await page.keyboard.press('?');
		await page.locator('.bx--modal.is-visible', { hasText: 'This list' }).waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.keyboard.press('Escape');
	});

	it('a full Who panel, the sentence and keeping: axe-core finds nothing, and Escape closes', async () => {
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 2-B');
		await page.getByLabel('Only those who').selectOption('language:es');
		await page.getByLabel('Add staff, people or a kept audience').selectOption('staff');
		await page.getByText('Copies for information').click();
		await setWay(page, 'Text', true);
		await page.getByRole('textbox', { name: 'Wording' }).fill('Boats “late” – soon… 🚤');
		await page.locator('.meter summary').click();
		await settled(page);
		expect(await faults(page)).to.deep.equal([]);
		for (const [opener, heading] of [
			['as a sentence', 'The audience as a sentence'],
			['keep', 'Keep this audience']
		] as const) {
			await page.getByRole('button', { name: opener, exact: true }).click();
			const dialog = page.locator('.bx--modal.is-visible', { hasText: heading });
			await dialog.waitFor();
			expect(await faults(page), heading).to.deep.equal([]);
			// The checker moves the focus about.
			await dialog.locator('textarea, input').first().focus();
			await page.keyboard.press('Escape');
			await dialog.waitFor({ state: 'hidden' });
		}
		await openWrite(page, s.url);
		await page.getByRole('button', { name: 'Start a new one' }).click();
	});

	it('a full sheet of words, kept wording and its proof: axe-core finds nothing', async () => {
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 2-A');
		await setWay(page, 'Text', true);
		await page.getByLabel('Kind').selectOption('announcement');
		await page.getByText('Now it is one-way').waitFor();
		await page.getByRole('button', { name: 'kept wording' }).click();
		await page.getByRole('button', { name: /^Closure/ }).click();
		await page.getByRole('button', { name: 'Put it into the sheet' }).waitFor();
		expect(await faults(page), 'kept wording').to.deep.equal([]);
		await page.getByRole('button', { name: 'Put it into the sheet' }).click();
		await page.getByRole('button', { name: /^Arabic/ }).click();
		await page.getByRole('textbox', { name: 'Wording' }).click();
		await page.getByRole('button', { name: 'Table' }).click();
		await page.locator('.wording th').first().click();
		await until('the cell has the caret', () =>
			page.evaluate(() => {
				const { anchorNode } = getSelection()!;
				const at = anchorNode instanceof Element ? anchorNode : anchorNode?.parentElement;
				return at?.closest('th') !== null && at !== undefined;
			})
		);
		for (const [i, head] of ['Run', 'Leaves', 'Back'].entries()) {
			if (i > 0) await page.keyboard.press('Tab');
			// As fast as a person types.
			await page.keyboard.type(head, { delay: 30 });
			await page.locator('.wording th', { hasText: head }).waitFor();
		}
		await page.locator('.meter summary').click();
		await page.locator('.settings summary').click();
		await page.locator('.settings').getByLabel('The original is written in').waitFor();
		await settled(page);
		expect(await faults(page), 'words').to.deep.equal([]);
		await page.keyboard.press('Control+z');
		await page.getByText('Saved as a draft').waitFor();
		await page.goto(`${s.url}/write/proof`);
		await page.frameLocator('iframe').locator('p').first().waitFor();
		expect(await faults(page), 'proof').to.deep.equal([]);
		await openWrite(page, s.url);
		await page.getByRole('button', { name: 'Start a new one' }).click();
	});

	it('each page begins at its top, and going back leads to where one was', async () => {
		const small = await s.signedIn('maren', { width: 1024, height: 500 });
		await small.goto(`${s.url}/people/sections`);
		await small.waitForSelector('html[data-ready]');
		const top = () => small.locator('#sheet').evaluate((e) => e.scrollTop);
		const link = small.locator('main a[href^="/people/sections/"]').nth(30);
		await link.scrollIntoViewIfNeeded();
		const was = await top();
		expect(was).to.be.above(100);
		await link.click();
		await small.waitForURL(/sections\/\d+$/);
		await until('at its top', async () => (await top()) === 0);
		await small.goBack();
		await small.waitForURL(/sections$/);
		await until('where one was', async () => (await top()) === was);
		await small.context().close();
	});

	it('goes from place to place by keyboard', async () => {
		await page.goto(`${s.url}/week`);
		await page.waitForSelector('html[data-ready]');
		for (const [keyName, place] of [
			['2', 'write'],
			['3', 'reach'],
			['4', 'people'],
			['5', 'replies'],
			['1', 'week']
		] as const) {
			await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
			await page.keyboard.press(keyName);
			await page.waitForURL(`${s.url}/${place}`);
			// People takes the keys for its search by itself; until then they could still go elsewhere.
			if (place === 'people') await page.locator('main input:focus').waitFor();
		}
	});

	it('jumps to a person, a dispatch or a section by a few letters, and lists the keys', async () => {
		await page.goto(`${s.url}/week`);
		await page.waitForSelector('html[data-ready]');
		await page.keyboard.press('?');
		await page.getByRole('definition').filter({ hasText: 'Jump to a person' }).waitFor();
		await page.keyboard.press('Escape');
		await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
		await page.keyboard.press('/');
		await page.locator('.jump input:focus').waitFor();
		await page.keyboard.type('homeroom 2-c');
		await page.locator('.jump li', { hasText: 'Homeroom 2-C' }).first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.keyboard.press('Enter');
		await page.waitForURL(/\/people\/sections\/\d+/);
		await page.getByRole('link', { name: 'Write to them' }).click();
		await page.waitForURL(/\/write/);
		await page.locator('.slips', { hasText: 'Homeroom 2-C' }).waitFor();
		await page.getByRole('button', { name: 'Delete this draft' }).waitFor();
		await page.getByRole('button', { name: 'Delete this draft' }).click();
		await page.getByText(/^Deleted/).waitFor();
	});

	it('a section is picked, written to and sent by keyboard alone', async () => {
		await page.goto(`${s.url}/week`);
		await page.waitForSelector('html[data-ready]');
		/** Keys that were pressed beside the words themselves. */
		let keys = 0;
		const press = async (key: string) => {
			keys += 1;
			await page.keyboard.press(key);
		};
		const tabTo = async (what: Locator) => {
			for (let i = 0; i < 60; i += 1) {
				if (await what.evaluate((e) => e.contains(document.activeElement))) return;
				await press('Tab');
			}
			throw new Error('60 tabs do not lead there');
		};
		await press('2');
		await page.waitForURL('**/write');
		await page.locator('.ways').first().waitFor();
		await settled(page);
		await press('s');
		await page.keyboard.type('homeroom 2-c');
		await tabTo(page.getByRole('checkbox', { name: /Homeroom 2-C/ }));
		await press('Space');
		await settled(page);
		expect(await page.locator('.slips').innerText()).to.contain('Homeroom 2-C');
		await tabTo(page.getByLabel('Subject'));
		await page.keyboard.type('By keyboard');
		await tabTo(page.getByRole('textbox', { name: 'Wording' }));
		await page.keyboard.type('No mouse was used.');
		await settled(page);
		await tabTo(sendButton(page));
		await press('Enter');
		await page.waitForURL(/\/reach\/\d+$/);
		const callBack = page.getByRole('button', { name: /^Call back/ });
		await callBack.waitFor();
		await tabTo(callBack);
		await press('Enter');
		await page.waitForURL(/draft=/);
		// From Week to a dispatch on hold and back to a draft; more than these would be work.
		expect(keys).to.be.at.most(60);
	});

	for (const [size, width, height] of [
		['1280x720', 1280, 720],
		['150 % zoom of 1280x720', 853, 480],
		['a small laptop', 1024, 600]
	] as const) {
		it(`at ${size} the means to act is in view`, async () => {
			const small = await s.signedIn('maren', { width, height });
			await openWrite(small, s.url);
			for (const name of [
				'Homeroom 2-A',
				'Homeroom 2-B',
				'Homeroom 3-A',
				'Homeroom 3-B',
				'Homeroom 4-A'
			])
				await pick(small, name);
			await setWay(small, 'Text', true);
			await write(small, 'A subject', 'Words.');
			await settled(small);
			const box = (await sendButton(small).boundingBox())!;
			expect(box.y).to.be.at.least(0);
			expect(box.y + box.height).to.be.at.most(height);
			expect(box.x + box.width).to.be.at.most(width);
			await small.context().close();
		});
	}

	/** Other words in the database, as if they had been sent; the moment of sending makes them another version. */
	const reword = (subject: string, body: string) =>
		s.db.run(
			`UPDATE dispatch SET subject = $subject, wording = $wording, scheduled_at = scheduled_at + 1
			WHERE id = $id`,
			{ subject, wording: JSON.stringify(wordingOf(subject, body)), id: dispatch }
		);

	it('words in right-to-left letters stand to the right', async () => {
		const phone = await (await s.context({ width: 390, height: 760 })).newPage();
		await reword('القارب متأخر اليوم', 'القارب متأخر اليوم');
		await phone.goto(s.url + familyLink);
		const words = phone.locator('[data-open-letter] .words p');
		expect(await words.evaluate((e) => getComputedStyle(e).direction)).to.equal('rtl');
		await phone.context().close();
	});

	it('escapes what people wrote', async () => {
		const bad = '<img src=x onerror=alert(1)>';
		await reword(bad, bad);
		for (const path of ['/week', '/reach', `/reach/${dispatch}`, familyLink]) {
			await page.goto(s.url + path);
			expect(await page.locator('img[src=x]').count(), path).to.equal(0);
		}
	});

	it('sets a content security policy without inline scripts, and keeps private pages out of caches', async () => {
		for (const path of ['/sign-in', familyLink]) {
			const { headers } = await fetch(s.url + path);
			const policy = headers.get('content-security-policy')!;
			const script = /script-src ([^;]*)/.exec(policy)![1]!;
			expect(script)
				.to.match(/'self'/)
				.and.not.match(/unsafe/);
			expect(policy).to.contain("default-src 'self'").and.contain("frame-ancestors 'none'");
			expect(headers.get('cache-control')).to.equal('no-store');
			expect(headers.get('referrer-policy')).to.equal('same-origin');
		}
		const { headers } = await fetch(`${s.url}/sign-in`, {
			method: 'POST',
			redirect: 'manual',
			body: 'name=maren&password=slow-ferry',
			headers: {
				'content-type': 'application/x-www-form-urlencoded',
				origin: s.url,
				accept: 'text/html'
			}
		});
		expect(headers.get('set-cookie'))
			.to.match(/HttpOnly/)
			.and.match(/SameSite=Lax/)
			.and.match(/Expires=/);
	});

	it('asked nothing of any other host, and no page logged an error', () => {
		expect(s.outside).to.deep.equal([]);
		expect(s.consoleErrors).to.deep.equal([]);
	});
});

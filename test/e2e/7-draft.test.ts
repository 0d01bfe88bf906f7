import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { chromium, type Page } from 'playwright-core';
import { stack, until, type Stack } from './stack';
import { openFresh, openWrite, pick, sendSheet, settled, write, typedBody } from './write-page';

/** Whether the browser's own database has a sheet with these words on the disk. */
const browserHas = (page: Page, words: string): Promise<boolean> =>
	page.evaluate(
		(words) =>
			new Promise<boolean>((found) => {
				const open = indexedDB.open('idle-courier');
				open.onsuccess = () => {
					const all = open.result.transaction('sheets').objectStore('sheets').getAll();
					all.onsuccess = () => {
						open.result.close();
						found(JSON.stringify(all.result).includes(words));
					};
				};
			}),
		words
	);

describe('nothing typed is lost', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('ruth');
	});
	after(() => page.context().close());
	const saved = (p: Page) => p.getByText(/^Saved as a draft/).waitFor();
	const drafts = async () =>
		(
			await s.db.all<{ id: number; subject: string; body: string }>(
				`SELECT id, subject, body FROM dispatch WHERE state = 'draft' AND sender_id =
					(SELECT person_id FROM sign_in WHERE user_name = 'ruth') ORDER BY id`
			)
		).map((d) => ({ ...d }));
	const body = typedBody;

	it('is saved within a second of rest, and comes back in another browser by way of Week', async () => {
		await openWrite(page, s.url);
		await write(page, 'Boats in the rain', 'Bring a coat.');
		await pick(page, 'Geometry-A');
		await saved(page);
		await until('it is on the server', async () => (await drafts()).length === 1);
		const other = await s.signedIn('ruth');
		await other.getByRole('link', { name: 'Boats in the rain' }).click();
		await other.waitForSelector('button.door.big');
		expect(await body(other)).to.equal('Bring a coat.');
		expect(await other.locator('.slips').innerText()).to.contain('Geometry-A');
		await other.context().close();
	});

	it('comes back after a crash in the middle of a word, with what no save had reached yet', async () => {
		await page.getByRole('textbox', { name: 'Wording' }).fill('Bring a coat and gl');
		const { page: next } = { page: await page.context().newPage() };
		await page.close({ runBeforeUnload: false });
		page = next;
		await openWrite(page, s.url);
		expect(await body(page)).to.equal('Bring a coat and gl');
		expect(await page.locator('.what').innerText()).to.contain('This is the sheet you left here.');
		await until('what was typed last is saved too', async () =>
			(await drafts()).some((d) => d.body === 'Bring a coat and gl')
		);
	});

	it('is kept while there is no connection, and saved by itself when it is back', async () => {
		await page.context().setOffline(true);
		await page.getByRole('textbox', { name: 'Wording' }).fill('Written on the ferry.');
		await page
			.getByText('Not saved: no connection. What you type is kept in this browser.')
			.waitFor();
		await page.context().setOffline(false);
		await until('saved by itself', async () =>
			(await drafts()).some((d) => d.body === 'Written on the ferry.')
		);
		await saved(page);
	});

	it('is offered in both versions where two windows have gone their own ways', async () => {
		const { id } = (await drafts())[0]!;
		const other = await page.context().newPage();
		await other.goto(`${s.url}/write?draft=${id}`);
		await other.waitForSelector('button.door.big');
		await other.getByLabel('Subject').fill('Boats in the sun');
		await until('the other window has saved', async () =>
			(await drafts()).some((d) => d.subject === 'Boats in the sun')
		);
		await page.getByRole('textbox', { name: 'Wording' }).fill('From the first window.');
		await page.getByText('This sheet was changed in another window.').waitFor();
		expect((await drafts())[0]).to.deep.include({ subject: 'Boats in the sun' });
		await page.getByRole('button', { name: 'Keep this one' }).click();
		await until('the first window has saved', async () =>
			(await drafts()).some((d) => d.body === 'From the first window.')
		);
		expect(await drafts()).to.have.length(1);
		await other.getByRole('textbox', { name: 'Wording' }).fill('And on in the other.');
		await other.getByText('This sheet was changed in another window.').waitFor();
		await other.getByRole('button', { name: 'Use that one' }).click();
		expect(await body(other)).to.equal('From the first window.');
		await other.close();
	});

	it('says in one window that it was sent from another, and starts anew', async () => {
		const { id } = (await drafts())[0]!;
		const other = await page.context().newPage();
		await other.goto(`${s.url}/write?draft=${id}`);
		await other.waitForSelector('button.door.big');
		await settled(other);
		const dispatch = await sendSheet(other);
		expect(dispatch).to.equal(id);
		await page.getByRole('textbox', { name: 'Wording' }).fill('Too late.');
		await page.getByText('This sheet has been sent from another window.').waitFor();
		await page.locator('.what').getByRole('button', { name: 'Start a new one' }).click();
		expect(await body(page)).to.equal('');
		await other.getByRole('button', { name: /^Call back/ }).click();
		await other.waitForURL(/draft=/);
		await other.close();
	});

	it('is deleted only when asked, and brought back when that was a slip', async () => {
		await page.goto(`${s.url}/week`);
		await page.goto(`${s.url}/write`);
		await page.waitForSelector('button.door.big');
		await write(page, 'To be thrown away', 'x');
		await saved(page);
		const before = (await drafts()).length;
		await page.getByRole('button', { name: 'Delete this draft' }).click();
		await until('it is gone', async () => (await drafts()).length === before - 1);
		expect((await drafts()).map((d) => d.subject)).not.to.contain('To be thrown away');
		await page.getByRole('button', { name: 'Bring it back' }).click();
		await until('it is back', async () =>
			(await drafts()).some((d) => d.subject === 'To be thrown away')
		);
		expect(await body(page)).to.equal('x');
		await page.getByRole('button', { name: 'Delete this draft' }).click();
		await until('it is gone for good', async () => (await drafts()).length === before - 1);
		// Whatever would still have been saved of it is saved before what is typed after it.
		await write(page, 'After it', 'y');
		await until('the next is saved', async () =>
			(await drafts()).some((d) => d.subject === 'After it')
		);
		expect(await drafts()).to.have.length(before);
		expect((await drafts()).map((d) => d.subject)).not.to.contain('To be thrown away');
	});

	it('what was deleted does not come back from a page that is left before the browser has written that', async () => {
		await openWrite(page, s.url);
		await write(page, 'Deleted for good', 'x');
		await saved(page);
		await until('the browser has it', () => browserHas(page, 'Deleted for good'));
		await page.evaluate(() => {
			IDBObjectStore.prototype.delete = () => {
				throw new Error('cut off');
			};
		});
		await page.getByRole('button', { name: 'Delete this draft' }).click();
		await page.getByText(/^Deleted/).waitFor();
		expect(await browserHas(page, 'Deleted for good'), 'cut off').to.equal(true);
		await openWrite(page, s.url);
		await until('it is tidied', async () => !(await browserHas(page, 'Deleted for good')));
		expect(await page.getByLabel('Subject').inputValue()).to.equal('');
		expect((await drafts()).map((d) => d.subject)).not.to.contain('Deleted for good');
	});

	it('what was typed while nothing could be saved is not written over by opening another, and is listed', async () => {
		await page.goto(`${s.url}/write`);
		await page.waitForSelector('button.door.big');
		await write(page, 'A saved one', 'x');
		await saved(page);
		const id = (await drafts()).find((d) => d.subject === 'A saved one')!.id;
		const other = await page.context().newPage();
		await other.goto(`${s.url}/write`);
		await other.waitForSelector('button.door.big');
		const fresh = other.getByRole('button', { name: 'Start a new one' });
		await fresh.click();
		// A server that hangs is said to after some seconds, and what is typed stays.
		await other.route('**/write/draft', () => {});
		await write(other, 'Typed in vain', 'These words are only here.');
		await other.getByText('Not saved: the server does not answer').waitFor();
		await other.goto(`${s.url}/write?draft=${id}`);
		await other.waitForSelector('button.door.big');
		expect(await body(other)).to.equal('x');
		await other.goto(`${s.url}/week`);
		await other.locator('.unsaved summary').click();
		await other.locator('.unsaved').getByRole('link', { name: 'Typed in vain' }).click();
		await other.waitForSelector('button.door.big');
		expect(await body(other)).to.equal('These words are only here.');
		await other.unroute('**/write/draft');
		await until('it is saved at last', async () =>
			(await drafts()).some((d) => d.subject === 'Typed in vain')
		);
		await other.close();
	});

	it('a session that has ended leads back to the sheet, and the tally goes on', async () => {
		await page.goto(`${s.url}/write`);
		await page.waitForSelector('button.door.big');
		await page.context().clearCookies();
		await write(page, 'After the session', 'Still here.');
		await page.getByRole('link', { name: 'Sign in' }).click();
		await page.fill('input[name=name]', 'ruth');
		await page.fill('input[name=password]', 'slow-ferry');
		await page.click('form button[type=submit]');
		await page.waitForURL(/\/write/);
		await page.waitForSelector('button.door.big');
		expect(await body(page)).to.equal('Still here.');
		await saved(page);
	});

	it('a browser killed right after a key has the sheet when it comes back', async () => {
		const profile = mkdtempSync(join(tmpdir(), 'idle-courier-profile-'));
		const start = () =>
			chromium.launchPersistentContext(profile, {
				executablePath: '/usr/bin/chromium',
				args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run']
			});
		try {
			let context = await start();
			let window = await context.newPage();
			await window.goto(`${s.url}/sign-in`);
			await window.waitForSelector('html[data-ready]');
			await window.fill('input[name=name]', 'ruth');
			await window.fill('input[name=password]', 'slow-ferry');
			await window.click('form button[type=submit]');
			await window.waitForURL('**/week');
			const cookies = await context.cookies();
			await openFresh(window, s.url);
			// Nothing may reach the server: what comes back is the browser's own.
			await context.setOffline(true);
			await window.getByLabel('Subject').fill('Killed in the middle');
			// As soon as the browser has it on the disk, half a second before any save.
			await until('the browser has it', () => browserHas(window, 'Killed in the middle'));
			const pid = execFileSync('pgrep', ['-f', '-o', `user-data-dir=${profile}`])
				.toString()
				.trim();
			process.kill(Number(pid), 'SIGKILL');
			await context.close().catch(() => {});
			context = await start();
			await context.addCookies(cookies);
			window = await context.newPage();
			await window.goto(`${s.url}/write`);
			await window.waitForSelector('button.door.big');
			await until(
				'the subject is back',
				async () => (await window.getByLabel('Subject').inputValue()) === 'Killed in the middle'
			);
			await context.close();
		} finally {
			rmSync(profile, { recursive: true, force: true });
		}
	});
});

import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { readDistrict } from '../../src/lib/server/db/district';
import { faults } from './axe';
import { countOf, stack, type Stack } from './stack';

describe('the settings', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());
	const open = async (path: string, on = page) => {
		await on.goto(`${s.url}${path}`);
		await on.waitForSelector('html[data-ready]');
	};
	const lookAt = async () => {
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByRole('heading', { name: 'What this changes' }).waitFor();
	};

	it('say before they are changed what that does, and go back', async () => {
		// Nothing is settled meanwhile, and leaves.
		await s.stop('courier');
		await open('/settings/chapter/quiet');
		const before = await readDistrict(s.db);
		await page.getByLabel('Emails and the inbox are quiet from').fill('17:00');
		await lookAt();
		const said = await page.locator('.effect').innerText();
		const shifts = Number(/It shifts ([\d,]+) cop/.exec(said)?.[1]?.replace(',', '') ?? 0);
		expect(said)
			.to.contain('21:00 17:00')
			.and.match(/It shifts|No copy that is scheduled/);
		// Looking changes nothing.
		expect(await readDistrict(s.db)).to.deep.equal(before);
		const due = async () =>
			(
				await s.db.all<{ key: string }>(
					`SELECT dispatch_id || ' ' || person_id || ' ' || delivery.way || ' ' || due_at AS key FROM delivery
					JOIN dispatch ON dispatch.id = dispatch_id WHERE dispatch.state = 'scheduled' AND settled = 0`
				)
			).map((d) => d.key);
		const was = new Set(await due());
		await page.getByRole('button', { name: 'Change it' }).click();
		await page.getByText('It is changed.').waitFor();
		expect((await readDistrict(s.db)).quiet.mail.fromMinute).to.equal(17 * 60);
		// What other tests have left may wait by now, and have no copies; none has moved that was not counted.
		const other = (await due()).filter((key) => !was.has(key)).length;
		expect(other).to.be.within(Math.min(1, shifts), shifts);
		await page.getByRole('link', { name: 'As it was before' }).first().click();
		await page.waitForURL(/from=\d+/);
		await lookAt();
		expect(await page.locator('.effect').innerText()).to.contain('17:00 21:00');
		await page.getByRole('button', { name: 'Change it' }).click();
		await page.getByText('It is changed.').waitFor();
		expect(await readDistrict(s.db)).to.deep.equal(before);
		expect((await due()).filter((key) => !was.has(key))).to.deep.equal([]);
		await s.start('courier');
		await open('/settings/log');
		expect(await page.innerText('main')).to.contain(
			'changed the settings: quiet hours and school days'
		);
	});

	it('keep what was typed where it cannot be, and say why', async () => {
		await open('/settings/chapter/sending');
		await page.getByLabel('Messages are held').fill('a while');
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByText('The hold is a whole number').waitFor();
		expect(await page.getByLabel('Messages are held').inputValue()).to.equal('a while');
	});

	it('are offered to nobody else, and refused to who tries', async () => {
		const office = await s.signedIn('ines');
		await open('/settings', office);
		expect(await office.locator('nav[aria-label^="Chapters"]').innerText()).not.to.match(
			/Mail server|Quiet hours/
		);
		const refused = await office.goto(`${s.url}/settings/chapter/quiet`);
		expect(refused!.status()).to.equal(403);
		const before = await countOf(s.db, 'setting_change');
		for (const path of ['/settings/chapter/quiet?/save', '/settings/mail?/try']) {
			const came = await office.request.post(`${s.url}${path}`, {
				form: { seen: '0', textFrom: '00:00', host: 'localhost' },
				headers: { origin: s.url }
			});
			expect(came.status(), path).to.equal(403);
		}
		expect(await countOf(s.db, 'setting_change')).to.equal(before);
		expect(
			await countOf(s.db, `log_line WHERE act = 'refused' AND after LIKE '%settings%'`)
		).to.be.above(0);
		await office.context().close();
	});

	it('are reachable', async () => {
		for (const path of ['mail', 'texts', 'start', 'chapter/quiet', 'chapter/answers'])
			for (const width of [1280, 390]) {
				await page.setViewportSize({ width, height: 800 });
				await open(`/settings/${path}`);
				expect(await faults(page), `${path} at ${width}`).to.deep.equal([]);
			}
		await page.setViewportSize({ width: 1280, height: 800 });
		expect(s.consoleErrors).to.deep.equal([]);
	});
});

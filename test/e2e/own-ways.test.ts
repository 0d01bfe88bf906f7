import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { readDistrict } from '../../src/lib/server/db/district';
import { stack, type Stack } from './stack';

describe('what a district and its schools have of their own', () => {
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
	const change = async () => {
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByRole('heading', { name: 'What this changes' }).waitFor();
		await page.getByRole('button', { name: 'Change it', exact: true }).click();
		await page.getByText('It is changed.').waitFor();
	};
	/** The time of day beside the name of whoever is signed in, in minutes. */
	const clockOf = async (on: Page): Promise<number> => {
		const shown = await on.getByRole('button', { name: /Bench clock/ }).innerText();
		const [, hour, minute, half] = /(\d+):(\d\d)(?: (am|pm))?/.exec(shown)!;
		return (Number(hour) % (half ? 12 : 24)) * 60 + Number(minute) + (half === 'pm' ? 720 : 0);
	};

	it('a school’s clock is that of whoever works there, in Week and in Write; others choose by whose it is', async () => {
		await open('/settings/schools');
		await page.getByRole('link', { name: 'Lightkeeper High' }).click();
		await page.getByRole('heading', { name: 'Lightkeeper High' }).waitFor();
		await page.getByLabel('Zone of its clocks').selectOption('America/St_Johns');
		await page.getByLabel('Texts are quiet from').fill('21:00');
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByText('Fill in all four quiet hours, or none of them.').waitFor();
		await page.getByLabel('Texts are quiet from').fill('');
		await change();
		await open('/settings/schools');
		await page.getByText('by the clock of America/St Johns').waitFor();
		const chidi = await s.signedIn('chidi');
		await open('/week', chidi);
		// What was planned by the district's clock says so, and stays within its tag.
		const tags = chidi.locator('.tag');
		await tags.filter({ hasText: 'New York' }).first().waitFor();
		expect(
			await tags.evaluateAll((all) => all.filter((t) => t.scrollWidth > t.clientWidth).length)
		).to.equal(0);
		await open('/week');
		// An hour and a half before New York (IANA, America/St_Johns); the bench clock may go on a minute between the two.
		const ahead = ((await clockOf(chidi)) - (await clockOf(page)) + 1440) % 1440;
		expect(ahead).to.be.within(88, 90);
		await open('/write');
		await page.getByLabel('When', { exact: true }).selectOption('at');
		const whose = page.getByLabel('By the clock of');
		expect(await whose.locator('option').allInnerTexts()).to.deep.equal([
			...['the district', 'Lightkeeper High']
		]);
		await whose.selectOption('Lightkeeper High');
		await page.getByText('St Johns time').waitFor();
		await open('/write', chidi);
		await chidi.getByLabel('When', { exact: true }).selectOption('at');
		await chidi.getByText('St Johns time').waitFor();
		await chidi.context().close();
		await open('/settings/schools');
		await page.getByRole('link', { name: 'Lightkeeper High' }).click();
		await page.getByRole('heading', { name: 'Lightkeeper High' }).waitFor();
		await page.getByLabel('Zone of its clocks').selectOption('');
		await change();
		expect(await s.db.one('SELECT 1 FROM school_own')).to.equal(undefined);
	});

	it('a time of day is written as the district says', async () => {
		await open('/settings/chapter/district');
		await page.getByLabel('A time of day is written').selectOption('24');
		await change();
		await open('/week');
		expect(await page.getByRole('button', { name: /Bench clock/ }).innerText()).not.to.match(
			/[ap]m/
		);
		expect(await page.innerText('main')).not.to.match(/\d [ap]m/);
		await open('/settings/chapter/district');
		await page.getByLabel('A time of day is written').selectOption('12');
		await change();
		await open('/week');
		expect(await page.getByRole('button', { name: /Bench clock/ }).innerText()).to.match(/[ap]m/);
	});

	it('a letterhead is seen as it changes, and is kept only where it can be read', async () => {
		await open('/settings/chapter/letterhead');
		const picture = await page.evaluate(() => {
			const canvas = document.createElement('canvas');
			[canvas.width, canvas.height] = [640, 96];
			canvas.getContext('2d')!.fillRect(0, 0, 96, 96);
			return canvas.toDataURL('image/png').split(',')[1]!;
		});
		const logo = {
			name: 'logo.png',
			mimeType: 'image/png',
			buffer: Buffer.from(picture, 'base64')
		};
		await page.locator('input[type=file]').setInputFiles(logo);
		const letter = page.frameLocator('iframe[title="A letter with this letterhead"]');
		await letter.locator('img[width="320"][height="48"]').waitFor();
		await page.getByLabel('Below every email').fill('1 Quay Street');
		await letter.getByText('1 Quay Street').waitFor();
		await page.getByLabel('Colour of the rule above').fill('#eeeeaa');
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByText('too light for words on white').waitFor();
		// What was typed stands there still.
		expect(await page.getByLabel('Below every email').inputValue()).to.equal('1 Quay Street');
		await page.getByLabel('Colour of the rule above').fill('#7a1f3d');
		await change();
		const { letterhead } = await readDistrict(s.db);
		expect(letterhead).to.deep.include({ colour: '#7a1f3d', footer: ['1 Quay Street'] });
		expect(letterhead.logo).to.include({ width: 640, height: 96 });
		// What is no picture is refused, and nothing is lost.
		await page.locator('input[type=file]').setInputFiles({
			...{ name: 'logo.png', mimeType: 'image/png', buffer: Buffer.from('no picture') }
		});
		await page.getByRole('alert').waitFor();
		await page.getByRole('link', { name: 'As it was before' }).first().click();
		await page.waitForURL(/from=\d+/);
		await change();
		expect((await readDistrict(s.db)).letterhead).to.deep.include({ logo: null, footer: [] });
	});

	it('that a speaker has checked our words is said once, and by whom', async () => {
		await open('/settings/chapter/languages');
		const line = page.getByRole('listitem').filter({ hasText: 'Portuguese' });
		await line.getByText('not yet checked by a speaker').waitFor();
		await line.getByRole('link').click();
		await page.getByRole('button', { name: 'A speaker has checked all of them' }).click();
		await page.getByText('checked by a speaker, said Maren Quill').waitFor();
		expect(await page.getByRole('button', { name: /A speaker has checked/ }).count()).to.equal(0);
		await open('/settings/chapter/languages');
		await line.getByText('said Maren Quill').waitFor();
	});

	it('one letter that has left is a file (message/rfc822, RFC 2046 section 5.2.1), for whoever may see it', async () => {
		const { id, dispatchId } = (await s.db.one<{ id: number; dispatchId: number }>(
			`SELECT min(delivery.id) AS id, dispatch_id AS dispatchId FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
			WHERE dispatch.state = 'sent' AND left_at IS NOT NULL AND way = 'email'`
		))!;
		await open(`/reach/${dispatchId}`);
		const person = await s.db.one<{ name: string }>(
			`SELECT given_name || ' ' || family_name AS name FROM delivery JOIN person ON person.id = person_id WHERE delivery.id = $id`,
			{ id }
		);
		await page.getByPlaceholder('Find a person or student').fill(person!.name);
		await page.waitForURL(/search=|q=|find=/);
		await page.locator('.bx--table-expand__button').first().click();
		const link = page.getByRole('link', { name: 'This letter as a file (EML)' }).first();
		const path = (await link.getAttribute('href'))!;
		const came = await page.request.get(s.url + path);
		expect(came.headers()['content-type']).to.equal('message/rfc822');
		expect((await came.text()).split('\r\n\r\n')[0]).to.match(/^Message-ID: /m);
		const stranger = await page.context().browser()!.newContext();
		const refused = await stranger.request.get(s.url + path, { maxRedirects: 0 });
		expect(refused.status()).to.be.oneOf([302, 303, 401, 403]);
		await stranger.close();
		expect(
			(await page.request.get(`${s.url}/reach/${dispatchId}/copy/99999999`)).status()
		).to.equal(404);
		expect(s.consoleErrors.filter((e) => !/40[0-9]|415/.test(e))).to.deep.equal([]);
	});
});

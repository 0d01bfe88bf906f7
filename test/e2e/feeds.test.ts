import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { setClock } from '../../src/lib/server/clock';
import { nextFeed } from '../../src/lib/server/desk/send/feed-dates';
import { faults } from './axe';
import { countOf, json, stack, until, type Stack } from './stack';
import { openFresh, pick, sendButton, setWay, setWhen, settled, typeMoment } from './write-page';

describe('words from a feed', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		await s.start('newsroom');
		page = await s.signedIn('maren');
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});

	const post = (path: string, body: unknown) =>
		fetch(`${s.newsroom}${path}`, { method: 'POST', body: JSON.stringify(body) });
	const feedField = () => page.getByLabel('Feed (RSS or Atom)');
	const came = () => page.locator('footer .came');
	/** Tries what stands in the field, and resolves to what is said of it. */
	async function tried(): Promise<string> {
		await page.getByRole('button', { name: 'Try it', exact: true }).click();
		await page.getByRole('button', { name: 'Try it', exact: true }).isEnabled();
		await until('it was tried', async () => {
			const text = await came().innerText();
			return text !== '' && !text.includes('is asked');
		});
		return came().innerText();
	}
	const putField = async (name: string) => {
		await page.getByLabel('Put in a field').selectOption(name);
	};
	/** What is checked of the sheet, all of it. */
	const dates = () =>
		s.db.all<{ outcome: string; entries: number }>(
			'SELECT outcome, entries FROM feed_look ORDER BY id'
		);
	const toNextDate = async () => {
		const at = (await nextFeed(s.db))!;
		const before = (await dates()).length;
		await setClock(s.db, at);
		await until('the feed was asked', async () => (await dates()).length > before);
		return (await dates()).at(-1)!;
	};

	it('is tried before it is used: what fails is said, and nothing of it is kept', async () => {
		await openFresh(page, s.url);
		await setWhen(page, 'feed');
		const says: Readonly<Record<string, RegExp>> = {
			gone: /no feed at this address any more/,
			nonsense: /a web page and no feed/,
			bomb: /declares entities/,
			huge: /over 4 MB/,
			inside: /into our own house/
		};
		await feedField().fill('http://169.254.169.254/latest/');
		await feedField().press('Enter');
		await came().getByText('The address leads into our own house.').waitFor();
		await feedField().fill(`${s.newsroom}/feed.xml`);
		for (const [fault, words] of Object.entries(says)) {
			await post('/fault', { fault });
			await until(fault, async () => words.test(await tried()));
		}
		await post('/fault', { fault: null });
		await until('it can be read', async () => (await tried()).includes('Harbor News'));
		expect(await came().innerText()).to.contain(
			'2 entries, the newest “The lighthouse keeps its lamp”'
		);
		expect(await faults(page)).to.deep.equal([]);
	});

	it('is put down with the newest entry in place, and leaves with what comes after it', async () => {
		await pick(page, 'Homeroom 3-B');
		await setWay(page, 'Text', false);
		await setWay(page, 'Inbox', false);
		await page.getByLabel('Subject').fill('Around the harbor: {{feed_title}}');
		await page.getByRole('textbox', { name: 'Wording' }).fill('From the news:');
		await page.getByRole('textbox', { name: 'Wording' }).press('End');
		await page.getByRole('textbox', { name: 'Wording' }).press('Enter');
		await putField('feed_words');
		await page.getByRole('textbox', { name: 'Wording' }).press('Enter');
		await putField('feed_link');
		await typeMoment(page, 'First', 'tomorrow 4pm');
		await page.getByLabel('Repeats').fill('every weekday for 9 times');
		await page.getByLabel('Repeats').press('Enter');
		const words = await until('the button says what will be', async () => {
			const said = await settled(page);
			return /^Ask the feed on \d dates: \d+ copies each time/.test(said) && said;
		});
		const expected = Number(/: (\d+) copies/.exec(words)![1]);
		// A proof shows what would leave if all of it were new.
		await page.getByRole('link', { name: 'proof' }).click();
		await page
			.frameLocator('iframe')
			.getByText('The keeper thanks everybody who carried sand.')
			.waitFor();
		await page.goBack();
		await page.waitForSelector('html[data-ready]');
		await settled(page);
		await sendButton(page).click();
		await page.waitForURL(/\/week\/standing\/\d+/);
		await page.getByText('Nothing has left yet.').waitFor();
		await page.getByText(`${expected} copies each time`).waitFor();
		expect(await faults(page)).to.deep.equal([]);

		expect(await toNextDate()).to.deep.equal({ outcome: 'nothing', entries: 0 });
		await post('/entries', {
			...{ title: 'A whale in the sound', words: '{{recipient}} <b>Look</b> from the pier.' },
			...{ picture: true, at: '2027-03-10T10:00:00Z' }
		});
		expect(await toNextDate()).to.deep.equal({ outcome: 'sent', entries: 1 });
		const { id } = (await s.db.one<{ id: number }>(
			`SELECT id FROM dispatch WHERE subject = 'Around the harbor: A whale in the sound'`
		))!;
		expect(await countOf(s.db, `delivery WHERE dispatch_id = ${id}`)).to.equal(expected);
		await until('all of it has left', async () => {
			const open = await countOf(
				s.db,
				`delivery WHERE dispatch_id = ${id} AND state IN ('planned', 'held', 'claimed')`
			);
			return open === 0;
		});
		const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
			`${s.mailhouse}/letters?newest=1&limit=1000`
		);
		const ours = letters.filter((l) => l.subject === 'Around the harbor: A whale in the sound');
		expect(ours).to.have.length(expected);
		const { raw } = await json<{ raw: string }>(`${s.mailhouse}/letter?number=${ours[0]!.number}`);
		const { text } = await simpleParser(Buffer.from(raw, 'latin1'));
		expect(text?.replace(/\s+/g, ' ')).to.contain('((recipient)) <b>Look</b> from the pier.');
		expect(await toNextDate()).to.deep.equal({ outcome: 'nothing', entries: 0 });
		await page.reload();
		await page.getByText('1 entry sent').first().waitFor();
		await page.getByText('nothing new, nothing sent').first().waitFor();
	});

	it('says in Week what came of each date, and is ended', async () => {
		await page.goto(`${s.url}/week`);
		await page.waitForSelector('html[data-ready]');
		await page.getByText('nothing new: Harbor News').first().waitFor();
		await page.getByRole('link', { name: 'Week after' }).click();
		await page
			.getByRole('link', { name: /if new: Harbor News/ })
			.first()
			.waitFor();
		await page.getByRole('heading', { name: 'From feeds' }).waitFor();
		await page.getByRole('link', { name: 'Harbor News', exact: true }).click();
		await page.waitForURL(/\/week\/standing\/\d+/);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('button', { name: 'End it' }).click();
		await page.getByText('Ended. What has left stays.').waitFor();
		expect(await nextFeed(s.db)).to.equal(null);
	});
});

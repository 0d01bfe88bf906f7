import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { ownInboxLink } from '../../src/lib/server/access/own-link';
import { userById } from '../../src/lib/server/access/user';
import { now } from '../../src/lib/server/clock';
import { saveEvent } from '../../src/lib/server/desk/calendar/events';
import { faults } from './axe';
import { countOf, stack, until, type Stack } from './stack';
import { openFresh, pick, setHold, settled, write } from './write-page';

const section = 'Homeroom 3-B';

describe('boards', () => {
	let s: Stack;
	let page: Page;
	/** A family on a phone. */
	let phone: Page;
	let family: string;
	let personId: number;
	let place: number;
	let id: number;
	const open = async (path: string, on = page) => {
		await on.goto(`${s.url}${path}`);
		await on.waitForSelector('html[data-ready]');
	};
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		({ id: place } = (await s.db.one<{ id: number }>(
			`SELECT max(id) AS id FROM section WHERE name = $section AND term_id = 2`,
			{ section }
		))!);
		({ personId } = (await s.db.one<{ personId: number }>(
			`SELECT contact_now.person_id AS personId FROM contact_now JOIN enrolment_now USING (student_id) JOIN person ON person.id = contact_now.person_id
			WHERE section_id = $place AND custody AND correspondence AND language = 'en' ORDER BY 1 LIMIT 1`,
			{ place }
		))!);
		family = (await ownInboxLink(s.db, await s.key(), personId)).path;
		phone = await (await s.context({ width: 390, height: 844 })).newPage();
	});
	after(async () => {
		await page.context().close();
		await phone.context().close();
	});
	const post = (on: Page, words: string) => on.locator('article', { hasText: words });

	it('an announcement only stands there: no copy, and who reads it on a phone is known', async () => {
		await openFresh(page, s.url);
		await page.getByLabel('Kind').selectOption('announcement');
		await pick(page, section);
		await write(
			page,
			'Kites on Friday',
			'We fly kites on Friday at the landing. Bring string, a hat and something warm to drink.'
		);
		await settled(page);
		const board = page.locator('details', { hasText: `On the board of ${section}` });
		await board.locator('summary').click();
		// What is said of the first moves the second: a click is made where its target stands by then, and shown to have reached it.
		for (const name of ['Only there: by no way to anybody', 'Pinned: before all others']) {
			await board.getByText(name, { exact: true }).click();
			await until(`“${name}” is ticked`, () => board.getByLabel(name, { exact: true }).isChecked());
		}
		await setHold(page, 0);
		await until('the button says what will be', async () =>
			(await settled(page)).startsWith('Put it on the board at once')
		);
		await page.locator('.write footer button.bx--btn').last().click();
		await page.waitForURL(/\/reach\/\d+$/);
		id = Number(page.url().split('/').at(-1));
		await page
			.getByRole('heading', { name: /Nobody is written to: it stands for \d+ students/ })
			.waitFor();
		expect(await countOf(s.db, `delivery WHERE dispatch_id = ${id}`)).to.equal(0);
		await until(
			'it counts as sent',
			async () => (await countOf(s.db, `dispatch WHERE id = ${id} AND state = 'sent'`)) === 1
		);

		await open(family, phone);
		await phone.getByRole('link', { name: 'Boards' }).click();
		await phone.waitForURL(/\/boards$/);
		await post(phone, 'Kites on Friday').getByText('Pinned').waitFor();
		await post(phone, 'Kites on Friday').scrollIntoViewIfNeeded();
		await until(
			'it is written down as read there',
			async () =>
				(await countOf(
					s.db,
					`board_read WHERE dispatch_id = ${id} AND person_id = ${personId}`
				)) === 1
		);
		expect(await faults(phone)).to.deep.equal([]);
		await page.reload();
		await page.getByText('Read there by 1 person').waitFor();
		await page.getByText('1 person of them has no copy').waitFor();
	});

	it('what it says there is changed by whoever sent it, and its readers see what it said before', async () => {
		await open(`/people/boards/section-${place}`);
		expect(await faults(page)).to.deep.equal([]);
		await post(page, 'Kites on Friday').getByText('read here by 1 person').waitFor();
		await post(page, 'Kites on Friday')
			.getByRole('link', { name: 'change what it says here' })
			.click();
		await page.waitForURL(/\/reach\/\d+\/board$/);
		await page.waitForSelector('html[data-ready]');
		await page.getByLabel('Subject').fill('Kites on Monday');
		// What is typed outlives the page.
		await page.reload();
		await page.waitForSelector('html[data-ready]');
		await page.getByText('What you typed here before is back.').waitFor();
		await page.getByRole('button', { name: 'Put it on the board now' }).click();
		await page.waitForURL(/\/reach\/\d+$/);
		await page.getByText('What it says there was changed').waitFor();
		await phone.reload();
		const changed = post(phone, 'Kites on Monday');
		await changed.getByText(/^Changed /).waitFor();
		await changed.getByText('What it said before').click();
		await changed.getByText('Kites on Friday', { exact: true }).waitFor();
	});

	it('opens to anybody with its link where the settings allow that, without names, until it is ended', async () => {
		await open(`/people/boards/section-${place}`);
		await page.getByRole('link', { name: 'Settings · Boards' }).click();
		await page.waitForURL(/chapter\/boards$/);
		await page.waitForSelector('html[data-ready]');
		await page.getByLabel('Boards are').selectOption('yes');
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByRole('button', { name: 'Change it' }).click();
		await page.getByText('It is changed.').waitFor();
		await open(`/people/boards/section-${place}`);
		await page.getByRole('button', { name: 'Make a link' }).click();
		const link = page.locator('aside code');
		await link.waitFor();
		const address = await link.innerText();
		const stranger = await (await s.context({ width: 390, height: 844 })).newPage();
		await stranger.goto(address);
		await stranger.waitForSelector('html[data-ready]');
		await post(stranger, 'Kites on Monday').waitFor();
		expect(await stranger.locator('main').innerText()).not.to.contain('Maren');
		expect(await faults(stranger)).to.deep.equal([]);
		// What programs follow: news and events, sent once.
		for (const [name, type] of [
			['news.atom', 'application/atom+xml'],
			['calendar.ics', 'text/calendar']
		] as const) {
			const first = await fetch(`${address}/${name}`);
			expect(first.headers.get('content-type')).to.contain(type);
			expect(await first.text()).to.contain(name === 'news.atom' ? 'Kites on Monday' : section);
			const again = await fetch(`${address}/${name}`, {
				headers: { 'if-none-match': first.headers.get('etag')! }
			});
			expect(again.status).to.equal(304);
		}
		await page.getByRole('button', { name: 'end it' }).click();
		await page.getByText('The link opens nothing any more.').waitFor();
		expect((await stranger.goto(address))!.status()).to.equal(410);
		await stranger.context().close();
		await open('/settings/chapter/boards');
		await page.getByLabel('Boards are').selectOption('no');
		await page.getByRole('button', { name: 'See what it changes' }).click();
		await page.getByRole('button', { name: 'Change it' }).click();
		await page.getByText('It is changed.').waitFor();
	});

	it('is followed by a family with an address of its own, which it ends', async () => {
		await open(`${family}/boards`, phone);
		await phone.getByText('Follow a board elsewhere').click();
		await phone.getByRole('button', { name: `Make an address: ${section}` }).click();
		const code = phone.locator('code').first();
		await code.waitFor();
		const address = await code.innerText();
		expect(await faults(phone)).to.deep.equal([]);
		const news = await fetch(address);
		expect(await news.text()).to.contain('Kites on Monday');
		// It is for programs: no page opens by it.
		expect((await fetch(address.replace('/news.atom', ''))).status).to.equal(404);
		await phone.getByRole('button', { name: `End this address: ${section}` }).click();
		await code.waitFor({ state: 'detached' });
		expect((await fetch(address)).status).to.equal(410);
	});

	it('is taken off, and nothing of it is left there', async () => {
		await open(`/people/boards/section-${place}`);
		await page.getByRole('button', { name: 'Take off: Kites on Monday' }).click();
		await page.getByText('Taken off the boards.').waitFor();
		await phone.reload();
		await phone.waitForSelector('html[data-ready]');
		expect(await post(phone, 'Kites').count()).to.equal(0);
		await open(`/reach/${id}`);
		await page.getByText('Stood on the board of').waitFor();
	});

	it('an event proposes whom it concerns and its reminders to whoever writes about it', async () => {
		const user = (await userById(
			s.db,
			(await s.db.one<{ id: number }>(
				`SELECT person_id AS id FROM sign_in WHERE user_name = 'maren'`
			))!.id
		))!;
		const day = new Date((await now(s.db)) + 4 * 86_400_000).toISOString().slice(0, 10);
		const event = await saveEvent(s.db, await s.key(), user, {
			...{ id: null, base: null, title: 'Kite day', allDay: false, place: 'Landing' },
			...{ startsLocal: `${day}T10:00`, endsLocal: `${day}T12:00` },
			...{ schoolIds: [], sectionIds: [place] }
		});
		if (!event.ok) throw new Error(event.why);
		await open(`/week/events/${event.id}`);
		await page.getByRole('link', { name: 'Write to those it concerns' }).click();
		await page.waitForURL(/\/write$/);
		await page.getByRole('combobox', { name: 'When', exact: true }).waitFor();
		await until(
			'it is set by the event',
			async () =>
				(await page.getByRole('combobox', { name: 'When', exact: true }).inputValue()) === 'event'
		);
		await page.getByText('1 day before it starts').first().waitFor();
		await settled(page);
		expect(
			Number((await page.locator('.lands button.big').innerText()).replace(/\D/g, ''))
		).to.be.above(0);
	});
});

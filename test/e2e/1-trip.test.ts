import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { countOf, json, stack, until, type Stack } from './stack';
import {
	moveClock,
	moveToDue,
	openWrite,
	pick,
	sendSheet,
	setWay,
	settled,
	tally,
	write
} from './write-page';

describe('the trip of one message, from roster to read', () => {
	let s: Stack;
	let page: Page;
	let dispatchId: number;
	const subject = 'Lantern jars, “washed” please';
	before(async function () {
		this.timeout(0);
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());
	const count = (from: string) => countOf(s.db, from);

	it('shows the sample sign-ins in the demo, and signs in', async () => {
		const other = await (await s.context()).newPage();
		await other.goto(s.url);
		expect(other.url()).to.contain('/sign-in');
		expect(await other.innerText('main'))
			.to.contain('Maren Quill')
			.and.contain('slow-ferry');
		await other.context().close();
		expect(page.url()).to.contain('/week');
	});

	it('keeps what is typed into the sign-in before the page has come alive', async () => {
		const other = await (await s.context()).newPage();
		let letGo = () => {};
		const held = new Promise<void>((r) => (letGo = r));
		await other.route('**/*.js', async (route) => {
			await held;
			await route.continue();
		});
		await other.goto(`${s.url}/sign-in`, { waitUntil: 'commit' });
		await other.fill('input[name=name]', 'ines');
		await other.fill('input[name=password]', 'slow-ferry');
		letGo();
		await other.waitForSelector('html[data-ready]');
		await other.click('form button[type=submit]');
		await other.waitForURL('**/week');
		expect(await other.innerText('header')).to.contain('Ines');
		await other.context().close();
	});

	it('counts a picked section live, and the numbers are those of the database', async () => {
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 2-A');
		await setWay(page, 'Text', true);
		await settled(page);
		const t = await tally(page);
		const section = `(SELECT section.id FROM section JOIN term ON term.id = term_id WHERE section.name = 'Homeroom 2-A' AND term.name LIKE 'Winter%')`;
		const meant = `(SELECT DISTINCT person_id FROM contact JOIN enrolment USING (student_id) WHERE section_id = ${section} AND guardian AND custody AND correspondence)`;
		expect(t.students).to.equal(await count(`enrolment WHERE section_id = ${section}`));
		const emails = await count(
			`(SELECT DISTINCT lower(value) FROM address WHERE way = 'email' AND consent != 'out' AND failing IS NULL AND person_id IN ${meant})`
		);
		const texts = await count(
			`(SELECT DISTINCT value FROM address WHERE way = 'text' AND consent = 'in' AND failing IS NULL AND person_id IN ${meant})`
		);
		const inboxes = await count(`person WHERE has_inbox AND id IN ${meant}`);
		expect(t.copies).to.equal(emails + texts + inboxes);
		expect(t.people).to.be.within(Math.max(emails, texts, inboxes), await count(meant));
	});

	it('opens a number onto its names', async () => {
		await page.locator('.lands button.big').click();
		const rows = page.locator('.bx--modal.is-visible tbody tr');
		await rows.first().waitFor();
		expect(await rows.count()).to.equal((await tally(page)).people);
		expect(await rows.first().innerText()).to.match(/(mother|father|aunt) of /);
		await page.keyboard.press('Escape');
		await page.locator('.bx--modal.is-visible').waitFor({ state: 'hidden' });
	});

	it('writes to the students as well only when asked', async () => {
		const before = (await tally(page)).people;
		await page.locator('.meant > summary').click();
		await page.locator('.who label', { hasText: 'the students themselves' }).click();
		await settled(page);
		expect((await tally(page)).text).to.contain('left out');
		await page.locator('.who label', { hasText: 'the students themselves' }).click();
		await settled(page);
		expect((await tally(page)).people).to.equal(before);
	});

	it('says on the button what it will do, and holds', async () => {
		await write(page, subject, 'We collect jars.\n\nAny size. Obrigada – شكرا');
		const words = await settled(page);
		const { copies } = await tally(page);
		expect(words).to.match(new RegExp(`^Send ${copies} copies, leaving \\d+:\\d\\d [ap]m$`));
		dispatchId = await sendSheet(page);
		expect(await page.locator('.hold').innerText()).to.match(
			new RegExp(`On hold\\. ${copies} copies leave in [45]:\\d\\d`)
		);
		expect(await count(`delivery WHERE dispatch_id = ${dispatchId} AND state = 'held'`)).to.equal(
			copies
		);
	});

	it('is called back within the hold and is a draft again, unchanged', async () => {
		await page.getByRole('button', { name: /^Call back/ }).click();
		await page.waitForURL(/\/write\?draft=/);
		await page.waitForSelector('button.door.big');
		expect(await page.getByLabel('Subject').inputValue()).to.equal(subject);
		expect(await page.locator('.slips').innerText()).to.contain('Homeroom 2-A');
		expect(
			await page.locator('.ways label', { hasText: 'Text' }).locator('input').isChecked()
		).to.equal(true);
		expect(await count(`delivery WHERE dispatch_id = ${dispatchId}`)).to.equal(0);
	});

	it('leaves when the hold is over, and Reach moves without being loaded again', async () => {
		await settled(page);
		await sendSheet(page);
		await page.evaluate(() => ((window as unknown as { mark: string }).mark = 'same page'));
		await moveToDue(page, s, dispatchId);
		const ways = page.locator('.side');
		await until('every copy has left and is told so', async () => {
			const text = await ways.innerText();
			return /delivered/.test(text) && !/held|\bsent\b/.test(text);
		});
		const states = await s.db.all<{ way: string; state: string; n: number }>(
			`SELECT way, state, count(*) AS n FROM delivery WHERE dispatch_id = ${dispatchId} GROUP BY way, state`
		);
		for (const { state, n } of states)
			expect(await ways.innerText()).to.match(new RegExp(`${n} ${state}`));
		expect(await page.evaluate(() => (window as unknown as { mark: string }).mark)).to.equal(
			'same page'
		);
		expect(await page.locator('h1').innerText()).to.match(
			/^0 of \d+ students covered, \d+ waiting/
		);
	});

	it('put one letter with one recipient into each mailbox, as RFC 5322 and 2046 ask', async () => {
		const copies = await s.db.all<{ address: string; state: string }>(
			`SELECT address, state FROM delivery WHERE dispatch_id = ${dispatchId} AND way = 'email' AND state != 'failed'`
		);
		for (const { address } of copies) {
			const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
				`${s.mailhouse}/letters?to=${encodeURIComponent(address)}`
			);
			const mine = letters.filter((l) => l.subject === subject);
			expect(mine, address).to.have.length(1);
			const { raw } = await json<{ raw: string }>(
				`${s.mailhouse}/letter?number=${mine[0]!.number}`
			);
			const mail = await simpleParser(Buffer.from(raw, 'latin1'));
			const to = Array.isArray(mail.to) ? mail.to : [mail.to!];
			expect(to.flatMap((t) => t.value.map((v) => v.address))).to.deep.equal([address]);
			expect([mail.cc, mail.bcc]).to.deep.equal([undefined, undefined]);
			expect(mail.from!.value[0]!.name).to.contain('Maren Quill');
			expect(mail.messageId).to.match(/^<\d+\.[0-9a-f]{20}@/);
			expect(mail.date!.toISOString()).to.match(/^2027-03-09T1[12]:/);
			expect(mail.text)
				.to.contain('We collect jars.\n\nAny size. Obrigada – شكرا')
				.and.contain(`${s.url}/f/`);
			// RFC 5322 section 2.1.1: no line over 998 octets.
			expect(raw.split('\r\n').every((l) => l.length <= 998)).to.equal(true);
		}
	});

	it('put one text on each phone', async () => {
		const copies = await s.db.all<{ address: string }>(
			`SELECT address FROM delivery WHERE dispatch_id = ${dispatchId} AND way = 'text' AND state = 'delivered'`
		);
		expect(copies.length).to.be.above(5);
		for (const { address } of copies) {
			const { texts } = await json<{ texts: { text: string }[] }>(
				`${s.exchange}/texts?to=${encodeURIComponent(address)}`
			);
			const mine = texts.filter((t) =>
				t.text.startsWith('Lantern jars, “washed” please. We collect jars.')
			);
			expect(mine, address).to.have.length(1);
		}
	});

	it('is read on a phone, tapped, and is at once in Reach with its evidence', async () => {
		const copy = (await s.db.one<{ address: string; person: string }>(
			`SELECT address, given_name || ' ' || family_name AS person FROM delivery JOIN person ON person.id = person_id
			WHERE dispatch_id = ${dispatchId} AND way = 'text' AND state = 'delivered' AND language = 'en' ORDER BY delivery.id LIMIT 1`
		))!;
		const { texts } = await json<{ texts: { text: string }[] }>(
			`${s.exchange}/texts?to=${encodeURIComponent(copy.address)}&newest=1`
		);
		const link = /http:\S+/.exec(texts.find((t) => t.text.includes(subject))!.text)![0];
		const phone = await (await s.context({ width: 390, height: 760 })).newPage();
		await phone.goto(link);
		expect(await phone.innerText('header')).to.contain(copy.person);
		expect(await phone.locator('[data-open-letter]').innerText())
			.to.contain('Any size. Obrigada – شكرا')
			.and.contain('Maren Quill');
		await phone.getByRole('button', { name: 'I have seen this' }).click();
		await phone.locator('.seen').waitFor();
		await until('Reach counts the student', async () =>
			/^[1-9]\d* of/.test(await page.locator('h1').innerText())
		);
		await page.locator('.filter-bar select').first().selectOption('read');
		await page.waitForURL(/state=read/);
		await until('the list shows the copy as read', async () =>
			/read\s/.test(await page.locator('tr', { hasText: copy.person }).first().innerText())
		);
		const row = page.locator('tr', { hasText: copy.person }).first();
		expect(await row.innerText()).to.match(/strong evidence of reading/);
		await row.locator('button').click();
		const evidence = await page.getByLabel('All evidence').first().innerText();
		expect(evidence)
			.to.match(/accepted|delivered/)
			.and.contain('tapped “I have seen this”');
		await phone.reload();
		expect(await phone.locator('.seen').innerText()).to.contain('You said that you have seen this');
		await phone.context().close();
	});

	it('is read by the readers through the same pages', async () => {
		await s.start('readers');
		const before = await count(`event WHERE kind = 'link-followed'`);
		await openWrite(page, s.url);
		await pick(page, 'Homeroom 3-B');
		await setWay(page, 'Text', true);
		await setWay(page, 'Inbox', false);
		await write(page, 'Rubber boots', 'Please send rubber boots.');
		await settled(page);
		await moveToDue(page, s, await sendSheet(page));
		await until(
			'copies have left',
			async () => !(await page.locator('.side').innerText()).includes('held')
		);
		for (let i = 0; i < 3; i += 1) await moveClock(page, '1 hour on');
		await until(
			'some have read',
			async () => (await count(`event WHERE kind = 'link-followed'`)) > before + 3
		);
		await until('Reach says so', async () =>
			/^[1-9]\d* of/.test(await page.locator('h1').innerText())
		);
		await s.stop('readers');
	});
});

import { expect } from 'chai';
import { truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import type { Locator, Page } from 'playwright-core';
import { json, stack, until, type Stack } from './stack';
import {
	moveToDue,
	openFresh,
	pick,
	sendSheet,
	setWay,
	settled,
	tally,
	typedBody,
	write
} from './write-page';

/** A PNG of one point (PNG specification, section 5). */
const png = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
	'base64'
);
const pdf = Buffer.from('%PDF-1.4\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n');

/** A picture of one dot has come and can be seen: that its page is there says nothing of it yet. */
const pictureSeen = (picture: Locator) =>
	until('the picture is there', () =>
		picture.evaluate((i: HTMLImageElement) => i.complete && i.naturalWidth === 1)
	);

describe('what it says: a letter in two languages and three ways', () => {
	let s: Stack;
	let page: Page;
	let dispatchId = 0;
	const editor = (p: Page = page) => p.getByRole('textbox', { name: 'Wording' });
	const fresh = async () => {
		await openFresh(page, s.url);
	};
	const proof = { html: '', lines: '', text: '', inbox: '', person: '' };
	const linkless = (text: string) => text.replace(/\/f\/[\w-]{22}/g, '/f/');
	const flat = (text: string) => linkless(text).replace(/\s+/g, ' ').trim();

	before(async function () {
		this.timeout(0);
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	it('is written with headings, lists, a table, a picture with its description, fields, a date and a file', async () => {
		await fresh();
		await pick(page, 'Homeroom 2-A');
		await setWay(page, 'Text', true);
		await page.getByLabel('Subject').fill('{{student}}: walk to the pier');
		await editor().click();
		await page.getByLabel('Heading or text').selectOption('1');
		await page.keyboard.type('The pier');
		await page.keyboard.press('Enter');
		await page.keyboard.type('Dear {{first_name}}, we walk on {{date:2027-03-12T14:15}}. ');
		await page.keyboard.press('Control+b');
		await page.keyboard.type('Bring <boots> & a coat');
		await page.keyboard.press('Control+b');
		await page.keyboard.press('Enter');
		await page.getByRole('button', { name: 'List', exact: true }).click();
		await page.keyboard.type('a jar');
		await page.keyboard.press('Enter');
		await page.keyboard.press('Enter');
		await page.getByRole('button', { name: 'Table' }).click();
		await page.keyboard.type('Run');
		await page.keyboard.press('Tab');
		await page.keyboard.type('Leaves');
		await page.keyboard.press('Escape');
		expect(
			await page.evaluate(() => document.activeElement!.closest('[role=toolbar]') !== null)
		).to.equal(true);
		await editor().locator('> p').last().click();
		await page
			.locator('input[aria-label="Picture from a file"]')
			.setInputFiles({ name: 'pier.png', mimeType: 'image/png', buffer: png });
		await editor().locator('img').click();
		await page
			.locator('.checks', { hasText: '1 picture has no description' })
			.waitFor({ state: 'attached' });
		await page.getByPlaceholder('for those who do not see it').fill('The pier');
		await page
			.locator('input[aria-label="Files to go with it"]')
			.setInputFiles({ name: 'plan.pdf', mimeType: 'text/html', buffer: pdf });
		await page.getByText('plan.pdf', { exact: true }).waitFor();
		expect(await settled(page)).to.match(/^Send \d+ copies/);
		expect(await editor().locator('.field').allInnerTexts()).to.deep.equal([
			'recipient’s first name',
			'2027-03-12, 14:15'
		]);
		expect(await page.locator('.checks').textContent()).not.to.contain('no description');
	});

	it('is drafted in another language, corrected, and out of date when the original changes', async () => {
		await page.getByRole('button', { name: /^Arabic/ }).click();
		await page.getByRole('button', { name: 'Let the translator draft it' }).click();
		await page.getByText('Drafted by the translator; nobody has looked it over.').waitFor();
		expect(await editor().getAttribute('dir')).to.equal('rtl');
		expect(await editor().innerText()).to.contain('‹مسودة›');
		expect(await editor().locator('.field').count()).to.equal(2);
		await page.getByLabel('Subject').fill('{{student}}: نزهة إلى الرصيف');
		await page.getByRole('button', { name: 'I have looked it over' }).click();
		await page.getByText('Looked over.', { exact: true }).waitFor();
		await page.getByRole('button', { name: /^English/ }).click();
		await page.getByLabel('Subject').fill('{{student}}: walk to the pier on Friday');
		await page.getByRole('button', { name: /^Arabic.*out of date/ }).click();
		const inserted = await page.locator('.diff ins').allInnerTexts();
		expect(inserted.map((t) => t.trim())).to.deep.equal(['on Friday']);
		await page.getByRole('button', { name: 'it fits again' }).click();
		await page.getByRole('button', { name: /^English/ }).click();
	});

	it('has its own words for the text, measured for each recipient', async () => {
		await page.locator('.for').getByRole('button', { name: 'text', exact: true }).click();
		await page.getByLabel('Words of the text').fill('{{student}} walks on Friday.');
		await page.locator('.meter summary').click();
		await until('each text is measured', async () =>
			/Shortest 1 part, \d+ .*; longest \d part/s.test(await page.locator('.meter').innerText())
		);
		await page.getByRole('button', { name: /^for email and inbox/ }).click();
	});

	it('comes back whole when the session is killed in the middle of it', async () => {
		await s.db.run('DELETE FROM session');
		await page.getByLabel('Subject').fill('{{student}}: walk to the pier on Friday, 2:15');
		await page.getByText('Your session has ended.').first().waitFor();
		await page.goto(`${s.url}/write`);
		await page.fill('input[name=name]', 'maren');
		await page.fill('input[name=password]', 'slow-ferry');
		await page.click('form button[type=submit]');
		await page.waitForURL(/\/write/);
		await page.waitForSelector('button.door.big');
		expect(await page.getByLabel('Subject').inputValue()).to.match(/on Friday, 2:15$/);
		expect(await editor().locator('h1, li, td, th, img, strong').count()).to.be.above(8);
		await page.getByText('plan.pdf', { exact: true }).waitFor();
		expect(await page.getByRole('button', { name: /^Arabic/ }).count()).to.equal(1);
		await page.getByRole('button', { name: /^Arabic/ }).click();
		await page.getByRole('button', { name: 'it fits again' }).click();
		await page.getByRole('button', { name: /^English/ }).click();
		await settled(page);
	});

	it('is looked at as one recipient gets it, and sent to oneself', async () => {
		await page.getByText('Saved as a draft').waitFor();
		await page.getByRole('link', { name: 'proof' }).click();
		await page.getByRole('button', { name: /gets it by every way/ }).click();
		const frame = page.frameLocator('iframe');
		await frame.locator('h2').waitFor();
		proof.person = (await page.locator('h1 span').innerText()).trim();
		proof.html = flat(await frame.locator('body').innerText());
		await pictureSeen(frame.locator('img'));
		proof.text = await page.locator('.phone p.text').innerText();
		proof.inbox = flat(await page.locator('.phone .body').innerText());
		await page.getByRole('button', { name: 'as plain text' }).click();
		proof.lines = flat(await page.locator('pre').innerText());
		await page.getByRole('button', { name: 'Send this email to me' }).click();
		await page.getByText('Sent to maren.quill@').waitFor();
		const { letters } = await json<{ letters: { subject: string; text: string }[] }>(
			`${s.mailhouse}/letters?to=maren.quill@brackwater.example&newest=1`
		);
		const sent = letters.find((l) =>
			/^Proof: .*: walk to the pier on Friday, 2:15$/.test(l.subject)
		);
		expect(flat(sent!.text)).to.equal(proof.lines);
		await page.getByRole('button', { name: 'Put this into my inbox' }).click();
		const opened = page.context().waitForEvent('page');
		await page.getByRole('link', { name: 'Open it' }).click();
		const own = await opened;
		await own.getByText(`As ${proof.person} gets it`).waitFor();
		expect(await own.locator('[data-open-letter] h2').first().innerText()).to.match(
			/^Proof: .*: walk to the pier on Friday, 2:15$/
		);
		await pictureSeen(own.locator('.words img'));
		await own.close();
		await page.getByRole('button', { name: 'as a page' }).click();
		await page.getByRole('button', { name: /reads Arabic/ }).click();
		await until(
			'the page runs from right to left',
			async () => (await frame.locator('html').getAttribute('dir')) === 'rtl'
		);
		expect(await page.locator('.email dd b').innerText()).to.contain('نزهة إلى الرصيف');
		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
	});

	it('arrives as the proof showed it: email as HTML and as plain text, text, inbox', async () => {
		await settled(page);
		const { copies } = await tally(page);
		expect(copies).to.be.above(20);
		dispatchId = await sendSheet(page);
		await moveToDue(page, s, dispatchId);
		const rows = await s.db.all<{ way: string; address: string; id: number }>(
			`SELECT way, address, delivery.id FROM delivery JOIN person ON person.id = person_id
			WHERE dispatch_id = $id AND given_name || ' ' || family_name = $name`,
			{ id: dispatchId, name: proof.person }
		);
		const at = (way: string) => rows.find((r) => r.way === way)!.address;
		const letter = await until('the letter is there', async () => {
			const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
				`${s.mailhouse}/letters?to=${encodeURIComponent(at('email'))}&newest=1`
			);
			return letters.find((l) => l.subject.includes('walk to the pier'));
		});
		const { raw } = await json<{ raw: string }>(`${s.mailhouse}/letter?number=${letter.number}`);
		const mail = await simpleParser(Buffer.from(raw, 'latin1'));
		expect(flat(mail.text!)).to.equal(proof.lines);
		const shown = await page.context().newPage();
		await shown.setContent(String(mail.html).replace(/src="data:[^"]*"/g, 'src=""'));
		expect(flat(await shown.locator('body').innerText())).to.equal(proof.html);
		await shown.close();
		expect(
			mail.attachments.map((a) => [a.filename, a.contentType, a.related ?? false])
		).to.deep.equal([
			['pier.png', 'image/png', true],
			['plan.pdf', 'application/pdf', false]
		]);
		expect(mail.attachments[1]!.content).to.deep.equal(pdf);
		// Answers come to the courier, each copy's to an address of its own.
		expect(mail.replyTo!.text).to.match(/^"Maren Quill" <a\d+\.[0-9a-f]{20}@return\./);
		const text = await until('the text is there', async () => {
			const { texts } = await json<{ texts: { text: string }[] }>(
				`${s.exchange}/texts?to=${encodeURIComponent(at('text'))}&newest=1`
			);
			return texts.find((t) => t.text.includes('walks on Friday'))?.text;
		});
		expect(flat(text)).to.equal(flat(proof.text));

		const link = /http:\S+/.exec(text)![0];
		const phone = await (await s.context({ width: 390, height: 760 })).newPage();
		await phone.goto(link);
		const said = flat(await phone.locator('[data-open-letter] .body').innerText());
		expect(said.startsWith(proof.inbox.replace(/plan\.pdf .*$/, '').trim()), said).to.equal(true);
		await pictureSeen(phone.locator('.words img'));
		const download = phone.waitForEvent('download');
		await phone.getByRole('link', { name: /plan\.pdf/ }).click();
		await download;
		await until('opening the file is evidence', () =>
			s.db.one(`SELECT 1 FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = ${dispatchId} AND detail = 'opened the file plan.pdf'`)
		);
		const other = await fetch(`${link}/file/99999`);
		expect(other.status).to.equal(404);
		await phone.context().close();
	});

	it('is stopped for its kind in one step from a mail program, and begun again by hand', async () => {
		const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
			`${s.mailhouse}/letters?newest=1&limit=1000`
		);
		const ours = letters.find((l) => l.subject.includes('walk to the pier'))!;
		const { raw, to } = await json<{ raw: string; to: string }>(
			`${s.mailhouse}/letter?number=${ours.number}`
		);
		const link = /^List-Unsubscribe: <(.*)>/im.exec(raw.replace(/\r\n[ \t]/g, ''))![1]!;
		const post = (body: string) =>
			fetch(link, {
				method: 'POST',
				headers: { 'content-type': 'application/x-www-form-urlencoded' },
				body
			});
		expect((await post('x=y')).status).to.equal(400);
		expect((await post('List-Unsubscribe=One-Click')).status).to.equal(200);
		const stopped = () =>
			s.db.one(
				`SELECT 1 FROM declined JOIN address USING (person_id) WHERE lower(value) = $to AND kind = 'message'
				AND declined.way = 'email'`,
				{ to }
			);
		expect(await stopped()).not.to.equal(undefined);
		const phone = await (await s.context({ width: 390, height: 760 })).newPage();
		await phone.goto(link);
		await phone.getByRole('button', { name: 'Get messages by email again' }).click();
		await phone.getByRole('button', { name: 'Stop messages by email' }).waitFor();
		expect(await stopped()).to.equal(undefined);
		await phone.context().close();
	});

	it('is undone over the whole sheet, and kept wording is put in and kept', async () => {
		await fresh();
		await pick(page, 'Homeroom 2-A');
		await write(page, 'First', 'First words.');
		await settled(page);
		await page.getByRole('button', { name: 'kept wording' }).click();
		await page.getByRole('button', { name: /^Missing slip/ }).click();
		await page.getByRole('button', { name: 'Put it into the sheet' }).click();
		expect(await typedBody(page)).to.contain('we do not have the signed slip');
		await page
			.locator('.checks', { hasText: '“[trip]” is still to be filled in.' })
			.waitFor({ state: 'attached' });
		await page.getByRole('button', { name: 'kept wording' }).click();
		await page.getByLabel('Keep the words of this sheet as').fill('Museum slip');
		await page.getByRole('button', { name: 'Keep', exact: true }).click();
		await page.getByText('Kept as “Museum slip”.').waitFor();
		await page.getByRole('button', { name: /^Museum slip/ }).click();
		await page.getByRole('button', { name: 'Delete it' }).click();
		await page.getByText('is deleted').waitFor();
		await page.keyboard.press('Escape');
		await page.getByRole('button', { name: 'Undo' }).click();
		expect(await page.getByLabel('Subject').inputValue()).to.equal('First');
		expect(await typedBody(page)).to.equal('First words.');
		await page.getByRole('button', { name: 'Undo' }).click();
		await page.getByRole('button', { name: 'Undo' }).click();
		expect(await page.getByLabel('Subject').inputValue()).to.equal('');
		await page.getByRole('button', { name: 'Undo' }).click();
		expect(await page.locator('.slips').count()).to.equal(0);
		for (let i = 0; i < 4; i += 1) await page.getByRole('button', { name: 'Redo' }).click();
		expect(await page.locator('.slips').innerText()).to.contain('Homeroom 2-A');
	});

	const paste = (data: Readonly<Record<string, string>>) =>
		editor().evaluate((element, types) => {
			const transfer = new DataTransfer();
			for (const [type, value] of Object.entries(types)) transfer.setData(type, value);
			element.dispatchEvent(
				new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true })
			);
		}, data);

	it('takes what is pasted from a word processor in clean, and nothing that could be run', async () => {
		await fresh();
		await editor().click();
		await paste({
			'text/plain': 'x',
			'text/html': `<html xmlns:o="urn:schemas-microsoft-com:office:office"><head><style>p{color:red}</style></head>
				<body><!--[if gte mso 9]><xml></xml><![endif]--><p class="MsoNormal" style="font-size:11.0pt;mso-style:x;color:red">
				Plain <b style="font-weight:700">bold</b><o:p></o:p> <span style="font-weight:bold">too</span>
				<a href="javascript:alert(1)" onclick="alert(1)">bad</a> <a href="https://x.example/">good</a></p>
				<script>window.hacked = 1</script><img src="x" onerror="window.hacked = 1">
				<svg onload="window.hacked = 1"></svg><iframe src="javascript:parent.hacked = 1"></iframe>
				<p onmouseover="window.hacked = 1">next</p></body></html>`
		});
		await page.getByText('1 picture was left out').waitFor();
		const html = await editor().innerHTML();
		expect(html).not.to.match(
			/script|onerror|onmouse|onclick|mso|Mso|iframe|svg|font-size|color:/i
		);
		expect(await editor().locator('strong').allInnerTexts()).to.deep.equal(['bold', 'too']);
		expect(await editor().locator('a').allInnerTexts()).to.deep.equal(['good']);
		expect(await page.evaluate(() => (window as unknown as { hacked?: number }).hacked)).to.equal(
			undefined
		);
		expect(s.consoleErrors).to.deep.equal([]);
	});

	it('keeps of a word processor what is struck, raised and listed, and drops what was deleted there', async () => {
		await fresh();
		await editor().click();
		const entry = (level: number, sign: string, words: string) =>
			`<p class=MsoListParagraph style='margin-left:.5in;mso-list:l0 level${level} lfo1'><![if !supportLists]><span style='mso-list:Ignore'>${sign}<span>&nbsp;&nbsp;</span></span><![endif]>${words}</p>`;
		await paste({
			'text/plain': 'x',
			'text/html': `<html><body><p>Bring <del cite="mailto:x" datetime="2027-03-01">boots</del>shoes by the 1<sup>st</sup>,
				<s>at noon</s> <span style="text-decoration:line-through">sharp</span> at <span style="vertical-align:super">two</span></p>
				${entry(1, '·', 'Coat')}${entry(2, 'o', 'with a hood')}${entry(1, '·', 'Lunch')}
				<p>Then</p>${entry(1, '1.', 'Board')}${entry(1, '2.', 'Sail')}</body></html>`
		});
		await editor().locator('ol li').nth(1).waitFor();
		expect(await editor().innerText()).not.to.contain('boots');
		expect(await editor().locator('s').allInnerTexts()).to.deep.equal(['at noon', 'sharp']);
		expect(await editor().locator('sup').allInnerTexts()).to.deep.equal(['st', 'two']);
		expect((await editor().locator('ul').first().innerText()).split(/\s*\n\s*/)).to.deep.equal([
			'Coat',
			'with a hood',
			'Lunch'
		]);
		expect(await editor().locator('ul ul li').allInnerTexts()).to.deep.equal(['with a hood']);
		expect(await editor().locator('ol li').allInnerTexts()).to.deep.equal(['Board', 'Sail']);
	});

	it('takes a file that is dropped anywhere on the sheet, and never opens it in its place', async () => {
		await fresh();
		await write(page, 'Dropped', 'x');
		const drop = (where: string, name: string) =>
			page
				.locator(where)
				.first()
				.evaluate((place, file) => {
					const data = new DataTransfer();
					data.items.add(
						new File(['BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nEND:VCALENDAR\r\n'], file)
					);
					for (const kind of ['dragover', 'drop']) {
						const event = new DragEvent(kind, {
							bubbles: true,
							cancelable: true,
							dataTransfer: data
						});
						place.dispatchEvent(event);
						if (!event.defaultPrevented)
							throw new Error(`${kind} on ${file} would leave the sheet`);
					}
				}, name);
		await drop('aside', 'tally.ics');
		await page.locator('.files').getByText('tally.ics').waitFor();
		await drop('header', 'bar.ics');
		await page.locator('.files').getByText('bar.ics').waitFor();
		await drop('.wording', 'words.ics');
		await page.locator('.files').getByText('words.ics').waitFor();
		expect(await typedBody(page)).to.equal('x');
	});

	it('refuses a pasted megabyte, a picture of 80 MB and a program that calls itself a picture, with words, and loses nothing', async () => {
		await write(page, 'Kept', 'These words are kept.');
		await editor().click();
		await paste({ 'text/plain': 'boat '.repeat(210_000) });
		await page
			.getByText(/1,050,000 characters, and a wording holds 20,000\. Nothing was pasted/)
			.waitFor();
		const big = join(s.folder, 'big.png');
		writeFileSync(big, png);
		truncateSync(big, 80_000_000);
		const pictures = page.locator('input[aria-label="Picture from a file"]');
		await pictures.setInputFiles(big);
		await page.getByText('“big.png” has 80 MB; 20 MB are taken at most.').waitFor();
		await pictures.setInputFiles({
			name: 'pier.png',
			mimeType: 'image/png',
			buffer: Buffer.from(`MZ${'\0'.repeat(300)}`)
		});
		await page.getByText(/“pier\.png” is a file of the type application\/x-msdownload/).waitFor();
		expect(await typedBody(page)).to.equal('These words are kept.');
	});

	it('says what is wrong with a translator that is down, slow or talks nonsense, and changes nothing', async () => {
		await pick(page, 'Homeroom 2-A');
		await settled(page);
		const health = `${s.translator}/health`;
		const fault = (what: string | null) =>
			fetch(health.replace('/health', '/fault'), {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ fault: what })
			});
		await page.getByRole('button', { name: /^Spanish/ }).click();
		const draft = page.getByRole('button', { name: 'Let the translator draft it' });
		for (const [what, words] of [
			['down', /it refused \(400\).*Nothing was changed/],
			['nonsense', /its draft cannot be used|makes no sense|gave 1 texts for 2/]
		] as const) {
			await fault(what);
			await draft.click();
			await page.getByRole('alert').filter({ hasText: words }).waitFor();
		}
		await s.stop('translator');
		await draft.click();
		await page
			.getByRole('alert')
			.filter({ hasText: /nothing answers at its address/ })
			.waitFor();
		await s.start('translator');
		await fault(null);
		expect(await typedBody(page)).to.equal('These words are kept.');
		await draft.click();
		await page.getByText('Drafted by the translator').waitFor();
	});
});

import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { createTransport } from 'nodemailer';
import type { Page } from 'playwright-core';
import { now } from '../../src/lib/server/clock';
import { addressOf, tokenOf } from '../named';
import { faults } from './axe';
import { stillDue } from './still-due';
import { countOf, json, stack, until, type Stack } from './stack';
import { openFresh, pick, sendSheet, setHold, setWay, settled, tally, write } from './write-page';

/** What a browser says of itself. */
const browser = { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0' };

describe('did it arrive, was it read', () => {
	let s: Stack;
	let page: Page;
	let id: number;
	let copies: number;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	const rows = <T extends object>(sql: string) => s.db.all<T>(sql);
	const count = (from: string) => countOf(s.db, from);
	const moveOn = (minutes: number) =>
		now(s.db).then((time) =>
			s.db.run('UPDATE clock SET offset_ms = $offset', {
				offset: Math.round(time + minutes * 60_000 - Date.now())
			})
		);
	const fault = (address: string, name: string | null) =>
		fetch(
			`${address.includes('@') ? s.mailhouse : s.exchange}/${address.includes('@') ? 'mailboxes' : 'phones'}`,
			{
				method: 'POST',
				body: JSON.stringify(
					address.includes('@')
						? { mailbox: address, fault: name }
						: { phone: address, fault: name }
				)
			}
		);
	/** Opens a letter as a person does, a while after it came. */
	async function reads(deliveryId: number): Promise<void> {
		const link = `${s.url}/f/${await tokenOf(s.db, await s.key(), deliveryId)}`;
		const from = { ...browser, 'x-forwarded-for': `198.51.100.${1 + (deliveryId % 250)}` };
		const letter = /data-open-letter="(\d+)"/.exec(
			await (await fetch(link, { headers: from })).text()
		)![1];
		await fetch(`${link}/opened`, {
			method: 'POST',
			headers: { ...from, 'content-type': 'application/json', origin: s.url },
			body: JSON.stringify({ letter: Number(letter) })
		});
	}

	it('a dispatch to 300 families, in turn, with failing mailboxes; the mail server goes and comes back, the courier is killed twice: every copy is accounted for once', async () => {
		await openFresh(page, s.url);
		for (const name of [
			'Homeroom 2-A',
			'Homeroom 2-B',
			'Homeroom 2-C',
			'Homeroom 3-A',
			'Homeroom 3-B',
			'Homeroom 3-C',
			'Homeroom 4-A',
			'Homeroom 4-B'
		]) {
			await pick(page, name);
		}
		await setWay(page, 'Email', true);
		await setWay(page, 'Inbox', true);
		await setWay(page, 'Text', false);
		await page.getByLabel('Ways are used').selectOption('turn');
		await page.getByLabel('Way of turn 2').selectOption('inbox');
		await page.getByLabel('When turn 2 comes').selectOption('minutes');
		await page.getByLabel('Minutes of turn 2').fill('120');
		await page.getByLabel('Minutes of turn 2').blur();
		await page.getByText('email first').waitFor();
		await write(page, 'Harbor walk', 'Boots and a jar. Everyone comes back at 3:10.');
		await setHold(page, 0);
		expect(await settled(page)).to.match(/^Send \d+ copies and up to \d+ in turn at once$/);
		expect((await tally(page)).text).to.contain('only to those who have not read by then');
		copies = (await tally(page)).copies;
		expect((await tally(page)).people).to.be.at.least(250);

		await s.stop('courier');
		id = await sendSheet(page);
		expect(await count(`delivery WHERE dispatch_id = ${id}`)).to.equal(copies);
		const mailboxes = (
			await rows<{ address: string }>(
				`SELECT address FROM delivery WHERE dispatch_id = ${id} AND way = 'email' ORDER BY id LIMIT 12`
			)
		).map((r) => r.address);
		for (const [i, address] of mailboxes.entries()) {
			await fault(address, i < 6 ? 'return' : i < 10 ? 'refuse' : 'full');
		}
		const accepted = () =>
			count(
				`event JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id = ${id} AND event.kind = 'accepted'`
			);
		await s.start('courier');
		await until('some have left', async () => (await accepted()) >= 20);
		await s.stop('courier', 'SIGKILL');
		await s.stop('mailhouse', 'SIGKILL');
		await s.start('courier');
		await page.goto(`${s.url}/courier`);
		await page.getByText('Mail server not there').waitFor();
		await s.start('mailhouse');
		const before = await accepted();
		await until('it goes on', async () => (await accepted()) > before);
		await s.stop('courier', 'SIGKILL');
		await s.start('courier');
		await until('all emails are accounted for', async () => (await stillDue(s, id, 'email')) === 0);
		await until(
			'every notification has come',
			async () => (await count(`delivery WHERE dispatch_id = ${id} AND state = 'sent'`)) === 0
		);
		const letters = (
			await json<{ letters: { to: string; subject: string; repeat: boolean }[] }>(
				`${s.mailhouse}/letters?newest=1&limit=1000`
			)
		).letters.filter((l) => l.subject === 'Harbor walk' && !l.repeat);
		const delivered = await rows<{ address: string }>(
			`SELECT address FROM delivery WHERE dispatch_id = ${id} AND way = 'email' AND state = 'delivered'`
		);
		expect(letters.map((l) => l.to).sort()).to.deep.equal(delivered.map((d) => d.address).sort());
		const states = await rows<{ address: string; state: string }>(
			`SELECT address, state FROM delivery WHERE dispatch_id = ${id} AND address IN (SELECT value FROM json_each('${JSON.stringify(mailboxes)}'))`
		);
		const stateOf = (address: string) => states.find((x) => x.address === address)!.state;
		expect(
			mailboxes
				.slice(0, 10)
				.map(stateOf)
				.every((x) => x === 'failed')
		).to.equal(true);
		expect(mailboxes.slice(10).map(stateOf)).to.deep.equal(['planned', 'planned']);
		// The full ones are emptied, and what was put off comes.
		for (const address of mailboxes.slice(10)) await fault(address, null);
	});

	it('uses the second way only for those who have not read when its turn comes', async () => {
		await moveOn(20);
		// What was put off has come as well, and nobody opens it in the second in which it comes.
		await until(
			'what was put off has come',
			async () =>
				(await stillDue(s, id, 'email')) === 0 &&
				(await count(`delivery WHERE dispatch_id = ${id} AND state = 'sent'`)) === 0
		);
		await moveOn(1);
		const emails = await rows<{ id: number; person: number }>(
			`SELECT id, person_id AS person FROM delivery WHERE dispatch_id = ${id} AND way = 'email' AND state = 'delivered' ORDER BY id`
		);
		// Half of the families read; a guard follows the links of some others, and is told apart.
		const readers = emails.filter((_, i) => i % 2 === 0);
		for (const { id: copy } of readers) await reads(copy);
		for (const { id: copy } of emails.filter((_, i) => i % 2 === 1).slice(0, 20)) {
			const link = `${s.url}/f/${await tokenOf(s.db, await s.key(), copy)}`;
			await fetch(link, { headers: { 'user-agent': 'link-scanner/2.0' } });
			await fetch(`${link}/dot.gif`, { headers: browser });
		}
		expect(await count(`delivery WHERE dispatch_id = ${id} AND strength = 'weak'`)).to.equal(20);
		expect(await count(`delivery WHERE dispatch_id = ${id} AND state = 'read'`)).to.equal(
			readers.length
		);
		await moveOn(120);
		await until(
			'all is over',
			async () => (await count(`dispatch WHERE id = ${id} AND state = 'sent'`)) === 1
		);
		const inbox = await rows<{ person: number; state: string; step: number }>(
			`SELECT person_id AS person, state, step FROM delivery WHERE dispatch_id = ${id} AND way = 'inbox' AND step = 1`
		);
		// Who shares a mailbox with a reader has read as well.
		const hasRead = new Set(
			(
				await rows<{ person: number }>(
					`SELECT person_id AS person FROM delivery WHERE dispatch_id = ${id} AND way = 'email' AND state = 'read'
					UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
					WHERE dispatch_id = ${id} AND way = 'email' AND state = 'read'`
				)
			).map((r) => r.person)
		);
		expect(inbox.some((c) => c.state === 'spared')).to.equal(true);
		for (const c of inbox) {
			expect(c.state, `person ${c.person}`).to.equal(
				hasRead.has(c.person) ? 'spared' : 'delivered'
			);
		}
	});

	it('loses no click while evidence keeps coming in', async () => {
		// Chosen by how they stand: what is told may belong there or no longer, and the page is asked for anew.
		const chosen = `${s.url}/reach/${id}?state=delivered`;
		await page.goto(chosen);
		await page.waitForSelector('html[data-ready]');
		const [first] = await rows<{ id: number }>(
			`SELECT id FROM delivery WHERE dispatch_id = ${id} LIMIT 1`
		);
		// Another who looks at the same: what it asks anew shows that the evidence was told.
		const other = await page.context().newPage();
		await other.goto(chosen);
		await other.waitForSelector('html[data-ready]');
		const told = other.waitForRequest(/\/reach\/\d+\/__data\.json/);
		const asked: string[] = [];
		page.on('request', (r) => {
			if (/\/reach\/\d+\/__data\.json/.test(r.url())) asked.push(r.url());
		});
		await page.route('**/account/__data.json*', async (route) => {
			await told;
			await route.continue();
		});
		await page.getByRole('link', { name: 'Report' }).click();
		await s.db.run(
			`INSERT INTO event (delivery_id, at, kind, source, detail, strength) SELECT $id, max(at), 'noted', 'by hand', 'seen on the pier', 'none' FROM event`,
			{ id: first!.id }
		);
		await page.waitForURL(/account$/);
		expect(asked, 'asked anew on the way').to.deep.equal([]);
		await other.close();
		await page.unroute('**/account/__data.json*');
	});

	it('agrees with itself: Reach, manifest, account, CSV and PDF count the same', async () => {
		await page.goto(`${s.url}/reach/${id}`);
		await page.waitForSelector('html[data-ready]');
		const sums = await rows<{ way: string; state: string; n: number }>(
			`SELECT way, state, count(*) AS n FROM delivery WHERE dispatch_id = ${id} GROUP BY way, state`
		);
		const all = sums.reduce((sum, r) => sum + r.n, 0);
		expect(all, 'as many as the button and the manifest said').to.equal(copies);
		const words: Record<string, string> = { spared: 'not needed' };
		const reach = (await page.locator('.side').innerText()).replace(/\s+/g, ' ');
		for (const { state, n } of sums) expect(reach).to.contain(`${n} ${words[state] ?? state}`);
		expect(await page.locator('.filter-bar .count').innerText()).to.equal(
			`${all} of ${all} copies`
		);
		const sentence = (await page.locator('h1').innerText()).replace(/\s+/g, ' ');
		const [, covered, students] = /^(\d+) of (\d+) students covered/.exec(sentence)!;
		const rings = await page.locator('.rings li').count();
		expect(rings).to.equal(Number(students));
		expect(
			(await page.locator('.line .sum b').allInnerTexts()).reduce((sum, n) => sum + Number(n), 0)
		).to.equal(Number(covered));
		// Counted once more by hand: students one of whose adults has read.
		const byHand = await count(
			`(SELECT DISTINCT student_id FROM delivery_student JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = ${id} AND state IN ('read', 'answered'))`
		);
		expect(Number(covered)).to.equal(byHand);
		expect(await faults(page), 'Reach').to.deep.equal([]);

		await page.getByRole('link', { name: 'Report' }).click();
		await page.waitForURL(/account$/);
		expect(await page.locator('h1').innerText()).to.equal(`${sentence}.`);
		const account = (await page.locator('.parts').innerText()).replace(/\s+/g, ' ');
		for (const { state, n } of sums) expect(account).to.contain(`${n} ${words[state] ?? state}`);
		// What the pointer rests on is on its way to another colour.
		await page.mouse.move(2, 400);
		expect(await faults(page), 'Account').to.deep.equal([]);
		const file = async (as: string) =>
			(await page.request.get(`${s.url}/reach/${id}/account/file?as=${as}`)).body();
		const lines = (await file('csv')).toString('utf8').trim().split('\r\n');
		// A line for each copy; who was left out stands below them.
		const csv = lines.filter((l) => /^\d/.test(l));
		expect(csv).to.have.length(all);
		expect(lines.length).to.be.above(all + 1);
		for (const { way, state, n } of sums) {
			expect(
				csv.filter((l) => l.includes(`,${way},`) && l.includes(`,${words[state] ?? state},`)),
				`${way} ${state}`
			).to.have.length(n);
		}
		const pdf = join(s.folder, 'account.pdf');
		writeFileSync(pdf, await file('pdf'));
		const paper = execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' }).replace(
			/\s+/g,
			' '
		);
		expect(paper).to.contain(`${sentence}.`);
		for (const { state, n } of sums) expect(paper).to.contain(`${n} ${words[state] ?? state}`);
	});

	it('takes an answer by mail in: shown on the delivery, passed on to the sender, and no absence note for one', async () => {
		const [copy] = await rows<{ id: number; address: string; person: string }>(
			`SELECT delivery.id, address, given_name || ' ' || family_name AS person FROM delivery JOIN person ON person.id = person_id
			WHERE dispatch_id = ${id} AND way = 'email' AND state = 'delivered' ORDER BY delivery.id LIMIT 1`
		);
		const to = await addressOf(
			s.db,
			await s.key(),
			'answer',
			copy!.id,
			'return.brackwater.example'
		);
		const mail = createTransport({
			host: '127.0.0.1',
			port: s.returnPort,
			secure: false,
			ignoreTLS: true
		});
		const send = (over: object) =>
			mail.sendMail({ from: copy!.address, to, subject: 'Re: Harbor walk', ...over });
		await send({ text: 'I am away until Monday.', headers: { 'Auto-Submitted': 'auto-replied' } });
		await send({
			text: 'He brings two jars.\n\nOn Tue, Mar 9, 2027 at 7:05 AM Maren Quill wrote:\n> Boots and a jar.\n'
		});
		mail.close();
		await page.goto(`${s.url}/reach/${id}?state=answered`);
		await page.getByText(copy!.person).first().waitFor();
		await page.locator('#copies .bx--table-expand__button').last().click();
		await page.locator('blockquote', { hasText: 'He brings two jars.' }).waitFor();
		expect(await page.locator('blockquote').innerText()).not.to.contain('Boots and a jar');
		expect(
			await count(`answer JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id = ${id}`)
		).to.equal(1);
		await until('a copy is passed on', async () =>
			(
				await json<{ letters: { subject: string; text: string }[] }>(
					`${s.mailhouse}/letters?to=maren.quill@brackwater.example&newest=1`
				)
			).letters.some((l) => l.text.includes('He brings two jars.'))
		);
	});

	it('chases those not covered by another way, those who read meanwhile drop out, and the rest are for a phone call', async () => {
		await page.goto(`${s.url}/reach/${id}`);
		await page.waitForSelector('html[data-ready]');
		const open = Number(
			/Chase (\d+)/.exec(await page.getByRole('button', { name: /^Chase/ }).innerText())![1]
		);
		await page.getByRole('button', { name: /^Chase/ }).click();
		await page.waitForURL(/\/write\?draft=/);
		await page.waitForSelector('html[data-ready]');
		await setHold(page, 0);
		await settled(page);
		const first = await tally(page);
		expect(first.students).to.equal(open);
		// One of them reads while the chase is being written.
		const [late] = await rows<{ id: number }>(
			`SELECT delivery.id FROM delivery WHERE dispatch_id = ${id} AND way = 'email' AND state = 'delivered'
				AND NOT EXISTS (SELECT 1 FROM delivery_student AS mine JOIN delivery_student AS other USING (student_id)
					JOIN delivery AS seen ON seen.id = other.delivery_id
					WHERE mine.delivery_id = delivery.id AND seen.dispatch_id = ${id} AND seen.state IN ('read', 'answered'))
			ORDER BY id DESC LIMIT 1`
		);
		await reads(late!.id);
		await page.getByLabel('Subject').fill('Harbor walk: please read');
		await settled(page);
		const second = await tally(page);
		expect(second.students).to.be.below(first.students);
		const chase = await sendSheet(page);
		const made = await rows<{ way: string; person: number; usable: number }>(
			`SELECT way, person_id AS person, EXISTS (SELECT 1 FROM address WHERE address.person_id = delivery.person_id
				AND way = 'text' AND consent = 'in' AND failing IS NULL) AS usable FROM delivery WHERE dispatch_id = ${chase}`
		);
		expect(made.length).to.be.above(0);
		// Email and inbox have been tried: whoever takes texts gets a text.
		for (const c of made.filter((m) => m.usable === 1))
			expect(c.way, `person ${c.person}`).to.equal('text');
		await until(
			'the chase has left',
			async () => (await count(`dispatch WHERE id = ${chase} AND state = 'sent'`)) === 1
		);
		await page.goto(`${s.url}/reach/${id}`);
		await page.getByText('Followed up by').waitFor();
		await page.goto(`${s.url}/reach/${id}/calls?whom=open`);
		await page.waitForSelector('html[data-ready]');
		const toCall = Number(/^(\d+)/.exec(await page.locator('h1').innerText())![1]);
		const uncovered = await page.locator('tbody').count();
		expect(toCall).to.equal(uncovered);
		expect(await faults(page), 'phone calls').to.deep.equal([]);
	});

	it('lists the mailboxes that failed to be mended, takes no bad address, and uses a mended one again', async () => {
		await page.goto(`${s.url}/people/mend`);
		await page.waitForSelector('html[data-ready]');
		const [broken] = await rows<{ id: number; value: string }>(
			`SELECT address.id, value FROM address JOIN delivery ON delivery.address = value WHERE failing IS NOT NULL AND dispatch_id = ${id} LIMIT 1`
		);
		const line = page.locator('tr', { hasText: broken!.value });
		await line.getByRole('textbox').fill('no address');
		await line.getByRole('button', { name: 'Use it' }).click();
		await page.getByText('is no mail address').waitFor();
		expect(await line.getByRole('textbox').inputValue()).to.equal('no address');
		await line.getByRole('textbox').fill('mended@harbormail.example');
		await line.getByRole('button', { name: 'Use it' }).click();
		await page.getByText('is written to at mended@harbormail.example').waitFor();
		const row = await s.db.one<{ value: string; failing: string | null }>(
			`SELECT value, failing FROM address WHERE id = ${broken!.id}`
		);
		expect(row).to.deep.equal({ value: 'mended@harbormail.example', failing: null });
		expect(await faults(page), 'addresses to mend').to.deep.equal([]);
	});

	it('finds a person in two keystrokes and shows their log with evidence, habits and addresses', async () => {
		const [reader] = await rows<{ id: number; name: string }>(
			`SELECT person.id, given_name || ' ' || family_name AS name FROM delivery JOIN person ON person.id = person_id
			WHERE dispatch_id = ${id} AND state = 'answered' LIMIT 1`
		);
		await page.goto(`${s.url}/people`);
		await page.waitForSelector('html[data-ready]');
		await page.keyboard.type(
			reader!.name
				.split(' ')
				.map((w) => w.slice(0, 4))
				.join(' ')
		);
		await page.locator('.found a', { hasText: reader!.name }).click();
		await page.locator('h1', { hasText: reader!.name }).waitFor();
		const log = page.locator('.log > li', { hasText: 'Harbor walk' }).last();
		expect(await log.innerText()).to.contain('answered');
		await page.getByText('How this person reads us').waitFor();
		expect(await faults(page), 'a person').to.deep.equal([]);
		const chidi = await s.signedIn('chidi');
		const answer = await chidi.goto(`${s.url}/people/${reader!.id}`);
		expect(answer!.status()).to.equal(404);
		await chidi.context().close();
	});
});

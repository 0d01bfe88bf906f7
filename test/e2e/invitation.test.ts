import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { countOf, json, stack, until, type Stack } from './stack';
import {
	letLeave,
	openFresh,
	pick,
	sendSheet,
	setHold,
	setWay,
	settled,
	tally,
	write
} from './write-page';

/** A family that reads English, with its own mailbox, its own phone and the link in its letter. */
interface Family {
	readonly personId: number;
	readonly name: string;
	readonly email: string;
	readonly phone: string;
	readonly link: string;
}

describe('an invitation', () => {
	let s: Stack;
	let page: Page;
	let id: number;
	let families: Family[];
	const subject = 'Evening of boats';
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	const open = async (at: Page, path: string) => {
		await at.goto(path.startsWith('http') ? path : `${s.url}${path}`);
		await at.waitForSelector('html[data-ready]');
	};
	const phonePage = async () => (await s.context({ width: 390, height: 844 })).newPage();
	const rawOf = async (to: string): Promise<string> => {
		const query = `to=${encodeURIComponent(to)}&newest=1&limit=50`;
		const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
			`${s.mailhouse}/letters?${query}`
		);
		const mine = letters.find((l) => l.subject === subject)!;
		return (await json<{ raw: string }>(`${s.mailhouse}/letter?number=${mine.number}`)).raw;
	};
	const textsOf = async (phone: string): Promise<string[]> =>
		(
			await json<{ texts: { text: string }[] }>(
				`${s.exchange}/texts?to=${encodeURIComponent(phone)}&newest=1`
			)
		).texts.map((t) => t.text);
	const say = (phone: string, text: string) =>
		fetch(`${s.exchange}/say`, { method: 'POST', body: JSON.stringify({ phone, text }) });
	const coming = (from = '') => countOf(s.db, `coming WHERE dispatch_id = ${id} ${from}`);

	it('is written: asked is who comes, until when, and for how many places', async () => {
		await openFresh(page, s.url);
		await pick(page, 'Homeroom 3-B');
		await setWay(page, 'Text', true);
		await write(page, subject, 'Come and see what we built.');
		await page.locator('summary', { hasText: 'Asks' }).click();
		await page.getByLabel('Its readers are asked').selectOption('asks');
		await page.getByLabel('Places (empty: as many as come)').fill('x');
		await page.getByText('A number from 1 to 100,000.').waitFor();
		await page.getByLabel('Places (empty: as many as come)').fill('5');
		await page.getByText(/^Anybody with its link may answer too/).click();
		await page.locator('summary', { hasText: 'who comes, until' }).waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await setHold(page, 0);
		await until('nothing is in the way', async () => (await settled(page)).startsWith('Send'));
		id = await sendSheet(page);
		await letLeave(page, s, id);
		const key = await s.key();
		const { copyToken } = await import('../../src/lib/server/access/tokens');
		const rows = await s.db.all<Omit<Family, 'link'> & { nonce: string }>(
			`SELECT person.id AS personId, given_name || ' ' || family_name AS name, mail.address AS email, text.address AS phone, mail.nonce
			FROM delivery AS mail JOIN delivery AS text USING (dispatch_id, person_id) JOIN person ON person.id = person_id
			WHERE dispatch_id = ${id} AND mail.way = 'email' AND text.way = 'text' AND language = 'en'
				AND text.state IN ('sent', 'delivered', 'read') AND mail.state IN ('sent', 'delivered', 'read')
				AND NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id IN (mail.id, text.id))
			GROUP BY (SELECT min(household_id) FROM household_member WHERE household_member.person_id = person.id) ORDER BY person.id`
		);
		families = rows.map(({ nonce, ...f }) => ({ ...f, link: `/f/${copyToken(key, nonce)}` }));
		expect(families.length).to.be.above(3);
	});

	it('asks in mail by two links that answer nothing by themselves, and says in a text how it is answered', async () => {
		const [family] = families;
		const mail = await simpleParser(Buffer.from(await rawOf(family!.email), 'latin1'));
		expect(mail.text).to.contain('Are you coming? Answer until');
		expect(mail.html).to.match(/<a href="[^"]+\/f\/[\w-]+\?coming=no"[^>]*>No, we do not<\/a>/);
		const texts = await until('the text is there', async () => {
			const all = await textsOf(family!.phone);
			return all.some((t) => t.includes(subject)) && all;
		});
		expect(texts.find((t) => t.includes(subject))).to.contain(
			'Coming? Text back YES and how many, or NO.'
		);
		const phone = await phonePage();
		await open(phone, `${family!.link}?coming=yes`);
		await phone.getByRole('heading', { name: 'Are you coming?' }).waitFor();
		expect(await coming()).to.equal(0);
		await phone.context().close();
	});

	it('is answered on a phone by one tap, for the household, and changed', async () => {
		const phone = await phonePage();
		await open(phone, `${families[0]!.link}?coming=yes`);
		await phone.getByText('Places left: 5').waitFor();
		await phone.getByLabel('Adults').fill('0');
		await phone.getByRole('button', { name: 'Yes, we come' }).click();
		await phone.getByText('Say how many of you come.').waitFor();
		await phone.getByLabel('Adults').fill('2');
		await phone.getByLabel('Students').fill('1');
		await phone.getByRole('button', { name: 'Yes, we come' }).click();
		await phone.getByText('You come. Your places: 3.').waitFor();
		expect(await faults(phone)).to.deep.equal([]);
		const fits = `document.documentElement.scrollWidth <= document.documentElement.clientWidth`;
		expect(await phone.evaluate(fits)).to.equal(true);
		await phone.context().close();
		const state = await s.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM delivery WHERE dispatch_id = ${id} AND person_id = ${families[0]!.personId} AND state = 'answered'`
		);
		expect(state!.n).to.be.above(0);
	});

	it('is answered by “yes 2” in a text, with what came of it; who finds no places stands in line', async () => {
		const [, texter, third] = families;
		await say(texter!.phone, 'Yes, 2');
		await until('the phone is told its places', async () =>
			(await textsOf(texter!.phone)).some((t) => t.includes('you come, places: 2'))
		);
		const phone = await phonePage();
		await open(phone, third!.link);
		await phone.getByText('No places left: you would stand in line.').waitFor();
		await phone.getByRole('button', { name: 'Yes, we come' }).click();
		await phone.getByText(/^You are next in line/).waitFor();
		await phone.context().close();
	});

	it('is counted in Reach as it is answered; who leaves makes room for the next, who is told', async () => {
		await open(page, `/reach/${id}`);
		const card = page.getByRole('region', { name: 'Who comes' });
		await card.getByText('5 people come').waitFor();
		await card.getByText('1 stands in line').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		const phone = await phonePage();
		await open(phone, families[0]!.link);
		await phone.getByText('Change the answer').click();
		await phone.getByRole('button', { name: 'No', exact: true }).click();
		await phone.getByText('You said that you do not come.').waitFor();
		await phone.context().close();
		// The page was not loaded again.
		await card.getByText('3 people come').waitFor();
		await card.getByText('1 does not come').waitFor();
		const third = families[2]!;
		expect(await coming(`AND seated AND by_id = ${third.personId}`)).to.equal(1);
		// At once, or at the end of quiet hours.
		const due = async () => {
			const { now, setClock } = await import('../../src/lib/server/clock');
			const row = await s.db.one<{ at: number | null }>(
				`SELECT min(due_at) AS at FROM auto_note WHERE state = 'waiting' AND kind = 'coming-up'`
			);
			if (row!.at !== null && row!.at > (await now(s.db))) await setClock(s.db, row!.at + 1000);
		};
		await due();
		await until('the next in line is told', async () =>
			(await textsOf(third.phone)).some((t) => t.includes('places have come free'))
		);
	});

	it('is answered by anybody with its link, once they have said by the letter that it was they', async () => {
		await open(page, `/reach/${id}/coming`);
		await page.getByText('Change places or time, or let anybody answer').click();
		const link = await page.locator('a[href*="/i/"]').innerText();
		const guest = await phonePage();
		await open(guest, link);
		await guest.getByRole('button', { name: 'Yes, we come' }).click();
		await guest.getByText('Write your name first.').waitFor();
		await guest.getByLabel('Your name').fill('Ilse Gull');
		await guest.getByLabel('Your email address').fill('ilse@skerry.example');
		expect(await faults(guest)).to.deep.equal([]);
		await guest.getByRole('button', { name: 'Yes, we come' }).click();
		await guest.getByText('A letter is on its way to ilse@skerry.example.').waitFor();
		expect(await coming('AND guest_id IS NOT NULL')).to.equal(0);
		const own = await until('the letter is there', async () => {
			const { letters } = await json<{ letters: { text: string }[] }>(
				`${s.mailhouse}/letters?to=ilse%40skerry.example&newest=1`
			);
			return letters.map((l) => /http\S+\/i\/me\/\S+/.exec(l.text)?.[0]).find(Boolean);
		});
		await open(guest, own);
		expect(await coming('AND guest_id IS NOT NULL')).to.equal(0);
		await guest.getByRole('button', { name: 'It was me' }).click();
		await guest.getByText('You come. Your places: 1.').waitFor();
		expect(await faults(guest)).to.deep.equal([]);
		await guest.context().close();
		await page.getByRole('cell', { name: /^Ilse Gull/ }).waitFor();
	});

	it('what is said at the phone is put down; the list for the door has everybody who comes', async () => {
		const [, , , fourth] = families;
		await page.getByRole('searchbox', { name: 'Find a family or guest' }).fill(fourth!.name);
		await page.getByText('1', { exact: true }).first().waitFor();
		await page.waitForURL(/search=/);
		await page.getByText('put down', { exact: true }).click();
		const form = page.getByRole('form', { name: /^What / });
		await form.getByLabel('Adults').fill('30');
		expect(await faults(page)).to.deep.equal([]);
		await form.getByLabel('Adults').fill('1');
		await form.getByRole('button', { name: 'They come', exact: true }).click();
		await page.getByText('Put down.', { exact: true }).waitFor();
		expect(await coming(`AND how = 'staff' AND seated AND people = 1`)).to.equal(1);
		const [file] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('link', { name: 'CSV' }).click()
		]);
		const csv = readFileSync(await file.path(), 'utf8');
		expect(csv.split('\r\n')[0]).to.equal(
			'who,students,comes,people,of them students,time,in line,address'
		);
		expect(csv).to.contain('Ilse Gull').and.contain('ilse@skerry.example');
		expect(csv.match(/,yes,/g)).to.have.length(await coming('AND seated'));
		await page.setViewportSize({ width: 320, height: 800 });
		const fits = `document.documentElement.scrollWidth <= document.documentElement.clientWidth`;
		await until('it fits the narrowest page', () => page.evaluate<boolean>(fits));
		await page.setViewportSize({ width: 1280, height: 800 });
	});

	it('those who have not answered are asked again, to the same list', async () => {
		await open(page, `/reach/${id}/coming`);
		await page.getByRole('button', { name: 'Ask those who have not answered' }).click();
		await page.waitForURL(/\/write\?draft=/);
		await page.getByText(`only who have not answered “${subject}”`).waitFor();
		await page.locator('summary', { hasText: `about “${subject}”` }).waitFor();
		await until('it is counted', async () => (await settled(page)).startsWith('Send'));
		expect((await tally(page)).people).to.be.above(0);
	});
});

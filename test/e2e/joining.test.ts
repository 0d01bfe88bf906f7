import { expect } from 'chai';
import { createTransport } from 'nodemailer';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { countOf, stack, until, type Stack } from './stack';
import { letLeave, sendSheet, setHold, setWay, settled, write } from './write-page';

describe('an open group', () => {
	let s: Stack;
	let page: Page;
	let group: number;
	let code: string;
	const [texter, asker] = ['+12075557701', '+12075557702'];
	const writer = 'ilse@gull.example';
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});
	const open = async (path: string, at = page) => {
		await at.goto(path.startsWith('http') ? path : `${s.url}${path}`);
		await at.waitForSelector('html[data-ready]');
	};
	const say = (phone: string, text: string) =>
		fetch(`${s.exchange}/say`, { method: 'POST', body: JSON.stringify({ phone, text }) });
	/** The texts that a phone has got, the newest first. */
	const textsOf = async (phone: string): Promise<string[]> => {
		const query = `to=${encodeURIComponent(phone)}&newest=1`;
		const { texts } = (await (await fetch(`${s.exchange}/texts?${query}`)).json()) as {
			texts: { text: string }[];
		};
		return texts.map((t) => t.text);
	};
	const got = (phone: string, words: string) =>
		until(`${phone} gets “${words}”`, async () =>
			(await textsOf(phone)).some((text) => text.includes(words))
		);
	const stateOf = (address: string) =>
		s.db
			.one<{ state: string }>(
				'SELECT state FROM joining WHERE group_id = $group AND address = $address',
				{ group, address }
			)
			.then((row) => row?.state);
	const is = (address: string, state: string) =>
		until(`${address} is ${state}`, async () => (await stateOf(address)) === state);
	/** The page that a letter to an address leads to. */
	const pageIn = (address: string): Promise<string> =>
		until(`a letter to ${address}`, async () => {
			const query = `to=${encodeURIComponent(address)}&newest=1`;
			const { letters } = (await (await fetch(`${s.mailhouse}/letters?${query}`)).json()) as {
				letters: { text: string }[];
			};
			return letters.map((l) => /http\S+\/join\/me\/\S+/.exec(l.text)?.[0]).find(Boolean);
		});
	/** A browser of somebody who is not signed in. */
	async function stranger(): Promise<Page> {
		const context = await s.context({ width: 420, height: 800 });
		return context.newPage();
	}

	it('is opened by the office; a taken code is said while it is typed, and one is made where none is typed', async () => {
		await open('/people/groups');
		await page.getByLabel('Name').fill('Harbor Clean-up');
		await page.getByLabel('Kind').fill('helpers');
		await page.getByRole('button', { name: 'Make it' }).click();
		await page.getByRole('link', { name: 'Open it, so that people can join' }).click();
		await page.getByText('The group is not open').waitFor();
		group = Number(/groups\/(\d+)\/joining/.exec(page.url())![1]);
		const field = page.getByRole('textbox', { name: 'Code' });
		const button = page.getByRole('button', { name: 'Open the group' });
		await field.fill('ke1p');
		await page.getByText('“KE1P” looks like “KELP”, which is taken').waitFor();
		expect(await button.isDisabled()).to.equal(true);
		await field.fill('');
		await button.click();
		await page.getByText('The group is open: its code is').waitFor();
		code = await page.locator('p.code').innerText();
		expect(code).to.match(/^[A-Z0-9]{6}$/);
		expect(await faults(page)).to.deep.equal([]);
	});

	it('is joined by text: the phone is asked for a name, and nothing else is sent before it answers', async () => {
		await say(texter, code.toLowerCase());
		await got(texter, 'answer with your name');
		expect(await stateOf(texter)).to.equal('asked');
		expect(await textsOf(texter)).to.have.length(1);
		await say(texter, 'Ilian Skerry, Nobody Known');
		await is(texter, 'in');
		await got(texter, 'you are in, Ilian Skerry');
	});

	it('is joined by mail: a letter leads to a page, and what is said there lets in', async () => {
		const post = createTransport({ host: '127.0.0.1', port: s.returnPort, secure: false });
		await post.sendMail({
			from: `Ilse Gull <${writer}>`,
			to: `join-${code.toLowerCase()}@return.brackwater.example`,
			subject: '',
			text: ''
		});
		// Nobody's group is no address of ours.
		const refused = await post
			.sendMail({ from: writer, to: 'join-nobody@return.brackwater.example', text: 'x' })
			.then(
				() => 'taken',
				(error: Error) => error.message
			);
		expect(refused).to.contain('5.1.1');
		post.close();
		const own = await pageIn(writer);
		const visitor = await stranger();
		await open(own, visitor);
		// A machine that looks at the page lets nobody in.
		expect(await stateOf(writer)).to.equal('asked');
		expect(await visitor.getByLabel('Your name').inputValue()).to.equal('Ilse Gull');
		expect(await faults(visitor)).to.deep.equal([]);
		await visitor.getByLabel('Your name').fill('');
		await visitor.getByRole('button', { name: 'Join' }).click();
		await visitor.getByText('Write your name, in letters.').waitFor();
		await visitor.getByLabel('Your name').fill('Ilse Gull');
		await visitor.getByRole('button', { name: 'Join' }).click();
		await visitor.getByRole('heading', { name: 'You are in Harbor Clean-up' }).waitFor();
		await visitor.context().close();
	});

	it('is joined by its page, in the language of whoever looks; the phone itself says yes', async () => {
		const visitor = await stranger();
		await open('/join', visitor);
		await visitor.locator('input[name=code]').fill('none77');
		await visitor.getByRole('button', { name: 'Go on' }).click();
		await visitor.getByText('There is no group with this code').waitFor();
		await visitor.locator('input[name=code]').fill(` ${code.toLowerCase()} `);
		await visitor.getByRole('button', { name: 'Go on' }).click();
		await visitor.getByRole('heading', { name: 'Join Harbor Clean-up' }).waitFor();
		await visitor.getByRole('link', { name: 'español' }).click();
		await visitor.getByRole('heading', { name: 'Unirse a Harbor Clean-up' }).waitFor();
		await visitor.getByLabel('Su nombre').fill('Oriol Farallón');
		await visitor.locator('label', { hasText: 'Número para textos' }).first().click();
		await visitor.locator('input[name=address]').fill('12');
		await visitor.getByRole('button', { name: 'Unirse' }).click();
		await visitor.getByText('A esta dirección o número no se puede escribir').waitFor();
		expect(await visitor.getByLabel('Su nombre').inputValue()).to.equal('Oriol Farallón');
		await visitor.locator('input[name=address]').fill(asker);
		await visitor.getByRole('button', { name: 'Unirse' }).click();
		await visitor.getByText(`Hemos escrito a ${asker}`).waitFor();
		expect(await faults(visitor)).to.deep.equal([]);
		await visitor.context().close();
		await got(asker, `conteste ${code}`);
		expect(await stateOf(asker)).to.equal('asked');
		await say(asker, code);
		await is(asker, 'in');
	});

	it('shows the office who joined, when and how; what is written to them reaches all three', async () => {
		await open(`/people/groups/${group}/joining`);
		await page.locator('.number', { hasText: '3 are in by the code' }).waitFor();
		const lines = page.locator('.lines-table tbody tr');
		expect(await lines.allInnerTexts()).to.have.length(3);
		const how = async (name: string) => lines.filter({ hasText: name }).innerText();
		expect(await how('Ilian Skerry'))
			.to.contain('by text')
			.and.to.contain('claimed');
		expect(await how('Ilse Gull')).to.contain('by mail');
		expect(await how('Oriol Farallón')).to.contain('on the page');
		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('link', { name: 'Write to them' }).click();
		await settled(page);
		await write(page, 'Gloves for Saturday', 'Bring gloves to the old pier.');
		await setWay(page, 'Text', true);
		await setWay(page, 'Email', true);
		await setHold(page, 0);
		await settled(page);
		const dispatch = await sendSheet(page);
		await letLeave(page, s, dispatch);
		await got(texter, 'Gloves');
		await got(asker, 'Gloves');
		await until('the letter is there', async () => {
			const { letters } = (await (
				await fetch(`${s.mailhouse}/letters?to=${encodeURIComponent(writer)}&newest=1`)
			).json()) as { letters: { subject: string }[] };
			return letters[0]?.subject.includes('Gloves');
		});
		expect(
			await countOf(s.db, `delivery WHERE dispatch_id = ${dispatch} AND way != 'inbox'`)
		).to.equal(3);
	});

	it('is shown on a screen for a room and on a sheet of paper', async () => {
		await open(`/people/groups/${group}/joining/screen`);
		expect(await page.locator('p.code').innerText()).to.equal(code);
		expect(await page.locator('.in').innerText()).to.contain('3');
		expect(await page.locator('header nav, .frame').count()).to.equal(0);
		expect(await faults(page)).to.deep.equal([]);
		const sheet = await page
			.context()
			.request.get(`${s.url}/people/groups/${group}/joining/sheet?paper=a4`);
		expect(sheet.headers()['content-type']).to.equal('application/pdf');
	});

	it('people are invited by mail, and can say that it is not for them', async () => {
		await open(`/people/groups/${group}/joining`);
		await page.getByLabel('Mail addresses').fill('Nils Brant <nils@brant.example>, nowhere');
		await page.getByRole('button', { name: 'Invite them' }).click();
		await page.getByText('1 invitation leaves by mail.').waitFor();
		await page.getByText('this is no mail address').waitFor();
		const own = await pageIn('nils@brant.example');
		const visitor = await stranger();
		await open(own, visitor);
		await visitor.getByRole('button', { name: 'Not for me' }).click();
		await visitor.getByText('Nothing of it is sent to you.').waitFor();
		expect(await stateOf('nils@brant.example')).to.equal('left');
		// A link of somebody else opens nothing.
		const other = await visitor.goto(`${own.slice(0, -1)}${own.endsWith('x') ? 'y' : 'x'}`);
		expect(other!.status()).to.equal(404);
		await visitor.context().close();
	});

	it('STOP leaves; whom the office takes out does not come in again by the same address', async () => {
		await say(texter, 'STOP');
		await is(texter, 'left');
		await open(`/people/groups/${group}/joining`);
		await page.getByRole('button', { name: 'Take out Oriol Farallón' }).click();
		await page.getByText('Taken out. This address does not come in again by itself.').waitFor();
		const before = (await textsOf(asker)).length;
		await say(asker, `join ${code}`);
		await until('the phone is told', async () => (await textsOf(asker)).length > before);
		expect((await textsOf(asker))[0]).to.contain('retiró este número');
		expect(await stateOf(asker)).to.equal('removed');
		await page.getByRole('button', { name: 'Let Oriol Farallón join again' }).click();
		await page.getByText('This address may join again by the code.').waitFor();
	});

	it('cards become groups by what they belong to, after they were looked at', async () => {
		await open('/people/groups');
		const card = (...lines: string[]) =>
			['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n');
		await page.setInputFiles('input[type=file]', {
			...{ name: 'helpers.vcf', mimeType: 'text/vcard' },
			buffer: Buffer.from(
				card('FN:Yrsa Skua', 'EMAIL:yrsa@skua.example', 'CATEGORIES:Harbor Clean-up,Gate Keepers') +
					card('FN:Odd Auk', 'EMAIL:odd@auk.example', 'CATEGORIES:Harbor Clean-up') +
					card('FN:Nobody At All', 'CATEGORIES:Gate Keepers')
			)
		});
		await page.getByRole('button', { name: 'Look at the file of cards' }).click();
		await page.getByRole('heading', { name: 'The cards hold 2 people' }).waitFor();
		await page.getByText('“Nobody At All” stays out').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.locator('label', { hasText: 'Gate Keepers: 1, a new group' }).click();
		await page.getByRole('button', { name: 'Put them into 1 group' }).click();
		await page.getByText('2 people came into 1 group').waitFor();
		expect(await countOf(s.db, `school_group WHERE name = 'Gate Keepers'`)).to.equal(0);
		await open(`/people/groups/${group}/joining`);
		await page.locator('tbody tr', { hasText: 'Odd Auk' }).getByText('with cards').waitFor();
	});

	it('is its own office’s to see: a teacher finds neither the list nor the sheet', async () => {
		const ines = await s.signedIn('ines');
		for (const path of ['', '/screen', '/sheet', '/list']) {
			const answer = await ines
				.context()
				.request.get(`${s.url}/people/groups/${group}/joining${path}`);
			expect(answer.status(), path).to.equal(404);
		}
		await ines.context().close();
	});
});

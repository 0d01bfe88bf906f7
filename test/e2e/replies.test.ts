import { createHash } from 'node:crypto';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { faults } from './axe';
import { localOf } from '../../src/lib/core/time/local';
import { now } from '../../src/lib/server/clock';
import { readDistrict } from '../../src/lib/server/db/district';
import { countOf, json, stack, until, type Stack } from './stack';
import {
	letLeave,
	moveClock,
	openFresh,
	pick,
	sendSheet,
	settled,
	setWay,
	write
} from './write-page';

interface Arrived {
	readonly number: number;
	readonly to: string;
	readonly subject: string;
	readonly text: string;
}
interface Reader {
	readonly personId: number;
	readonly name: string;
	readonly email: string | null;
	readonly phone: string | null;
}
/** A picture of two dots by two: a whole PNG. */
const picture =
	'iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAIAAAD91JpzAAAAEklEQVR42mNk+M9QzwADIAAAADD/AQMZ2kDFAAAAAElFTkSuQmCC';

describe('what families send back', () => {
	let s: Stack;
	let page: Page;
	let id: number;
	let readers: Reader[];
	const newest = async (to: string): Promise<Arrived[]> =>
		(await json<{ letters: Arrived[] }>(`${s.mailhouse}/letters?newest=1&limit=20&to=${to}`))
			.letters;
	const post = async (url: string, body: object) => {
		const response = await fetch(url, { method: 'POST', body: JSON.stringify(body) });
		if (!response.ok) throw new Error(await response.text());
	};
	const say = (phone: string, text: string) => post(`${s.exchange}/say`, { phone, text });
	const slip = (words: string) => page.locator('.slip', { hasText: words });
	const box = () => page.getByLabel('Your answer');
	/** The letter of this dispatch in a mailbox; others come there meanwhile, late ones too. */
	const letterTo = (email: string): Promise<Arrived> =>
		until(`the letter is in ${email}`, async () =>
			(await newest(email)).find((l) => l.subject.includes('Tide pool day'))
		);
	/** A family's link, as its letter of this dispatch says it. */
	const linkOf = async (email: string): Promise<string> =>
		/http:\/\/localhost:\d+\/f\/[\w-]{22}/.exec((await letterTo(email)).text)![0];
	async function openReplies() {
		await page.goto(`${s.url}/replies?dispatch=${id}`);
		await page.waitForSelector('html[data-ready]');
	}
	/** Opens the slip with these words, answers it, and lets the hold pass. */
	async function answer(words: string, said: string) {
		await openReplies();
		await slip(words).locator('a.words').click();
		await box().fill(said);
		await page.getByRole('button', { name: /^Answer by/ }).click();
		await page.locator('li.ours', { hasText: said }).waitFor();
	}

	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		await openFresh(page, s.url);
		await pick(page, 'Homeroom 4-A');
		await setWay(page, 'Text', true);
		await write(
			page,
			'Tide pool day',
			'We walk to the tide pools on Thursday. Is anything in the way?'
		);
		await settled(page);
		id = await sendSheet(page);
		await letLeave(page, s, id);
		readers = await s.db.all<Reader>(
			`SELECT person.id AS personId, given_name || ' ' || family_name AS name,
				(SELECT address FROM delivery WHERE dispatch_id = ${id} AND person_id = person.id AND way = 'email'
					AND delivery.state IN ('sent', 'delivered') AND NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id = delivery.id)) AS email,
				(SELECT address FROM delivery WHERE dispatch_id = ${id} AND person_id = person.id AND way = 'text'
					AND delivery.state IN ('sent', 'delivered') AND NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id = delivery.id)) AS phone
			FROM person WHERE language = 'en' AND id IN (SELECT person_id FROM delivery WHERE dispatch_id = ${id}) ORDER BY id`
		);
	});
	after(() => page.context().close());
	/** Takes a reader who has not been taken and has what is asked for. */
	const take = (has: (r: Reader) => unknown): Reader & { email: string; phone: string } => {
		const at = readers.findIndex(has);
		if (at < 0) throw new Error('the demo has no such reader left');
		return readers.splice(at, 1)[0]! as Reader & { email: string; phone: string };
	};

	it('by mail, by text in three parts and on the page with a picture stands under what it answers, and is answered each by its way', async () => {
		const byMail = take((r) => r.email);
		const letter = await letterTo(byMail.email);
		await post(`${s.mailhouse}/answer`, {
			...{ number: letter.number, text: 'Her boots are torn. Are there some to lend?', picture }
		});
		const byText = take((r) => r.phone);
		const long = 'Chúng tôi sẽ mang theo lọ và áo khoác cho cả lớp. '.repeat(4).trim();
		await say(byText.phone, long);
		const onPage = take((r) => r.email);
		const link = await linkOf(onPage.email);
		const phone = await (await s.context({ width: 390, height: 800 })).newPage();
		await phone.goto(link);
		await phone.waitForSelector('html[data-ready]');
		await phone.getByLabel('Your answer').fill('Here is the slip.');
		await phone.getByLabel('Pictures or files').setInputFiles({
			name: 'slip.png',
			mimeType: 'image/png',
			buffer: Buffer.from(picture, 'base64')
		});
		await phone.getByRole('button', { name: 'Send the answer' }).click();
		await phone.getByText('Sent. Maren Quill is told.').waitFor();
		await phone.getByRole('link', { name: 'slip.png' }).waitFor();
		expect(await faults(phone)).to.deep.equal([]);
		await phone.context().close();

		await until(
			'all three are there',
			async () =>
				(await countOf(s.db, `conversation WHERE dispatch_id = ${id} AND state = 'waiting'`)) === 3
		);
		await openReplies();
		await page.getByText('3 answered, 3 wait').waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await answer('torn', 'There are. Size?');
		await answer('Chúng tôi', 'Thank you.');
		await slip('Here is the slip').waitFor();
		await slip('Here is the slip').locator('a.words').click();
		const shown = page.locator('.open img[alt="slip.png"]');
		await shown.waitFor();
		const bytes = await (
			await page.request.get(new URL((await shown.getAttribute('src'))!, s.url).href)
		).body();
		expect(createHash('sha256').update(bytes).digest('hex')).to.equal(
			createHash('sha256').update(Buffer.from(picture, 'base64')).digest('hex')
		);
		await answer('Here is the slip', 'Got it, thank you.');
		await moveClock(page, '1 minute on');
		const back = await until('the mail is answered', async () =>
			(await newest(byMail.email)).find((l) => l.subject === 'Re: Tide pool day')
		);
		expect(back.text).to.contain('There are. Size?').and.not.contain('torn');
		await until('the text is answered', async () =>
			(
				await json<{ texts: { to: string; text: string }[] }>(
					`${s.exchange}/texts?newest=1&limit=50`
				)
			).texts.some((t) => t.to === byText.phone && t.text === 'Thank you. - Maren Quill')
		);
		expect(
			await countOf(s.db, `conversation WHERE dispatch_id = ${id} AND state = 'settled'`)
		).to.equal(3);
	});

	it('is answered from staff’s own mail program: the family gets it from the school’s address, without what is quoted', async () => {
		const family = take((r) => r.email);
		const letter = await letterTo(family.email);
		await post(`${s.mailhouse}/answer`, { number: letter.number, text: 'Where do we meet?' });
		const maren = 'maren.quill@brackwater.example';
		const told = await until('she is told by mail', async () =>
			(await newest(maren)).find((l) => l.text.includes('Where do we meet?'))
		);
		await post(`${s.mailhouse}/answer`, { number: told.number, text: 'At the landing, at nine.' });
		await until('it stands in the conversation', () =>
			countOf(
				s.db,
				`conversation WHERE person_id = ${family.personId} AND dispatch_id = ${id} AND state = 'settled'`
			)
		);
		await moveClock(page, '1 minute on');
		const got = await until('the family has it', async () =>
			(await newest(family.email)).find((l) => l.text.includes('At the landing, at nine.'))
		);
		expect(got.text).not.to.contain('Where do we meet').and.not.contain(maren);
		// Somebody else who has that letter answers in vain.
		await post(`${s.mailhouse}/answer`, {
			...{ number: told.number, text: 'No school tomorrow!', from: 'else@where.example' }
		});
		await until('she is told that it was not sent', async () =>
			(await newest(maren)).find(
				(l) => l.subject.startsWith('Not sent:') && l.text.includes('No school tomorrow!')
			)
		);
		expect(
			(await newest(family.email)).some((l) => l.text.includes('No school tomorrow!'))
		).to.equal(false);
	});

	it('is live while both are there: lines come by themselves, either way', async () => {
		const family = take((r) => r.email);
		const theirs = await (await s.context({ width: 390, height: 800 })).newPage();
		await theirs.goto(await linkOf(family.email));
		await theirs.waitForSelector('html[data-ready]');
		await theirs.getByLabel('Your answer').fill('May his brother come along?');
		await theirs.getByRole('button', { name: 'Send the answer' }).click();
		await theirs.getByText('Sent. Maren Quill is told.').waitFor();
		await openReplies();
		await slip('May his brother').locator('a.words').click();
		await page.getByText('The family is here').waitFor();
		await theirs.getByText('Maren Quill is here now.').waitFor();
		await box().fill('Of course, he is welcome.');
		await page.getByRole('button', { name: 'Answer here, at once' }).click();
		await theirs.getByText('Of course, he is welcome.').waitFor();
		await theirs.getByLabel('Your answer').fill('Wonderful. See you.');
		await theirs.getByRole('button', { name: 'Send the answer' }).click();
		await page.locator('li.family', { hasText: 'Wonderful. See you.' }).waitFor();
		await theirs.context().close();
		await page.getByText('The family is here').waitFor({ state: 'detached' });
	});

	it('is put aside and comes back at its time, and an answer can be called back while it is held', async () => {
		const family = take((r) => r.phone);
		await say(family.phone, 'Could grandmother sit on the pier?');
		await openReplies();
		await slip('grandmother').waitFor();
		await slip('grandmother').getByRole('button', { name: 'Put aside' }).click();
		await page.getByRole('textbox', { name: 'Put aside until', exact: true }).fill('in 30 minutes');
		await page.getByRole('textbox', { name: 'Put aside until', exact: true }).press('Enter');
		await page.getByRole('button', { name: /^Put aside until/ }).click();
		await slip('grandmother').waitFor({ state: 'detached' });
		await moveClock(page, '1 hour on');
		await openReplies();
		await slip('grandmother').waitFor();
		await answer('grandmother', 'Yes, on a bench.');
		await page.getByRole('button', { name: 'Call back' }).click();
		await page.locator('li.ours', { hasText: 'on a bench' }).waitFor({ state: 'detached' });
		expect(await box().inputValue()).to.equal('Yes, on a bench.');
		await openReplies();
		await slip('grandmother').waitFor();
	});

	it('that says the same stands as one line and is answered in one, a copy for each', async () => {
		const same = [1, 2, 3, 4].map(() => take((r) => r.phone));
		const words = ['Yes', 'We will be there', 'Sí, gracias', 'OK, yes'];
		for (const [i, r] of same.entries()) await say(r.phone, words[i]!);
		await until(
			'they are there',
			async () =>
				(await countOf(s.db, `conversation WHERE dispatch_id = ${id} AND alike = 'yes'`)) === 4
		);
		await openReplies();
		const line = page.locator('.alike', { hasText: '4 alike' });
		await line.getByRole('button', { name: 'Answer each the same' }).click();
		await line.getByLabel('The same to each').fill('See you on Thursday.');
		await line.getByRole('button', { name: /^Answer 4/ }).click();
		await line.waitFor({ state: 'detached' });
		await moveClock(page, '1 minute on');
		const { texts } = await until('each has its own', async () => {
			const arrived = await json<{ texts: { to: string; text: string }[] }>(
				`${s.exchange}/texts?newest=1&limit=60`
			);
			const mine = arrived.texts.filter((t) => t.text.startsWith('See you on Thursday.'));
			return mine.length >= 4 ? { texts: mine } : null;
		});
		expect(texts.map((t) => t.to).sort()).to.deep.equal(same.map((r) => r.phone).sort());
	});

	it('a family changes its language and its ways; a link is asked for and ended', async () => {
		const family = take((r) => r.email);
		const theirs = await (await s.context({ width: 320, height: 700 })).newPage();
		await theirs.goto(await linkOf(family.email));
		await theirs.waitForSelector('html[data-ready]');
		await theirs.getByRole('link', { name: 'What you get, and how' }).click();
		await theirs.getByLabel('Language').selectOption('es');
		await theirs.getByRole('button', { name: 'Save' }).click();
		await theirs.getByText('Guardado. Vale para todo lo que aún no ha salido.').waitFor();
		expect(await faults(theirs)).to.deep.equal([]);
		// Nothing is wider than a small phone.
		expect(await theirs.evaluate(() => document.documentElement.scrollWidth)).to.equal(320);
		await theirs.getByRole('button', { name: 'Terminar este enlace' }).click();
		await theirs.getByText('El enlace ha terminado.').waitFor();
		expect((await theirs.goto(theirs.url().replace(/\/choices.*/, '')))!.status()).to.equal(410);
		await theirs.goto(`${s.url}/in?language=es`);
		await theirs.waitForSelector('html[data-ready]');
		await theirs.getByLabel('Su correo o número de teléfono').fill(family.email);
		await theirs.getByRole('button', { name: 'Enviar el enlace' }).click();
		await theirs.getByText('el enlace va en camino').waitFor();
		expect(await faults(theirs)).to.deep.equal([]);
		const link = await until('the link came', async () =>
			(await newest(family.email))
				.map((l) => /http:\/\/localhost:\d+\/f\/[\w-]{24}/.exec(l.text)?.[0])
				.find(Boolean)
		);
		await theirs.goto(link);
		await theirs.getByText('Tide pool day').first().waitFor();
		await theirs.context().close();
	});

	it('one letter a day, in the family’s language: two letters come in one mail; a STOP between planning and leaving stops the copy', async () => {
		const family = take((r) => r.email);
		const stops = take((r) => r.phone);
		const { zone } = await readDistrict(s.db);
		const later = localOf((await now(s.db)) + 3 * 3_600_000, zone).slice(11, 16);
		const theirs = await (await s.context({ width: 390, height: 844 })).newPage();
		await theirs.goto(`${await linkOf(family.email)}/choices`);
		await theirs.waitForSelector('html[data-ready]');
		await theirs.getByLabel('One letter a day').fill(later);
		await theirs.getByLabel('Language').selectOption('es');
		await theirs.getByRole('button', { name: 'Save' }).click();
		await theirs.getByText('Guardado. Vale para todo').waitFor();
		expect(await theirs.getByLabel('Una carta al día').inputValue()).to.equal(later);
		// What was not touched stands as it stood, and saved once more it changes nothing.
		expect(await theirs.getByRole('checkbox', { checked: true }).count()).to.equal(4);
		await theirs.getByRole('button', { name: 'Guardar' }).click();
		await theirs.getByText('No se cambió nada.').waitFor();
		await theirs.context().close();
		const sheet = async (subject: string) => {
			await openFresh(page, s.url);
			await pick(page, 'Homeroom 4-A');
			await setWay(page, 'Text', true);
			await write(page, subject, 'Please bring boots and a coat on Thursday.');
			await settled(page);
		};
		await sheet('Boots');
		await page.getByRole('button', { name: /^Spanish/ }).click();
		await page.getByRole('button', { name: 'Let the translator draft it' }).click();
		await page.getByText('Drafted by the translator').waitFor();
		const drafted = await page.getByLabel('Subject').inputValue();
		await settled(page);
		const boots = await sendSheet(page);
		await say(stops.phone, 'STOP');
		const stopped = `delivery WHERE dispatch_id = ${boots} AND way = 'text' AND address = '${stops.phone}' AND state = 'failed'`;
		await until('it is stopped', async () => (await countOf(s.db, stopped)) === 1);
		await sheet('Lunch');
		const lunch = await sendSheet(page);
		await letLeave(page, s, boots);
		await letLeave(page, s, lunch);
		const letter = await until('the digest came', async () =>
			(await newest(family.email)).find((l) => l.text.includes('Lunch'))
		);
		expect(letter.subject).to.match(/^Sus cartas de /);
		expect(letter.text).to.contain(drafted).and.contain('Usted recibe');
		expect((await newest(family.email)).filter((l) => l.text.includes(drafted))).to.have.length(1);
		const went = await s.db.all<{ state: string; digest: number }>(
			`SELECT DISTINCT CASE WHEN state IN ('sent', 'delivered') THEN 'went' ELSE state END AS state, digest_id AS digest FROM delivery
			WHERE person_id = ${family.personId} AND way = 'email' AND dispatch_id IN (${boots}, ${lunch})`
		);
		expect(went).to.have.length(1);
		expect(went[0]).to.include({ state: 'went' });
		const { texts } = await json<{ texts: { to: string; text: string }[] }>(
			`${s.exchange}/texts?newest=1&limit=200`
		);
		expect(
			texts.filter((t) => t.to === stops.phone && /Boots|Lunch|boots/.test(t.text))
		).to.deep.equal([]);
	});
});

import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { json, stack, until, type Stack } from './stack';
import {
	moveToDue,
	openFresh,
	pick,
	sendSheet,
	setWay,
	settled,
	tally,
	write,
	typedBody
} from './write-page';

describe('the length of a text', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		await openFresh(page, s.url);
		await pick(page, 'Homeroom 5-B');
		for (const way of ['Email', 'Inbox'] as const) await setWay(page, way, false);
		await setWay(page, 'Text', true);
	});
	after(() => page.context().close());
	const meter = () => page.locator('.meter summary').innerText();

	it('says the alphabet, the parts and the cost, and marks what forces 16 bits', async () => {
		await write(
			page,
			'Boats “late”',
			`Fog at the breakwater – the 7:20 boat leaves at 7:45. ${'x'.repeat(60)}`
		);
		await settled(page);
		const { copies } = await tally(page);
		expect(copies).to.be.above(5);
		expect(await meter()).to.match(
			/As a text\s+2 parts, \d+ of 134 16-bit characters; the wording is cut/
		);
		await until('every text has been measured', async () =>
			(await meter()).includes(`${copies} texts, ${copies * 2} parts, about $`)
		);
		await page.locator('.meter summary').click();
		expect(await page.locator('.meter mark').allInnerTexts()).to.deep.equal(['“', '”', '–']);
	});

	it('exchanges them in one step, each shown before, and the fields and the number follow', async () => {
		const exchange = page.locator('.meter button').first();
		expect((await exchange.innerText()).trim()).to.equal(
			'Exchange “ ” curly quote → ", – long dash → -: 2 parts, with the whole wording'
		);
		await exchange.click();
		expect(await page.getByLabel('Subject').inputValue()).to.equal('Boats "late"');
		expect(await typedBody(page)).to.match(/^Fog at the breakwater - the/);
		expect(await meter()).to.match(/As a text\s+2 parts, \d+ of 306 characters(?!;)/);
		expect(await page.locator('.meter mark').count()).to.equal(0);
	});

	it('arrives on the phones as it was shown, but for each link of its own', async () => {
		const shown = (await page.locator('.meter .phone').innerText()).replace(/\/f\/x+/, '/f/');
		await settled(page);
		const { copies } = await tally(page);
		const id = await sendSheet(page);
		await moveToDue(page, s, id);
		const arrived = async () => {
			const { texts } = await json<{ texts: { text: string }[] }>(
				`${s.exchange}/texts?newest=1&limit=1000`
			);
			return texts.filter((t) => t.text.includes('Boats "late"'));
		};
		// A dead number's text is refused and never arrives.
		const mine = await until('the texts are there', async () => {
			const left = await s.db.one<{ n: number }>(
				`SELECT count(*) AS n FROM delivery WHERE dispatch_id = ${id} AND state IN ('held', 'planned')`
			);
			return left!.n === 0 ? await arrived() : null;
		});
		expect(mine.length).to.be.within(copies - 3, copies);
		for (const { text } of mine) {
			expect(text.replace(/\/f\/[\w-]{22}/, '/f/').replace(/\s+/g, ' ')).to.equal(
				shown.replace(/\s+/g, ' ')
			);
		}
	});

	it('is answered from a phone: STOP is obeyed at once, and what is said stands in Replies', async () => {
		const { phone } = (await s.db.one<{ phone: string }>(
			`SELECT value AS phone FROM address JOIN delivery ON delivery.address = address.value
			WHERE address.way = 'text' AND consent = 'in' AND failing IS NULL AND left_at IS NOT NULL LIMIT 1`
		))!;
		const say = (text: string) =>
			fetch(`${s.exchange}/say`, { method: 'POST', body: JSON.stringify({ phone, text }) });
		const consent = async () =>
			(await s.db.one<{ c: string }>('SELECT consent AS c FROM address WHERE value = $phone', {
				phone
			}))!.c;
		const long = 'Chúng tôi sẽ đến bến tàu lúc chín giờ sáng. '.repeat(5).trim();
		await say('Thank you, we will be there');
		// Three parts of 16 bits: one text here.
		await say(long);
		await say('Stop');
		await until('it is stopped', async () => (await consent()) === 'out');
		await page.goto(`${s.url}/replies`);
		await page.getByText(long, { exact: true }).click();
		await page.getByText('Thank you, we will be there').waitFor();
		await say('START');
		await until('it goes again', async () => (await consent()) === 'in');
	});
});

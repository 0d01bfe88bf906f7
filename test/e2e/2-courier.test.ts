import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { countOf, json, stack, until, type Stack } from './stack';
import {
	moveToDue,
	openFresh,
	pick,
	sendSheet,
	setHold,
	setWay,
	settled,
	tally,
	write
} from './write-page';

interface Kept {
	number: number;
	to: string;
	messageId: string;
	subject: string;
	repeat: boolean;
}

describe('the courier under fault', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());
	const count = (from: string) => countOf(s.db, from);

	/** Writes and sends without a hold to some sections; resolves to the dispatch and its number of copies. */
	async function send(
		sections: string[],
		subject: string,
		ways: ('Email' | 'Text' | 'Inbox')[]
	): Promise<{ id: number; copies: number }> {
		await openFresh(page, s.url);
		for (const name of sections) await pick(page, name);
		for (const way of ['Email', 'Text', 'Inbox'] as const)
			await setWay(page, way, ways.includes(way));
		await write(page, subject, 'A few words.');
		await setHold(page, 0);
		expect(await settled(page)).to.match(/^Send \d+ copies at once$/);
		const { copies } = await tally(page);
		return { id: await sendSheet(page), copies };
	}

	it('killed twice in the middle of 300 copies and started again: every recipient has each copy once', async () => {
		const sections = [
			'Homeroom K-A',
			'Homeroom K-B',
			'Homeroom K-C',
			'Homeroom 1-A',
			'Homeroom 1-B',
			'Homeroom 1-C'
		];
		// The courier is away while it is written, so that all copies wait for it together.
		await s.stop('courier');
		const { id, copies } = await send(sections, 'Ferry drill', ['Email', 'Text', 'Inbox']);
		expect(copies).to.be.at.least(300);
		const accepted = () =>
			s.db.all<{ id: number; way: string }>(
				`SELECT DISTINCT delivery.id, way FROM event JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id = ${id} AND event.kind = 'accepted'`
			);
		const idOf = (l: Kept) => Number(/^<(\d+)\./.exec(l.messageId)![1]);
		/** How often each letter of this dispatch has been handed over so far. */
		const handedOver = async () => {
			const { letters } = await json<{ letters: Kept[] }>(
				`${s.mailhouse}/letters?newest=1&limit=1000`
			);
			const times = new Map<number, number>();
			letters
				.filter((l) => l.subject === 'Ferry drill')
				.forEach((l) => times.set(idOf(l), (times.get(idOf(l)) ?? 0) + 1));
			return times;
		};
		/** What was known to be accepted at each kill, and how often it had been handed over by then. */
		const known: { id: number; times: number }[] = [];
		for (const enough of [25, 60]) {
			await s.start('courier');
			await until(
				`${enough} emails are accepted`,
				async () => (await accepted()).filter((d) => d.way === 'email').length >= enough
			);
			await s.stop('courier', 'SIGKILL');
			const times = await handedOver();
			known.push(
				...(await accepted())
					.filter((d) => d.way === 'email')
					.map((d) => ({ id: d.id, times: times.get(d.id)! }))
			);
		}
		const before = await count(
			`delivery WHERE dispatch_id = ${id} AND state IN ('held', 'planned')`
		);
		expect(before, 'killed in the middle').to.be.above(0);
		await s.start('courier');
		await until(
			'all has left',
			async () => (await count(`dispatch WHERE id = ${id} AND state = 'sent'`)) === 1
		);

		const { letters } = await json<{ letters: Kept[] }>(
			`${s.mailhouse}/letters?newest=1&limit=1000`
		);
		const mine = letters.filter((l) => l.subject === 'Ferry drill');
		const emails = await s.db.all<{ id: number; address: string; state: string }>(
			`SELECT id, address, state FROM delivery WHERE dispatch_id = ${id} AND way = 'email'`
		);
		const { mailboxes } = {
			mailboxes: await json<{ mailbox: string; fault: string }[]>(`${s.mailhouse}/mailboxes`)
		};
		const faulty = new Set(mailboxes.map((m) => m.mailbox));
		for (const { address } of emails.filter((e) => !faulty.has(e.address))) {
			expect(
				mine.filter((l) => l.to === address && !l.repeat),
				address
			).to.have.length(1);
		}
		// What was known to be accepted was not handed over a second time.
		const atTheEnd = await handedOver();
		expect(known.length).to.be.at.least(25 + 60);
		for (const { id: delivery, times } of known)
			expect(atTheEnd.get(delivery), `delivery ${delivery}`).to.equal(times);
		// What was under way or not written down at the kill may have been handed over twice: no more than that, and never shown twice.
		expect(mine.length - new Set(mine.map((l) => l.messageId)).size).to.be.at.most(2 * (16 + 48));

		const { texts } = await json<{ texts: { to: string; text: string; repeats: number }[] }>(
			`${s.exchange}/texts?newest=1&limit=1000`
		);
		const onPhones = texts.filter((t) => t.text.startsWith('Ferry drill'));
		const numbers = await s.db.all<{ address: string }>(
			`SELECT address FROM delivery WHERE dispatch_id = ${id} AND way = 'text'`
		);
		expect(onPhones.map((t) => t.to).sort()).to.deep.equal(numbers.map((n) => n.address).sort());
		expect(onPhones.reduce((sum, t) => sum + t.repeats, 0)).to.be.at.most(2 * 40);
		expect(
			await count(`delivery WHERE dispatch_id = ${id} AND way = 'inbox' AND state = 'delivered'`)
		).to.equal(await count(`delivery WHERE dispatch_id = ${id} AND way = 'inbox'`));
		expect(await count(`delivery WHERE dispatch_id = ${id} AND claimed_by IS NOT NULL`)).to.equal(
			0
		);
	});

	it('a second courier started by mistake sends nothing and does no harm', async () => {
		const holder = await s.db.one<{ instance: string }>('SELECT instance FROM courier');
		const { spawn } = await import('node:child_process');
		const second = spawn(process.execPath, ['build/processes/courier.js'], {
			env: { ...process.env, IDLE_COURIER_DATA: s.folder, IDLE_COURIER_URL: s.url },
			stdio: ['ignore', 'pipe', 'inherit']
		});
		let said = '';
		second.stdout.on('data', (d: Buffer) => (said += d.toString()));
		await until('it stands by', async () => said.includes('standing by'));
		expect(await s.db.one<{ instance: string }>('SELECT instance FROM courier')).to.deep.equal(
			holder
		);
		second.kill('SIGKILL');
	});

	it('says in Reach when the mail server is not there, and sends when it is back', async () => {
		await s.stop('courier');
		await s.stop('mailhouse');
		const { id, copies } = await send(['Homeroom 4-A'], 'Slips by Friday', ['Email']);
		await until('Reach says that there is no courier', async () => {
			await page.reload();
			return (await page.locator('.page').innerText()).includes('The courier is not running.');
		});
		await s.start('courier');
		await until('Reach says that there is no mail server', async () => {
			await page.reload();
			return /The mail server has not been there since .*: nothing answers at its address\./.test(
				await page.locator('.page').innerText()
			);
		});
		// A copy that is just being looked at has a claim; given back, it counts as untried.
		await until(
			'all copies are there untried',
			async () =>
				(await count(
					`delivery WHERE dispatch_id = ${id} AND state IN ('held', 'planned') AND attempts = 0`
				)) === copies
		);
		await s.start('mailhouse');
		await until(
			'all has left',
			async () => (await count(`dispatch WHERE id = ${id} AND state = 'sent'`)) === 1
		);
		const notice = (await page.reload(), await page.locator('.page').innerText());
		expect(notice).not.to.contain('has not been there');
	});

	it('says it in the same way for the text provider', async () => {
		await s.stop('exchange');
		const { id } = await send(['Homeroom 4-B'], 'Boats at noon', ['Text']);
		await until('it is said', async () => {
			await page.reload();
			return /The text provider has not been there since/.test(
				await page.locator('.page').innerText()
			);
		});
		await s.start('exchange');
		await until(
			'all has left',
			async () => (await count(`dispatch WHERE id = ${id} AND state = 'sent'`)) === 1
		);
		await until(
			'receipts have come',
			async () => (await count(`delivery WHERE dispatch_id = ${id} AND state = 'sent'`)) === 0
		);
	});

	it('shows mailboxes and phones that are set to fail as failed, with the reason, and lists them to be mended', async () => {
		// The courier is away until the faults are set: whoever they are set for has a copy that waits.
		await s.stop('courier');
		const { id } = await send(
			['Homeroom 4-C', 'Homeroom 5-A', 'Homeroom 5-B', 'Homeroom 5-C'],
			'Museum slips',
			['Email', 'Text']
		);
		const waiting = await s.db.all<{ way: string; address: string }>(
			`SELECT way, address FROM delivery WHERE dispatch_id = ${id} GROUP BY way, address HAVING count(*) = 1 ORDER BY min(id)`
		);
		const of = (way: string) => waiting.filter((c) => c.way === way).map((c) => c.address);
		const [refused, returned, full] = of('email') as [string, string, string];
		const [dead] = of('text') as [string];
		await page.goto(`${s.url}/stand-ins`);
		await page.waitForSelector('html[data-ready]');
		const form = page.locator('.fault', { has: page.getByLabel('Mailbox or phone') });
		for (const [address, fault] of [
			[refused, 'refuse'],
			[returned, 'return'],
			[full, 'full'],
			[dead, 'dead']
		] as const) {
			await form.locator('input').fill(address);
			await form.locator('select').selectOption(fault);
			await form.locator('button').click();
			await form.locator('.good', { hasText: address }).waitFor();
		}
		await s.start('courier');
		const stateOf = (address: string) =>
			s.db.one<{ state: string; detail: string }>(
				`SELECT state, (SELECT detail || coalesce(' (' || said || ')', '') FROM event WHERE delivery_id = delivery.id ORDER BY event.id DESC LIMIT 1) AS detail FROM delivery WHERE dispatch_id = ${id} AND address = $address`,
				{ address }
			);
		await until('three have failed', async () =>
			(await Promise.all([refused, returned, dead].map(stateOf))).every(
				(d) => d!.state === 'failed'
			)
		);
		await until('the full one has been tried', async () =>
			(await stateOf(full))!.detail.includes('mailbox full')
		);
		expect((await stateOf(refused))!.detail).to.equal(
			'the mailbox does not exist (550 5.1.1 no such mailbox here)'
		);
		expect((await stateOf(returned))!.detail).to.equal(
			'returned: the mailbox does not exist (5.1.1)'
		);
		expect((await stateOf(dead))!.detail).to.equal(
			'the number is not in service (receipt, UNDELIV 001)'
		);
		expect(await stateOf(full)).to.deep.include({
			state: 'planned',
			detail: 'the mailbox is full (452 4.2.2 mailbox full)'
		});
		await page.goto(`${s.url}/reach/${id}?state=failed`);
		expect(await page.locator('.bx--data-table').innerText())
			.to.contain(refused)
			.and.contain('number is not in service');
		await page.goto(`${s.url}/people/mend`);
		for (const address of [refused, returned])
			expect(await page.locator('.bx--data-table').innerText()).to.contain(address);
		// The full mailbox has room again: the copy leaves at its next try.
		await fetch(`${s.mailhouse}/mailboxes`, {
			method: 'POST',
			body: JSON.stringify({ mailbox: full, fault: null })
		});
		await moveToDue(page, s, id);
		await until('it is delivered', async () => (await stateOf(full))!.state === 'delivered');
	});
});

import { expect } from 'chai';
import { json, stack, until } from './stack';
import { stillDue } from './still-due';
import { openFresh, sendSheet, setHold, setWay, settled, tally, write } from './write-page';

describe('killed at random moments', () => {
	it('at least 20 times: what the stand-ins hold is what the database says, each copy once', async function () {
		// Each of thirty couriers comes into office before it is killed, however busy the machine is: each wait has an end of its own.
		this.timeout(0);
		const s = await stack();
		const page = await s.signedIn('maren');
		await openFresh(page, s.url);
		// Enough for every kill to find some on their way.
		await page.fill('.picker input[type=search], .picker input.bx--search-input', 'Homeroom');
		await page
			.locator('.picker')
			.getByRole('button', { name: /^Pick these/ })
			.click();
		for (const way of ['Email', 'Text'] as const) await setWay(page, way, true);
		await setWay(page, 'Inbox', false);
		await write(page, 'Tide drill', 'A few words.');
		await setHold(page, 0);
		await settled(page);
		await s.stop('courier');
		const { copies } = await tally(page);
		const id = await sendSheet(page);
		await page.context().close();
		let kills = 0;
		const left = async () => (await stillDue(s, id, 'email')) + (await stillDue(s, id, 'text'));
		/** Rises with each courier that comes into office. */
		const fence = async () =>
			(await s.db.one<{ fence: number }>('SELECT fence FROM courier'))!.fence;
		for (let i = 0; kills < 20 || ((await left()) > 0 && kills < 30); i += 1) {
			const before = await fence();
			const due = await left();
			await s.start('courier');
			// Every fourth while it starts; the others in office, with so many copies on their way out, or at rest.
			if (i % 4 > 0) {
				await until('it is in office', async () => (await fence()) > before);
				const more = (i * 379) % 11;
				await until('some have left', async () => {
					const now = await left();
					return now === 0 || now <= due - more;
				});
			}
			await s.stop('courier', 'SIGKILL');
			kills += 1;
		}
		await s.start('courier');
		await until('all copies are accounted for', async () => (await left()) === 0);
		await until(
			'receipts have come in',
			async () =>
				(await s.db.one<{ n: number }>(
					`SELECT count(*) AS n FROM delivery WHERE dispatch_id = ${id} AND state = 'sent'`
				))!.n === 0
		);
		expect(kills).to.be.at.least(20);
		const took = await s.db.all<{
			id: number;
			way: string;
			address: string;
			n: number;
			state: string;
		}>(
			`SELECT id, way, address, state, (SELECT count(*) FROM event WHERE delivery_id = delivery.id AND kind = 'accepted') AS n
			FROM delivery WHERE dispatch_id = ${id}`
		);
		expect(took).to.have.length(copies);
		expect(
			took.every((d) => d.n <= 1),
			'none accepted twice'
		).to.equal(true);
		// One whose courier was killed before it wrote "sent" may be known by its notification alone.
		const arrived = took.filter((d) => !['held', 'planned', 'failed'].includes(d.state));
		const inMailboxes = new Map<string, number>();
		for (let after = 0; ;) {
			const { letters, count } = await json<{
				count: number;
				letters: { number: number; to: string; subject: string; repeat: boolean }[];
			}>(`${s.mailhouse}/letters?after=${after}&limit=1000`);
			for (const l of letters) {
				after = l.number;
				if (l.subject === 'Tide drill' && !l.repeat)
					inMailboxes.set(l.to, (inMailboxes.get(l.to) ?? 0) + 1);
			}
			if (letters.length === 0 || after >= count) break;
		}
		const emails = arrived.filter((d) => d.way === 'email');
		expect(
			[...inMailboxes.values()].every((n) => n === 1),
			'no letter twice'
		).to.equal(true);
		expect([...inMailboxes.keys()].sort()).to.deep.equal(emails.map((d) => d.address).sort());
		const texts: { to: string; text: string }[] = [];
		for (let after = 0; ;) {
			const { texts: some, count } = await json<{
				count: number;
				texts: { number: number; to: string; text: string }[];
			}>(`${s.exchange}/texts?after=${after}&limit=1000`);
			for (const t of some) {
				after = t.number;
				if (t.text.startsWith('Tide drill')) texts.push(t);
			}
			if (some.length === 0 || after >= count) break;
		}
		// A phone that is off or dead never shows what the exchange took.
		const taken = took.filter((d) => d.way === 'text' && d.n === 1);
		expect(texts.map((t) => t.to).sort()).to.deep.equal(taken.map((d) => d.address).sort());
	});
});

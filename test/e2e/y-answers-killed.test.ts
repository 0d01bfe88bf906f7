import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import { createTransport } from 'nodemailer';
import type { Page } from 'playwright-core';
import { addressFor, copyToken } from '../../src/lib/server/access/tokens';
import { countOf, json, stack, until, type Stack } from './stack';
import { letLeave, openFresh, sendSheet, setHold, settled, setWay, write } from './write-page';

/** Something that a family sends back, and how; it is sent again until it was taken, as mail servers, exchanges and pages do. */
interface Sent {
	readonly words: string;
	readonly send: () => Promise<void>;
}

/** Answers of each way. */
const each = 25;

describe('answers while the courier and the web server are killed at random moments', () => {
	let s: Stack;
	let page: Page;
	let id: number;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		await openFresh(page, s.url);
		await page
			.locator('.picker')
			.getByRole('button', { name: /^Pick these/ })
			.click();
		await setWay(page, 'Text', true);
		await write(page, 'Ferry practice', 'Is anybody in the way on Friday?');
		await setHold(page, 0);
		await settled(page);
		id = await sendSheet(page);
		await letLeave(page, s, id);
	});
	after(async () => {
		await s.mend();
		await page.context().close();
	});

	/** Tries until something has been taken; whatever goes wrong meanwhile is a process that is not there. */
	const surely = (what: string, send: () => Promise<boolean>) =>
		until(what, () => send().catch(() => false));

	async function answersToCome(): Promise<Sent[]> {
		const key = await s.key();
		const taken = new Set<number>();
		const copies = async (way: string) => {
			const rows = await s.db.all<{ id: number; nonce: string; person: number; address: string }>(
				`SELECT min(id) AS id, nonce, person_id AS person, address FROM delivery WHERE dispatch_id = ${id} AND way = '${way}'
					AND state IN ('sent', 'delivered') AND NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id = delivery.id)
					AND person_id NOT IN (SELECT value FROM json_each('${JSON.stringify([...taken])}'))
					AND EXISTS (SELECT 1 FROM delivery AS linked WHERE linked.dispatch_id = ${id} AND linked.person_id = delivery.person_id AND link_hash IS NOT NULL)
					AND (SELECT count(*) FROM address AS other WHERE other.value = delivery.address COLLATE NOCASE) < 2
				GROUP BY person_id ORDER BY id LIMIT ${each}`
			);
			rows.forEach((r) => taken.add(r.person));
			expect(rows, way).to.have.length(each);
			return rows;
		};
		const transport = createTransport({ host: '127.0.0.1', port: s.returnPort });
		const byMail = (await copies('email')).map((copy, n): Sent => {
			const words = `By mail ${n}, about the ferry.`;
			return {
				words,
				send: () =>
					surely(`${words} is taken`, async () => {
						await transport.sendMail({
							...{ from: copy.address, subject: 'Re: Ferry practice', text: words },
							to: addressFor(key, 'answer', copy, 'return.brackwater.example'),
							messageId: `<killed-${copy.id}@there.example>`
						});
						return true;
					}).then(() => undefined)
			};
		});
		const byText = (await copies('text')).map((copy, n): Sent => {
			const words = `By text ${n}, about the ferry.${n % 3 === 0 ? ' It is a long way for us.'.repeat(8) : ''}`;
			return {
				words,
				send: async () => {
					await fetch(`${s.exchange}/say`, {
						method: 'POST',
						body: JSON.stringify({ phone: copy.address, text: words })
					});
				}
			};
		});
		const onPage = (await copies('inbox')).map((copy, n): Sent => {
			const words = `On the page ${n}, about the ferry.`;
			const own = randomUUID();
			return {
				words,
				send: () =>
					surely(`${words} is taken`, async () => {
						const form = new FormData();
						form.set('letter', String(id));
						form.set('key', own);
						form.set('words', words);
						const email = (await s.db.one<{ nonce: string }>(
							`SELECT nonce FROM delivery WHERE dispatch_id = ${id} AND person_id = ${copy.person} AND link_hash IS NOT NULL LIMIT 1`
						))!;
						const response = await fetch(`${s.url}/f/${copyToken(key, email.nonce)}?/answer`, {
							method: 'POST',
							headers: { origin: s.url, accept: 'application/json' },
							body: form
						});
						return response.ok && ((await response.json()) as { type: string }).type === 'success';
					}).then(() => undefined)
			};
		});
		return byMail.flatMap((one, n) => [one, byText[n]!, onPage[n]!]);
	}

	it('comes in once each and is answered once each: what the stand-ins hold is what the database says', async function () {
		// Each wait has an end of its own.
		this.timeout(0);
		const all = await answersToCome();
		const conversations = () =>
			s.db.all<{ id: number }>(`SELECT id FROM conversation WHERE dispatch_id = ${id}`);
		const answersIn = () =>
			countOf(
				s.db,
				`answer JOIN conversation ON conversation.id = conversation_id WHERE dispatch_id = ${id}`
			);
		const answered = new Map<number, Promise<unknown>>();
		/** Answers whatever waits, each with a key of its own, until the server has said that it is so. */
		async function answerThem() {
			for (const talk of await conversations()) {
				if (answered.has(talk.id)) continue;
				const own = randomUUID();
				answered.set(
					talk.id,
					surely(`conversation ${talk.id} is answered`, async () => {
						const response = await page.request.post(`${s.url}/replies/answer`, {
							headers: { origin: s.url },
							data: {
								key: own,
								conversations: [talk.id],
								words: `Noted, number ${talk.id}.`,
								atOnce: true
							}
						});
						return response.ok();
					})
				);
			}
		}
		let coming = true;
		const sending = (async () => {
			// Six at a time, so that they are still coming when the last process is killed.
			const queue = [...all];
			await Promise.all(
				Array.from({ length: 6 }, async () => {
					for (let one = queue.shift(); one; one = queue.shift()) await one.send();
				})
			);
			coming = false;
		})();
		let kills = 0;
		const last = all.length;
		for (let i = 0; i < 12; i += 1) {
			const before = await answersIn();
			const more = 1 + ((i * 379) % 5);
			// Killed after so many more have come in, or when none comes any more.
			await until('some have come in', async () => {
				const now = await answersIn();
				return now >= Math.min(last, before + more) || (!coming && now === before);
			});
			await answerThem();
			const name = i % 3 === 2 ? 'web' : 'courier';
			await s.stop(name, 'SIGKILL');
			kills += 1;
			await s.start(name);
		}
		await sending;
		await until('all are there', async () => (await answersIn()) === last);
		await answerThem();
		await Promise.all(answered.values());
		expect(kills).to.equal(12);
		const ours = `delivery JOIN conversation_copy ON delivery_id = delivery.id JOIN conversation ON conversation.id = conversation_id
			WHERE conversation.dispatch_id = ${id}`;
		await until(
			'all of ours have left',
			async () => (await countOf(s.db, `${ours} AND delivery.state IN ('held', 'planned')`)) === 0
		);
		const rows = await s.db.all<{ text: string; way: string }>(
			`SELECT answer.text, answer.way FROM answer JOIN conversation ON conversation.id = conversation_id WHERE dispatch_id = ${id}`
		);
		expect(rows.map((r) => r.text).sort()).to.deep.equal(all.map((a) => a.words).sort());
		expect(await countOf(s.db, `conversation WHERE dispatch_id = ${id}`)).to.equal(last);
		expect(
			await countOf(s.db, `conversation WHERE dispatch_id = ${id} AND state != 'settled'`)
		).to.equal(0);
		expect(
			await countOf(
				s.db,
				`event JOIN delivery ON delivery.id = delivery_id WHERE event.kind = 'answered' AND dispatch_id = ${id}`
			)
		).to.equal(last);
		// Ours: one copy each, and at each stand-in exactly those that the books say it took.
		const copies = await s.db.all<{ talk: number; way: string; state: string }>(
			`SELECT conversation_id AS talk, delivery.way, delivery.state FROM ${ours}`
		);
		expect(copies.map((c) => c.talk).sort()).to.deep.equal(
			(await conversations()).map((c) => c.id).sort()
		);
		const said = /Noted, number (\d+)\./;
		const numbers = (list: readonly { text: string; repeat?: boolean }[]) =>
			list
				.filter((l) => l.repeat !== true)
				.flatMap((l) => said.exec(l.text)?.[1] ?? [])
				.map(Number)
				.sort((a, b) => a - b);
		const of = (way: string) =>
			copies
				.filter((c) => c.way === way && c.state !== 'failed')
				.map((c) => c.talk)
				.sort((a, b) => a - b);
		const { letters } = await json<{ letters: { text: string; repeat: boolean }[] }>(
			`${s.mailhouse}/letters?newest=1&limit=1000`
		);
		const { texts } = await json<{ texts: { text: string }[] }>(
			`${s.exchange}/texts?newest=1&limit=1000`
		);
		expect(numbers(letters), 'by mail').to.deep.equal(of('email'));
		expect(numbers(texts), 'by text').to.deep.equal(of('text'));
		expect(of('inbox').length, 'on the page').to.be.above(0);
	});
});

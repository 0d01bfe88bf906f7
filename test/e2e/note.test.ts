import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { now, setClock } from '../../src/lib/server/clock';
import { ownInboxLink } from '../../src/lib/server/access/own-link';
import { tokenOf } from '../named';
import { faults } from './axe';
import { countOf, json, stack, until, type Stack } from './stack';
import {
	letLeave,
	openFresh,
	pick,
	sendButton,
	sendSheet,
	setHold,
	setWay,
	settled,
	write
} from './write-page';

interface Kept {
	readonly fileId: number;
	readonly kind: 'voice' | 'video';
	readonly ms: number;
	readonly words: string;
	readonly picture: { readonly fileId: number; readonly width: number } | null;
}

describe('a note by voice or video', () => {
	let s: Stack;
	let page: Page;
	let dispatchId: number;
	const subject = 'A word from the principal';
	const said = 'Good morning. The boats leave at nine tomorrow.';
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());

	const group = () => page.getByRole('group', { name: 'Voice or video' });
	/** Records until so many seconds stand on the screen. */
	async function record(name: string, seconds: number): Promise<void> {
		await group().getByRole('button', { name }).click();
		// A busy machine may pass a second over.
		await group()
			.getByText(new RegExp(`recording (0:0[${seconds}-9]|0:[1-5]\\d) of`))
			.waitFor();
		await group().getByRole('button', { name: 'Stop', exact: true }).click();
		await group()
			.getByRole('button', { name: /^Use it/ })
			.waitFor();
	}
	const kept = async (): Promise<Kept | null> => {
		const row = await s.db.one<{ note: string | null }>(
			`SELECT letter -> '$.note' AS note FROM dispatch ORDER BY changed_at DESC, id DESC LIMIT 1`
		);
		return JSON.parse(row?.note ?? 'null') as Kept | null;
	};

	it('is recorded, heard again, cut at its beginning and put in; a film has a picture of itself', async () => {
		await openFresh(page, s.url);
		await pick(page, 'Homeroom 3-B');
		await setWay(page, 'Text', true);
		await write(page, subject, 'Please listen.');
		await record('Record a video note', 2);
		expect(await faults(page)).to.deep.equal([]);
		await group()
			.getByRole('button', { name: /^Use it/ })
			.click();
		await group().getByText('take the note out').waitFor();
		const film = await until('the film is in the draft', async () => (await kept()) ?? false);
		expect(film).to.include({ kind: 'video' });
		expect(film.picture!.width).to.be.above(200);

		await record('Record another voice note', 3);
		const whole = Number(
			/0:0(\d)/.exec(
				await group()
					.getByRole('button', { name: /^Use it/ })
					.innerText()
			)![1]
		);
		await group()
			.getByLabel(/^Begins at/)
			.fill('1.5');
		await group()
			.getByRole('button', { name: /^Use it/ })
			.click();
		await group().getByText('take the note out').waitFor();
		const voice = await until('the voice is in the draft', async () => {
			const note = await kept();
			return note?.kind === 'voice' && note;
		});
		// What was cut off is not there: the file itself is shorter.
		expect(voice.ms)
			.to.be.below(whole * 1000 - 500)
			.and.above(500);
		const file = (await s.db.one<{ type: string; bytes: number }>(
			`SELECT type, bytes FROM file WHERE id = ${voice.fileId}`
		))!;
		expect(file.type).to.match(/^video\/webm|^audio\/|^video\/mp4/);
		expect(file.bytes).to.be.above(500);
	});

	it('is not sent before it is written what is said', async () => {
		await until('it is asked for', async () =>
			(await settled(page)).includes('1 thing to mend first')
		);
		await sendButton(page).click();
		await page
			.getByText('Write what is said in the voice note: not everybody can hear it.')
			.waitFor();
		await page.keyboard.press('Escape');
		await page.getByLabel('What is said in it, for those who cannot hear it').fill(said);
		await setHold(page, 0);
		await until('nothing is in the way', async () => (await settled(page)).startsWith('Send'));
		expect(await faults(page)).to.deep.equal([]);
		dispatchId = await sendSheet(page);
		await letLeave(page, s, dispatchId);
	});

	it('stands in the mail as a picture with a link, and what is said below it', async () => {
		const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
			`${s.mailhouse}/letters?newest=1&limit=1000`
		);
		const mine = letters.find((l) => l.subject === subject)!;
		const { raw } = await json<{ raw: string }>(`${s.mailhouse}/letter?number=${mine.number}`);
		const mail = await simpleParser(Buffer.from(raw, 'latin1'), { keepCidLinks: true });
		expect(mail.html).to.match(/<a href="[^"]+\/f\/[\w-]+"[^>]*><img src="cid:[^"]+"/);
		expect(mail.html).to.contain(said);
		expect(mail.text).to.contain('Listen to it (0:').and.contain(said);
		expect(mail.attachments.some((a) => a.contentType === 'image/png')).to.equal(true);
		// Sound and film fill no mailbox.
		expect(mail.attachments.some((a) => /audio|video/.test(a.contentType))).to.equal(false);
	});

	it('is played on a phone, part by part; to its end is evidence, a jump to it is none', async () => {
		// By the link in their letter; it is told of the copy that lies in their inbox.
		const copy = (await s.db.one<{ id: number; mailed: number }>(
			`SELECT lies.id, mail.id AS mailed FROM delivery AS lies JOIN delivery AS mail USING (dispatch_id, person_id)
			WHERE dispatch_id = ${dispatchId} AND lies.way = 'inbox' AND mail.way = 'email' AND mail.left_at IS NOT NULL
			ORDER BY lies.id LIMIT 1`
		))!;
		// A while after it came: so soon, it would be a machine.
		await setClock(s.db, (await now(s.db)) + 60_000);
		const token = await tokenOf(s.db, await s.key(), copy.mailed);
		const phone = await s.context({ width: 390, height: 844 });
		const family = await phone.newPage();
		await family.goto(`${s.url}/f/${token}?letter=${dispatchId}`);
		await family.waitForSelector('html[data-ready]');
		await family.getByText(said).waitFor();
		expect(await faults(family)).to.deep.equal([]);
		const played = () => countOf(s.db, `event WHERE kind = 'played' AND delivery_id = ${copy.id}`);
		await until('its length is known', () =>
			family.evaluate<boolean>(`document.querySelector('audio').duration > 0.5`)
		);
		const done = `new Promise((done) => document.querySelector('audio').addEventListener('ended', done, { once: true }))`;
		await family.evaluate(`(async () => {
			const audio = document.querySelector('audio');
			const ended = ${done};
			audio.currentTime = audio.duration - 0.1;
			await audio.play();
			await ended;
		})()`);
		expect(await played()).to.equal(0);
		await family.evaluate(`(async () => {
			const audio = document.querySelector('audio');
			audio.src = audio.src;
			const ended = ${done};
			await audio.play();
			await ended;
		})()`);
		await until('it is told', async () => (await played()) === 1);
		expect(
			await s.db
				.one(`SELECT event.strength, state FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE event.kind = 'played' AND delivery_id = ${copy.id}`)
		).to.deep.equal({ strength: 'strong', state: 'read' });

		const source = new URL((await family.locator('audio').getAttribute('src'))!, s.url).pathname;
		const part = await fetch(s.url + source, { headers: { range: 'bytes=10-19' } });
		expect(part.status).to.equal(206);
		expect(part.headers.get('content-range')).to.match(/^bytes 10-19\/\d+$/);
		expect((await part.arrayBuffer()).byteLength).to.equal(10);
		// By somebody else's link there is no such note.
		const other = (await s.db.one<{ id: number }>(
			`SELECT id FROM person_now WHERE id NOT IN (SELECT person_id FROM delivery WHERE dispatch_id = ${dispatchId}) LIMIT 1`
		))!;
		const { path } = await ownInboxLink(s.db, await s.key(), other.id);
		const strange = source.replace(`/f/${token}`, path);
		expect((await fetch(s.url + strange)).status).to.equal(404);
		await phone.close();
	});
});

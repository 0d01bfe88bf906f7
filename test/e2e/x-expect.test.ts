import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { audienceOf } from '../../src/lib/core/audience/audience';
import { wordingOf } from '../../src/lib/core/copy/words';
import { localOf, weekdayOf } from '../../src/lib/core/time/local';
import { tallyOf } from '../../src/lib/core/plan/tally';
import type { Way } from '../../src/lib/core/roster/way';
import { userById, type User } from '../../src/lib/server/access/user';
import { now, setClock } from '../../src/lib/server/clock';
import { readClocks } from '../../src/lib/server/db/school-own';
import { judgeForecasts } from '../../src/lib/server/desk/expect/judge-forecasts';
import { keepForecasts } from '../../src/lib/server/desk/expect/keep-forecasts';
import { planSheet } from '../../src/lib/server/desk/plan/plan-sheet';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { sheetWith } from '../../src/lib/server/desk/sheet/sheet';
import { readByHabit } from '../read-by-habit';
import { faults } from './axe';
import { countOf, json, stack, until, type Stack } from './stack';
import { openFresh, pick, sendSheet, setHold, setWay, settled, write } from './write-page';

const day = 86_400_000;
const seed = 'brackwater';

describe('what to expect', () => {
	let s: Stack;
	let page: Page;
	let user: User;
	before(async () => {
		s = await stack();
		const row = await s.db.one<{ id: number }>(
			`SELECT person_id AS id FROM sign_in WHERE user_name = 'maren'`
		);
		user = (await userById(s.db, row!.id))!;
		page = await s.signedIn('maren');
		rooms = (
			await s.db.all<{ name: string }>(
				`SELECT name FROM section WHERE term_id = 2 AND name GLOB 'Homeroom *' ORDER BY id`
			)
		).map((room) => room.name);
	});
	after(() => page.context().close());

	const sectionOf = async (name: string): Promise<number> =>
		(await s.db.one<{ id: number }>(
			'SELECT id FROM section WHERE term_id = 2 AND name = $name ORDER BY id LIMIT 1',
			{ name }
		))!.id;

	/** Puts a sheet down to sections at the clock’s time, as its button would. */
	async function send(
		sections: readonly string[],
		ways: readonly Way[],
		subject: string
	): Promise<number> {
		const sheet = sheetWith({
			sheetKey: crypto.randomUUID(),
			audience: audienceOf(await Promise.all(sections.map(sectionOf))),
			ways: [...ways],
			wording: wordingOf(subject, 'The boat is late.'),
			holdMinutes: 0
		});
		const { copies } = tallyOf((await planSheet(s.db, user, sheet)).manifest);
		const sent = await schedule(s.db, await s.key(), user, sheet, copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		return sent.dispatchId;
	}

	let rooms: readonly string[];

	/** The next ten o’clock of a school day’s week that the clock comes to: nothing that leaves then waits for the morning. */
	async function nextTen(): Promise<number> {
		const { zone } = await readClocks(s.db);
		let at = Math.ceil((await now(s.db)) / 3_600_000) * 3_600_000;
		for (;;) {
			const local = localOf(at, zone);
			if (local.slice(11, 13) === '10' && weekdayOf(local.slice(0, 10)) <= 4) return at;
			at += 3_600_000;
		}
	}

	it('says that too little is known while nothing has been read, and gives no number', async () => {
		await openFresh(page, s.url);
		await pick(page, rooms[0]!);
		await settled(page);
		const line = page.locator('.lands p', { hasText: 'What to expect' });
		// What other tests have sent on this stack may have been enough by now.
		await line.getByText(/too little has been read|about \d+ of \d+ students/).waitFor();
		await line.getByRole('link', { name: 'What to expect' }).click();
		await page
			.getByText(/Too little has been read|By .*, about/)
			.first()
			.waitFor();
		expect(await faults(page)).to.deep.equal([]);
	});

	it('is learned from the past, and stands beside the tally', async () => {
		await s.stop('courier');
		const time = await nextTen();
		for (let i = 0; i < 24; i += 1) {
			await setClock(s.db, time - 60 * day + i * 2 * day);
			const ways = (
				[
					['email', 'inbox'],
					['email', 'text'],
					['inbox', 'text']
				] as const
			)[i % 3]!;
			await readByHabit(s.db, await send(rooms, ways, `Past ${i}`), seed);
		}
		await s.db.run('DELETE FROM reading_model');
		await setClock(s.db, time);
		await s.start('courier');
		await until('the night has learned', async () =>
			s.db.one('SELECT 1 FROM reading_model WHERE form = 1 AND copies > 1000')
		);
		await openFresh(page, s.url);
		await pick(page, rooms[0]!);
		await pick(page, rooms[1]!);
		await setWay(page, 'Text', true);
		await settled(page);
		const line = page.locator('.lands p', { hasText: 'What to expect' });
		await line.getByText(/about \d+ of \d+ students by .* \(\d+ to \d+\)/).waitFor();
	});

	it('compares ways, and the cheapest that is enough is taken over into the sheet', async () => {
		await write(page, 'Boats on Friday', 'The boat is late.');
		await page.getByRole('link', { name: 'What to expect' }).click();
		await page.getByRole('heading', { name: /By .*, about \d+ of \d+ students/ }).waitFor();
		expect(await faults(page)).to.deep.equal([]);
		await page.getByLabel('At least').selectOption('60');
		await page.getByText(/The least that comes to 60 %/).waitFor();
		const cheapest = page.locator('tbody tr', { hasText: 'the least that comes to 60 %' });
		const words = (await cheapest.locator('td').first().innerText()).split('\n')[0]!.trim();
		await cheapest.getByRole('button', { name: 'Use' }).click();
		await page.getByText(`The sheet goes by ${words} now.`).waitFor();
		await page.locator('tr.own', { hasText: words }).waitFor();
		await page.getByText('Nothing cheaper comes to 60 %.').waitFor();
	});

	it('leaves with that, is kept as it was said, and what came lies in its band as often as it should', async () => {
		const said = await page.locator('tr.own td').nth(1).innerText();
		await page.getByRole('link', { name: 'Back to the wording' }).click();
		await page.waitForSelector('button.door.big');
		await setHold(page, 0);
		await settled(page);
		// The courier rests until all is forecast, which its planner would do within a minute.
		await s.stop('courier');
		// What lies in a mailbox when they begin has had its reader.
		await s.start('readers');
		const first = await sendSheet(page);
		const ids = [first];
		for (const room of rooms) ids.push(await send([room], ['email', 'text'], `Now ${room}`));
		const list = ids.join(', ');
		while ((await keepForecasts(s.db)) > 0);
		expect(await countOf(s.db, `forecast WHERE dispatch_id IN (${list})`)).to.equal(ids.length);
		// The first is really sent, and read by the stand-in; the others by its habits alone.
		for (const id of ids.slice(1)) await readByHabit(s.db, id, seed);
		await s.start('courier');
		const kept = (await s.db.one<{ expected: number; low: number; high: number; byAt: number }>(
			`SELECT expected, low, high, by_at AS byAt FROM forecast WHERE dispatch_id = ${first}`
		))!;
		expect(said.replace(/\s+/g, ' ')).to.match(
			new RegExp(`^${Math.round(kept.expected)} of \\d+ ${kept.low} to ${kept.high}`)
		);
		await until(
			'the first copies have left',
			async () =>
				(await countOf(
					s.db,
					`delivery WHERE dispatch_id = ${first} AND step = 0 AND state IN ('planned', 'held')`
				)) === 0
		);
		// On to the last minute that counts; later turns leave on the way.
		for (const at of [kept.byAt - 8 * 3_600_000, kept.byAt - 600_000]) {
			await setClock(s.db, at);
			await until(
				'everybody has read who reads by then',
				async () =>
					(await json<{ doneUntil: number }>(`http://localhost:${s.env.READERS_HTTP_PORT}/health`))
						.doneUntil >= at
			);
			await until(
				'what is due has left',
				async () =>
					(await countOf(
						s.db,
						`delivery WHERE dispatch_id = ${first} AND due_at < ${at} AND state IN ('planned', 'held')`
					)) === 0
			);
		}
		await s.stop('readers');
		await setClock(s.db, kept.byAt + day);
		await judgeForecasts(s.db);
		await until(
			'all are judged',
			async () =>
				(await countOf(s.db, `forecast WHERE dispatch_id IN (${list}) AND covered IS NULL`)) === 0
		);
		const within = await countOf(
			s.db,
			`forecast WHERE dispatch_id IN (${list}) AND covered BETWEEN low AND high`
		);
		// Nine of ten should: were it eight of ten, fewer than half would still come once in ten thousand times.
		expect(within, `of ${ids.length}`).to.be.at.least(ids.length / 2);
		await page.goto(`${s.url}/reach/${first}`);
		await page.getByText(/it was \d+; expected were about \d+ \(\d+ to \d+\)/).waitFor();
		await page.goto(`${s.url}/reach/forecasts`);
		await page
			.getByRole('heading', { name: /\d+ of \d+ forecasts came out within their bands/ })
			.waitFor();
		await page.getByRole('link', { name: 'Boats on Friday' }).first().waitFor();
		expect(await faults(page)).to.deep.equal([]);
	});
});

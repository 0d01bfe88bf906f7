import { expect } from 'chai';
import { DateTime } from 'luxon';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { moveTo, now } from '../../src/lib/server/clock';
import { rosterChanged } from '../../src/lib/server/db/roster';
import { json, stack, until, type Stack } from './stack';
import { faults } from './axe';
import {
	openFresh,
	pick,
	sendButton,
	sendSheet,
	setWay,
	setWhen,
	settled,
	tally,
	typeMoment,
	write
} from './write-page';

const zone = 'America/New_York';
/** How soon after its moment a copy has left, also on a slow machine; the next moment is 45 minutes away. */
const soonMs = 300_000;
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const local = (ms: number) => DateTime.fromMillis(ms, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");

describe('when it goes: a week that is planned, moved and kept', () => {
	let s: Stack;
	let page: Page;
	let walk: number;
	let copies: number;
	let shifted: number;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		expect(await now(s.db), 'the tests before this one leave the week as it is').to.be.below(
			at('2027-03-11T16:00')
		);
		// What other tests have waiting is not this one's.
		await moveTo(s.db, at('2027-03-11T16:05'));
		// Two guardians of the section sleep by day.
		await s.db.write(async (tx) => {
			await tx.run(
				`INSERT OR REPLACE INTO own_time (person_id, zone, quiet_from, quiet_to)
				SELECT DISTINCT contact.person_id, NULL, 840, 1020 FROM contact JOIN enrolment USING (student_id)
				JOIN section ON section.id = section_id JOIN address ON address.person_id = contact.person_id
				WHERE section.name = 'Homeroom 4-A' AND section.term_id = 2 AND guardian AND custody AND correspondence
					AND address.way = 'text' AND consent = 'in' AND failing IS NULL
				ORDER BY contact.person_id LIMIT 2`
			);
			await rosterChanged(tx);
		});
	});
	after(() => page.context().close());

	const rows = (id: number) =>
		s.db.all<{
			id: number;
			way: string;
			due: number;
			address: string | null;
			state: string;
			attempts: number;
		}>(
			'SELECT id, way, due_at AS due, address, state, attempts FROM delivery WHERE dispatch_id = $id ORDER BY id',
			{ id }
		);
	async function fresh() {
		await openFresh(page, s.url);
	}
	const check = async () => (await page.locator('.checks').textContent()) ?? '';
	const tag = (subject: string) => page.locator('.tag', { hasText: subject });
	const cell = (key: string) => page.locator(`[data-cell="${key}"]`);
	async function week(day: string) {
		await page.goto(`${s.url}/week?day=${day}`);
		await page.waitForSelector('html[data-ready]');
	}

	it('is scheduled by typing the time; the button says copies and moment, the tally what quiet hours shift', async () => {
		await fresh();
		await pick(page, 'Homeroom 4-A');
		await setWay(page, 'Text', true);
		await write(page, 'Reading night', 'Bring a blanket.');
		await setWhen(page, 'at');
		// Suggested: half an hour ahead on a round five minutes.
		expect(await page.getByRole('textbox', { name: 'Leaves' }).inputValue()).to.match(
			/^Thu Mar 11, 4:\d\d pm$/
		);
		await typeMoment(page, 'Leaves', 'fri 2:15pm');
		const words = await settled(page);
		copies = (await tally(page)).copies;
		expect(words).to.equal(`Schedule ${copies} copies for Fri Mar 12, 2:15 pm`);
		const said =
			/(\d+) of \d+ copies would come in quiet hours and leave later, at Fri Mar 12, 5:00 pm/.exec(
				await check()
			);
		shifted = Number(said?.[1]);
		expect(shifted).to.be.above(1);
		walk = await sendSheet(page);
		expect(await page.locator('.hold').innerText()).to.contain('Fri Mar 12, 2:15 pm');
		const due = (await rows(walk)).map((r) => local(r.due));
		expect(due.filter((d) => d === '2027-03-12T17:00')).to.have.length(shifted);
		expect(due.filter((d) => d === '2027-03-12T14:15')).to.have.length(copies - shifted);
	});

	it('stands in Week, is dragged from Friday to Monday with its effect shown, and back by keyboard, and to Monday again', async () => {
		await week('2027-03-12');
		const mine = tag('Reading night');
		await mine.scrollIntoViewIfNeeded();
		expect(await cell('2027-03-12 school').innerText()).to.contain('Reading night');
		// Monday is in the next week: by keyboard first.
		const button = mine.getByRole('button', { name: 'Move Reading night' });
		await button.focus();
		await page.keyboard.press('Enter');
		const dialog = page.getByRole('dialog', { name: /Move Reading night/ });
		await dialog
			.getByText(/families over 3/)
			.first()
			.waitFor();
		await dialog.getByRole('textbox', { name: 'Move it to' }).fill('thu mar 18 10am');
		await page.keyboard.press('Enter');
		await dialog.getByRole('button', { name: 'Move', exact: true }).focus();
		await page.keyboard.press('Enter');
		await page.getByText('Reading night leaves Thu Mar 18, 10:00 am.').waitFor();

		await week('2027-03-18');
		const from = (await tag('Reading night').boundingBox())!;
		const target = cell('2027-03-15 school');
		const to = (await target.boundingBox())!;
		await page.mouse.move(from.x + 30, from.y + 50);
		await page.mouse.down();
		await page.mouse.move(from.x + 20, from.y + 60, { steps: 4 });
		await page.mouse.move(to.x + 40, to.y + 30, { steps: 12 });
		await target.getByText('Reading night').first().waitFor({ state: 'attached' });
		await page.mouse.up();
		await page.getByText('Reading night leaves Mon Mar 15, 10:00 am.').waitFor();
		expect(await target.innerText()).to.contain('Reading night');
		expect(local((await rows(walk))[0]!.due)).to.equal('2027-03-15T10:00');
	});

	it('says so where the dialog to move a tag cannot be loaded, and moves it once the page is loaded again', async () => {
		const other = await (await s.context()).newPage();
		await other.context().addCookies(await page.context().cookies());
		await other.goto(`${s.url}/week?day=2027-03-15`);
		await other.waitForSelector('html[data-ready]');
		const ask = () =>
			other
				.locator('.tag', { hasText: 'Reading night' })
				.getByRole('button', { name: /^Move/ })
				.click();
		await other.context().setOffline(true);
		await ask();
		await other.getByText('the times to move it to could not be shown').waitFor();
		await other.context().setOffline(false);
		await other.reload();
		await other.waitForSelector('html[data-ready]');
		await ask();
		await other.getByRole('dialog', { name: /Move Reading night/ }).waitFor();
		await other.context().close();
	});

	it('tells the second of two who move the same tag at once, and moves nothing', async () => {
		const other = await (await s.context()).newPage();
		await other.context().addCookies(await page.context().cookies());
		await other.goto(`${s.url}/week?day=2027-03-15`);
		await other.waitForSelector('html[data-ready]');
		const move = async (on: Page, text: string) => {
			await on
				.locator('.tag', { hasText: 'Reading night' })
				.getByRole('button', { name: /^Move/ })
				.click();
			const dialog = on.getByRole('dialog', { name: /Move Reading night/ });
			await dialog.getByRole('textbox', { name: 'Move it to' }).fill(text);
			await on.keyboard.press('Enter');
			await dialog.getByRole('button', { name: 'Move', exact: true }).click();
		};
		await week('2027-03-15');
		await move(page, 'mon mar 15 2:15pm');
		await page.getByText('Reading night leaves Mon Mar 15, 2:15 pm.').waitFor();
		await move(other, 'tue mar 16 9am');
		await other.getByText(/Maren Quill has changed it; it leaves Mon Mar 15, 2:15 pm/).waitFor();
		await other.context().close();
		const due = (await rows(walk)).map((r) => local(r.due));
		expect(due.filter((d) => d === '2027-03-15T17:00')).to.have.length(shifted);
		expect(due.filter((d) => d === '2027-03-15T14:15')).to.have.length(copies - shifted);
	});

	it('is called back from Reach and is a draft again with its time, and found in the list', async () => {
		await fresh();
		await pick(page, 'Homeroom 2-C');
		await write(page, 'Taken back', 'Not yet.');
		await setWhen(page, 'at');
		await typeMoment(page, 'Leaves', 'mar 15 9am');
		await settled(page);
		const id = await sendSheet(page);
		await page.getByRole('button', { name: 'Call it back' }).click();
		await page.waitForURL(/\/write\?draft=/);
		await page.waitForSelector('button.door.big');
		expect(await page.getByRole('textbox', { name: 'Leaves' }).inputValue()).to.equal(
			'Mon Mar 15, 9:00 am'
		);
		expect(await rows(id)).to.deep.equal([]);
		await page.goto(`${s.url}/week/list`);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('searchbox').fill('taken homeroom 2-c');
		await page.waitForURL(/search=taken/);
		const line = page.locator('tbody tr');
		await until('one is found', async () => (await line.count()) === 1);
		expect(await line.innerText())
			.to.contain('Taken back')
			.and.contain('draft');
		await page.goto(`${s.url}/week?day=2027-03-15`);
		expect(await tag('Taken back').innerText()).to.contain('draft, not scheduled');
	});

	let concert: number;
	it('has three reminders that move with their event across the change of the clock', async () => {
		await page.goto(`${s.url}/week/events`);
		await page.waitForSelector('html[data-ready]');
		await page.getByRole('textbox', { name: 'Title' }).fill('Harbor concert');
		await typeMoment(page, 'Starts', 'mar 13 2027 6pm');
		await page.getByRole('textbox', { name: 'Place' }).fill('Pier 2');
		await page.getByRole('button', { name: 'Put it into the calendar' }).click();
		await page.getByText('Saved.').waitFor();
		expect(await page.locator('table').first().innerText()).to.contain('Sat Mar 13, 6:00 pm');

		await fresh();
		await pick(page, 'Homeroom 4-B');
		await setWay(page, 'Text', true);
		await write(page, 'Harbor concert: bring a chair', 'Doors open an hour before.');
		await setWhen(page, 'event');
		await page
			.getByLabel('Event', { exact: true })
			.selectOption({ label: 'Harbor concert, Sat Mar 13, 6:00 pm' });
		const add = async (amount: string, unit: string) => {
			await page.getByLabel('How long before or after').fill(amount);
			await page.getByLabel('Unit').selectOption(unit);
			await page.getByRole('button', { name: 'Add reminder' }).click();
		};
		await add('3', 'hours');
		await add('25', 'hours');
		const words = await settled(page);
		concert = (await tally(page)).copies;
		expect(words).to.equal(
			`Schedule 3 reminders, the first with ${concert} copies on Fri Mar 12, 5:00 pm`
		);
		await sendButton(page).click();
		await page.waitForURL(/\/week\/round\/\d+$/);
		const times = async () =>
			(await page.locator('tbody tr td:first-child .mono').allInnerTexts()).map((t) => t.trim());
		expect(await times()).to.deep.equal([
			'Fri Mar 12, 5:00 pm',
			'Fri Mar 12, 6:00 pm',
			'Sat Mar 13, 3:00 pm'
		]);

		expect(await faults(page)).to.deep.equal([]);
		await page.getByRole('link', { name: 'Reminders of an event' }).click();
		await page.waitForURL(/\/week\/events\/\d+$/);
		await page.waitForSelector('html[data-ready]');
		await typeMoment(page, 'Starts', 'mar 15 2027 6pm');
		await page.getByRole('button', { name: 'Change it, and move 3 reminders with it' }).click();
		await page.getByText('3 reminders have moved with it.').waitFor();
		// A day is a day on the clock; hours are hours (RFC 5545 section 3.3.6).
		expect(await times()).to.deep.equal([
			'Sun Mar 14, 5:00 pm',
			'Sun Mar 14, 6:00 pm',
			'Mon Mar 15, 3:00 pm'
		]);
	});

	it('repeats by a rule said in words, skips a closure, and shows its dates before it is saved', async () => {
		await page.goto(`${s.url}/week/events`);
		await page.waitForSelector('html[data-ready]');
		await page.getByLabel('Why there is no school').fill('Ferry strike');
		await page.getByLabel('First day').fill('03/17/2027');
		await page.getByLabel('Last day').fill('03/17/2027');
		await page.getByRole('button', { name: 'No school then' }).click();
		await page.getByText('No school then.').waitFor();

		await fresh();
		await pick(page, 'Homeroom 4-C');
		await setWay(page, 'Inbox', false);
		await write(page, 'Tide tables', 'High water this week.');
		await setWhen(page, 'round');
		await typeMoment(page, 'First', 'mar 15 7:15am');
		const rule = page.getByLabel('Repeats');
		await rule.fill('every monday and wednesday');
		await rule.press('Tab');
		await until('it says so', async () => (await check()).includes('The repetition has no end'));
		expect(await settled(page)).to.match(/to mend first/);
		await rule.fill('saturdays for 3 times');
		await rule.press('Tab');
		await until('it says so', async () =>
			(await check()).includes('None of its 3 dates falls on a school day')
		);
		await rule.fill('every monday and wednesday for 4 times');
		await rule.press('Tab');
		await until('the button says it', async () =>
			(await settled(page)).startsWith('Schedule 3 dates')
		);
		await page.getByRole('button', { name: /3 dates, show them/ }).click();
		const dates = page.locator('.bx--modal.is-visible li');
		await dates.first().waitFor();
		expect((await dates.allInnerTexts()).map((t) => t.replace(/\s+/g, ' ').trim())).to.deep.equal([
			'Mon Mar 15, 7:15 am',
			'Wed Mar 17, 7:15 am no school, left out',
			'Mon Mar 22, 7:15 am',
			'Wed Mar 24, 7:15 am'
		]);
		await page.keyboard.press('Escape');
		expect(await faults(page)).to.deep.equal([]);
	});

	it('refuses the past, an end before the start and a broken calendar file, with words, and loses nothing', async () => {
		await fresh();
		await pick(page, 'Homeroom 3-A');
		await write(page, 'Too late', 'x');
		await setWhen(page, 'at');
		await typeMoment(page, 'Leaves', 'mar 1 2027 8am');
		expect(await page.locator('footer').innerText()).to.contain(
			'That is past. Choose a later time.'
		);
		// Nothing leaves by the time that stood there before.
		expect(await sendButton(page).isDisabled()).to.equal(true);
		await typeMoment(page, 'Leaves', 'fri at 3');
		await page.getByRole('button', { name: 'Fri Mar 12, 3:00 pm' }).click();
		await until('what was chosen stands there', async () =>
			/for Fri Mar 12, 3:00 pm$/.test(await settled(page))
		);
		await typeMoment(page, 'Leaves', 'whenever');
		expect(await page.locator('footer').innerText()).to.contain(
			'"whenever" cannot be read as a time.'
		);
		await typeMoment(page, 'Leaves', 'mar 16 8am');
		await page.getByRole('button', { name: 'End and urgency' }).click();
		await page.getByLabel('Not sent any more').selectOption('at');
		await typeMoment(page, 'End', 'mar 15 8am');
		await settled(page);
		expect(await check()).to.contain('comes before it leaves');
		await typeMoment(page, 'Leaves', 'nov 7 1:30am');
		await typeMoment(page, 'End', 'nov 8 8am');
		await settled(page);
		expect(await check()).to.contain('1:30 am comes twice on Sun Nov 7');
		// A time still being typed does not undo the choice of another kind, and is there again with it.
		await page.getByRole('textbox', { name: 'Leaves' }).fill('mar 18 9am');
		await setWhen(page, 'round');
		await page.getByRole('textbox', { name: 'First' }).waitFor();
		await settled(page);
		expect(await page.getByRole('textbox', { name: 'First' }).isVisible()).to.equal(true);
		// A repetition that cannot be read is there again as well, and so is what it stands in the way of.
		const repeats = page.getByLabel('Repeats');
		await repeats.fill('every moonday');
		await repeats.press('Tab');
		await page.getByText('"every moonday" cannot be read as a repetition.').waitFor();
		await setWhen(page, 'at');
		await page.getByRole('textbox', { name: 'Leaves' }).waitFor();
		await until('it can leave by a time', async () => !(await sendButton(page).isDisabled()));
		await setWhen(page, 'round');
		await repeats.waitFor();
		expect(await repeats.inputValue()).to.equal('every moonday');
		await until('it is said on the button', async () =>
			(await settled(page)).includes('The repetition cannot be read')
		);
		expect(await sendButton(page).isDisabled()).to.equal(true);

		await page.goto(`${s.url}/week/events`);
		await page.waitForSelector('html[data-ready]');
		await page.locator('input[type=file]').setInputFiles({
			name: 'school.ics',
			mimeType: 'text/calendar',
			buffer: Buffer.from(
				'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nbroken\r\nBEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Book fair\r\nDTSTART:20270320T090000\r\nDURATION:PT2H\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:2\r\nSUMMARY:Elsewhere\r\nDTSTART;TZID=Nowhere:20270320T090000\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n'
			)
		});
		const preview = page.locator('.preview');
		await preview.waitFor();
		expect(await preview.innerText())
			.to.contain('1 new, 0 changed, 0 as they are, 2 not usable')
			.and.contain('line 3')
			.and.contain('zone "Nowhere" is not known');
		await preview.getByRole('button', { name: 'Take 1 in' }).click();
		await page.getByText('1 new, 0 changed.').waitFor();
		await page.locator('table').first().getByText('Book fair').waitFor();
	});

	it('arrives in the mailhouse and on the phones exactly as the Week said, at those times', async () => {
		const ids = (
			await s.db.all<{ id: number }>(
				`SELECT id FROM dispatch WHERE state = 'scheduled' AND (id = $walk OR subject LIKE 'Harbor concert%')`,
				{ walk }
			)
		).map((r) => r.id);
		expect(ids).to.have.length(4);
		const said = new Map<number, Awaited<ReturnType<typeof rows>>>();
		for (const id of ids) said.set(id, await rows(id));
		const subjects = new Map(
			(await s.db.all<{ id: number; subject: string }>('SELECT id, subject FROM dispatch')).map(
				(d) => [d.id, d.subject]
			)
		);
		const moments = [...new Set([...said.values()].flat().map((r) => r.due))].sort((a, b) => a - b);
		expect(moments.map(local)).to.deep.equal([
			'2027-03-14T17:00',
			'2027-03-14T18:00',
			'2027-03-15T14:15',
			'2027-03-15T15:00',
			'2027-03-15T17:00'
		]);
		const pending = async (until: number) =>
			(await s.db.one<{ n: number }>(
				`SELECT count(*) AS n FROM delivery WHERE dispatch_id IN (SELECT value FROM json_each($ids))
					AND state IN ('held', 'planned') AND due_at <= $until AND (attempts = 0 OR claimed_by IS NOT NULL)`,
				{ ids: JSON.stringify(ids), until }
			))!.n;
		const beats = async () => (await s.db.one<{ n: number }>('SELECT beats AS n FROM courier'))!.n;
		for (const moment of moments) {
			// Just before, nothing of it has left; then all of it does.
			await moveTo(s.db, moment - 30_000);
			const seen = await beats();
			await until('the courier has looked', async () => (await beats()) > seen);
			expect(await pending(moment)).to.be.above(0);
			await moveTo(s.db, moment);
			await until(`all of ${local(moment)} has left`, async () => (await pending(moment)) === 0);
		}
		const failing = new Set(
			(
				await s.db.all<{ value: string }>('SELECT value FROM address WHERE failing IS NOT NULL')
			).map((a) => a.value)
		);
		for (const id of ids) {
			const left = (await rows(id)).filter((r) => !failing.has(r.address ?? ''));
			// Worked out again shortly before; the roster was the same but for numbers that have failed
			// since (three texts in a row that did not arrive), so the copies are.
			const words = (list: readonly { way: string; address: string | null; due: number }[]) =>
				list.map((r) => `${r.way} ${r.address} ${local(r.due)}`).sort();
			expect(words(left)).to.deep.equal(
				words(said.get(id)!.filter((r) => !failing.has(r.address ?? '')))
			);
			const events = await s.db.all<{ way: string; due: number; at: number }>(
				`SELECT way, due_at AS due, event.at FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = $id AND attempts <= 1 AND (kind = 'accepted' OR (kind = 'delivered' AND way = 'inbox'))`,
				{ id }
			);
			// What a mailbox put off came later, and is another test's.
			for (const e of events)
				expect(e.at - e.due, `${e.way} of ${subjects.get(id)}`).to.be.within(0, soonMs);
			for (const r of left.filter(
				(r) => r.way === 'email' && r.state !== 'failed' && r.attempts === 1
			)) {
				const { letters } = await json<{ letters: { number: number; subject: string }[] }>(
					`${s.mailhouse}/letters?to=${encodeURIComponent(r.address!)}`
				);
				const dates: number[] = [];
				for (const l of letters.filter((l) => l.subject === subjects.get(id))) {
					const { raw } = await json<{ raw: string }>(`${s.mailhouse}/letter?number=${l.number}`);
					dates.push((await simpleParser(Buffer.from(raw, 'latin1'))).date!.getTime());
				}
				expect(
					// A Date header has whole seconds (RFC 5322 section 3.3).
					dates.filter((d) => d >= r.due - 1000 && d < r.due + soonMs),
					r.address!
				).to.have.length(1);
			}
			for (const r of left.filter((r) => r.way === 'text' && r.state !== 'failed')) {
				const { texts } = await json<{ texts: { text: string }[] }>(
					`${s.exchange}/texts?to=${encodeURIComponent(r.address!)}`
				);
				const mine = texts.filter((t) => t.text.startsWith(subjects.get(id)!));
				// Of each of the three reminders one.
				expect(mine, r.address!).to.have.length(id === walk ? 1 : 3);
			}
		}
	});
});

import type { Page } from 'playwright-core';
import { now } from '../../src/lib/server/clock';
import { countOf, until, type Stack } from './stack';

/** Write, driven as a person would. */
export async function openWrite(page: Page, url: string): Promise<void> {
	await page.goto(`${url}/write`);
	await page.waitForSelector('html[data-ready]');
	await page.waitForSelector('button.door.big');
}

/** Write with an empty sheet, whatever was left on it. */
export async function openFresh(page: Page, url: string): Promise<void> {
	await openWrite(page, url);
	const fresh = page.getByRole('button', { name: 'Start a new one' });
	if (await fresh.isVisible()) await fresh.click();
}

/** Picks a section through the search. */
export async function pick(page: Page, name: string): Promise<void> {
	await page.fill('.picker input[type=search], .picker input.bx--search-input', name);
	await page.locator('.picker label', { hasText: name }).click();
}

export const setWay = (page: Page, way: 'Email' | 'Text' | 'Inbox', on: boolean) =>
	page.locator('.ways label', { hasText: way }).locator('input').setChecked(on);

/** Sets the hold of what leaves now. */
export const setHold = (page: Page, minutes: number) =>
	page.locator('footer').getByLabel('Hold', { exact: true }).selectOption(String(minutes));

/** Chooses how the time is set. */
export const setWhen = (page: Page, kind: 'now' | 'at' | 'event' | 'round' | 'feed' | 'gain') =>
	page.locator('footer').getByRole('combobox', { name: 'When', exact: true }).selectOption(kind);

/** Types a moment as a person would, into the field of that name. */
export async function typeMoment(page: Page, field: string, text: string): Promise<void> {
	const input = page.getByRole('textbox', { name: field, exact: true });
	await input.fill(text);
	await input.press('Enter');
}

/** The field in which the wording is written. */
const wordingField = (page: Page) => page.getByRole('textbox', { name: 'Wording' });

export async function write(page: Page, subject: string, body: string): Promise<void> {
	await page.getByLabel('Subject').fill(subject);
	await wordingField(page).fill(body);
}

/** What stands in the wording, paragraph by paragraph. */
export const typedBody = async (page: Page): Promise<string> =>
	(await wordingField(page).locator('> *').allInnerTexts())
		.map((t) => t.trim())
		.filter(Boolean)
		.join('\n\n');

export const sendButton = (page: Page) => page.locator('.write footer button.bx--btn').last();

/** Sends, and follows to Reach; fails with what the screen says where it is not sent. Returns the dispatch's id. */
export async function sendSheet(page: Page): Promise<number> {
	await sendButton(page).click();
	const refused = page.locator('.write footer .trouble:not(:empty)');
	await Promise.race([page.waitForURL(/\/reach\/\d+$/), refused.waitFor()]);
	if (!/\/reach\/\d+$/.test(page.url())) {
		throw new Error(`Not sent: ${await refused.innerText()}`);
	}
	return Number(page.url().split('/').at(-1));
}

/** The tally as the screen says it. */
export async function tally(
	page: Page
): Promise<{ people: number; students: number; copies: number; text: string }> {
	const plain = (words: string | null) => (words ?? '').replace(/(\d),(?=\d{3})/g, '$1');
	const text = plain(await page.locator('.lands').innerText());
	const number = (pattern: RegExp) => Number(pattern.exec(text)?.[1] ?? NaN);
	return {
		people: Number(
			plain(await page.locator('.lands button.big').evaluate((b) => b.firstChild!.textContent))
		),
		students: number(/(\d+) students?/),
		copies: number(/copies in all\s+(\d+)/),
		text
	};
}

/** Waits for the numbers on the button to settle and returns its words. */
export async function settled(page: Page): Promise<string> {
	// A question to the page is answered after what was done last has run to its end: the numbers are then said to be on their way.
	await page.evaluate(() => true);
	await page.waitForSelector('.lands[aria-busy=false]');
	return (await sendButton(page).innerText()).trim();
}

/** Moves the bench clock to the next thing due, again and again, until a copy of a dispatch is due. */
export async function moveToDue(page: Page, s: Stack, dispatchId: number): Promise<void> {
	const due = async () => {
		const row = await s.db.one<{ at: number }>(
			`SELECT min(due_at) AS at FROM delivery WHERE dispatch_id = $id AND state IN ('held', 'planned')`,
			{ id: dispatchId }
		);
		return row!.at !== null && row!.at > (await now(s.db));
	};
	while (await due()) {
		const before = await now(s.db);
		await moveClock(page, 'To the next thing due');
		await until('the clock has moved', async () => (await now(s.db)) > before + 500);
	}
}

/** Moves the bench clock on until every copy of a dispatch has left, however far quiet hours put it. */
export async function letLeave(page: Page, s: Stack, dispatchId: number): Promise<void> {
	const waiting = (when: string) =>
		countOf(
			s.db,
			`delivery WHERE dispatch_id = ${dispatchId} AND state IN ('held', 'planned') AND ${when}`
		);
	while ((await waiting('TRUE')) > 0) {
		await moveToDue(page, s, dispatchId);
		await until('what is due has left', async () => {
			const time = Math.floor(await now(s.db));
			return (await waiting(`due_at <= ${time}`)) === 0;
		});
	}
}

/** Moves the bench clock by its panel in the frame. */
export async function moveClock(
	page: Page,
	step: '1 minute on' | '1 hour on' | 'To the next thing due'
): Promise<void> {
	const panel = page.locator('#bench');
	if (!(await panel.isVisible())) await page.locator('.clock > button').click();
	await panel.getByRole('button', { name: step }).click();
}

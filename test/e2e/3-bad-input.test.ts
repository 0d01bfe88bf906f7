import { expect } from 'chai';
import { ownTokenOf } from '../named';
import { wordingOf } from '../../src/lib/core/copy/words';
import type { Page } from 'playwright-core';
import { stack, until, type Stack } from './stack';
import { openWrite, pick, sendButton, setWay, settled, write, typedBody } from './write-page';

describe('bad input', () => {
	let s: Stack;
	let page: Page;
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
	});
	after(() => page.context().close());
	const cookie = async (p: Page) =>
		`session=${(await p.context().cookies()).find((c) => c.name === 'session')!.value}`;
	const post = async (path: string, body: unknown, headers: Record<string, string> = {}) =>
		fetch(s.url + path, {
			method: 'POST',
			body: typeof body === 'string' ? body : JSON.stringify(body),
			headers: {
				'content-type': 'application/json',
				accept: 'application/json',
				origin: s.url,
				cookie: await cookie(page),
				...headers
			}
		});
	const sheet = (over = {}) => ({
		sheetKey: crypto.randomUUID(),
		audience: { version: 1, lines: [{ to: ['guardians'], sectionIds: [1] }] },
		ways: ['email'],
		wording: wordingOf('x', 'y'),
		holdMinutes: 5,
		...over
	});

	it('an empty sheet says each thing that is missing where it stands, and the button counts them', async () => {
		await openWrite(page, s.url);
		expect(await settled(page)).to.equal('3 things to mend first');
		await setWay(page, 'Email', false);
		await setWay(page, 'Inbox', false);
		expect(await settled(page)).to.equal('4 things to mend first');
		const list = await page.locator('.checks').textContent();
		for (const text of [
			'Nobody is picked.',
			'No way is chosen.',
			'The subject is empty.',
			'There is no wording yet.'
		])
			expect(list).to.contain(text);
		await sendButton(page).click();
		await page.locator('#check:focus').waitFor();
		expect(page.url()).to.match(/\/write$/);
	});

	it('what was typed stays through a lost connection and an ended session', async () => {
		await setWay(page, 'Email', true);
		await pick(page, 'Homeroom 3-A');
		await write(page, 'Kept words', 'These words are kept.');
		await settled(page);
		await page.context().setOffline(true);
		await sendButton(page).click();
		await page
			.locator('footer .trouble', { hasText: 'No connection, so it was not sent.' })
			.waitFor();
		await page.context().setOffline(false);
		await page.context().clearCookies();
		await sendButton(page).click();
		await page.locator('footer .trouble', { hasText: 'Your session has ended.' }).waitFor();
		expect(await typedBody(page)).to.equal('These words are kept.');
		await page.goto(`${s.url}/write`);
		await page.fill('input[name=name]', 'maren');
		await page.fill('input[name=password]', 'slow-ferry');
		await page.click('form button[type=submit]');
		await page.waitForURL('**/write');
		await until(
			'the words are back',
			async () => (await typedBody(page)) === 'These words are kept.'
		);
		expect(await page.locator('.slips').innerText()).to.contain('Homeroom 3-A');
		expect(await page.locator('.what').innerText()).to.contain('This is the sheet you left here.');
	});

	it('a wrong password says so and keeps the name', async () => {
		const other = await (await s.context()).newPage();
		await other.goto(`${s.url}/sign-in?to=//elsewhere.example/`);
		await other.fill('input[name=name]', 'maren');
		await other.fill('input[name=password]', 'fast-ferry');
		await other.click('form button[type=submit]');
		await other.getByText('This user name and password do not fit together.').waitFor();
		expect(await other.locator('input[name=name]').inputValue()).to.equal('maren');
		// A link may not send the one who signs in elsewhere.
		await other.fill('input[name=password]', 'slow-ferry');
		await other.click('form button[type=submit]');
		await other.waitForURL(`${s.url}/week`);
		await other.context().close();
	});

	it('a teacher sees own sections only, may not send to others, and may not see what others sent', async () => {
		const teacher = await s.signedIn('chidi');
		await openWrite(teacher, s.url);
		const list = await teacher.locator('.picker ul').innerText();
		expect(list.match(/Boatbuilding \d-[AB]/g)).to.have.length(3);
		expect(list).not.to.contain('Homeroom');
		const headers = { cookie: await cookie(teacher) };
		const refused = await post('/write/send', { sheet: sheet(), copiesSeen: 30 }, headers);
		expect(refused.status).to.equal(409);
		const answer = (await refused.json()) as { checks: { text: string }[]; tally: object };
		expect(answer.checks[0]!.text).to.match(/^You may not write to Homeroom/);
		const hers = await s.db.one<{ id: number }>(
			`SELECT dispatch.id FROM dispatch JOIN sign_in ON person_id = sender_id WHERE user_name = 'maren' AND state = 'sent' LIMIT 1`
		);
		for (const path of [`/reach/${hers!.id}`, `/reach/${hers!.id}/live`]) {
			const response = await fetch(s.url + path, { headers });
			expect(response.status, path).to.equal(404);
			await response.body?.cancel();
		}
		await teacher.context().close();
	});

	it('a private link that is wrong or has ended says which, and what to do', async () => {
		const phone = await (await s.context({ width: 390, height: 760 })).newPage();
		for (const path of [
			'/f/AAAAAAAAAAAAAAAAAAAAAA',
			'/f/x',
			'/f/%00%ff',
			"/f/'%20OR%201=1--",
			`/f/${'A'.repeat(3000)}`
		]) {
			expect((await fetch(s.url + path)).status, path).to.be.oneOf([400, 404]);
		}
		await phone.goto(`${s.url}/f/AAAAAAAAAAAAAAAAAAAAAA`);
		expect(await phone.innerText('body'))
			.to.contain('This link opens nothing.')
			.and.contain('ask the school office for a new link');
		const link = (await s.db.one<{ id: number }>('SELECT id FROM family_link LIMIT 1'))!;
		const path = `/f/${await ownTokenOf(s.db, await s.key(), link.id)}`;
		expect((await phone.goto(s.url + path))!.status()).to.equal(200);
		await s.db.run('UPDATE family_link SET ends_at = 1 WHERE id = $id', link as never);
		expect((await phone.goto(s.url + path))!.status()).to.equal(410);
		expect(await phone.innerText('body')).to.contain('This link has ended.');
		await phone.context().close();
	});

	it('requests from another site are refused and change nothing', async () => {
		const before = await s.db.one('SELECT count(*) AS n FROM dispatch');
		for (const headers of [
			{ origin: 'http://elsewhere.example' },
			{ origin: 'null' },
			{ origin: '', 'sec-fetch-site': 'cross-site' }
		] as Record<string, string>[]) {
			expect(
				(await post('/write/send', { sheet: sheet(), copiesSeen: 30 }, headers)).status
			).to.equal(403);
			expect(
				(
					await post('/sign-out', '', {
						...headers,
						'content-type': 'application/x-www-form-urlencoded'
					})
				).status
			).to.equal(403);
		}
		expect(await s.db.one('SELECT count(*) AS n FROM dispatch')).to.deep.equal(before);
	});

	for (const [what, path, body, says] of [
		['no JSON', '/write/tally', '{', /not valid JSON/],
		['an unknown way', '/write/tally', sheet({ ways: ['pigeon'] }), /ways\.0/],
		[
			'an audience of another version',
			'/write/send',
			{ sheet: sheet({ audience: { version: 9, lines: [] } }), copiesSeen: 1 },
			/sheet\.audience\.version/
		],
		[
			'5,001 paragraphs',
			'/write/tally',
			sheet({ wording: wordingOf('x', 'y\n\n'.repeat(5001)) }),
			/over 5,000 paragraphs/
		],
		[
			'5,001 picks',
			'/write/tally',
			sheet({
				audience: {
					version: 1,
					lines: [{ to: ['guardians'], sectionIds: Array.from({ length: 5001 }, (_, i) => i + 1) }]
				}
			}),
			/5,000 picks at most/
		],
		['no such door', '/write/names', { ...sheet(), door: 'cellar' }, /door/],
		['a clock moved by a year', '/bench/move', { by: 'year' }, /by:/]
	] as const) {
		it(`${what} is answered with 400 and where it is wrong`, async () => {
			const response = await post(path, body);
			expect(response.status).to.equal(400);
			expect(((await response.json()) as { message: string }).message).to.match(says);
		});
	}

	it('addresses that lead nowhere say so', async () => {
		for (const path of [
			'/reach/999999',
			'/reach/abc',
			'/reach/-1',
			'/write?draft=999999',
			'/write?draft=x',
			'/nowhere'
		]) {
			expect((await page.goto(s.url + path))!.status(), path).to.equal(404);
			expect(await page.innerText('h1'), path).to.match(/There is no/);
		}
		expect((await page.goto(`${s.url}/week?day=2027-02-31`))!.status()).to.equal(200);
		expect((await page.goto(`${s.url}/reach/1?state=lost&page=-4&way=pigeon`))!.status()).to.equal(
			200
		);
	});
});

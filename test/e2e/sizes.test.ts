import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { tokenOf } from '../named';
import { faults, still } from './axe';
import { stack, type Stack } from './stack';

/** Axe-core looks at all of them where it is asked to, in both looks, which takes three times as long. */
const all = process.env.AXE_EVERYWHERE === '1';

/** A window, a smaller one, the same at 150 % and at 200 %, and two phones (WCAG 2.2, 1.4.4 and 1.4.10). */
const sizes = [
	{ width: 1280, height: 800, axe: true },
	{ width: 1280, height: 720, axe: all },
	{ width: 853, height: 533, axe: all },
	{ width: 640, height: 400, axe: all },
	{ width: 390, height: 844, axe: all },
	{ width: 320, height: 640, axe: all }
];

describe('every page at every size, on paper and in the dark', () => {
	let s: Stack;
	let page: Page;
	/** Ids of what pages are about. */
	const of: Record<string, number> = {};
	let family = '';
	before(async () => {
		s = await stack();
		page = await s.signedIn('maren');
		await page.emulateMedia({ reducedMotion: 'reduce' });
		const one = async (name: string, sql: string) =>
			void (of[name] = (await s.db.one<{ id: number }>(sql))!.id);
		await one('dispatch', `SELECT min(id) AS id FROM dispatch WHERE state = 'sent'`);
		await one('student', `SELECT min(id) AS id FROM person WHERE kind = 'student'`);
		await one('section', 'SELECT min(id) AS id FROM section');
		await one(
			'group',
			`SELECT group_id AS id FROM group_member GROUP BY group_id ORDER BY count(*), group_id LIMIT 1`
		);
		await one('marker', 'SELECT min(id) AS id FROM marker');
		await one('event', 'SELECT min(id) AS id FROM school_event');
		await one('colleague', `SELECT person_id AS id FROM sign_in WHERE user_name = 'chidi'`);
		await one(
			'copy',
			`SELECT min(id) AS id FROM delivery WHERE way = 'email' AND state IN ('delivered', 'read')`
		);
		family = `/f/${await tokenOf(s.db, await s.key(), of.copy!)}`;
	});
	after(() => page.context().close());
	/** What was looked at last: said where a look never came to its end. */
	let at = '';
	afterEach(function () {
		if (this.currentTest?.state === 'failed') process.stdout.write(`      looked at last: ${at}\n`);
	});

	const pages: readonly (readonly [string, () => string])[] = [
		['Week', () => '/week'],
		['Month', () => '/week/month'],
		['List', () => '/week/list'],
		['Events and closures', () => '/week/events'],
		['an event', () => `/week/events/${of.event}`],
		['Write', () => '/write'],
		['the manifest', () => '/write/manifest'],
		['Kept audiences', () => '/write/kept?change=1'],
		['the proof', () => '/write/proof'],
		['What to expect', () => '/write/expect'],
		['Reach', () => '/reach'],
		['one dispatch', () => `/reach/${of.dispatch}`],
		['the report of a term', () => '/reach/term'],
		['how good forecasts were', () => '/reach/forecasts'],
		['its account', () => `/reach/${of.dispatch}/account`],
		['People', () => '/people'],
		['a student', () => `/people/${of.student}`],
		['Sections', () => '/people/sections'],
		['a section', () => `/people/sections/${of.section}`],
		['Groups', () => '/people/groups'],
		['a group', () => `/people/groups/${of.group}`],
		['Boards', () => '/people/boards'],
		['a board', () => '/people/boards/district'],
		['Markers', () => '/people/markers'],
		['a marker', () => `/people/markers/${of.marker}`],
		['Addresses to mend', () => '/people/mend'],
		['families that nothing reaches', () => '/people/silent?days=90'],
		['Rosters', () => '/people/rosters'],
		['somebody new', () => '/people/new'],
		['Replies', () => '/replies'],
		['First steps', () => '/settings/start'],
		['Mail server', () => '/settings/mail'],
		['Text provider', () => '/settings/texts'],
		['Identity provider', () => '/settings/identity'],
		['a chapter', () => '/settings/chapter/quiet'],
		['Schools', () => '/settings/schools'],
		['a school’s own time', () => '/settings/chapter/school-1'],
		['Languages', () => '/settings/chapter/languages'],
		['our words in Arabic', () => '/settings/languages/ar'],
		['Letterhead', () => '/settings/chapter/letterhead'],
		['Watched folder', () => '/settings/folder'],
		['People who work here', () => '/settings/work'],
		['a colleague', () => `/settings/work/${of.colleague}`],
		['What each role can do', () => '/settings/roles'],
		['Taking everything along', () => '/settings/leaving'],
		['What was done', () => '/settings/log'],
		['Your sign-in', () => '/settings/me'],
		['Courier', () => '/courier'],
		['the family’s page', () => family],
		['stopping a kind of mail', () => `${family}/stop`],
		['what a family gets, and how', () => `${family}/choices`],
		['the boards of a family', () => `${family}/boards`],
		['the way to an inbox', () => '/in'],
		['Stand-ins', () => '/stand-ins'],
		['an error', () => '/nowhere']
	];
	/** Bytes of script that a page asks for before it can be used, as they come over the line. */
	async function scriptOf(path: string): Promise<number> {
		const response = await page.request.get(s.url + path);
		const said = `${response.headers().link ?? ''} ${await response.text()}`;
		const scripts = new Set(
			[...said.matchAll(/["'<]([^"'<>]*\/_app\/immutable\/[^"'<>]*\.js)/g)].map(
				([, src]) => new URL(src!, s.url + path).href
			)
		);
		expect(scripts.size, path).to.be.greaterThan(20);
		const headers = { 'accept-encoding': 'br' };
		const sizes = [...scripts].map(async (href) => {
			const response = await page.request.head(href, { headers });
			expect(response.headers()['content-encoding'] ?? 'none', href).to.be.oneOf(['br', 'none']);
			return Number(response.headers()['content-length']);
		});
		return (await Promise.all(sizes)).reduce((all, n) => all + n, 0);
	}

	it('Week, Reach and People ask for less than 150 kB of script before they can be used, and none of the editor', async () => {
		for (const path of [
			'/week',
			'/reach',
			`/reach/${of.dispatch}`,
			'/people',
			`/people/${of.student}`
		])
			expect(await scriptOf(path), path).to.be.within(50_000, 150_000);
		expect(await scriptOf('/write')).to.be.greaterThan(200_000);
	});

	/** What is wider than the window, so that the page goes sideways; what scrolls by itself may. */
	const wider = () =>
		page.evaluate(() => {
			const width = document.documentElement.clientWidth;
			if (document.documentElement.scrollWidth <= width) return [];
			return [...document.querySelectorAll('body *')]
				.filter((e) => e.getBoundingClientRect().right > width + 1)
				.slice(0, 4)
				.map((e) => `${e.tagName}.${e.className} ${Math.round(e.getBoundingClientRect().right)}`);
		});

	for (const [name, path] of pages)
		it(`${name}: nothing is cut off, and axe-core finds nothing`, async () => {
			await page.emulateMedia({ colorScheme: 'light' });
			await page.setViewportSize({ width: 1280, height: 800 });
			at = 'its coming';
			await page.goto(s.url + path());
			await page.waitForSelector('html[data-ready]');
			const found: string[] = [];
			for (const { axe, ...size } of sizes) {
				at = `${size.width}x${size.height}`;
				await page.setViewportSize(size);
				await still(page);
				at += ' at rest';
				for (const fault of [...(await wider()), ...(axe ? await faults(page) : [])])
					found.push(`${size.width}x${size.height}: ${fault}`);
			}
			// The narrowest in the dark: both at one look.
			at = 'dark';
			await page.emulateMedia({ colorScheme: 'dark' });
			for (const fault of await faults(page)) found.push(`dark: ${fault}`);
			if (all) {
				await page.setViewportSize({ width: 1280, height: 800 });
				for (const fault of await faults(page)) found.push(`dark, wide: ${fault}`);
			}
			expect(found).to.deep.equal([]);
		});
});

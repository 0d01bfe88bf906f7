import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { serve, port } from '../http';
import { arrivalAt, draw, readingOf, type Channel } from './habit';

/**
 * The readers: made-up people who look into their mailboxes and at their phones and open, follow,
 * tap or ignore what they find, by seeded habit, through the same public pages as anyone. They know
 * the time only from the letters and from the public clock of the demo.
 */
const seed = process.env.READERS_SEED ?? 'brackwater';
const site = process.env.READERS_SITE ?? 'http://localhost:4173';
const mailhouse = process.env.READERS_MAILHOUSE ?? 'http://localhost:2580';
const exchange = process.env.READERS_EXCHANGE ?? 'http://localhost:2780';
const folder = process.env.STANDIN_DATA ?? 'data/standin';
const httpPort = port('READERS_HTTP_PORT', 2680);

interface Visit {
	readonly at: number;
	readonly link: string;
	readonly taps: boolean;
	/** Whose browser it is; each has a network address of its own. */
	readonly person: string;
	/** Whether the letter's picture is loaded first. */
	readonly picture: boolean;
}

let resting = false;
let visits: Visit[] = [];
let mailRead = 0;
let textRead = 0;
let done = 0;
/** Everything that was due by then (instant of the bench clock, ms) has been done. */
let doneUntil = 0;

const get = async <T>(url: string): Promise<T> => {
	const response = await fetch(url);
	if (!response.ok) throw new Error(`${url}: ${response.status}`);
	return (await response.json()) as T;
};

const linkIn = (text: string): string | null =>
	new RegExp(`${site.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')}/f/[A-Za-z0-9_-]+`).exec(text)?.[0] ??
	null;

function plan(
	channel: Channel,
	person: string,
	copy: string,
	link: string | null,
	arrivedAt: number
) {
	if (!link) return;
	const reading = readingOf(seed, person, copy, channel);
	if (reading.opens) {
		visits.push({
			at: arrivedAt + reading.afterMinutes * 60_000,
			link,
			taps: reading.taps,
			person,
			picture: channel === 'email'
		});
	}
}

/** What a request of somebody carries: a browser's name, and an address out of those kept for examples (RFC 5737). */
const asVisitor = (person: string) => ({
	'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0',
	'x-forwarded-for': `198.51.100.${1 + Math.floor(draw('address', person) * 250)}`
});

/** What mail systems do by themselves as letters come in. */
async function arrived(address: string, link: string | null): Promise<void> {
	if (!link) return;
	const { loadsPictures, followsLinks } = arrivalAt(address);
	const headers = asVisitor(address.slice(address.lastIndexOf('@')));
	if (loadsPictures) await fetch(`${link}/dot.gif`, { headers });
	if (followsLinks) await fetch(link, { headers, redirect: 'manual' });
}

/** Opens a link as a browser does: asks for the page, shows that it stands open, and taps when this reader is one who taps. */
async function visit({ link, taps, person, picture }: Visit): Promise<void> {
	const visitor = asVisitor(person);
	if (picture) await fetch(`${link}/dot.gif`, { headers: visitor });
	const page = await fetch(link, { redirect: 'manual', headers: visitor });
	if (!page.ok) return;
	const letter = /data-open-letter="(\d+)"/.exec(await page.text())?.[1];
	if (!letter) return;
	const post = (path: string, body: string, type: string) =>
		fetch(link + path, {
			method: 'POST',
			headers: { ...visitor, 'content-type': type, origin: site },
			body,
			redirect: 'manual'
		});
	await post('/opened', JSON.stringify({ letter: Number(letter) }), 'application/json');
	if (taps) await post('?/seen', `letter=${letter}`, 'application/x-www-form-urlencoded');
	done += 1;
}

/** People without mail or phone have their own link on a sheet of paper; here it is a file. */
interface OwnLink {
	readonly person: string;
	readonly link: string;
}
const sheet = join(folder, 'own-links.json');
let sheetRead = 0;
let ownLinks: OwnLink[] = [];
let lastLook = 0;
const lookEveryMinutes = 180;

async function lookIntoInboxes(time: number): Promise<void> {
	if (existsSync(sheet) && statSync(sheet).mtimeMs !== sheetRead) {
		sheetRead = statSync(sheet).mtimeMs;
		ownLinks = JSON.parse(readFileSync(sheet, 'utf8')) as OwnLink[];
	}
	if (time - lastLook < lookEveryMinutes * 60_000) return;
	const slot = String(Math.floor(time / 60_000 / lookEveryMinutes));
	lastLook = time;
	for (const { person, link } of ownLinks) {
		const reading = readingOf(seed, person, slot, 'inbox');
		if (reading.opens) visits.push({ at: time, link, taps: reading.taps, person, picture: false });
	}
}

async function turn(): Promise<void> {
	const { now } = await get<{ now: number }>(`${site}/bench/time`);
	const mail = await get<{
		letters: {
			number: number;
			to: string;
			messageId: string;
			date: string;
			repeat: boolean;
			text: string;
		}[];
	}>(`${mailhouse}/letters?after=${mailRead}`);
	for (const letter of mail.letters) {
		mailRead = letter.number;
		if (letter.repeat) continue;
		await arrived(letter.to, linkIn(letter.text));
		plan('email', letter.to, letter.messageId, linkIn(letter.text), Date.parse(letter.date));
	}
	const phone = await get<{
		texts: { number: number; to: string; id: string; text: string; arrived: boolean }[];
	}>(`${exchange}/texts?after=${textRead}`);
	for (const text of phone.texts) {
		textRead = text.number;
		if (text.arrived) plan('text', text.to, text.id, linkIn(text.text), now);
	}
	await lookIntoInboxes(now);
	const due = visits.filter((v) => v.at <= now).sort((a, b) => a.at - b.at);
	visits = visits.filter((v) => v.at > now);
	for (const v of due) await visit(v);
	doneUntil = now;
}

await serve(httpPort, {
	'GET /health': () => ({ resting, planned: visits.length, done, doneUntil }),
	'POST /rest': (_url, body) => {
		resting = (body as { resting?: unknown })?.resting === true;
		return { resting };
	}
});
process.stdout.write(`readers: habits at http://localhost:${httpPort}\n`);

// Letters that were there before have had their readers.
for (;;) {
	try {
		mailRead = (await get<{ count: number }>(`${mailhouse}/letters?limit=1`)).count;
		textRead = (await get<{ count: number }>(`${exchange}/texts?limit=1`)).count;
		break;
	} catch {
		await new Promise((r) => setTimeout(r, 300));
	}
}
for (;;) {
	try {
		if (!resting) await turn();
	} catch {
		// The site or a stand-in is not up (yet); the letters wait.
	}
	await new Promise((r) => setTimeout(r, 400));
}

import { expect } from 'chai';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { now, setClock } from '../../../../../src/lib/server/clock';
import { addClosure } from '../../../../../src/lib/server/desk/calendar/closures';
import { takeFeed } from '../../../../../src/lib/server/desk/feeds/take-feed';
import { tryFeed } from '../../../../../src/lib/server/desk/feeds/try-feed';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { goOnPutBack } from '../../../../../src/lib/server/desk/send/put-back';
import { nextFeed } from '../../../../../src/lib/server/desk/send/feed-dates';
import { releaseFeed } from '../../../../../src/lib/server/desk/send/release-feed';
import { replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import {
	endStanding,
	putStanding,
	tryAgain
} from '../../../../../src/lib/server/desk/send/standing';
import { standingLines, standingView } from '../../../../../src/lib/server/desk/week/standing';
import { weekView } from '../../../../../src/lib/server/desk/week/week';
import { endReading } from '../../../../../src/lib/server/reading/reading';
import {
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	testStart,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const minute = 60_000;
const day = 86_400_000;

interface Item {
	readonly id: string;
	readonly title: string;
	readonly date?: string;
	readonly picture?: string;
}

describe('a repetition that takes its words from a feed', () => {
	let school: TestSchool;
	let server: Server;
	let origin: string;
	let folder: string;
	let items: Item[];
	let answer: (request: IncomingMessage, response: ServerResponse) => void;
	let asked: IncomingMessage['headers'][] = [];

	const rss = () =>
		`<?xml version="1.0"?><rss version="2.0"><channel><title>Harbor News</title>${items
			.map(
				(i) =>
					`<item><guid isPermaLink="false">${i.id}</guid><title>${i.title}</title><description>About ${i.title}</description>
				<link>https://news.example/${i.id}</link>${i.date ? `<pubDate>${i.date}</pubDate>` : ''}${i.picture ? `<enclosure url="${i.picture}" length="1" type="image/png"/>` : ''}</item>`
			)
			.join('')}</channel></rss>`;
	before(async () => {
		server = createServer((request, response) => {
			asked.push(request.headers);
			answer(request, response);
		});
		await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
		origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	});
	after(async () => {
		server.closeAllConnections();
		await new Promise((done) => server.close(done));
		await endReading();
	});
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		folder = mkdtempSync(join(tmpdir(), 'feeds-'));
		items = [
			{ id: 'a', title: 'Old one' },
			{ id: 'b', title: 'Old two' }
		];
		asked = [];
		answer = (_, response) => response.writeHead(200, { etag: `"${items.length}"` }).end(rss());
	});
	afterEach(async () => {
		await school.close();
		rmSync(folder, { recursive: true, force: true });
	});

	const address = () => `${origin}/feed.xml`;
	// testStart is a Tuesday; every school day at four in the afternoon.
	const sheet = (feed = {}, over: Parameters<typeof sheetOf>[0] = {}) =>
		sheetOf({
			ways: ['email'],
			wording: wordingOf('News: {{feed_title}}', 'Today:\n\n{{feed_title}}\n\n{{feed_link}}'),
			timing: {
				...usualTiming,
				when: {
					...{ kind: 'round', first: '2027-03-09T16:00', rule: 'FREQ=DAILY;COUNT=6' },
					...{ offDays: 'skip', feed: { address: address(), most: 5, old: false, ...feed } }
				}
			},
			...over
		});
	const tried = () => tryFeed(school.db, address(), [origin]);
	const put = async (one = sheet(), user = office) => {
		await tried();
		const { tally } = await landing(school.db, user, one);
		const done = await putStanding(school.db, user, one, tally.copies);
		if (!done.ok) throw new Error(done.checks.map((c) => c.text).join(' '));
		return done.standingId;
	};
	const house = () => ({
		...{ db: school.db, dataFolder: folder, inside: [origin] },
		publicUrl: 'https://school.example',
		release: (id: number, taken: Parameters<typeof releaseFeed>[3]) =>
			releaseFeed(school.db, key, id, taken)
	});
	/** Moves the clock to the next time at which the feed is to be asked, and asks it. */
	const atNext = async (late = 0) => {
		await setClock(school.db, (await nextFeed(school.db))! + late);
		for (let n = 0; n < 5 && (await takeFeed(house())); n += 1);
	};
	const looks = async (id: number) =>
		(await standingView(school.db, office, id))!.looks.map((l) => [l.outcome, l.entries]);
	const subjects = () =>
		school.db.all<{ subject: string; copies: number }>(
			`SELECT subject, (SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS copies
			FROM dispatch ORDER BY id`
		);

	it('sends what is new on its day, once, the newest in front, and on the others nothing', async () => {
		const id = await put();
		const expected = (await standingLines(school.db, office))[0]!.expected.copies;
		await atNext();
		expect(await looks(id)).to.deep.equal([['nothing', 0]]);
		items = [
			{ id: 'c', title: 'New', date: 'Tue, 09 Mar 2027 10:00:00 GMT' },
			{ id: 'd', title: 'Newer', date: 'Tue, 09 Mar 2027 12:00:00 GMT' },
			...items
		];
		await atNext();
		expect(await subjects()).to.deep.equal([{ subject: 'News: Newer', copies: expected }]);
		const { body } = (await school.db.one<{ body: string }>('SELECT body FROM dispatch'))!;
		expect(body.indexOf('Newer')).to.be.below(body.indexOf('New\n'));
		// Changed and dated anew it is what was sent.
		items[0] = { id: 'c', title: 'New, corrected', date: 'Wed, 10 Mar 2027 23:00:00 GMT' };
		await atNext();
		expect(await looks(id)).to.deep.equal([
			['nothing', 0],
			['sent', 2],
			['nothing', 0]
		]);
		expect(await subjects()).to.have.length(1);
		// A feed that gives everything another id at each asking has nothing new for it.
		items = items.slice(1);
		answer = (_, response) =>
			response.end(rss().replace(/<guid[^>]*>/g, (guid) => `${guid}again-`));
		await atNext();
		expect((await looks(id))[0]).to.deep.equal(['nothing', 0]);
	});

	it('keeps for the next date what is beyond the most of one letter, though the feed says that it is as it was', async () => {
		answer = (request, response) =>
			request.headers['if-none-match'] === `"${items.length}"`
				? response.writeHead(304).end()
				: response.writeHead(200, { etag: `"${items.length}"` }).end(rss());
		const id = await put(sheet({ most: 1 }));
		items = [{ id: 'c', title: 'C' }, { id: 'd', title: 'D' }, ...items];
		await atNext();
		await atNext();
		await atNext();
		expect((await subjects()).map((s) => s.subject)).to.deep.equal(['News: C', 'News: D']);
		expect(await looks(id)).to.deep.equal([
			['nothing', 0],
			['sent', 1],
			['sent', 1]
		]);
		expect(asked.at(-1)!['if-none-match']).to.equal('"4"');
	});

	it('takes what is there already with the first date where that is wished, with its picture kept here', async () => {
		const png = Buffer.from(
			'iVBORw0KGgoAAAANSUhEUgAAABgAAAAMCAIAAAD3UuoiAAAAF0lEQVR42mPgj0mmCmIYNWjUoFGD8CEAPqDnwdABN9YAAAAASUVORK5CYII=',
			'base64'
		);
		items = [{ id: 'a', title: 'Old one', picture: `${origin}/p.png` }];
		answer = (request, response) =>
			request.url === '/p.png' ? response.end(png) : response.end(rss());
		await put(
			sheet(
				{ old: true },
				{ wording: wordingOf('{{feed_title}}', '{{feed_picture}}\n\n{{feed_title}}') }
			)
		);
		await atNext();
		const row = (await school.db.one<{ wording: string; owner: number }>(
			'SELECT wording, (SELECT owner_id FROM file) AS owner FROM dispatch'
		))!;
		expect(row.wording).to.contain('"type":"picture"').and.not.contain(origin);
		expect(row.owner).to.equal(office.personId);
	});

	it('asks again for an hour where the feed cannot be read, then waits for the next date and says since when', async () => {
		const id = await put();
		answer = (_, response) => response.writeHead(503).end();
		const first = (await nextFeed(school.db))!;
		for (let n = 0; n < 7; n += 1) await atNext();
		expect(((await now(school.db)) - first) / minute).to.be.closeTo(68, 1);
		expect(await looks(id)).to.deep.equal([['failed', 0]]);
		expect((await nextFeed(school.db))! - first).to.equal(day);
		const line = (await standingLines(school.db, office))[0]!;
		expect(line.waitsFor).to.include({ kind: 'feed', failingSince: first });
		const { days } = await weekView(school.db, office);
		const notes = days.flatMap((d) => d.notes.map((n) => n.text));
		expect(notes).to.include('not readable: Harbor News');
		expect(notes).to.include('if new: Harbor News');
		// Of somebody else's feed nobody is told.
		const others = (await weekView(school.db, teacher)).days.flatMap((d) => d.notes);
		expect(others.map((n) => n.kind)).not.to.include('feed');
		answer = (_, response) => response.end(rss());
		await atNext();
		expect((await standingLines(school.db, office))[0]!.waitsFor).to.include({
			failingSince: null
		});
	});

	it('writes to whoever set it up when a feed could not be read on three dates in a row, once', async () => {
		const id = await put();
		answer = (_, response) => response.writeHead(503).end();
		const letters = () =>
			school.db.all<{ person: number; subject: string; text: string }>(
				`SELECT person_id AS person, subject, text FROM notice WHERE kind = 'feed'`
			);
		for (let n = 0; n < 2 * 7; n += 1) await atNext();
		expect(await letters()).to.deep.equal([]);
		for (let n = 0; n < 2 * 7; n += 1) await atNext();
		const [letter, ...others] = await letters();
		expect(others).to.deep.equal([]);
		expect(letter).to.include({
			...{ person: office.personId, subject: '“Harbor News” could not be read on 3 dates in a row' }
		});
		expect(letter!.text).to.contain('answered with 503').and.contain(`/week/standing/${id}`);
	});

	it('does not make up for a date at which no courier was there for hours', async () => {
		const id = await put();
		items = [{ id: 'c', title: 'C' }, ...items];
		await atNext(7 * 60 * minute);
		expect(await looks(id)).to.deep.equal([['missed', 0]]);
		await atNext();
		expect(await looks(id)).to.deep.equal([
			['sent', 1],
			['missed', 0]
		]);
	});

	it('takes what is new for sent after an older database was put back, once, and goes on with what comes after it', async () => {
		const id = await put();
		await school.db.run(`UPDATE mark SET held = '{"why":"restored","at":0,"lastLeftAt":null}'`);
		items = [{ id: 'c', title: 'C' }, ...items];
		expect(await goOnPutBack(school.db, coordinator, 'leave-out')).to.have.property('ok', true);
		await atNext();
		expect(await subjects()).to.deep.equal([]);
		const [look] = (await standingView(school.db, office, id))!.looks;
		expect(look).to.include({ outcome: 'missed', entries: 0 });
		expect(look!.why).to.contain('may have been sent before');
		items = [{ id: 'd', title: 'D' }, ...items];
		await atNext();
		expect((await subjects()).map((s) => s.subject)).to.deep.equal(['News: D']);
	});

	it('stays in sight while its last date waits for the feed', async () => {
		const id = await put();
		// Of its six days two are a weekend.
		for (let n = 0; n < 3; n += 1) await atNext();
		answer = (_, response) => response.writeHead(503).end();
		await setClock(school.db, (await nextFeed(school.db))!);
		await takeFeed(house());
		expect((await standingLines(school.db, office)).map((l) => l.id)).to.deep.equal([id]);
		answer = (_, response) => response.end(rss());
		await atNext();
		expect(await standingLines(school.db, office)).to.deep.equal([]);
	});

	it('follows days without school', async () => {
		await put();
		const first = (await nextFeed(school.db))!;
		const added = await addClosure(school.db, coordinator, {
			...{ name: 'Storm', startsOn: '2027-03-09', lastOn: '2027-03-09', schoolId: null }
		});
		expect(added.ok).to.equal(true);
		await replanAhead(school.db, key);
		expect((await nextFeed(school.db))! - first).to.equal(day);
	});

	it('waits with the reason where it can no longer be sent, and is asked again when somebody says so', async () => {
		const id = await put();
		items = [{ id: 'c', title: 'C' }, ...items];
		await school.db.run('DELETE FROM role WHERE person_id = 95');
		await atNext();
		const { waits } = (await standingView(school.db, coordinator, id))!;
		expect(waits).to.contain('no longer sign in');
		expect(await subjects()).to.deep.equal([]);
		expect(await nextFeed(school.db)).to.equal(null);
		expect(await tryAgain(school.db, coordinator, id)).to.deep.equal({ ok: true });
		expect(await nextFeed(school.db)).not.to.equal(null);
	});

	it('is not put down before it was tried, nor with words that take nothing from it', async () => {
		const texts = async (one: ReturnType<typeof sheet>) =>
			(await landing(school.db, office, one)).checks
				.filter((c) => c.level === 'block')
				.map((c) => c.text);
		expect(await texts(sheet({ address: '' }))).to.deep.equal([
			'No feed is said. Put in its address, and try it.'
		]);
		expect(await texts(sheet())).to.deep.equal(['The feed has not been tried yet. Try it.']);
		await tried();
		expect(await texts(sheet())).to.deep.equal([]);
		// What was tried days ago would take for new whatever has come since.
		await setClock(school.db, (await now(school.db)) + 25 * 3_600_000);
		expect(await texts(sheet())).to.include('The feed has not been tried yet. Try it.');
		await tried();
		expect(await texts(sheet({}, { wording: wordingOf('News', 'Nothing') }))).to.deep.equal([
			'The wording takes nothing from the feed. Put the feed’s title or words where they are to stand.'
		]);
		answer = (_, response) => response.end('<b>no</b>');
		expect((await tried()).why).to.match(/no feed/);
		expect(await texts(sheet())).to.deep.equal([
			'The feed cannot be used. What is there is no feed: neither RSS nor Atom.'
		]);
		const plain = sheetOf({ wording: wordingOf('{{feed_title}}', 'Words') });
		expect(await texts(plain)).to.have.length(1);
	});

	it('sends nothing after it was ended, and nothing twice where two couriers ask at once', async () => {
		const id = await put();
		items = [{ id: 'c', title: 'C' }, ...items];
		await setClock(school.db, (await nextFeed(school.db))!);
		await Promise.all([takeFeed(house()), takeFeed(house())]);
		expect(await subjects()).to.have.length(1);
		await endStanding(school.db, office, id);
		expect(await nextFeed(school.db)).to.equal(null);
		expect(await tryAgain(school.db, coordinator, id)).to.deep.equal({ ok: true });
		expect(await nextFeed(school.db)).to.equal(null);
		expect(testStart).to.be.below(await now(school.db));
	});
});

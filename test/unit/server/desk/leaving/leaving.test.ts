import { readFileSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { simpleParser } from 'mailparser';
import { fromBuffer, type Entry, type ZipFile } from 'yauzl';
import { wordingOf, type Wording } from '../../../../../src/lib/core/copy/words';
import { tables } from '../../../../../src/lib/server/db/models/all';
import { erasePerson } from '../../../../../src/lib/server/desk/keep/erase';
import { putContent } from '../../../../../src/lib/server/db/file-store';
import {
	allSent,
	beginPacking,
	clearLeaving,
	dropLeaving,
	leavingList,
	linkToTake,
	packSchema,
	takenFile,
	type Packing
} from '../../../../../src/lib/server/desk/leaving/leaving';
import { inMbox } from '../../../../../src/lib/server/desk/leaving/mbox';
import { pack } from '../../../../../src/lib/server/desk/leaving/pack';
import { leavingTables, staysHere } from '../../../../../src/lib/server/desk/leaving/tables';
import { leavingParts } from '../../../../../src/lib/server/desk/leaving/types';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, office, sheetOf, testSchool, whyOf, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 8);
const original = wordingOf('Boats', 'From here on boats are late.');
/** Written in one more language: readers of a third get the original. */
const wording: Wording = {
	...original,
	variants: [
		{
			...{ language: 'pt', words: wordingOf('Barcos', 'O barco atrasa.').words },
			...{ checked: true, basis: original.words, off: false }
		}
	]
};

/** Everything in a zip, by name. */
function unzipped(octets: Buffer): Promise<Map<string, Buffer>> {
	return new Promise((resolve, reject) => {
		fromBuffer(octets, { lazyEntries: true }, (error, zip) => {
			if (error) return reject(error);
			const found = new Map<string, Buffer>();
			const opened = zip as ZipFile;
			opened.on('entry', (entry: Entry) =>
				opened.openReadStream(entry, (failed, stream) => {
					if (failed) return reject(failed);
					const chunks: Buffer[] = [];
					stream.on('data', (c: Buffer) => chunks.push(c));
					stream.on('end', () => {
						found.set(entry.fileName, Buffer.concat(chunks));
						opened.readEntry();
					});
				})
			);
			opened.on('end', () => resolve(found));
			opened.readEntry();
		});
	});
}

/** The letters of an mbox, read as its quoting is undone (mboxrd). */
const fromMbox = (mbox: string): string[] =>
	mbox
		.split(/^From .*\n/m)
		.slice(1)
		.map((letter) => letter.replace(/^>(>*From )/gm, '$1'));

describe('what the district takes along', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const house = () => ({
		...{ db: school.db, key, dataFolder: school.folder, publicUrl: 'https://courier.example' },
		heard: () => {}
	});
	const packing: Packing = (user, asked) => pack(house(), user, asked);
	async function packed(parts = leavingParts.slice()) {
		const begun = await beginPacking(school.db, coordinator, parts, packing);
		if (!begun.ok) throw new Error(begun.why);
		await begun.done;
		return begun.id;
	}
	async function contents(parts = leavingParts.slice()): Promise<Map<string, Buffer>> {
		await packed(parts);
		const [file] = await readdir(`${school.folder}/leaving`);
		const zip = await unzipped(readFileSync(`${school.folder}/leaving/${file}`));
		return zip;
	}
	const csv = (zip: Map<string, Buffer>, name: string) =>
		parse(zip.get(name)!, { columns: true }) as Record<string, string>[];

	/** A dispatch that has left to everybody, and an answer to it with a picture. */
	async function sent(): Promise<void> {
		const done = await schedule(school.db, key, coordinator, sheetOf({ wording }), 5);
		if (!done.ok) throw new Error(JSON.stringify(done));
		await school.db.run(`UPDATE delivery SET left_at = 1804950000000, state = 'delivered'`);
		const hash = await putContent(school.folder, Buffer.from('a picture'));
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE person_id = 10 AND way = 'email'`
		))!;
		await school.db.run(
			`INSERT INTO conversation (id, dispatch_id, person_id, state, state_at, unread, way, last_at)
			SELECT 1, dispatch_id, 10, 'waiting', 1, 1, 'text', 1 FROM delivery WHERE id = $id`,
			{ id }
		);
		await school.db.run(
			`INSERT INTO answer (id, conversation_id, delivery_id, at, way, from_address, known, text, message_key)
			VALUES (1, 1, $id, 1804950060000, 'text', '+12075550101', 1, 'From me: thanks', 'k')`,
			{ id }
		);
		await school.db.run(
			`INSERT INTO answer_file (answer_id, name, type, bytes, hash) VALUES (1, 'dock.jpg', 'image/jpeg', 9, $hash)`,
			{ hash }
		);
	}

	it('every table of the database is in it, or it is said why not', () => {
		const there = tables.flatMap(([, list]) => list.map((t) => t.name)).sort();
		const said = [
			...leavingTables.flatMap((t) => t.of),
			...staysHere.flatMap(([, names]) => names)
		];
		expect(said.slice().sort()).to.deep.equal(there);
		expect(new Set(said).size).to.equal(said.length);
	});

	it('each table has a heading, each column its meaning on the page, and the rows are those of the database', async () => {
		await sent();
		const zip = await contents();
		const page = zip.get('columns.html')!.toString();
		for (const { name, columns } of leavingTables) {
			const [heading, ...rows] = parse(zip.get(name)!) as string[][];
			expect(heading, name).to.deep.equal(columns.map(([c]) => c));
			for (const row of rows) expect(row.length, name).to.equal(columns.length);
			for (const [c, means] of columns) {
				expect(page).to.contain(`<code>${c}</code>`);
				expect(means, `${name} ${c}`).to.have.length.above(3);
			}
		}
		const counted = async (from: string) =>
			(await school.db.one<{ n: number }>(`SELECT count(*) AS n FROM ${from}`))!.n;
		expect(csv(zip, 'people.csv').length).to.equal(await counted('person'));
		expect(csv(zip, 'copies.csv').length).to.equal(await counted('delivery'));
		expect(csv(zip, 'copies-for.csv').length).to.equal(
			(await counted('delivery_student')) + (await counted('delivery_also'))
		);
		expect(csv(zip, 'evidence.csv').length).to.equal(await counted('event'));
		expect(csv(zip, 'people.csv').find((p) => p.id === '10')).to.include({
			...{ given_name: 'Delfina', kind: 'adult', inbox: 'yes', since: '' }
		});
		expect(csv(zip, 'copies.csv')[0]!.left_at).to.equal(
			new Date(1_804_950_000_000).toISOString().replace('.000Z', 'Z')
		);
		expect(csv(zip, 'settings.csv').find((s) => s.name === 'district.zone')!.value).to.equal(
			'"America/New_York"'
		);
	});

	it('a large table is read by and by, and none of its rows twice or never', async () => {
		await school.db.run(
			`INSERT INTO text_in (at, from_number, to_number, words) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 9001)
			SELECT i, '+12075550101', '1', 'word ' || i FROM n`
		);
		const rows = csv(await contents(['tables']), 'texts-in.csv');
		expect(rows.length).to.equal(9001);
		expect(new Set(rows.map((r) => r.words)).size).to.equal(9001);
	});

	it('letters can be read by a mail program: one of each dispatch and language, with no link of anybody’s (RFC 5322, RFC 4155)', async () => {
		await sent();
		const zip = await contents(['letters']);
		const mbox = zip.get('letters.mbox')!.toString('latin1');
		const letters = fromMbox(mbox);
		const read = await Promise.all(letters.map((l) => simpleParser(l)));
		expect(read.map((m) => m.headers.get('content-language'))).to.deep.equal(['pt', 'en']);
		read.reverse();
		expect(read[0]!.subject).to.equal('Boats');
		expect(read[0]!.text).to.contain('From here on boats are late.');
		expect(read[0]!.headers.get('comments')).to.match(
			/^One of 2 copies in en: 1 by text, 1 in the inbox$/
		);
		// The path of a private link is /f/ and a token.
		expect(mbox).not.to.contain('/f/');
		expect(mbox).not.to.contain('unsubscribe');
		// Each is there as a file of its own as well, the same letter.
		const files = [...zip.keys()].filter((n) => n.startsWith('letters/')).sort();
		expect(files.map((n) => n.slice(-7))).to.deep.equal(['-en.eml', '-pt.eml']);
		const alone = await simpleParser(zip.get(files[0]!)!);
		expect([alone.messageId, alone.text]).to.deep.equal([read[0]!.messageId, read[0]!.text]);
		const texts = csv(zip, 'texts.csv');
		expect(texts.map((t) => t.language)).to.deep.equal(['pt', 'en']);
		expect(texts[0]!.words).to.contain('O barco');
		const [answer] = fromMbox(zip.get('answers.mbox')!.toString('latin1'));
		const back = await simpleParser(answer!);
		expect(back.text!.trim()).to.equal('From me: thanks');
		expect(back.from!.value[0]!.address).to.equal('12075550101@phone.invalid');
		expect(back.attachments[0]!.filename).to.equal('dock.jpg');
		expect(back.attachments[0]!.content.toString()).to.equal('a picture');
	});

	it('a line that begins with From comes back as it was, however often it was quoted', () => {
		const letter = 'Subject: x\r\n\r\nFrom me\r\n>From you\r\n';
		const once = inMbox(Buffer.from(letter), { from: 'a@x.example', at: new Date(0) });
		expect(once).to.match(/^From a@x\.example Thu Jan {2}1 00:00:00 1970\n/);
		expect(once).to.contain('\n>From me\n>>From you\n');
		expect(fromMbox(once + once)).to.deep.equal(Array(2).fill(`${letter.replace(/\r/g, '')}\n`));
	});

	it('nothing by which somebody comes in is in it', async () => {
		await school.db.run(`UPDATE sign_in SET password_hash = 'scrypt$secret-hash'`);
		await school.db.run(`INSERT INTO setting VALUES ('providers', '{"smtp":"sealed-secret"}')`);
		await sent();
		const all = Buffer.concat([...(await contents()).values()]).toString('latin1');
		expect(all).not.to.contain('secret');
		const nonces = await school.db.all<{ nonce: string }>('SELECT nonce FROM delivery');
		for (const { nonce } of nonces) expect(all).not.to.contain(nonce);
	});

	it('files are in it under their hash, cards by school, the calendar beside', async () => {
		await sent();
		const zip = await contents(['calendars', 'cards', 'files']);
		expect([...zip.keys()].map((n) => n.replace(/[0-9a-f]{64}/, 'hash'))).to.deep.equal([
			...['columns.html', 'calendars/calendar.ics', 'cards/Heron Landing.vcf', 'files/hash']
		]);
		expect(zip.get('cards/Heron Landing.vcf')!.toString()).to.contain('FN:Delfina Amaro');
		expect(zip.get('calendars/calendar.ics')!.toString()).to.contain('BEGIN:VCALENDAR');
	});

	it('only whoever may, once, in their own session: a link that was used opens nothing elsewhere', async () => {
		const refused = await beginPacking(school.db, office, ['tables'], packing);
		expect(whyOf(refused)).to.contain('whole district');
		const id = await packed(['tables']);
		const place = { db: school.db, dataFolder: school.folder };
		expect(whyOf(await linkToTake(school.db, office, id, 5))).not.to.equal('done');
		const link = await linkToTake(school.db, coordinator, id, 5);
		if (!link.ok) throw new Error(link.why);
		const take = (over: object = {}) =>
			takenFile(place, coordinator, { id, token: link.token, sessionId: 5, ...over });
		expect((await take())!.bytes).to.be.above(1000);
		expect(await take(), 'again, as a transfer that broke off').not.to.equal(null);
		expect(await take({ sessionId: 6 })).to.equal(null);
		expect(await take({ token: 'x'.repeat(43) })).to.equal(null);
		expect(await takenFile(place, office, { id, token: link.token, sessionId: 5 })).to.equal(null);
		expect(whyOf(await linkToTake(school.db, coordinator, id, 5))).to.contain('taken already');
		await allSent(school.db, id);
		await school.db.run('UPDATE leaving SET taken_at = taken_at - 3600001');
		expect(await take()).to.equal(null);
		await clearLeaving(school.db, school.folder);
		expect(await readdir(`${school.folder}/leaving`)).to.deep.equal([]);
		expect((await leavingList(school.db, coordinator))[0]!.state).to.equal('gone');
	});

	it('a backup that was put back knows of packages that are not there: their links open nothing', async () => {
		const id = await packed(['calendars']);
		const link = await linkToTake(school.db, coordinator, id, 5);
		await rm(`${school.folder}/leaving`, { recursive: true });
		const place = { db: school.db, dataFolder: school.folder };
		const asked = { id, token: link.ok ? link.token : '', sessionId: 5 };
		expect(await takenFile(place, coordinator, asked)).to.equal(null);
		await clearLeaving(school.db, school.folder);
		expect((await leavingList(school.db, coordinator))[0]!.state).to.equal('gone');
	});

	it('whoever is erased is in no package any more', async () => {
		await packed(['tables']);
		await school.db.run('UPDATE person SET gone_at = 1 WHERE id = 11');
		const done = await erasePerson(school.db, school.folder, coordinator, 11, 'Paulo Amaro');
		expect(whyOf(done)).to.equal('done');
		expect(await readdir(school.folder)).not.to.include('leaving');
		expect((await leavingList(school.db, coordinator))[0]!.state).to.equal('gone');
	});

	it('one at a time; what came to no end is said, and leaves nothing behind; a day later it is gone', async () => {
		let end: (error: Error) => void = () => {};
		const slow: Packing = () => new Promise((_r, reject) => (end = reject));
		const first = await beginPacking(school.db, coordinator, ['tables'], slow);
		expect(whyOf(await beginPacking(school.db, coordinator, ['files'], slow))).to.contain(
			'already'
		);
		end(new Error('the disk is full'));
		if (first.ok) await first.done;
		const broken: Packing = (user, asked) =>
			pack({ ...house(), heard: () => void school.db.run('DROP TABLE text_in') }, user, asked);
		const second = await beginPacking(school.db, coordinator, ['tables'], broken);
		if (second.ok) await second.done;
		const states = (await leavingList(school.db, coordinator)).map((p) => [p.state, p.why]);
		expect(states[1]).to.deep.equal(['failed', 'the disk is full']);
		expect(states[0]![0]).to.equal('failed');
		expect(await readdir(`${school.folder}/leaving`)).to.deep.equal([]);
		// One of another process that has ended.
		await school.db.run(`UPDATE leaving SET state = 'making'`);
		await clearLeaving(school.db, school.folder);
		expect((await leavingList(school.db, coordinator))[0]!.why).to.contain('started anew');
	});

	it('is thrown away by hand, and after a day; what is asked for badly is refused', async () => {
		const id = await packed(['calendars']);
		const place = { db: school.db, dataFolder: school.folder };
		expect(whyOf(await dropLeaving(place, office, id))).not.to.equal('done');
		expect(whyOf(await dropLeaving(place, coordinator, id))).to.equal('done');
		expect(whyOf(await dropLeaving(place, coordinator, id))).to.contain('nothing to delete');
		await packed(['calendars']);
		await school.db.run('UPDATE leaving SET made_at = made_at - 86400001');
		await clearLeaving(school.db, school.folder);
		expect(await readdir(`${school.folder}/leaving`)).to.deep.equal([]);
		expect(packSchema.safeParse({ parts: [] }).success).to.equal(false);
		expect(packSchema.safeParse({ parts: ['everything'] }).success).to.equal(false);
		expect(packSchema.parse({ parts: ['files', 'tables'] }).parts).to.deep.equal([
			'tables',
			'files'
		]);
	});
});

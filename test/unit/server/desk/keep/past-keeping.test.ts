import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { now, setClock } from '../../../../../src/lib/server/clock';
import { putContent } from '../../../../../src/lib/server/db/file-store';
import { readDistrict, writeSetting } from '../../../../../src/lib/server/db/district';
import {
	countPast,
	dropPast,
	dropPastByNight
} from '../../../../../src/lib/server/desk/keep/past-keeping';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const said = 'the kelp harvest of the seventh tide';
const monthMs = 31 * 86_400_000;

describe('what is past its time', () => {
	let school: TestSchool;
	let id: number;
	let hash: string;
	let since: number;
	beforeEach(async () => {
		school = await testSchool();
		const sheet = sheetOf({
			...{ subject: `About ${said}`, body: `Come to ${said}.`, holdMinutes: 0 }
		});
		const tried = await schedule(school.db, key, coordinator, sheet, -1);
		const sent = await schedule(
			...([school.db, key, coordinator, sheet] as const),
			tried.ok ? 0 : tried.tally.copies
		);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		id = sent.dispatchId;
		since = Math.round(await now(school.db));
		hash = await putContent(school.folder, Buffer.from(`a map of ${said}`));
		const copy = (await school.db.one<{ id: number }>(
			`SELECT min(id) AS id FROM delivery WHERE way = 'email'`
		))!.id;
		for (const statement of [
			`UPDATE dispatch SET state = 'sent', sent_at = ${since}, last_due = ${since} WHERE id = ${id}`,
			`UPDATE delivery SET state = 'delivered', state_at = ${since}, left_at = ${since}`,
			`UPDATE delivery SET state = 'read', read_at = ${since} WHERE id = ${copy}`,
			`INSERT INTO event (delivery_id, at, kind, detail, source, strength, said, visitor, about) VALUES (${copy}, ${since}, 'opened', 'opened', 'inbox', 'strong', '250 ${said}', '192.0.2.7', 'ana@tidebox.example')`,
			`INSERT INTO returned_mail (delivery_id, at, code, words, machine) VALUES (${copy}, ${since}, 'x', '${said}', '')`,
			`INSERT INTO file (id, hash, name, type, bytes, owner_id, made_at) VALUES (5, '${hash}', 'map.txt', 'text/plain', 9, 90, ${since})`,
			`INSERT INTO dispatch_file (dispatch_id, file_id) VALUES (${id}, 5)`,
			`INSERT INTO conversation (id, dispatch_id, person_id, school_id, subject, state, state_at, unread, way, last_at) VALUES (70, ${id}, 10, 1, '${said}', 'settled', ${since}, 0, 'email', ${since}), (71, NULL, 10, 1, 's', 'waiting', ${since}, 0, 'email', ${since})`,
			`INSERT INTO answer (id, conversation_id, delivery_id, at, way, from_name, from_address, known, subject, text, whole, message_key) VALUES (80, 70, ${copy}, ${since}, 'email', 'Ana', 'ana@tidebox.example', 1, 's', '${said}, yes', '${said}', 'k'), (81, 71, ${copy}, ${since}, 'email', 'Ana', 'ana@tidebox.example', 1, 's', 'open still', '', 'k2')`,
			`INSERT INTO auto_note (kind, way, address, name, language, words, made_at, due_at, state) VALUES ('away', 'email', 'ana@tidebox.example', 'Ana', 'en', 'back after ${said}', ${since}, ${since}, 'sent')`,
			...ours(id + 1, 70, `words of ${said}`),
			...ours(id + 2, 71, 'words that wait'),
			`INSERT INTO text_in (at, from_number, to_number, words) VALUES (${since}, '+12075550144', '1', 'STOP ${said}')`
		])
			await school.db.run(statement);
	});
	afterEach(() => school.close());
	const filesWith = (mark: string): string[] =>
		readdirSync(school.folder, { recursive: true, withFileTypes: true })
			.filter((f) => f.isFile())
			.map((f) => join(f.parentPath, f.name))
			.filter((file) => readFileSync(file).includes(mark));
	const figures = async () => {
		const { coverage, copies } = (await dispatchReach(...([school.db, coordinator, id] as const), {
			way: 'all',
			state: 'all',
			section: 0,
			search: '',
			page: 1
		}))!;
		// The curve ends now, and the clock goes on.
		const whole = (name: string, value: unknown) =>
			name === 'minutes' ? Math.floor(value as number) : value;
		return {
			...{
				coverage: JSON.parse(JSON.stringify(coverage, whole)) as object,
				byWay: copies.byWay,
				read: copies.byWayRead,
				weak: copies.weak
			},
			...(await school.db.one<object>(
				`SELECT (SELECT count(*) FROM delivery) AS copies, (SELECT count(*) FROM event) AS events,
					(SELECT count(*) FROM delivery WHERE read_at IS NOT NULL) AS read, (SELECT count(*) FROM answer) AS answers`
			))
		};
	};
	/** An answer of ours in a conversation. */
	const ours = (dispatch: number, conversation: number, words: string): string[] => [
		`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, sent_at, kind)
			VALUES (${dispatch}, 'k${dispatch}', 'Our ${words}', '${words}', '{}', '', '["email"]', 0, 90, 'sent', ${since}, ${since}, 'answer')`,
		`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, left_at) VALUES (${900 + dispatch}, ${dispatch}, 10, 'email', 'ana@tidebox.example', 'delivered', ${since}, ${since}, ${since})`,
		`INSERT INTO conversation_copy (delivery_id, conversation_id) VALUES (${900 + dispatch}, ${conversation})`
	];
	const none = { letters: 0, evidence: 0, addresses: 0, answers: 0 };

	it('nothing goes before its time', async () => {
		await setClock(school.db, since + 11 * monthMs);
		expect(await countPast(school.db, await readDistrict(school.db))).to.deep.equal(none);
		expect(await dropPast(school.db, school.folder)).to.deep.equal(none);
		expect(await school.db.one(`SELECT 1 FROM log_line WHERE act = 'past-keeping'`)).to.equal(
			undefined
		);
	});

	it('after a year raw addresses go, and nothing else', async () => {
		await setClock(school.db, since + 13 * monthMs);
		const before = await figures();
		const waiting = await countPast(school.db, await readDistrict(school.db));
		const gone = await dropPast(school.db, school.folder);
		expect(gone).to.deep.equal(waiting);
		expect(gone).to.include({ letters: 0, evidence: 0, answers: 0 });
		const left = await school.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM delivery WHERE address IS NOT NULL AND way != 'inbox'`
		);
		expect(left!.n).to.equal(0);
		expect(gone.addresses).to.be.above(0);
		const event = await school.db.one<object>(
			`SELECT visitor, about, said FROM event WHERE kind = 'opened'`
		);
		expect(event).to.deep.equal({ visitor: null, about: null, said: `250 ${said}` });
		expect(await school.db.one<object>('SELECT address, name FROM auto_note')).to.deep.equal({
			...{ address: '', name: '' }
		});
		// Those on people's files are the roster's.
		expect(
			await school.db.one('SELECT 1 FROM address WHERE way = $way', { way: 'email' })
		).to.be.an('object');
		expect(await figures()).to.deep.equal(before);
	});

	it('after three school years words go from every table, index, file and page; figures stay', async () => {
		await setClock(school.db, since + 37 * monthMs);
		const before = await figures();
		expect(filesWith('seventh tide')).not.to.deep.equal([]);
		const gone = await dropPast(school.db, school.folder);
		expect(gone).to.include({ letters: 1, answers: 1 });
		await school.db.run('PRAGMA wal_checkpoint(TRUNCATE)');
		expect(filesWith('seventh tide')).to.deep.equal([]);
		expect(existsSync(join(school.folder, 'files', hash))).to.equal(false);
		expect(await figures()).to.deep.equal(before);
		// What still waits for somebody is kept.
		expect(await school.db.one<object>('SELECT text FROM answer WHERE id = 81')).to.deep.equal({
			text: 'open still'
		});
		const again = await dropPast(school.db, school.folder);
		expect(again).to.deep.equal(none);
		const line = await school.db.one<{ after: string }>(
			`SELECT after FROM log_line WHERE act = 'past-keeping'`
		);
		expect(JSON.parse(line!.after)).to.deep.equal(gone);
		// So is our own answer there, until the conversation is settled.
		const ourSubjects = async () =>
			(
				await school.db.all<{ subject: string }>(
					`SELECT subject FROM dispatch WHERE kind = 'answer' ORDER BY id`
				)
			).map((d) => d.subject);
		expect(await ourSubjects()).to.deep.equal(['Words no longer kept', 'Our words that wait']);
		await school.db.run(`UPDATE conversation SET state = 'settled' WHERE id = 71`);
		await dropPast(school.db, school.folder);
		expect(await ourSubjects()).to.deep.equal(['Words no longer kept', 'Words no longer kept']);
	});

	it('a file that a draft or a kept wording still shows stays', async () => {
		await school.db.write(async (tx) => {
			const wording = JSON.stringify(wordingOf('x', 'y')).replace(
				'"content":[',
				'"content":[{"type":"picture","attrs":{"fileId":5,"alt":""}},'
			);
			await tx.run(
				`INSERT INTO kept_wording (name, wording, made_by, made_at) VALUES ('k', $wording, 90, 0)`,
				{ wording }
			);
		});
		await setClock(school.db, since + 37 * monthMs);
		await dropPast(school.db, school.folder);
		expect(existsSync(join(school.folder, 'files', hash))).to.equal(true);
	});

	it('is done once a night, after two, by the times of the settings', async () => {
		const district = await readDistrict(school.db);
		await writeSetting(school.db, 'district', {
			...district,
			keeping: { ...district.keeping, words: 1 }
		});
		// Half past one, and half past two, in New York (UTC-4 in May).
		await setClock(school.db, Date.parse('2027-05-11T05:30:00Z'));
		expect(await dropPastByNight(school.db, school.folder)).to.equal(0);
		await setClock(school.db, Date.parse('2027-05-11T06:30:00Z'));
		expect(await dropPastByNight(school.db, school.folder)).to.equal(1);
		expect(await dropPastByNight(school.db, school.folder)).to.equal(0);
		const row = await school.db.one<{ subject: string }>('SELECT subject FROM dispatch');
		expect(row!.subject).to.equal('Words no longer kept');
	});
});

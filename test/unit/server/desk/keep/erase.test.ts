import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { checkLog } from '../../../../../src/lib/server/access/log';
import { now } from '../../../../../src/lib/server/clock';
import { putContent } from '../../../../../src/lib/server/db/file-store';
import { tables } from '../../../../../src/lib/server/db/models/all';
import { changeAddress } from '../../../../../src/lib/server/desk/hand/addresses';
import {
	addPerson,
	endPerson,
	newPersonSchema
} from '../../../../../src/lib/server/desk/hand/people';
import { erasePerson } from '../../../../../src/lib/server/desk/keep/erase';
import { erasing } from '../../../../../src/lib/server/desk/keep/erasing';
import { wholeFile } from '../../../../../src/lib/server/desk/keep/whole-file';
import { wholeFilePdf } from '../../../../../src/lib/server/desk/keep/whole-file-pdf';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { readPdf } from '../../read-pdf';
import {
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchool,
	whyOf,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const name = 'Zebedee Quagmire-Thistlewood';
const mail = 'zq.thistlewood@tidebox.example';
const number = '+12075550144';

describe('everything about one person', () => {
	let school: TestSchool;
	let id: number;
	let coming: string;
	beforeEach(async () => {
		school = await testSchool();
		const added = await addPerson(
			school.db,
			coordinator,
			newPersonSchema.parse({
				...{
					as: 'contact',
					studentId: 3,
					givenName: 'Zebedee',
					familyName: 'Quagmire-Thistlewood'
				},
				...{
					language: 'en',
					hasInbox: 'yes',
					identifier: 'ZQT-7781',
					schoolId: '',
					gradeLevel: ''
				},
				...{
					relation: 'uncle',
					guardian: 'yes',
					custody: 'yes',
					correspondence: 'yes',
					emergency: 'no'
				},
				...{ email: mail, number, consentSaid: 'on paper', livesThere: 'yes' }
			})
		);
		if (!added.ok) throw new Error(added.why);
		id = added.id;
		// A letter goes to them, is read, is answered, comes back, and its words are told to the staff.
		const sent = await schedule(
			...([school.db, key, coordinator] as const),
			sheetOf({ ways: ['email', 'text', 'inbox'], holdMinutes: 0 }),
			await copiesNow()
		);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		const at = Math.round(await now(school.db));
		const copy = (await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE person_id = $id AND way = 'email'`,
			{ id }
		))!.id;
		const hash = await putContent(school.folder, Buffer.from(`a slip signed by ${name}`));
		// Somebody else's, that nothing names yet: it is just coming in.
		coming = await putContent(school.folder, Buffer.from('a map of the harbor'));
		for (const statement of [
			`UPDATE delivery SET state = 'delivered', left_at = ${at}, read_at = ${at} WHERE person_id = ${id}`,
			`INSERT INTO event (delivery_id, at, kind, detail, source, strength, said) VALUES (${copy}, ${at}, 'opened', 'opened by ${mail}', 'inbox', 'strong', '250 ${mail}')`,
			`INSERT INTO returned_mail (delivery_id, at, code, words, machine) VALUES (${copy}, ${at}, 'x', 'Dear ${name}', '${mail}')`,
			`INSERT INTO conversation (id, dispatch_id, person_id, school_id, subject, state, state_at, unread, way, last_at) VALUES (70, ${sent.dispatchId}, ${id}, 1, 's', 'settled', ${at}, 0, 'email', ${at})`,
			`INSERT INTO answer (id, conversation_id, delivery_id, at, way, from_name, from_address, known, subject, text, whole, message_key) VALUES (80, 70, ${copy}, ${at}, 'email', '${name}', '${mail}', 1, 's', 'Yours, ${name}', 'w', 'k')`,
			`INSERT INTO answer_file (answer_id, name, type, bytes, hash) VALUES (80, 'slip of ${name}.txt', 'text/plain', 10, '${hash}')`,
			`INSERT INTO notice (key, person_id, kind, subject, html, text, made_at, state, due_at) VALUES ('n', 90, 'answer', 's', '<p>${name}</p>', '${name} wrote', ${at}, 'sent', ${at})`,
			`INSERT INTO text_in (at, from_number, to_number, words) VALUES (${at}, '${number}', '1', 'STOP from ${name}')`,
			`INSERT INTO family_link (token_hash, person_id, ends_at, nonce) VALUES ('t', ${id}, ${at}, 'n')`,
			`INSERT INTO declined (person_id, kind, way) VALUES (${id}, 'message', 'email')`,
			`INSERT INTO roster_source (id, name, kind, made_at, custody, most_share) VALUES (5, 'src', 'x', ${at}, 'said', 1)`,
			`INSERT INTO roster_file (id, source_id, name, bytes, state, came_at, looked, custody, changed_at) VALUES (6, 5, 'f', 1, 'taken', ${at}, '{"new":["${name}"]}', 'said', ${at})`,
			`INSERT INTO roster_line (source_id, file, key, said) VALUES (5, 'users', 'zqt', '{"name":"Quagmire-Thistlewood"}')`,
			`INSERT INTO known_as (source_id, kind, key, row_id) VALUES (5, 'person', 'zqt', ${id})`,
			`INSERT INTO roster_undo (file_id, part, rows) VALUES (6, 0, '[]'), (6, 1, '["${name}"]')`,
			`UPDATE dispatch SET audience_words = 'Guardians, and ${name} by hand' WHERE id = ${sent.dispatchId}`
		])
			await school.db.run(statement);
		mkdirSync(join(school.folder, 'rosters', '6'), { recursive: true });
		writeFileSync(join(school.folder, 'rosters', '6', 'users.csv'), name);
	});
	afterEach(() => school.close());
	/** How many copies the sheet makes. */
	async function copiesNow(): Promise<number> {
		const tried = await schedule(
			...([school.db, key, coordinator] as const),
			sheetOf({ ways: ['email', 'text', 'inbox'], holdMinutes: 0 }),
			-1
		);
		return tried.ok ? 0 : tried.tally.copies;
	}
	const erase = (typed = name, user = coordinator) =>
		erasePerson(school.db, school.folder, user, id, typed);
	const end = () => endPerson(school.db, coordinator, id);
	/** Every octet of the folder in which a mark stands. */
	const filesWith = (mark: string): string[] =>
		readdirSync(school.folder, { recursive: true, withFileTypes: true })
			.filter((f) => f.isFile())
			.map((f) => join(f.parentPath, f.name))
			.filter((file) => readFileSync(file).includes(mark));
	const counted = () =>
		school.db.one<object>(
			`SELECT (SELECT count(*) FROM delivery) AS copies, (SELECT count(*) FROM delivery WHERE read_at IS NOT NULL) AS read,
				(SELECT count(*) FROM event) AS events, (SELECT count(*) FROM delivery_student) AS students`
		);

	it('goes out as data and as pages, to the district office alone, and that is written down', async () => {
		const file = (await wholeFile(school.db, coordinator, id))!;
		const text = JSON.stringify(file);
		for (const part of [
			mail,
			number,
			'uncle',
			'ZQT-7781',
			'Yours, Zebedee',
			'opened by',
			'messages by email'
		])
			expect(text, part).to.contain(part);
		expect(file.parts.every((p) => Array.isArray(p.lines))).to.equal(true);
		expect(JSON.parse(text)).to.deep.equal(file);
		// Instants are ISO 8601, for whoever reads it elsewhere.
		expect(text).to.match(/"at":"2027-03-09T15:\d\d:\d\d/);
		const pages = readPdf(await wholeFilePdf(file)).words.join(' ');
		expect(pages).to.contain('Zebedee').and.contain('uncle').and.contain(mail);
		for (const user of [office, teacher])
			expect(await wholeFile(school.db, user, id)).to.equal(null);
		expect(await wholeFile(school.db, coordinator, 99_999)).to.equal(null);
		const line = await school.db.one(
			`SELECT 1 FROM log_line WHERE act = 'went-out' AND thing_id = $id`,
			{ id }
		);
		expect(line).not.to.equal(undefined);
	});

	it('is gone from every table, file and index, shown by a search of every octet; what was counted is counted', async () => {
		await changeAddress(school.db, coordinator, {
			...{
				id: (await school.db.one<{ id: number }>(`SELECT id FROM address WHERE value = '${mail}'`))!
					.id
			},
			...{ value: 'zq.new@tidebox.example', consent: 'unknown', said: '', on: '' }
		} as never);
		await end();
		const before = await counted();
		expect(filesWith('Thistlewood')).not.to.deep.equal([]);
		const done = await erase();
		if (!done.ok) throw new Error(done.why);
		expect(done.left).to.deep.equal([]);
		for (const mark of [
			'Thistlewood',
			'thistlewood',
			'Zebedee',
			mail,
			'zq.new@',
			number,
			'ZQT-7781'
		])
			expect(filesWith(mark), mark).to.deep.equal([]);
		expect(await counted()).to.deep.equal(before);
		expect(existsSync(join(school.folder, 'rosters', '6'))).to.equal(false);
		expect(existsSync(join(school.folder, 'files', coming))).to.equal(true);
		expect((await checkLog(school.db)).fault).to.equal(null);
		expect(await school.db.all('PRAGMA foreign_key_check')).to.deep.equal([]);
		// Nobody else has lost anything.
		expect((await school.db.one<{ n: number }>('SELECT count(*) AS n FROM address'))!.n).to.equal(
			4
		);
		expect(whyOf(await erase())).to.contain('erased already');
	});

	it('says where they are still named: in words that others wrote', async () => {
		await end();
		await school.db.run(`UPDATE dispatch SET subject = 'Thank you, ${name}'`);
		const done = await erase();
		if (!done.ok) throw new Error(done.why);
		expect(done.left.map((l) => [l.table, l.rows])).to.deep.equal([['dispatch', 1]]);
	});

	it('is not erased by a slip, by others, or while it would come back', async () => {
		expect(whyOf(await erase())).to.contain('on the roster');
		await end();
		expect(whyOf(await erase('Zebedee'))).to.contain('Write their name');
		for (const user of [office, teacher])
			expect(whyOf(await erase(name, user))).to.contain('district office');
		await school.db.run(`UPDATE delivery SET state = 'planned' WHERE person_id = $id`, { id });
		expect(whyOf(await erase())).to.contain('wait');
		expect(filesWith('Thistlewood')).not.to.deep.equal([]);
		expect(
			whyOf(await erasePerson(school.db, school.folder, coordinator, 90, 'Maren Quill'))
		).to.contain('no such person');
		expect(whyOf(await erasePerson(school.db, school.folder, coordinator, 99_999, 'x'))).to.contain(
			'no such person'
		);
	});

	it('who was on file twice is gone twice', async () => {
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, has_inbox, gone_at, same_as) VALUES (98, 'adult', 'Zebby', 'Thistlewood-Quagmire', 'en', 1, 1, ${id})`
		);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (98, 'email', 'zebby@tidebox.example', 'in')`
		);
		await end();
		const done = await erase();
		if (!done.ok) throw new Error(done.why);
		for (const mark of ['Thistlewood', 'Zebby', 'zebby@'])
			expect(filesWith(mark), mark).to.deep.equal([]);
		expect(await school.db.all('PRAGMA foreign_key_check')).to.deep.equal([]);
	});

	it('an address that somebody else has as well stays with them', async () => {
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (12, 'email', '${mail}', 'in')`
		);
		await end();
		const done = await erase();
		if (!done.ok) throw new Error(done.why);
		expect(
			await school.db.one(`SELECT 1 FROM address WHERE person_id = 12 AND value = '${mail}'`)
		).not.to.equal(undefined);
	});

	// A table that is added with a person in it has to say what becomes of them.
	it('every table that names a person is thought of', () => {
		const said = erasing.join('\n');
		const kept = new Set([
			...[
				'delivery_also',
				'delivery_student',
				'dispatch_student',
				'taken_out',
				'left_out_student',
				'gained'
			],
			...['roster_change', 'log_line']
		]);
		const forgotten = tables
			.flatMap(([, list]) => list)
			.filter((table) =>
				Object.entries(table.columns).some(
					([column, c]) =>
						(c.options.references as { model: string } | undefined)?.model === 'person' &&
						['personId', 'studentId', 'userId', 'keptId', 'otherId'].includes(column)
				)
			)
			.map((table) => table.name)
			.filter(
				(table) => !kept.has(table) && !new RegExp(`(FROM|UPDATE) ${table} `).test(`${said} `)
			);
		expect(forgotten).to.deep.equal([]);
	});
});

import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import {
	readReturned,
	returnMailServer,
	type Returned
} from '../../../../src/lib/server/gateway/return-mail';
import { audienceSchema } from '../../../../src/lib/core/audience/audience';
import { openDatabase } from '../../../../src/lib/server/db/open';
import { importCalendar } from '../../../../src/lib/server/desk/calendar/import-calendar';
import { keepFile } from '../../../../src/lib/server/desk/sheet/files';
import { endReading, read, TooLong } from '../../../../src/lib/server/reading/reading';
import { coordinator, teacher, testSchool, type TestSchool } from '../database';

const key = Buffer.alloc(32, 7);

describe('what strangers hand in', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	after(() => endReading());

	it('a file whose head goes round in a circle is refused, and the next one is read', async () => {
		// An ASF header that says of itself that it is of no length.
		const trap = Buffer.alloc(120);
		Buffer.from('3026b2758e66cf11a6d900aa0062ce6c', 'hex').copy(trap);
		const refused = await keepFile(
			school.db,
			school.folder,
			coordinator,
			'film.wmv',
			trap,
			'file',
			1e6
		);
		expect(refused.ok).to.equal(false);
		const next = await keepFile(
			school.db,
			school.folder,
			coordinator,
			'note.txt',
			Buffer.from('Boats'),
			'file',
			1e6
		);
		expect(next.ok).to.equal(true);
	});

	it('what does not end is ended, its asker is told, and others go on', async () => {
		// A mail that is read at once, and one whose reading has no time at all.
		let why: unknown;
		await read(
			'mail',
			[Buffer.from(`From: a@b.example\r\n\r\n${'x\r\n'.repeat(200_000)}`), null],
			1
		).catch((e: unknown) => (why = e));
		expect(why).to.be.instanceOf(TooLong);
		const fine = await read('mail', [
			Buffer.from('From: a@b.example\r\nSubject: Hello\r\n\r\nHi'),
			null
		]);
		expect(fine.mail.kind).to.equal('answer');
	});

	it('a mail of nothing but empty lines is read as quickly as its length asks', async () => {
		const message = `From: a@b.example\r\nSubject: Re: Boats\r\n\r\nYes\r\n${'\r\n'.repeat(20_000)}On Tuesday, Maren wrote:\r\n> Boats\r\n`;
		const { mail } = await read('mail', [Buffer.from(message), 'a@b.example']);
		expect(mail.kind === 'answer' && mail.answer.text).to.match(/^Yes/);
		// What the package for quotes is given holds no long run of them: that is where the time went.
		const direct = await readReturned(message, 'a@b.example');
		expect(direct.asItCame.words).not.to.match(/\n{4}/);
	});

	it('a mail of hundreds of parts is refused for good, and its sender hears why', async () => {
		const came: Returned[] = [];
		const server = returnMailServer(
			async () => true,
			async (returned) => void came.push(returned)
		);
		await new Promise<void>((r) => server.listen(0, '127.0.0.1', () => r()));
		const { port } = server.server.address() as { port: number };
		const parts = Array.from(
			{ length: 300 },
			() => '--x\r\nContent-Type: text/plain\r\n\r\na\r\n'
		).join('');
		const said = await talk(port, [
			'EHLO x',
			'MAIL FROM:<a@b.example>',
			'RCPT TO:<a1.x@return.example>',
			'DATA',
			`Content-Type: multipart/mixed; boundary=x\r\n\r\n${parts}--x--\r\n.`
		]);
		expect(said.at(-1)).to.match(/^554 5\.6\.0/);
		expect(came).to.deep.equal([]);
		await new Promise<void>((r) => server.close(() => r()));
	});

	it('a server that closes its side after the last word still hears that its mail was taken', async () => {
		const came: Returned[] = [];
		const server = returnMailServer(
			async () => true,
			async (returned) => {
				// As long as a commit on a busy disk: the other side has long said that it is done.
				await new Promise((r) => setTimeout(r, 150));
				came.push(returned);
			}
		);
		await new Promise<void>((r) => server.listen(0, '127.0.0.1', () => r()));
		const { port } = server.server.address() as { port: number };
		const socket = connect({ port, host: '127.0.0.1', allowHalfOpen: true });
		let heard = '';
		socket.on('data', (d) => (heard += d.toString()));
		await until(() => heard.includes('220'));
		socket.write('EHLO x\r\n');
		await until(() => /250 /.test(heard));
		socket.write('MAIL FROM:<a@b.example>\r\nRCPT TO:<a1.x@return.example>\r\nDATA\r\n');
		await until(() => heard.includes('354'));
		socket.end('Subject: Hi\r\n\r\nHi\r\n.\r\nQUIT\r\n');
		await until(() => /250[ -]2\.0\.0 written down/.test(heard));
		expect(came).to.have.length(1);
		await new Promise<void>((r) => server.close(() => r()));
	});

	it('a calendar that never ends holds up nobody, and a teacher’s is not read at all', async () => {
		const trap = [
			'BEGIN:VCALENDAR',
			'VERSION:2.0',
			'BEGIN:VEVENT',
			'UID:a',
			'SUMMARY:Never',
			'DTSTART:20270301T090000Z',
			'RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
			'END:VEVENT',
			'END:VCALENDAR'
		].join('\r\n');
		const told = await importCalendar(school.db, key, coordinator, trap, 'events', true);
		expect(told.problems.map((p) => `${p.where} ${p.text}`)).to.deep.equal([
			'Never is passed over: its repetition comes to no date.'
		]);
		const refused = await importCalendar(
			school.db,
			key,
			teacher,
			'no calendar at all',
			'events',
			true
		);
		expect(refused.problems.map((p) => p.text)).to.deep.equal([
			'is not yours: only the district office brings calendars in.'
		]);
	});

	it('an audience of more picks or parts than anybody makes is refused in words', () => {
		const line = (of: unknown) => ({ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] });
		const ids = Array.from({ length: 5_000 }, (_, i) => i + 1);
		const why = (lines: unknown[]) =>
			audienceSchema
				.safeParse({ version: 2, lines, byHand: [] })
				.error?.issues.map((i) => i.message)
				.join();
		const students = { kind: 'students', ids };
		expect(why([line(students), line(students)])).to.equal(undefined);
		expect(why(Array.from({ length: 5 }, () => line(students)))).to.match(/20,000 picks at most/);
		const small = { kind: 'students', ids: [1] };
		const nested = { kind: 'any', of: Array.from({ length: 50 }, () => small) };
		expect(why([line({ kind: 'any', of: Array.from({ length: 10 }, () => nested) })])).to.match(
			/400 parts at most/
		);
	});

	it('the database, its log and what lies beside it are their owner’s alone', async () => {
		const folder = mkdtempSync(join(tmpdir(), 'idle-modes-'));
		const old = process.umask(0o022);
		try {
			const file = join(folder, 'courier.sqlite');
			const db = await openDatabase(file);
			await db.run('CREATE TABLE t (n)');
			for (const name of [file, `${file}-wal`, `${file}-shm`]) {
				expect(statSync(name).mode & 0o777, name).to.equal(0o600);
			}
			await db.close();
		} finally {
			process.umask(old);
			rmSync(folder, { recursive: true });
		}
	});
});

/** Says lines to an SMTP server, one after the answer to the one before. Resolves to what it said to each. */
async function talk(port: number, lines: readonly string[]): Promise<string[]> {
	const socket = connect({ port, host: '127.0.0.1' });
	let heard = '';
	socket.on('data', (d) => (heard += d.toString()));
	const answer = async () => {
		await until(() => /^\d{3} .*\r\n/m.test(heard));
		const said = heard;
		heard = '';
		return said;
	};
	await answer();
	const answers: string[] = [];
	for (const line of lines) {
		socket.write(`${line}\r\n`);
		answers.push(await answer());
	}
	socket.destroy();
	return answers;
}

async function until(is: () => boolean): Promise<void> {
	const end = performance.now() + 30_000;
	while (!is()) {
		if (performance.now() > end) throw new Error('waited in vain');
		await new Promise((r) => setTimeout(r, 10));
	}
}

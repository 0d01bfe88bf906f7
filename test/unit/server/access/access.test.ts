import { expect } from 'chai';
import { mayTry, signedIn } from '../../../../src/lib/server/access/guessing';
import { hashPassword, passwordFits } from '../../../../src/lib/server/access/passwords';
import { userOf } from '../../../../src/lib/server/access/listener';
import {
	openSession,
	sessionOf,
	signIn,
	signOut
} from '../../../../src/lib/server/access/sessions';
import {
	addressFits,
	addressFor,
	copyToken,
	hashToken,
	messageId,
	newToken,
	personToken,
	readAddress
} from '../../../../src/lib/server/access/tokens';
import { readSettings } from '../../../../src/lib/server/settings';
import { migrate } from '../../../../src/lib/server/db/migrate';
import { session } from '../../../../src/lib/server/db/models/access';
import { openDatabase, type Db } from '../../../../src/lib/server/db/open';
import { testSchool } from '../database';

const key = Buffer.alloc(32, 1);
const other = Buffer.alloc(32, 2);

describe('passwords', () => {
	it('fit their own hash only, whatever way accents are typed', async () => {
		const hash = await hashPassword('café-ferry');
		expect(hash).to.match(/^scrypt\$32768\$8\$1\$/);
		expect(await passwordFits('cafe\u0301-ferry', hash)).to.equal(true);
		expect(await passwordFits('cafe-ferry', hash)).to.equal(false);
		expect(await hashPassword('café-ferry')).not.to.equal(hash);
		for (const broken of ['', 'scrypt', 'plain$1$1$1$a$b'])
			expect(await passwordFits('x', broken)).to.equal(false);
	});
});

describe('sessions', () => {
	it('are asked for together by lines that hear the same, and none is kept open by listening', async () => {
		const school = await testSchool();
		try {
			const { db } = school;
			const openFor = async (personId: number) =>
				(
					await db.write((tx) =>
						openSession(
							...([tx, personId, { address: '', agent: '' }] as const),
							...([{ before: undefined, factor: 'given' }] as const)
						)
					)
				).token;
			// Bao Pham has no account: a session is nothing by itself.
			const [maren, chidi, bao] = [await openFor(90), await openFor(91), await openFor(12)];
			let asked = 0;
			const counted: Db = {
				...db,
				all: (...of) => ((asked += 1), db.all(...of)),
				one: (...of) => ((asked += 1), db.one(...of))
			};
			const who = (tokens: readonly string[]) =>
				Promise.all(tokens.map(async (t) => (await userOf(counted, t))?.personId ?? null));
			expect(await who([maren])).to.deep.equal([90]);
			const alone = asked;
			asked = 0;
			expect(await who([newToken(), chidi, maren, bao, '', chidi])).to.deep.equal([
				...[null, 91, 90, null, null, 91]
			]);
			expect(asked).to.equal(alone);

			const hour = 3_600_000;
			const used = async () =>
				(await db.rows(session).one({ tokenHash: hashToken(maren) }))!.seenAt;
			const before = Date.now() - 2 * hour;
			await db.run('UPDATE session SET seen_at = $before', { before });
			expect(await who([maren])).to.deep.equal([90]);
			expect(await used()).to.equal(before);
			await sessionOf(db, maren);
			expect(await used()).to.be.above(before);
			await db.run('UPDATE session SET seen_at = $before', { before: Date.now() - 5 * hour });
			expect(await who([maren, chidi])).to.deep.equal([null, null]);
		} finally {
			await school.close();
		}
	});

	it('open with the right password, end by signing out or by time', async () => {
		const school = await testSchool();
		try {
			await school.db.run('UPDATE sign_in SET password_hash = $hash', {
				hash: await hashPassword('slow-ferry')
			});
			const no = { ok: false, waitMs: 0, slowed: null };
			const opened = async (name: string, before?: string) => {
				const session = await signIn(school.db, name, 'slow-ferry', { before });
				if (!session.ok) throw new Error('not signed in');
				return session;
			};
			expect(await signIn(school.db, 'maren', 'fast-ferry')).to.deep.equal(no);
			expect(await signIn(school.db, 'nobody', 'slow-ferry')).to.deep.equal(no);
			const session = await opened(' Maren ');
			expect(await userOf(school.db, session.token)).to.include({
				personId: 90,
				name: 'Maren Quill'
			});
			expect(await userOf(school.db, newToken())).to.equal(null);
			expect(await userOf(school.db, undefined)).to.equal(null);
			const stored = await school.db.one<{ token_hash: string }>('SELECT token_hash FROM session');
			expect(stored!.token_hash).to.equal(hashToken(session.token));
			await school.db.run('UPDATE session SET ends_at = 1');
			expect(await userOf(school.db, session.token)).to.equal(null);
			const again = await opened('maren');
			// Signing in anew ends what the same browser had.
			const anew = await opened('maren', again.token);
			expect(await userOf(school.db, again.token)).to.equal(null);
			await signOut(school.db, anew.token);
			expect(await userOf(school.db, anew.token)).to.equal(null);
		} finally {
			await school.close();
		}
	});
});

describe('guessing', () => {
	it('is slowed by name, wherever it comes from, and by address, whatever the name', async () => {
		const place = `198.51.100.${process.pid % 250}`;
		let waits = 0;
		for (let i = 0; i < 12; i += 1) if ((await mayTry('guessed', `${place}.${i}`)) > 0) waits += 1;
		expect(waits).to.equal(4);
		expect(await mayTry(' GUESSED ', 'elsewhere')).to.be.above(0);
		expect(await mayTry('another', 'elsewhere')).to.equal(0);
		waits = 0;
		for (let i = 0; i < 70; i += 1) if ((await mayTry(`name ${i}`, place)) > 0) waits += 1;
		expect(waits).to.equal(10);
		// Who has signed in is not held to what was tried before.
		await signedIn('guessed', place);
		expect(await mayTry('guessed', 'a third place')).to.equal(0);
	});

	it('hashes two passwords at a time, and the database answers meanwhile', async () => {
		const school = await testSchool();
		try {
			const order: string[] = [];
			const hashing = Promise.all(
				Array.from({ length: 12 }, () => hashPassword('slow-ferry').then(() => order.push('hash')))
			);
			for (let i = 0; i < 12; i += 1) {
				await school.db.one('SELECT count(*) AS n FROM person');
				order.push('row');
			}
			await hashing;
			// Each hash takes tens of milliseconds, a row less than one: no row waits for all of them.
			expect(order.lastIndexOf('row')).to.be.below(order.lastIndexOf('hash'));
		} finally {
			await school.close();
		}
	});
});

describe('links and return addresses', () => {
	it('are the same at each try, differ by delivery and by key, and hold at least 80 bits', () => {
		expect(copyToken(key, 'n5')).to.equal(copyToken(key, 'n5')).and.have.length(22);
		expect(
			new Set([
				copyToken(key, 'n5'),
				copyToken(key, 'n6'),
				copyToken(other, 'n5'),
				personToken(key, 'n5')
			]).size
		).to.equal(4);
		expect(messageId(key, 'return', { id: 5, nonce: 'n5' }, 'x.example')).to.match(
			/^<5\.[0-9a-f]{20}@x\.example>$/
		);
	});

	it('lead back to their delivery, in any case, and only with the right key', () => {
		const row = { id: 12345, nonce: 'some value' };
		const address = addressFor(key, 'return', row, 'return.example');
		const fits = (k: Buffer, text: string, nonce = row.nonce) => {
			const read = readAddress(text);
			return read && addressFits(k, read, nonce) ? [read.mailbox, read.id] : null;
		};
		expect(fits(key, address)).to.deep.equal(['return', 12345]);
		expect(fits(key, address.toUpperCase())).to.deep.equal(['return', 12345]);
		expect(fits(other, address)).to.equal(null);
		// Another row that has its number now, after an older database was put back.
		expect(fits(key, address, 'another value')).to.equal(null);
		// What is for notifications is not for answers.
		expect(fits(key, address.replace(/^r/, 'a'))).to.equal(null);
		for (const bad of [
			'',
			'postmaster@return.example',
			address.replace('12345', '12346'),
			address.slice(1)
		]) {
			expect(readAddress(bad) && fits(key, bad, 'another value'), bad).to.equal(null);
		}
		// A local part is 64 octets at most (RFC 5321 section 4.5.3.1.1).
		expect(
			addressFor(key, 'return', { id: 999_999_999_999_999, nonce: '' }, 'x').split('@')[0]!.length
		).to.be.at.most(64);
	});
});

describe('settings', () => {
	it('name each wrong variable and what it may be', () => {
		expect(() =>
			readSettings({
				IDLE_COURIER_SMTP: 'mail.example',
				IDLE_COURIER_RETURN_PORT: '99999',
				IDLE_COURIER_URL: 'ftp://x'
			})
		).to.throw(
			/IDLE_COURIER_URL: must be an http or https address[\s\S]*IDLE_COURIER_SMTP: must be an smtp[\s\S]*IDLE_COURIER_RETURN_PORT/
		);
		expect(readSettings({ IDLE_COURIER_URL: 'https://courier.example/' }).publicUrl).to.equal(
			'https://courier.example'
		);
	});
});

describe('the database', () => {
	it('migrates an existing file without touching its data, with WAL and foreign keys on', async () => {
		const school = await testSchool();
		try {
			const again = await openDatabase(school.db.file);
			await migrate(again);
			await migrate(again);
			expect(await again.one('SELECT count(*) AS n FROM person')).to.deep.equal({ n: 8 });
			expect(await again.one('PRAGMA journal_mode')).to.deep.equal({ journal_mode: 'wal' });
			expect(await again.one('PRAGMA foreign_keys')).to.deep.equal({ foreign_keys: 1 });
			let refused = false;
			await again
				.run('INSERT INTO enrolment (section_id, student_id) VALUES (100, 424242)')
				.catch(() => (refused = true));
			expect(refused).to.equal(true);
			await again.close();
		} finally {
			await school.close();
		}
	});

	it('undoes a transaction that throws, and runs those of one process one after another', async () => {
		const school = await testSchool();
		try {
			await school.db
				.write(async (tx) => {
					await tx.run('DELETE FROM enrolment');
					throw new Error('no');
				})
				.catch(() => {});
			expect(await school.db.one('SELECT count(*) AS n FROM enrolment')).to.deep.equal({ n: 3 });
			await school.db.run('UPDATE clock SET offset_ms = 0');
			await Promise.all(
				Array.from({ length: 20 }, () =>
					school.db.write(async (tx) => {
						const { n } = (await tx.one<{ n: number }>('SELECT offset_ms AS n FROM clock'))!;
						await tx.run('UPDATE clock SET offset_ms = $n', { n: n + 1 });
					})
				)
			);
			expect(await school.db.one('SELECT offset_ms AS n FROM clock')).to.deep.equal({ n: 20 });
		} finally {
			await school.close();
		}
	});
});

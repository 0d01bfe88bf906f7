import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { hashPassword, passwordFits } from '../../../src/lib/server/access/passwords';
import { signIn, signOut, userOf } from '../../../src/lib/server/access/sessions';
import {
	copyToken,
	deliveryOfReturn,
	hashToken,
	messageId,
	newToken,
	personToken,
	returnAddress
} from '../../../src/lib/server/access/tokens';
import { linkKey, readSettings } from '../../../src/lib/server/settings';
import { migrate } from '../../../src/lib/server/db/migrate';
import { openDatabase } from '../../../src/lib/server/db/open';
import { testSchool } from './database';

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
	it('open with the right password, end by signing out or by time', async () => {
		const school = await testSchool();
		try {
			await school.db.run('UPDATE sign_in SET password_hash = $hash', {
				hash: await hashPassword('slow-ferry')
			});
			expect(await signIn(school.db, 'maren', 'fast-ferry')).to.equal(null);
			expect(await signIn(school.db, 'nobody', 'slow-ferry')).to.equal(null);
			const session = (await signIn(school.db, ' Maren ', 'slow-ferry'))!;
			expect(await userOf(school.db, session.token)).to.include({
				personId: 90,
				role: 'coordinator',
				name: 'Maren Quill'
			});
			expect(await userOf(school.db, newToken())).to.equal(null);
			expect(await userOf(school.db, undefined)).to.equal(null);
			const stored = await school.db.one<{ token_hash: string }>('SELECT token_hash FROM session');
			expect(stored!.token_hash).to.equal(hashToken(session.token));
			await school.db.run('UPDATE session SET ends_at = 1');
			expect(await userOf(school.db, session.token)).to.equal(null);
			const again = (await signIn(school.db, 'maren', 'slow-ferry'))!;
			await signOut(school.db, again.token);
			expect(await userOf(school.db, again.token)).to.equal(null);
		} finally {
			await school.close();
		}
	});
});

describe('links and return addresses', () => {
	it('are the same at each try, differ by delivery and by key, and hold at least 80 bits', () => {
		expect(copyToken(key, 5)).to.equal(copyToken(key, 5)).and.have.length(22);
		expect(
			new Set([copyToken(key, 5), copyToken(key, 6), copyToken(other, 5), personToken(key, 5)]).size
		).to.equal(4);
		expect(messageId(key, 5, 'x.example')).to.match(/^<5\.[0-9a-f]{20}@x\.example>$/);
	});

	it('lead back to their delivery, in any case, and only with the right key', () => {
		const address = returnAddress(key, 12345, 'return.example');
		expect(deliveryOfReturn(key, address)).to.equal(12345);
		expect(deliveryOfReturn(key, address.toUpperCase())).to.equal(12345);
		expect(deliveryOfReturn(other, address)).to.equal(null);
		for (const bad of [
			'',
			'postmaster@return.example',
			address.replace('12345', '12346'),
			address.slice(1)
		]) {
			expect(deliveryOfReturn(key, bad), bad).to.equal(null);
		}
		// A local part is 64 octets at most (RFC 5321 section 4.5.3.1.1).
		expect(returnAddress(key, 999_999_999_999_999, 'x').split('@')[0]!.length).to.be.at.most(64);
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

	it('make the link key once, readable by its owner only', () => {
		const folder = mkdtempSync(join(tmpdir(), 'idle-key-'));
		const first = linkKey(folder);
		expect(first).to.have.length(32);
		expect(linkKey(folder).equals(first)).to.equal(true);
		expect(statSync(join(folder, 'link.key')).mode & 0o777).to.equal(0o600);
		rmSync(folder, { recursive: true });
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
			await again.run('INSERT INTO enrolment VALUES (100, 424242)').catch(() => (refused = true));
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

import type { ChildProcess } from 'node:child_process';
import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import { makeCourier, type Courier } from '../../courier/courier';
import { audienceOf } from '../../src/lib/core/audience/audience';
import { moveTo, now } from '../../src/lib/server/clock';
import { rosterChanged } from '../../src/lib/server/db/roster';
import { courierHealth } from '../../src/lib/server/desk/office/courier-status';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { readSettings } from '../../src/lib/server/settings';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../unit/server/database';
import {
	eximLog,
	mailbox,
	ports,
	startExim,
	startGreylisting,
	startPostfix,
	stopPostfix,
	until
} from './servers';

const key = Buffer.alloc(32, 7);

describe('with real mail servers', () => {
	let school: TestSchool;
	let courier: Courier;
	const running: ChildProcess[] = [];
	before(async () => {
		running.push(await startExim());
		await startPostfix();
		running.push(await startGreylisting());
	});
	after(() => {
		stopPostfix();
		running.forEach((child) => child.kill('SIGKILL'));
	});
	afterEach(async () => {
		await courier.close();
		await school.close();
	});

	/** A school whose only section has these people for its families, and a courier that sends by a server. */
	async function families(port: number, addresses: readonly string[]): Promise<void> {
		school = await testSchool();
		await school.db.write(async (tx) => {
			await tx.run('DELETE FROM address');
			for (const [i, address] of addresses.entries()) {
				await tx.run(
					`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (${500 + i}, 'adult', 'Reader', 'No ${i}', 'en', NULL, NULL, 0)`
				);
				await tx.run(
					`INSERT INTO contact (student_id, person_id, relation, guardian, custody, correspondence, emergency) VALUES (3, ${500 + i}, 'guardian', 1, 1, 1, 0)`
				);
				await tx.run(
					`INSERT INTO address (person_id, way, value, consent) VALUES (${500 + i}, 'email', $address, 'in')`,
					{ address }
				);
			}
			await rosterChanged(tx);
		});
		courier = makeCourier(
			school.db,
			readSettings({
				IDLE_COURIER_DATA: school.folder,
				IDLE_COURIER_SMTP: `smtp://127.0.0.1:${port}`,
				IDLE_COURIER_SMPP: '',
				IDLE_COURIER_RETURN_DOMAIN: 'return.example',
				IDLE_COURIER_RETURN_PORT: String(ports.returns)
			}),
			key
		);
		await courier.beat();
		await courier.open();
	}
	async function send(subject: string): Promise<void> {
		const sheet = sheetOf({
			subject,
			ways: ['email'],
			holdMinutes: 0,
			audience: audienceOf([101])
		});
		const { tally } = await landing(school.db, coordinator, sheet);
		const sent = await schedule(school.db, key, coordinator, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		await courier.round();
	}
	const states = async () =>
		Object.fromEntries(
			(
				await school.db.all<{ address: string; state: string }>(
					'SELECT address, state FROM delivery ORDER BY id'
				)
			).map((d) => [d.address.split('@')[0], d.state])
		);
	const failing = async () =>
		(
			await school.db.all<{ value: string }>(
				'SELECT value FROM address WHERE failing IS NOT NULL ORDER BY value'
			)
		).map((a) => a.value.split('@')[0]);
	const notes = async (name: string) =>
		(
			await school.db.all<{ detail: string }>(
				`SELECT detail || coalesce(' (' || said || ')', '') AS detail FROM event JOIN delivery ON delivery.id = delivery_id WHERE address LIKE $name || '@%' ORDER BY event.id`,
				{ name }
			)
		).map((e) => e.detail);

	it('Postfix: letters arrive whole, its reports reach their copies, and a forward that fails fails no copy', async () => {
		await families(ports.postfix, [
			'home@harbormail.example',
			'moved@harbormail.example',
			'nobody@harbormail.example'
		]);
		await send('Boats – Barcos');
		await until(
			'the report of the letter that arrived has come',
			async () => (await states()).home === 'delivered'
		);
		await until('the report of the forward has come', async () =>
			(await notes('moved')).some((n) => /passes its mail on to gone@far\.example/.test(n))
		);
		expect(await states()).to.deep.equal({ home: 'delivered', moved: 'sent', nobody: 'failed' });
		expect(await failing()).to.deep.equal(['nobody']);
		const raw = mailbox('postfix', 'home').replace(/^From .*\n/, '');
		const mail = await simpleParser(raw);
		expect(mail.subject).to.equal('Boats – Barcos');
		expect(mail.text).to.contain('The boat is late.');
		expect(raw).to.match(/^Return-Path: <r\d+\.[0-9a-f]{20}@return\.example>$/m);
		expect(raw).to.match(/^Precedence: bulk$/m);
	});

	it('Exim: takes what it cannot hand on, returns it later with the reason in the diagnostic, and hears that its report was taken', async () => {
		await families(ports.exim, ['there@far.example', 'lost@harbormail.example']);
		await send('Boats');
		await until('the report has come', async () => (await states()).lost === 'failed').catch(
			(error: Error) => {
				throw new Error(`${error.message}\n${eximLog()}`);
			}
		);
		expect(await failing()).to.deep.equal(['lost']);
		await until('the letter has arrived', () => /The boat is late/.test(mailbox('exim', 'there')));
		// Had it not heard us, it would keep the report and come again with it.
		await until('it is done with the report', () =>
			/Completed/.test(eximLog().split('=> r').at(-1) ?? '')
		);
		expect(eximLog()).not.to.match(
			/Remote host closed connection|SMTP timeout|H=127\.0\.0\.1.*: (retry|error)/i
		);
	});

	it('greylisting: each letter is tried again by itself, and the others are not slowed down', async () => {
		await families(ports.greylisting, ['home@harbormail.example', 'reader@harbormail.example']);
		await send('Boats');
		expect(await states()).to.deep.equal({ home: 'planned', reader: 'planned' });
		expect((await notes('home')).join()).to.match(/greylist|4\.2\.0/i);
		expect((await courierHealth(school.db)).ways.find((w) => w.way === 'email')!.slowMs).to.equal(
			0
		);
		// The next try is a minute later by the job's clock; by the server's it may come after a second.
		await until('both have left', async () => {
			await new Promise((r) => setTimeout(r, 1_500));
			await moveTo(school.db, (await now(school.db)) + 300_000);
			await courier.round();
			const { home, reader } = await states();
			return ['sent', 'delivered'].includes(home!) && ['sent', 'delivered'].includes(reader!);
		});
		expect(await failing()).to.deep.equal([]);
	});
});

import { expect } from 'chai';
import { claim } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { writeOutcomes } from '../../../../../courier/outcomes';
import { takeReturned } from '../../../../../courier/receipts';
import { addressFor, messageId } from '../../../../../src/lib/server/access/tokens';
import { addresseeOf } from '../../../../../src/lib/server/access/return-address';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { answeredByPerson } from '../../../../../src/lib/server/desk/replies/answer-by-person';
import { courierHealth } from '../../../../../src/lib/server/desk/office/courier-status';
import { deliveryLines } from '../../../../../src/lib/server/desk/track/delivery-lines';
import { putNotices } from '../../../../../src/lib/server/desk/staff/notices';
import { sendOnceMore } from '../../../../../src/lib/server/desk/send/once-more';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { readReturned } from '../../../../../src/lib/server/gateway/return-mail';
import { sortSmtpError } from '../../../../../src/lib/server/gateway/smtp-reply';
import { addressOf } from '../../../../named';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const ours = 'home@harbormail.example';

/** A notification as RFC 3464 has it, of one recipient. */
const report = (fields: readonly string[], text = 'It could not be delivered.') =>
	[
		'From: MAILER-DAEMON@harbormail.example',
		'Subject: Undelivered Mail Returned to Sender',
		'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
		'',
		'--b',
		'Content-Type: text/plain',
		'',
		text,
		'--b',
		'Content-Type: message/delivery-status',
		'',
		'Reporting-MTA: dns; mx.harbormail.example',
		'',
		...fields,
		'',
		'--b--',
		''
	].join('\r\n');

describe('what mail systems say about a letter', () => {
	let school: TestSchool;
	let id: number;
	let dispatchId: number;
	beforeEach(async () => {
		school = await testSchool();
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ subject: 'Boats', holdMinutes: 0 }),
			5
		);
		if (!sent.ok) throw new Error('not sent');
		({ dispatchId } = sent);
		const me = identity(school.db);
		await me.beat();
		const [copy] = await claim(school.db, me, 'email', 10);
		id = copy!.id;
		const at = await now(school.db);
		await school.db.write((tx) =>
			writeOutcomes(tx, [{ copy: copy!, outcome: { kind: 'accepted', detail: 'ok' }, at }])
		);
		await moveTo(school.db, at + 600_000);
	});
	afterEach(() => school.close());

	const take = async (mailbox: 'return' | 'answer', raw: string, path = '') => {
		const came = await readReturned(raw, path);
		const address = await addressOf(school.db, key, mailbox, id);
		await school.db.write((tx) => takeReturned(tx, key, [{ address, ...came }]));
	};
	const row = async () =>
		(await school.db.one<{ state: string; strength: string }>(
			'SELECT state, strength FROM delivery WHERE id = $id',
			{ id }
		))!;
	const failing = async () =>
		(await school.db.one<{ n: number }>(
			'SELECT count(*) AS n FROM address WHERE failing IS NOT NULL'
		))!.n;

	it('marks the mailbox that was written to, by the status of the diagnostic where the field says only "other"', async () => {
		await take(
			'return',
			report([
				`Final-Recipient: rfc822; ${ours.toUpperCase()}`,
				'Action: failed',
				'Status: 5.0.0',
				'Diagnostic-Code: smtp; 550 5.1.1 no such user here'
			])
		);
		expect((await row()).state).to.equal('failed');
		// Two people have this mailbox.
		expect(await failing()).to.equal(2);
	});

	it('does not fail a copy that arrived because a forward of it did not', async () => {
		await take(
			'return',
			report([
				`Original-Recipient: rfc822; ${ours}`,
				'Final-Recipient: rfc822; elsewhere@far.example',
				'Action: failed',
				'Status: 5.1.1',
				'Diagnostic-Code: smtp; 550 5.1.1 no such user'
			])
		);
		expect((await row()).state).to.equal('sent');
		expect(await failing()).to.equal(0);
		const [line] = await deliveryLines(school.db, [id]);
		expect(line!.evidence.at(-1)!.detail).to.match(/passes its mail on to elsewhere@far\.example/);
	});

	it('changes nothing by a report about somebody else, and keeps it to be looked at', async () => {
		for (const action of ['failed', 'delivered']) {
			await take(
				'return',
				report([
					'Final-Recipient: rfc822; someone@else.example',
					`Action: ${action}`,
					'Status: 5.1.1'
				])
			);
		}
		expect((await row()).state).to.equal('sent');
		expect(await failing()).to.equal(0);
		expect((await courierHealth(school.db)).otherReports).to.equal(2);
	});

	it('believes no report at the address for answers, and nothing at the address for reports that does not belong to the letter', async () => {
		await take(
			'answer',
			report([`Final-Recipient: rfc822; ${ours}`, 'Action: failed', 'Status: 5.1.1'])
		);
		const receipt = [
			`From: ${ours}`,
			'Content-Type: multipart/report; report-type=disposition-notification; boundary="b"',
			'',
			'--b',
			'Content-Type: message/disposition-notification',
			'',
			`Final-Recipient: rfc822; ${ours}`,
			'Disposition: manual-action/MDN-sent-manually; displayed',
			'',
			'--b--'
		].join('\r\n');
		await take('answer', receipt, ours);
		await take('return', `From: ${ours}\r\nSubject: Re: Boats\r\n\r\nYes`, ours);
		expect(await row()).to.deep.equal({ state: 'sent', strength: 'none' });
		expect(await failing()).to.equal(0);
		expect(await school.db.all('SELECT 1 FROM answer')).to.deep.equal([]);
		// The same receipt where it belongs is strong evidence; of another reader it is none.
		await take('return', receipt.replace(`rfc822; ${ours}`, 'rfc822; other@x.example'), ours);
		expect((await row()).strength).to.equal('none');
		await take('return', receipt, ours);
		expect(await row()).to.deep.equal({ state: 'read', strength: 'strong' });
	});

	it('keeps words and machine part whole, and shows them with the copy', async () => {
		const words = 'Your letter was not taken. Write to help@harbormail.example.';
		await take(
			'return',
			report(
				[
					`Final-Recipient: rfc822; ${ours}`,
					'Action: failed',
					'Status: 5.2.2',
					'Diagnostic-Code: smtp; 552 full'
				],
				words
			)
		);
		const [line] = await deliveryLines(school.db, [id]);
		expect(line!.returned).to.have.length(1);
		expect(line!.returned[0]!.words).to.contain(words);
		expect(line!.returned[0]!.machine).to.contain('Diagnostic-Code: smtp; 552 full');
	});

	it('keeps twenty of them, each once, also where many come at the same moment', async () => {
		const address = await addressOf(school.db, key, 'return', id);
		const came = await Promise.all(
			Array.from({ length: 30 }, (_, i) =>
				readReturned(
					report([
						`Final-Recipient: rfc822; ${ours}`,
						'Action: delayed',
						'Status: 4.4.1',
						// Each fourth is the one before it again.
						`Diagnostic-Code: smtp; 451 try ${i - (i % 4 === 3 ? 1 : 0)}`
					])
				)
			)
		);
		const kept = async () =>
			(
				await school.db.all<{ machine: string }>('SELECT machine FROM returned_mail ORDER BY id')
			).map((r) => /try (\d+)/.exec(r.machine)![1]);
		const several = (some: typeof came) =>
			school.db.write((tx) =>
				takeReturned(
					tx,
					key,
					some.map((one) => ({ address, ...one }))
				)
			);
		await several(came.slice(0, 12));
		const first = ['0', '1', '2', '4', '5', '6', '8', '9', '10'];
		expect(await kept()).to.have.members(first);
		await several(came.slice(8));
		expect(await kept()).to.have.length(20);
		expect(new Set(await kept())).to.have.property('size', 20);
		expect((await kept()).slice(0, 9)).to.have.members(first);
	});

	it('what is said against us as a sender is one trouble of the way, and no fault of the mailboxes, however often', async () => {
		for (let i = 0; i < 3; i += 1) {
			const sent = await schedule(
				school.db,
				key,
				coordinator,
				sheetOf({ subject: `No ${i}`, holdMinutes: 0 }),
				5
			);
			if (!sent.ok) throw new Error('not sent');
			await moveTo(school.db, (await now(school.db)) + 1_000);
			const me = identity(school.db);
			await school.db.run('UPDATE courier SET pid = 0');
			await me.beat();
			const [copy] = await claim(school.db, me, 'email', 10);
			const outcome = sortSmtpError(
				Object.assign(new Error('x'), {
					command: 'RCPT TO',
					responseCode: 554,
					response: '554 5.7.1 relaying denied'
				})
			);
			const at = await now(school.db);
			await school.db.write((tx) => writeOutcomes(tx, [{ copy: copy!, outcome, at }]));
		}
		expect(await failing()).to.equal(0);
		const { againstUs } = await courierHealth(school.db);
		expect(againstUs.map((t) => t.copies)).to.deep.equal([3]);
		expect(againstUs[0]!.detail).to.contain('relaying denied');
	});

	it('a letter to the staff that came back says so, at an address that works', async () => {
		await school.db.write((tx) =>
			putNotices(tx, [
				{
					key: 'k',
					personId: 90,
					kind: 'account',
					subject: 'Report',
					text: 'x',
					dispatchId: null,
					byMail: true,
					address: 'maren@brackwater.example'
				}
			])
		);
		const notice = (await school.db.one<{ id: number; nonce: string }>(
			'SELECT id, nonce FROM notice'
		))!;
		const address = addressFor(key, 'notice', notice, 'return.example');
		expect(await addresseeOf(school.db, key, address)).to.deep.equal({
			mailbox: 'notice',
			id: notice.id
		});
		const came = await readReturned(
			report([
				'Final-Recipient: rfc822; maren@brackwater.example',
				'Action: failed',
				'Status: 5.2.2'
			]),
			''
		);
		await school.db.write((tx) => takeReturned(tx, key, [{ address, ...came }]));
		expect(await school.db.one('SELECT state, detail FROM notice')).to.deep.equal({
			state: 'failed',
			detail: 'returned: the mailbox is full (5.2.2)'
		});
	});

	describe('and what people and machines answer', () => {
		const letter = (head: readonly string[], body: string) =>
			[
				`From: Delfina Amaro <${ours}>`,
				'Subject: Re: Boats',
				'Message-ID: <m@x.example>',
				...head,
				'',
				body
			].join('\r\n');
		const answers = () =>
			school.db.all<{ id: number; doubt: string | null }>('SELECT id, doubt FROM answer');

		// RFC 3834, RFC 5965; the others are what mail systems really send (common practice).
		for (const [what, head, path] of [
			['a bounce with a return path', ['X-Failed-Recipients: a@b.example'], ours],
			['an absence note marked by its suppression', ['X-Auto-Response-Suppress: All'], ours],
			[
				'a complaint (RFC 5965)',
				['Content-Type: multipart/report; report-type=feedback-report; boundary="b"'],
				ours
			],
			['mail of a list that can be left', ['List-Unsubscribe: <mailto:x@y.example>'], ours],
			['a challenge', ['X-Challenge: prove that you are no machine'], ours]
		] as const) {
			it(`takes ${what} for no answer`, async () => {
				await take('answer', letter(head, 'The boat?\r\n> Boats'), path);
				expect(await answers()).to.deep.equal([]);
				expect((await row()).state).to.equal('sent');
			});
		}
		for (const [from, subject] of [
			['MAILER-DAEMON@x.example', 'Hello'],
			['Mail Delivery <postmaster@x.example>', 'Hello'],
			['someone@x.example', 'Undelivered Mail Returned to Sender'],
			['no-reply@x.example', 'We have your mail']
		]) {
			it(`takes mail of ${from}, “${subject}”, for no answer`, async () => {
				await take(
					'answer',
					`From: ${from}\r\nSubject: ${subject}\r\n\r\nThe boat?\r\n> Boats`,
					'a@x.example'
				);
				expect(await answers()).to.deep.equal([]);
			});
		}

		it('takes what only looks like a machine’s for perhaps one: kept, passed on as such, and not counted until a person says so', async () => {
			await take('answer', letter([], 'Estoy ausente hasta el lunes.\r\n\r\n> Boats'), ours);
			const [answer] = await answers();
			expect(answer!.doubt).to.equal('absence-words');
			expect(await row()).to.deep.equal({ state: 'delivered', strength: 'weak' });
			const notice = await school.db.one<{ text: string; subject: string }>(
				`SELECT text, subject FROM notice`
			);
			expect(notice!.text).to.match(/may be a machine’s answer/);
			expect(notice!.subject).to.equal('Answer: Boats');
			expect(await answeredByPerson(school.db, teacher, answer!.id)).to.equal(false);
			expect(await answeredByPerson(school.db, coordinator, answer!.id)).to.equal(true);
			expect((await row()).state).to.equal('answered');
			expect((await answers())[0]!.doubt).to.equal(null);
		});

		it('doubts what comes within a minute, and what neither quotes nor names the letter', async () => {
			await school.db.run(`UPDATE delivery SET left_at = $at WHERE id = ${id}`, {
				at: (await now(school.db)) - 20_000
			});
			await take('answer', letter([], 'Yes\r\n> Boats'), ours);
			expect((await answers()).at(-1)!.doubt).to.equal('at-once');
			await school.db.run(`UPDATE delivery SET left_at = 0 WHERE id = ${id}`);
			await take(
				'answer',
				letter(['Message-ID: <m2@x.example>'], 'A fresh letter.').replace('<m@x', '<m2@x'),
				ours
			);
			expect((await answers()).at(-1)!.doubt).to.equal('nothing-quoted');
			const { nonce } = (await school.db.one<{ nonce: string }>(
				'SELECT nonce FROM delivery WHERE id = $id',
				{ id }
			))!;
			const names = messageId(key, 'return', { id, nonce }, 'return.example');
			await take(
				'answer',
				letter([`In-Reply-To: ${names}`], 'He takes the 4:10.').replace('<m@x', '<m3@x'),
				ours
			);
			expect((await answers()).at(-1)!.doubt).to.equal(null);
			expect((await row()).state).to.equal('answered');
		});

		it('passes on so many in an hour and no more, and keeps the rest', async () => {
			for (let i = 0; i < 9; i += 1) {
				await take('answer', letter([], `No ${i}\r\n> Boats`).replace('<m@x', `<m${i}@x`), ours);
			}
			expect(await answers()).to.have.length(9);
			expect(await school.db.all('SELECT 1 FROM notice')).to.have.length(5);
		});
	});

	it('a copy that may have arrived is sent once more by a person, and only by one who may', async () => {
		await school.db.run(`UPDATE delivery SET unanswered = 2 WHERE id = ${id}`);
		await school.db.run(
			`UPDATE event SET kind = 'unsure' WHERE delivery_id = ${id} AND kind = 'accepted'`
		);
		expect((await courierHealth(school.db)).unsure).to.deep.equal([
			{ id: dispatchId, subject: 'Boats', copies: 1 }
		]);
		expect((await sendOnceMore(school.db, teacher, dispatchId)).ok).to.equal(false);
		expect(await sendOnceMore(school.db, coordinator, dispatchId)).to.deep.equal({
			ok: true,
			copies: 1
		});
		expect((await row()).state).to.equal('planned');
		const me = identity(school.db);
		await school.db.run('UPDATE courier SET pid = 0');
		await me.beat();
		const [copy] = await claim(school.db, me, 'email', 10);
		expect(copy!.id).to.equal(id);
		const at = await now(school.db);
		await school.db.write((tx) =>
			writeOutcomes(tx, [{ copy: copy!, outcome: { kind: 'accepted', detail: 'ok' }, at }])
		);
		expect((await row()).state).to.equal('sent');
		expect((await sendOnceMore(school.db, coordinator, dispatchId)).ok).to.equal(false);
	});
});

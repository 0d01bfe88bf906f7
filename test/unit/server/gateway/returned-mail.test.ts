import { connect, createServer } from 'node:net';
import { expect } from 'chai';
import { createTransport } from 'nodemailer';
import {
	readReturned,
	returnMailServer,
	type Returned
} from '../../../../src/lib/server/gateway/return-mail';
import { writeNotification } from '../../../../standin/mailhouse/dsn';

const lines = (...l: string[]) => l.join('\r\n');
const kind = async (message: string, path: string | null = 'home@harbormail.example') =>
	(await readReturned(message, path)).mail.kind;
/** A letter of a person, with other head fields. */
const letter = (head: string[], body: string) =>
	lines(
		'From: Delfina Amaro <home@harbormail.example>',
		'To: a1.x@return.example',
		'Subject: Re: Boats',
		'Message-ID: <m1@harbormail.example>',
		...head,
		'',
		body
	);

describe('returned mail', () => {
	it('is read from the part for machines', async () => {
		const message = writeNotification({
			to: 'r1.x@return.example',
			recipient: 'a@b.example',
			action: 'failed',
			status: '5.1.1',
			diagnostic: '550 5.1.1 no such mailbox',
			messageId: '<1@x.example>',
			envelopeId: '<1@x.example>',
			date: new Date(0)
		});
		expect((await readReturned(message, '')).mail).to.deep.equal({
			kind: 'notification',
			notification: {
				ok: true,
				recipients: [
					{
						finalRecipient: 'a@b.example',
						originalRecipient: null,
						action: 'failed',
						status: '5.1.1',
						diagnostic: '550 5.1.1 no such mailbox',
						text: 'the mailbox does not exist'
					}
				]
			}
		});
	});

	it('settles nothing without that part, in whatever language, and its words are kept', async () => {
		const words = 'Ihre Nachricht konnte nicht zugestellt werden: 550 5.1.1 kein Postfach';
		const { mail } = await readReturned(
			lines('From: Postmaster <postmaster@b.example>', 'Subject: Unzustellbar', '', words, ''),
			''
		);
		expect(mail.kind).to.equal('automatic');
		expect(mail.kind === 'automatic' && mail.words).to.equal(`Unzustellbar ${words}`);
	});

	it('throws at nothing, however broken', async () => {
		for (const broken of [
			'',
			'\0\0\0',
			'Content-Type: multipart/report; boundary="x"\r\n\r\n--x'
		]) {
			expect(['automatic', 'answer']).to.include(await kind(broken, ''));
		}
	});

	it('is read from its beginning where the rest is cut away', async () => {
		const whole = writeNotification({
			to: 'r1.x@return.example',
			recipient: 'a@b.example',
			action: 'failed',
			status: '5.2.2',
			diagnostic: '552 5.2.2 full',
			messageId: `<1@x.example>\r\n${'x'.repeat(70)}`,
			envelopeId: '',
			date: new Date(0)
		});
		const cut = whole.slice(0, whole.indexOf('text/rfc822-headers') + 40);
		expect(await kind(cut, '')).to.equal('notification');
	});
});

describe('read receipts (RFC 8098)', () => {
	/** Source: the example of RFC 8098 section 9, mail addresses replaced. */
	const example = (disposition: string) =>
		lines(
			'Date: Wed, 20 Sep 1995 00:19:00 (EDT) -0400',
			'From: A Reader <reader@example.com>',
			'Message-Id: <199509200019.12345@example.com>',
			'Subject: Re: First draft of report',
			'To: A Sender <sender@example.org>',
			'MIME-Version: 1.0',
			'Content-Type: multipart/report;',
			'  report-type=disposition-notification;',
			'  boundary="RAA14128.773615765/example.com"',
			'',
			'--RAA14128.773615765/example.com',
			'Content-type: text/plain',
			'',
			'The message sent on 1995 Sep 19 at 13:30:00 (EDT) -0400 to A',
			'Reader <reader@example.com> with subject "First draft of',
			'report" has been displayed.',
			'',
			'This is no guarantee that the message has been read or understood.',
			'',
			'--RAA14128.773615765/example.com',
			'content-type: message/disposition-notification',
			'',
			'Reporting-UA: joes-pc.cs.example.com; Foomail 97.1',
			'Original-Recipient: rfc822;reader@example.com',
			'Final-Recipient: rfc822;reader@example.com',
			'Original-Message-ID: <199509192301.23456@example.org>',
			`Disposition: ${disposition}`,
			'',
			'--RAA14128.773615765/example.com',
			'content-type: message/rfc822',
			'',
			'[original message optionally goes here]',
			'',
			'--RAA14128.773615765/example.com--',
			''
		);
	const read = async (disposition: string) => {
		const { mail } = await readReturned(example(disposition), 'reader@example.com');
		return mail.kind === 'read receipt' ? mail.disposition : mail;
	};

	it('are read as the standard has them', async () => {
		expect(await read('manual-action/MDN-sent-manually; displayed')).to.deep.equal({
			finalRecipient: 'reader@example.com',
			originalRecipient: 'reader@example.com',
			type: 'displayed',
			byHand: true,
			modifiers: []
		});
	});

	it('tell what a person did from what a mail program did, with modifiers (section 3.2.6)', async () => {
		expect(
			await read('automatic-action/MDN-sent-automatically; deleted (by rule)/error,x-late')
		).to.deep.equal({
			finalRecipient: 'reader@example.com',
			originalRecipient: 'reader@example.com',
			type: 'deleted',
			byHand: false,
			modifiers: ['error', 'x-late']
		});
	});

	it('settle nothing where they say nothing known', async () => {
		for (const bad of ['', 'displayed', 'manual-action/MDN-sent-manually; burned']) {
			expect((await read(bad)) as object).to.include({ kind: 'automatic' });
		}
	});
});

describe('answers by mail', () => {
	it('are what a person wrote, without what they quote', async () => {
		const { mail } = await readReturned(
			letter(
				['Content-Type: text/plain; charset=utf-8'],
				'Thank you, he takes the 4:10.\r\n\r\nOn Tue, Mar 9, 2027 at 7:05 AM Maren Quill wrote:\r\n> The boat is late.\r\n'
			),
			'home@harbormail.example'
		);
		expect(mail).to.deep.equal({
			kind: 'answer',
			answer: {
				fromName: 'Delfina Amaro',
				fromAddress: 'home@harbormail.example',
				subject: 'Re: Boats',
				text: 'Thank you, he takes the 4:10.',
				whole:
					'Thank you, he takes the 4:10.\n\nOn Tue, Mar 9, 2027 at 7:05 AM Maren Quill wrote:\n> The boat is late.',
				...{ answersTo: [], quotes: true, files: [] },
				...{ messageKey: '<m1@harbormail.example>', messageId: '<m1@harbormail.example>' }
			}
		});
	});

	it('are the words of HTML where there is no plain text', async () => {
		const { mail } = await readReturned(
			letter(['Content-Type: text/html'], '<p>We are <b>coming</b></p><script>x()</script>'),
			'home@harbormail.example'
		);
		expect(mail.kind === 'answer' && mail.answer.text).to.equal('We are coming');
	});

	// RFC 3834 sections 2 and 5; RFC 2919; Precedence and X-Autoreply are common practice.
	for (const [what, head, path] of [
		['an absence note', ['Auto-Submitted: auto-replied (vacation)'], 'a@b.example'],
		['mail of a machine', ['Auto-Submitted: auto-generated'], 'a@b.example'],
		['mail with no return path', [], ''],
		['mail of a list', ['List-Id: <boats.lists.example>'], 'a@b.example'],
		['bulk mail', ['Precedence: bulk'], 'a@b.example'],
		['an old absence note', ['X-Autoreply: yes'], 'a@b.example'],
		[
			'mail that goes round in a circle (RFC 5321 section 6.3)',
			Array.from({ length: 100 }, (_, i) => `Received: from h${i}.example by h.example; x`),
			'a@b.example'
		]
	] as const) {
		it(`are not ${what}`, async () => {
			expect(await kind(letter([...head], 'I am away.'), path)).to.equal('automatic');
		});
	}

	it('are also those that say of themselves that they are none (Auto-Submitted: no)', async () => {
		expect(await kind(letter(['Auto-Submitted: no'], 'Hello'))).to.equal('answer');
	});
});

describe('the server for returned mail', () => {
	it('takes a bounce of 30 MB by its beginning, and refuses addresses that are none of ours', async () => {
		const came: Returned[] = [];
		const probe = createServer().listen(0, '127.0.0.1');
		await new Promise((r) => probe.once('listening', r));
		const { port } = probe.address() as { port: number };
		await new Promise((r) => probe.close(r));
		const server = returnMailServer(
			async (address) => address.startsWith('r1.'),
			async (returned) => void came.push(returned)
		);
		await new Promise<void>((r) => server.listen(port, '127.0.0.1', () => r()));
		const mail = createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true });
		const small = writeNotification({
			to: 'r1.x@return.example',
			recipient: 'a@b.example',
			action: 'failed',
			status: '5.3.4',
			diagnostic: '552 5.3.4 too big',
			messageId: '<1@x.example>',
			envelopeId: '',
			date: new Date(0)
		});
		const end = small.lastIndexOf('--=_');
		const filler = `${'QUJD'.repeat(19)}\r\n`.repeat(385_000);
		const big = `${small.slice(0, end)}\r\n${filler}\r\n${small.slice(end)}`;
		expect(big.length).to.be.above(30_000_000);
		const before = process.memoryUsage().rss;
		await mail.sendMail({ envelope: { from: '', to: ['r1.x@return.example'] }, raw: big });
		expect(came.map((c) => c.mail.kind)).to.deep.equal(['notification']);
		expect(process.memoryUsage().rss - before).to.be.below(250_000_000);
		let refused = '';
		await mail
			.sendMail({ envelope: { from: '', to: ['r2.x@return.example'] }, raw: small })
			.catch((e: { responseCode: number }) => (refused = String(e.responseCode)));
		expect(refused).to.equal('550');
		mail.close();
		await new Promise<void>((r) => server.close(() => r()));
		const gone = connect(port, '127.0.0.1');
		await new Promise((r) => gone.once('error', r));
	});
});

import { expect } from 'chai';
import { simpleParser, type ParsedMail } from 'mailparser';
import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import type { Letter } from '../../../../src/lib/server/gateway/mail-letter';
import { mailGateway, type MailGateway } from '../../../../src/lib/server/gateway/mail';

/** Sends letters to an SMTP server in this process and reads them back. */
describe('an email as it arrives', () => {
	let server: SMTPServer;
	let gateway: MailGateway;
	let raw = '';
	before(async () => {
		server = new SMTPServer({
			disabledCommands: ['AUTH', 'STARTTLS'],
			onData(stream, _session, done) {
				const chunks: Buffer[] = [];
				stream.on('data', (c: Buffer) => chunks.push(c));
				stream.on('end', () => {
					raw = Buffer.concat(chunks).toString('latin1');
					done();
				});
			}
		});
		await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
		gateway = mailGateway(`smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`);
	});
	after(async () => {
		gateway.close();
		await new Promise<void>((r) => server.close(() => r()));
	});
	const send = async (over: Partial<Letter> = {}): Promise<ParsedMail> => {
		const outcome = await gateway.send({
			messageId: '<1.a@return.example>',
			date: new Date(Date.UTC(2027, 2, 9)),
			from: { name: 'Maren Quill, Brackwater', address: 'letters@brackwater.example' },
			to: { name: 'Delfina Amaro', address: 'home@harbormail.example' },
			returnAddress: 'r1.a@return.example',
			replyTo: { name: 'Maren Quill', address: 'maren@brackwater.example' },
			subject: 'Boats',
			html: '<!doctype html><html lang="en"><body><p>Boats</p></body></html>',
			text: 'Boats\n',
			language: 'en',
			pictures: [],
			attached: [],
			stopLink: 'https://x.example/f/t/stop',
			...over
		});
		expect(outcome.kind).to.equal('accepted');
		return simpleParser(Buffer.from(raw, 'latin1'));
	};
	const field = (name: string) =>
		new RegExp(`^${name}: (.*(?:\\r\\n[ \\t].*)*)`, 'im')
			.exec(raw)?.[1]
			?.replace(/\r\n[ \t]/g, ' ');
	/** The types of the parts, as a tree in one line. */
	const shape = (text: string): string => {
		const type = /^content-type: ([^;\r\n]+)/im.exec(text)?.[1] ?? '?';
		const boundary = /boundary="?([^"\r\n;]+)"?/i.exec(
			text.slice(0, text.indexOf('\r\n\r\n'))
		)?.[1];
		if (!boundary) return type;
		const parts = text.split(`--${boundary}`).slice(1, -1);
		return `${type}(${parts.map((p) => shape(p.replace(/^\r\n/, ''))).join(' ')})`;
	};

	it('is plain text beside HTML, the plain one first (RFC 2046 section 5.1.4)', async () => {
		const mail = await send();
		expect(shape(raw)).to.equal('multipart/alternative(text/plain text/html)');
		expect(raw).to.match(/text\/plain; charset=utf-8;\s+format=flowed/i);
		expect(mail.text!.trim()).to.equal('Boats');
		expect(mail.html).to.contain('<p>Boats</p>');
		expect([mail.replyTo!.text, mail.subject]).to.deep.equal([
			'"Maren Quill" <maren@brackwater.example>',
			'Boats'
		]);
		expect(field('Content-Language')).to.equal('en');
	});

	it('has its pictures related to the HTML and its files beside both, with their names (RFC 2387, 2183, 2231)', async () => {
		const content = Buffer.from('89504e470d0a1a0a', 'hex');
		const mail = await send({
			html: '<html><body><img src="cid:picture-3@idle-courier" alt="x"></body></html>',
			pictures: [{ name: 'jar.png', type: 'image/png', content, cid: 'picture-3@idle-courier' }],
			attached: [
				{
					name: 'Permissão für “Ana”.pdf',
					type: 'application/pdf',
					content: Buffer.from('%PDF-1.4')
				}
			]
		});
		expect(shape(raw)).to.equal(
			'multipart/mixed(multipart/alternative(text/plain multipart/related(text/html image/png)) application/pdf)'
		);
		const [picture, file] = mail.attachments;
		expect(picture!.cid).to.equal('picture-3@idle-courier');
		expect([picture!.related, picture!.contentDisposition]).to.deep.equal([true, 'inline']);
		expect(file!.filename).to.equal('Permissão für “Ana”.pdf');
		expect(file!.content.toString()).to.equal('%PDF-1.4');
	});

	it('flows back to the paragraphs that were written, in any script (RFC 3676)', async () => {
		const paragraph = 'The boat is late, and nobody is marked late. '.repeat(8).trim();
		const text = `${paragraph}\n\n> not a quote\n\nالقارب متأخر اليوم بسبب الضباب\n\nNguyễn Thị Bích\n`;
		const mail = await send({ text });
		expect(mail.text!.trim()).to.equal(text.trim());
		for (const line of raw.split('\r\n')) expect(line.length, line).to.be.at.most(998);
	});

	it('offers to stop in one step (RFC 8058 section 3.1, RFC 2369 section 3.2), and only where it is due', async () => {
		await send();
		expect(field('List-Unsubscribe')).to.equal('<https://x.example/f/t/stop>');
		expect(field('List-Unsubscribe-Post')).to.equal('List-Unsubscribe=One-Click');
		await send({ stopLink: null });
		expect(raw).not.to.match(/^list-unsubscribe/im);
	});

	it('takes no header from what somebody wrote', async () => {
		const mail = await send({
			subject: 'Boats\r\nBcc: x@y.example',
			replyTo: { name: 'x', address: 'a@b.example\r\nX-Bad: 1' },
			to: { name: 'Ana\r\nBcc: x@y.example', address: 'home@harbormail.example' }
		});
		expect(mail.bcc).to.equal(undefined);
		expect(raw).not.to.match(/^(bcc|x-bad):/im);
	});
});

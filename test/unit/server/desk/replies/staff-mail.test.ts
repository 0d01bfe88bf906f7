import { expect } from 'chai';
import { takeReturned } from '../../../../../courier/receipts';
import { addressFor } from '../../../../../src/lib/server/access/tokens';
import { bodyText } from '../../../../../src/lib/core/copy/plain';
import { wordingSchema } from '../../../../../src/lib/core/copy/words';
import { notice } from '../../../../../src/lib/server/db/models/running';
import { keepAnswerFiles } from '../../../../../src/lib/server/desk/replies/answer-files';
import { readReturned } from '../../../../../src/lib/server/gateway/return-mail';
import { answeredSchool, type AnsweredSchool } from './answered-school';

const key = Buffer.alloc(32, 7);
const maren = 'maren.quill@brackwater.example';
const pdf = Buffer.from('%PDF-1.4\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n');

describe('what staff answer from their own mail program', () => {
	let school: AnsweredSchool;
	beforeEach(async () => {
		school = await answeredSchool();
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (90, 'email', '${maren}', 'unknown')`
		);
		await school.text('+12075550102', 'When does it end?');
	});
	afterEach(() => school.close());

	/** A letter comes to the address of the notice that told of Bao's answer. */
	async function come(
		from: string,
		text: string,
		{ head = [], file }: { head?: string[]; file?: Buffer } = {}
	) {
		const row = (await school.db.rows(notice).one({ kind: 'answer' }))!;
		const address = addressFor(key, 'staff', row, 'return.example');
		const raw = [
			`From: Maren Quill <${from}>`,
			'Subject: Re: Answer: Boats',
			`Message-ID: <${text.length}.${from}>`,
			...head,
			'MIME-Version: 1.0',
			'Content-Type: multipart/mixed; boundary=x',
			'',
			'--x',
			'Content-Type: text/plain; charset=utf-8',
			'',
			text,
			...(file
				? [
						'--x',
						'Content-Type: application/octet-stream; name="plan"',
						'Content-Disposition: attachment; filename="plan"',
						'Content-Transfer-Encoding: base64',
						'',
						file.toString('base64')
					]
				: []),
			'--x--',
			''
		].join('\r\n');
		const came = await readReturned(raw, from);
		const files =
			came.mail.kind === 'answer'
				? await keepAnswerFiles(school.folder, came.mail.answer.files, 1_000_000)
				: [];
		await school.db.write((tx) => takeReturned(tx, key, [{ address, ...came, files }]));
	}
	const sent = async () =>
		(
			await school.db.all<{ wording: string; sender: number; address: string; files: number }>(
				`SELECT wording, sender_id AS sender, address, (SELECT count(*) FROM dispatch_file WHERE dispatch_id = dispatch.id) AS files
				FROM dispatch JOIN delivery ON dispatch_id = dispatch.id WHERE kind = 'answer' ORDER BY dispatch.id`
			)
		).map(({ wording, ...row }) => ({
			...row,
			words: bodyText(wordingSchema.parse(JSON.parse(wording)).words.body).trim()
		}));
	const refused = () =>
		school.db.all<{ subject: string; text: string }>(
			`SELECT subject, text FROM notice WHERE kind = 'not-sent' ORDER BY id`
		);

	it('goes to the family by the way it used, without what is quoted, from the school, once, with its files; it stands in the conversation', async () => {
		const quoted = `At four, at the pier.\r\n\r\nOn Tue, Mar 9, 2027 at 10:00 AM letters@brackwater.example wrote:\r\n> When does it end?`;
		await come(maren, quoted, { file: pdf });
		await come(maren, quoted, { file: pdf });
		expect(await sent()).to.deep.equal([
			{ sender: 90, address: '+12075550102', files: 1, words: 'At four, at the pier.' }
		]);
		const talk = (await school.opened(await school.talkWith(12)))!;
		expect(talk.state).to.equal('settled');
		expect(talk.lines.at(-1)).to.deep.include({ kind: 'ours', mine: true, files: ['plan.pdf'] });
		expect(await refused()).to.deep.equal([]);
	});

	it('from an address that is not theirs goes to nobody, and they are told with what was written', async () => {
		await come('else@where.example', 'School is closed, tell everybody.');
		expect(await sent()).to.deep.equal([]);
		const [told] = await refused();
		expect(told!.subject).to.equal('Not sent: Boats');
		expect(told!.text).to.contain('else@where.example').and.contain('School is closed');
		expect((await school.look()).counts.waiting).to.equal(1);
	});

	it('by a machine goes to nobody: an absence note of their own, with or without its sign (RFC 3834 section 5)', async () => {
		await come(maren, 'I am out of office.', { head: ['Auto-Submitted: auto-replied'] });
		await come(maren, 'I am out of office until Monday.');
		expect([await sent(), await refused()]).to.deep.equal([[], []]);
	});

	it('is sent no more once they may not see the conversation, or no way is left; nothing of it is lost', async () => {
		await school.db.run('UPDATE role SET ends_at = 1 WHERE person_id = 90');
		await come(maren, 'At four.');
		expect(await sent()).to.deep.equal([]);
		expect((await refused())[0]!.text)
			.to.contain('do not sign in')
			.and.contain('At four.');
		await school.db.run('UPDATE role SET ends_at = NULL WHERE person_id = 90');
		await school.text('+12075550102', 'STOP');
		await school.db.run('UPDATE person SET has_inbox = 0 WHERE id = 12');
		await come(maren, 'At four, then.');
		expect(await sent()).to.deep.equal([]);
		expect((await refused()).at(-1)!.text)
			.to.contain('No way works')
			.and.contain('At four, then.');
	});

	it('without words of its own is not sent', async () => {
		await come(maren, '\r\n> When does it end?\r\n');
		expect(await sent()).to.deep.equal([]);
		expect((await refused())[0]!.text).to.contain('no words of its own');
	});

	it('is no way in for a machine: so many in an hour and no more, none to a letter that is 30 days old', async () => {
		for (let n = 1; n <= 12; n++) await come(maren, `Line ${'x'.repeat(n)}`);
		expect(await sent()).to.have.length(10);
		expect((await refused()).map((r) => r.text.split('.')[0])).to.deep.equal([
			'You have answered 10 times within an hour in this conversation',
			'You have answered 10 times within an hour in this conversation'
		]);
		for (let n = 1; n <= 9; n++) await come('else@where.example', 'y'.repeat(n));
		expect(await refused()).to.have.length(5);
		await school.pass(29 * 86_400_000);
		await come(maren, 'Still in time for this one.');
		expect(await sent()).to.have.length(11);
		await school.pass(86_400_000);
		await come(maren, 'Too late by now, after all of it.');
		expect(await sent()).to.have.length(11);
		expect((await refused()).at(-1)!.text)
			.to.contain('30 days')
			.and.contain('Too late by now, after all of it.');
	});

	it('that comes again leaves no second copy of its files', async () => {
		await come(maren, 'At four.', { file: pdf });
		await come(maren, 'At four.', { file: pdf });
		expect(await school.db.all("SELECT 1 FROM file WHERE name = 'plan.pdf'")).to.have.length(1);
	});
});

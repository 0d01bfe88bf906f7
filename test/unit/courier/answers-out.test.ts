import { expect } from 'chai';
import { claim } from '../../../courier/claim';
import { handovers } from '../../../courier/digests';
import { identity, type Identity } from '../../../courier/identity';
import { writingOut } from '../../../courier/writing-out';
import { messageId } from '../../../src/lib/server/access/tokens';
import { mailOf, type Letter } from '../../../src/lib/server/gateway/mail-letter';
import type { Outcome } from '../../../src/lib/server/gateway/outcome';
import type { TextMessage } from '../../../src/lib/server/gateway/text';
import type { Settings } from '../../../src/lib/server/settings';
import { answeredSchool, type AnsweredSchool } from '../server/desk/replies/answered-school';

const key = Buffer.alloc(32, 7);
const taken: Outcome = { kind: 'accepted', detail: 'taken' };

describe('an answer of ours leaves', () => {
	let school: AnsweredSchool;
	let me: Identity;
	let letters: Letter[];
	let texts: TextMessage[];
	beforeEach(async () => {
		school = await answeredSchool();
		[letters, texts] = [[], []];
		me = identity(school.db);
		await me.beat();
	});
	afterEach(() => school.close());

	/** Hands over all that is due, as the courier does. */
	async function leave() {
		await school.pass(1_000);
		const settings = {
			...{ publicUrl: 'https://x.example', returnDomain: 'return.example' },
			dataFolder: school.folder
		} as Settings;
		const out = writingOut(school.db, key, settings, {
			mail: { send: (letter: Letter) => (letters.push(letter), Promise.resolve(taken)) },
			text: { send: (text: TextMessage) => (texts.push(text), Promise.resolve(taken)) }
		} as unknown as Parameters<typeof writingOut>[3]);
		for (const [way, make] of [
			['email', out.emails],
			['text', out.texts]
		] as const) {
			const copies = await claim(school.db, me, way, 10);
			const send = await make(copies);
			for (const handover of handovers(copies)) await send(handover);
		}
	}

	it('by mail beside what it answers (RFC 5322 sections 3.6.4 and 3.6.5), asking for no more of its kind, and as no bulk', async () => {
		await school.mail(10, 'Can he bring boots?', { messageId: '<m1@there.example>' });
		await school.answer(await school.talkWith(10), 'Yes, {{both}} of them.', { atOnce: true });
		await leave();
		const [letter] = letters;
		const copy = (await school.db.one<{ id: number; nonce: string }>(
			`SELECT id, nonce FROM delivery WHERE way = 'email' AND dispatch_id = $id`,
			{ id: school.dispatchId }
		))!;
		const root = messageId(key, 'return', copy, 'return.example');
		expect(letter).to.deep.include({
			subject: 'Re: Boats',
			stopLink: null,
			to: { name: 'Delfina Amaro', address: 'home@harbormail.example' },
			thread: { inReplyTo: '<m1@there.example>', references: [root, '<m1@there.example>'] }
		});
		// Nothing that was written is taken for a field.
		expect(letter!.text).to.contain('Yes, { {both}} of them.');
		expect(letter!.replyTo!.address).to.match(/^a\d+\.[0-9a-f]{20}@return\.example$/);
		const headers = mailOf(letter!).headers as Record<string, string>;
		expect(headers).not.to.have.any.keys('Precedence', 'Auto-Submitted', 'List-Unsubscribe');
		// A second answer stands behind the first.
		await school.mail(10, 'Thank you. Which pier?', { messageId: '<m2@there.example>' });
		await school.answer(await school.talkWith(10), 'The north one.', { atOnce: true });
		await leave();
		expect(letters[1]!.thread!.references).to.deep.equal([
			root,
			'<m1@there.example>',
			'<m2@there.example>'
		]);
	});

	it('by text as it was written, with who writes and no link', async () => {
		await school.text('+12075550102', 'When does it end?');
		await school.answer(await school.talkWith(12), 'At four.', { atOnce: true });
		await leave();
		expect(texts.map((t) => [t.to, t.text])).to.deep.equal([
			['+12075550102', 'At four. - Maren Quill']
		]);
	});

	it('in the family’s language where a draft of it was looked over', async () => {
		await school.text('+12075550102', 'Mấy giờ thì xong ạ?');
		await school.answer(await school.talkWith(12), 'At four.', {
			atOnce: true,
			translated: { language: 'vi', words: 'Lúc bốn giờ.' }
		});
		await leave();
		expect(texts[0]!.text).to.equal('Lúc bốn giờ. - Maren Quill');
		const [, ours] = (await school.opened(await school.talkWith(12)))!.lines;
		expect(ours).to.include({ words: 'At four.', sentAs: 'Lúc bốn giờ.' });
	});
});

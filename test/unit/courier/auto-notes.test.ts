import { expect } from 'chai';
import { sendAutoNotes, nextAutoNote } from '../../../courier/auto-notes';
import type { House } from '../../../courier/house';
import { takeReturned } from '../../../courier/receipts';
import { addressFor, joinToken } from '../../../src/lib/server/access/tokens';
import { now } from '../../../src/lib/server/clock';
import { readDistrict, writeDistrict } from '../../../src/lib/server/db/district';
import { autoNote } from '../../../src/lib/server/db/models/talk';
import { mailOf, type Letter } from '../../../src/lib/server/gateway/mail-letter';
import type { Outcome } from '../../../src/lib/server/gateway/outcome';
import type { TextMessage } from '../../../src/lib/server/gateway/text';
import { key, openSchool, type OpenSchool } from '../server/desk/joining/open-school';

const phone = '+12075550177';
const ana = 'ana@pires.example';
const accepted: Outcome = { kind: 'accepted', detail: 'taken' };

describe('what is said to whoever joins', () => {
	let school: OpenSchool;
	let letters: Letter[];
	let texts: TextMessage[];
	/** What providers say next. */
	/** Whether this courier may send: another is in office, or the database was put back. */
	let holds: boolean;
	let outcome: { email: Outcome; text: Outcome };
	beforeEach(async () => {
		school = await openSchool();
		holds = true;
		[letters, texts, outcome] = [[], [], { email: accepted, text: accepted }];
	});
	afterEach(() => school.close());
	const home = () =>
		({
			...{ db: school.db, key, me: { holds: () => Promise.resolve(holds) } },
			settings: { publicUrl: 'https://courier.example', returnDomain: 'return.example' },
			mail: {
				send(letter: Letter) {
					letters.push(letter);
					return Promise.resolve(outcome.email);
				}
			},
			text: {
				send(message: TextMessage) {
					texts.push(message);
					return Promise.resolve(outcome.text);
				}
			}
		}) as unknown as House;
	const sendAll = async () =>
		(await sendAutoNotes(home(), 'email')) + (await sendAutoNotes(home(), 'text'));
	const states = () =>
		school.db.all<{ kind: string; state: string; attempts: number }>(
			'SELECT kind, state, attempts FROM auto_note ORDER BY id'
		);

	it('leaves by the way it was asked by, once, in the reader’s language', async () => {
		await school.text('+12075550102', 'KELP');
		await school.text('+12075550102', 'Bao Pham');
		expect(await sendAll()).to.equal(2);
		expect(await sendAll()).to.equal(0);
		expect(await nextAutoNote(school.db, 'text')).to.equal(null);
		expect(texts.map((t) => t.to)).to.deep.equal(['+12075550102', '+12075550102']);
		// Bao reads Vietnamese.
		expect(texts[0]!.text).to.contain('Kelp Garden').and.to.contain('trả lời');
		expect(texts[0]!.reference).not.to.equal(texts[1]!.reference);
	});

	it('what the district adds for whoever answers an announcement stands behind our own words, and nowhere else', async () => {
		const district = await readDistrict(school.db);
		await school.db.write((tx) =>
			writeDistrict(tx, { ...district, oneWayWords: 'Call the office: 555-0100.' })
		);
		const at = Math.round(await now(school.db));
		for (const kind of ['one-way', 'help'] as const)
			await school.db.rows(autoNote).add({
				...{ kind, way: 'text', address: phone, language: 'es', joiningId: null },
				...{ conversationId: null, deliveryId: null, linkId: null, state: 'waiting' },
				...{ madeAt: at, dueAt: at, detail: '', answers: null, nonce: kind }
			});
		await sendAll();
		expect(texts.map((t) => t.text.endsWith(' Call the office: 555-0100.'))).to.deep.equal([
			...[true, false]
		]);
		expect(texts[0]!.text).to.contain('nadie lee');
	});

	it('is a letter that answers theirs, written by a machine, with a page of its reader’s own (RFC 3834 sections 3.1.5 and 5)', async () => {
		await school.mail(ana, { name: 'Ana Pires' });
		await sendAll();
		const [letter] = letters;
		const token = joinToken(key, (await school.row(ana))!);
		expect(letter!.text).to.contain(`https://courier.example/join/me/${token}`);
		expect(letter!.html).to.contain(`/join/me/${token}`).and.not.to.contain('<script');
		expect(letter!.to).to.deep.equal({ name: 'Ana Pires', address: ana });
		const mail = mailOf(letter!);
		expect(mail.headers).to.include({ 'Auto-Submitted': 'auto-replied' });
		expect(mail).to.include({ inReplyTo: '<letter-1@there.example>' });
	});

	it('waits while its provider is away, without holding up the other way, and is tried again by rule', async () => {
		await school.text(phone, 'KELP');
		await school.mail(ana);
		outcome.text = { kind: 'unavailable', why: 'no connection' };
		expect(await sendAll()).to.equal(1);
		expect(await states()).to.deep.equal([
			{ kind: 'ask-name', state: 'waiting', attempts: 0 },
			{ kind: 'ask', state: 'sent', attempts: 1 }
		]);
		outcome.text = { kind: 'deferred', detail: 'not now' };
		await sendAll();
		expect(await nextAutoNote(school.db, 'text')).to.be.greaterThan(await now(school.db));
		outcome.text = accepted;
		expect(await sendAll()).to.equal(0);
		await school.pass(24 * 3_600_000);
		expect(await sendAll()).to.equal(1);
		expect((await states())[0]).to.include({ state: 'sent', attempts: 2 });
	});

	it('by one way does not wait for the other, whose provider gives no answer; nothing leaves from a database that is held', async () => {
		await school.text(phone, 'KELP');
		await school.mail(ana);
		holds = false;
		expect(await sendAll()).to.equal(0);
		holds = true;
		const slow = { ...home(), mail: { send: () => new Promise(() => {}) } } as unknown as House;
		void sendAutoNotes(slow, 'email');
		expect(await sendAutoNotes(slow, 'text')).to.equal(1);
		expect((await states()).map((n) => n.state)).to.deep.equal(['sent', 'waiting']);
	});

	it('STOP that comes while something is being said to a phone is not undone by what became of it', async () => {
		await school.text(phone, 'KELP');
		outcome.text = { kind: 'deferred', detail: 'not now' };
		const late = {
			...home(),
			text: {
				async send() {
					await school.text(phone, 'STOP');
					return outcome.text;
				}
			}
		} as unknown as House;
		await sendAutoNotes(late, 'text');
		expect((await states())[0]).to.include({ state: 'failed' });
	});

	it('that comes back is said beside whoever it was for', async () => {
		await school.mail(ana);
		await sendAll();
		const address = letters[0]!.returnAddress;
		const note = (await school.db.rows(autoNote).one({ id: 1 }))!;
		expect(address).to.equal(addressFor(key, 'join', note, 'return.example'));
		const failed = {
			...{ action: 'failed', status: '5.1.1', text: 'no such mailbox', diagnostic: '' },
			...{ finalRecipient: ana, originalRecipient: null }
		};
		await school.db.write((tx) =>
			takeReturned(tx, key, [
				{
					address,
					mail: {
						kind: 'notification',
						notification: { ok: true, recipients: [failed] } as never
					},
					asItCame: { words: '', machine: '' }
				}
			])
		);
		expect((await states())[0]).to.include({ state: 'failed' });
	});

	it('is asked of nobody by a letter that a machine wrote', async () => {
		await school.db.write((tx) =>
			takeReturned(tx, key, [
				{
					address: 'join-kelp@return.example',
					mail: { kind: 'automatic', why: 'an absence note', words: '' },
					asItCame: { words: '', machine: '' }
				}
			])
		);
		expect(await states()).to.deep.equal([]);
	});
});

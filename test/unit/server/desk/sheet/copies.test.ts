import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { bodyText } from '../../../../../src/lib/core/copy/plain';
import { copyValues } from '../../../../../src/lib/core/copy/values';
import { withOwn, withWords, wordingOf } from '../../../../../src/lib/core/copy/words';
import { tokenOf } from '../../../../named';
import { deliveryFacts } from '../../../../../src/lib/server/db/copy-facts';
import { migrate } from '../../../../../src/lib/server/db/migrate';
import { inboxOf } from '../../../../../src/lib/server/desk/family/family';
import {
	giveUpWording,
	keepWording,
	keptWordings
} from '../../../../../src/lib/server/desk/sheet/kept-wordings';
import { dispatchLetters } from '../../../../../src/lib/server/desk/sheet/letters';
import {
	hasStopped,
	kindOfDispatch,
	setStopped
} from '../../../../../src/lib/server/desk/family/own-choices';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { wordingInput } from '../../../../../src/lib/server/desk/plan/wording-input';
import { planBook, plannedFacts } from '../../../../../src/lib/server/desk/plan/plan-facts';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import {
	proofOf,
	proofReaders,
	proofState,
	sendProof
} from '../../../../../src/lib/server/desk/plan/proof';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { listWords } from '../../../../../src/lib/core/copy/list-words';
import {
	sheetColumns,
	sheetOfRow,
	type SheetRow
} from '../../../../../src/lib/server/desk/sheet/sheet-row';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { textLengths } from '../../../../../src/lib/server/desk/plan/text-lengths';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { openLink } from '../../../../../src/lib/server/access/private-link';

const key = Buffer.alloc(32, 7);
const site = 'http://x.example';
const places = { publicUrl: site, returnDomain: 'returns.x.example' };

describe('what each copy says', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const words =
		'Dear {{first_name}}, {{student}} in {{section}} with {{teacher}}{{^teacher}}us{{/teacher}}, {{school}}, {{grade}}.';
	const sheet = (over = {}) => sheetOf({ holdMinutes: 0, body: words, ...over });
	const send = async (s = sheet()) => {
		const { tally } = await landing(school.db, coordinator, s);
		const sent = await schedule(school.db, key, coordinator, s, tally.copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		await school.db.run(`UPDATE delivery SET state = 'delivered' WHERE dispatch_id = $id`, {
			id: sent.dispatchId
		});
		return sent.dispatchId;
	};

	it('is the same where it is planned and where it has been written down', async () => {
		const s = sheet();
		const { roster, manifest } = await planSheet(school.db, coordinator, s);
		const id = await send(s);
		const rows = await school.db.all<{ id: number; personId: number; way: string }>(
			'SELECT id, person_id AS personId, way FROM delivery WHERE dispatch_id = $id',
			{ id }
		);
		const written = await deliveryFacts(
			school.db,
			rows.map((r) => r.id)
		);
		const book = await planBook(school.db, coordinator, s.wording);
		for (const copy of manifest.copies) {
			const row = rows.find((r) => r.personId === copy.personId && r.way === copy.way)!;
			expect(written.get(row.id)!.facts).to.deep.equal(plannedFacts(roster, book, manifest, copy));
		}
		expect(rows).to.have.length(manifest.copies.length);
	});

	it('has a gap exactly where no student of it has something to say, whoever reads and by whatever way', async () => {
		const names = ['student', 'student_full', 'section', 'period', 'teacher', 'school', 'grade'];
		// Some without a grade level, one without a school: the roster is not complete.
		await school.db.run(`UPDATE person SET grade_level = NULL WHERE id IN (1, 2)`);
		await school.db.run(`UPDATE person SET school_id = NULL WHERE id = 3`);
		await school.db.write(rosterChanged);
		for (const audience of [
			audienceOf([100, 101], ['guardians', 'students']),
			audienceOf([100], ['all-guardians', 'section-staff'])
		]) {
			const s = sheet({ audience, body: names.map((n) => `{{${n}}}`).join(' ') });
			const planned = await planSheet(school.db, coordinator, s);
			const { tally } = await landing(school.db, coordinator, s);
			const { emptyFields } = await wordingInput(school.db, coordinator, s, planned, tally);
			const book = await planBook(school.db, coordinator, s.wording);
			const { roster, manifest } = planned;
			const gaps = (name: string) =>
				new Set(
					manifest.copies
						.filter((c) => {
							const facts = plannedFacts(roster, book, manifest, c);
							return copyValues(facts, () => '', 'en')(name) === '';
						})
						.map((c) => c.personId)
				).size;
			expect(Object.fromEntries(emptyFields.map((e) => [e.field, e.people]))).to.deep.equal(
				Object.fromEntries(names.map((n) => [n, gaps(n)]).filter(([, n]) => n !== 0))
			);
			expect(emptyFields.map((e) => e.field)).to.include('grade');
		}
	});

	it('is in the proof as it is in the letter, the text and the inbox that arrive', async () => {
		const s = sheet();
		const proof = (await proofOf(school.db, places, coordinator, s, 10))!;
		const id = await send(s);
		const { letters } = await dispatchLetters(school.db, id);
		const rows = await school.db.all<{ id: number; way: string }>(
			'SELECT id, way FROM delivery WHERE dispatch_id = $id AND person_id = 10',
			{ id }
		);
		const facts = await deliveryFacts(
			school.db,
			rows.map((r) => r.id)
		);
		const tokens = new Map<number, string>();
		for (const { id } of rows) tokens.set(id, await tokenOf(school.db, key, id));
		const copyBy = (way: string) => {
			const row = rows.find((r) => r.way === way)!;
			const { facts: f, language } = facts.get(row.id)!;
			const link = `${site}/f/${tokens.get(row.id)}`;
			return { facts: f, language, link, mayStop: true };
		};
		// A proof holds no picture of one dot: of it nothing is learned.
		const linkless = (text: string) =>
			text.replace(/<img src="[^"]*dot\.gif"[^>]*>/, '').replace(/\/f\/[\w-]{22}/g, '/f/');
		const email = letters.email(copyBy('email'));
		if (!proof.email?.ok || !proof.text?.ok || !proof.inbox?.ok) throw new Error('no copies');
		expect(linkless(email.html)).to.equal(linkless(proof.email.copy.html));
		expect(linkless(email.text)).to.equal(linkless(proof.email.copy.text));
		expect(email.text).to.contain(
			'Dear Delfina, Ana and Rui in Mathematics 7-A with Chidi Okafor, Heron Landing, 7.'
		);
		expect(linkless(letters.text(copyBy('text')))).to.equal(linkless(proof.text.copy.text));
		const [letter] = (await inboxOf(school.db, 10, '/f/x')).letters;
		expect([letter!.subject, letter!.html, letter!.about]).to.deep.equal([
			proof.inbox.copy.subject,
			proof.inbox.copy.html,
			proof.inbox.copy.about
		]);
		expect(proof.email.copy.answers).to.match(
			/of this copy’s own at returns\.x\.example, passed on to/
		);
		const oneWay = await proofOf(
			school.db,
			places,
			coordinator,
			{ ...s, kind: 'announcement' },
			10
		);
		expect(oneWay!.email?.ok && oneWay!.email.copy.answers).to.equal('none: it is one-way');
		expect(await proofOf(school.db, places, coordinator, s, 91)).to.equal(null);
	});

	it('is offered to be looked at as those for whom it may go wrong', async () => {
		const readers = await proofReaders(school.db, coordinator, sheet(), '');
		expect(readers.map((r) => [r.name, r.why])).to.deep.equal([
			['Delfina Amaro', 'gets it by every way'],
			['Bao Pham', 'reads Vietnamese']
		]);
		const found = await proofReaders(school.db, coordinator, sheet(), 'pAULo amaro');
		expect(found.map((r) => r.name)).to.deep.equal(['Paulo Amaro']);
	});

	it('goes to its writer as a proof where they have an address, else it is said why not', async () => {
		const ask = (way: 'email' | 'text' | 'inbox') =>
			sendProof({ db: school.db, key, site: places }, coordinator, {
				sheet: sheet(),
				personId: 10,
				way
			});
		const none = await ask('email');
		expect(none.ok ? '' : none.why).to.equal(
			'It cannot be sent to you by email: No email address on file.'
		);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (90, 'email', 'maren@brackwater.example', 'unknown')`
		);
		await school.db.run('INSERT INTO roster_change (person_id) VALUES (90)');
		const sent = await ask('email');
		if (!sent.ok) throw new Error(sent.why);
		expect(sent.address).to.equal('maren@brackwater.example');
		expect(await proofState(school.db, coordinator, sent.proofId)).to.deep.equal({
			state: 'waiting',
			detail: ''
		});
		expect(await proofState(school.db, teacher, sent.proofId)).to.equal(null);

		const inbox = await ask('inbox');
		if (!inbox.ok) throw new Error(inbox.why);
		const link = await openLink(school.db, inbox.address.replace('/f/', ''));
		expect(link).to.deep.include({ ok: true, personId: 90, dispatchId: null });
		const [proof] = (await inboxOf(school.db, 90, inbox.address)).letters;
		expect([proof!.subject, proof!.proofAs]).to.deep.equal(['Proof: Boats', 'Delfina Amaro']);
		expect(proof!.html).to.contain('Dear Delfina, Ana and Rui');
		expect((await inboxOf(school.db, 10, '/f/x')).letters).to.deep.equal([]);
	});

	it('has no blank: a field without a value and without a fallback blocks, with the names', async () => {
		const toDrama = sheet({ audience: audienceOf([101]), body: 'With {{teacher}}.' });
		const { checks } = await landing(school.db, coordinator, toDrama);
		expect(checks.filter((c) => c.level === 'block').map((c) => c.text)).to.deep.equal([
			'“teacher of the section” has no value for 1 person: Bao Pham. Give it a fallback, or take it out.'
		]);
		const given = sheet({ audience: audienceOf([101]) });
		expect(
			(await landing(school.db, coordinator, given)).checks.some((c) => c.level === 'block')
		).to.equal(false);
	});

	it('counts the texts with their own values: shortest, typical, longest, by language', async () => {
		const base = wordingOf('Boats', 'x');
		const own = withWords(
			base,
			'en',
			withOwn(base.words, 'text', { text: '{{student}}: late', link: false })
		);
		const lengths = (await textLengths(school.db, site, coordinator, sheetOf({ wording: own })))!;
		expect(lengths.texts).to.equal(2);
		expect([lengths.shortest.text, lengths.longest.text]).to.deep.equal([
			'Linh: late - Maren Quill',
			'Ana and Rui: late - Maren Quill'
		]);
		expect(lengths.byLanguage).to.deep.equal([
			{ language: 'en', name: 'English', texts: 2, parts: 2 }
		]);
		expect(await textLengths(school.db, site, coordinator, sheetOf({ ways: ['email'] }))).to.equal(
			null
		);
	});

	it('is read by older rows too: words that were stored as plain text are a wording', async () => {
		await send();
		await school.db.run(`DELETE FROM migration WHERE name = '003-wording'`);
		for (const drop of [
			'ALTER TABLE dispatch DROP COLUMN wording',
			'ALTER TABLE dispatch DROP COLUMN letter',
			'ALTER TABLE dispatch DROP COLUMN board',
			'DROP TABLE dispatch_file',
			'DROP TABLE file',
			'DROP TABLE kept_wording',
			'DROP TABLE proof',
			`UPDATE dispatch SET subject = 'Old "one"', body = 'First line
second'`
		]) {
			await school.db.run(drop);
		}
		await migrate(school.db);
		const row = await school.db.one<SheetRow>(`SELECT ${sheetColumns} FROM dispatch`);
		const { wording } = sheetOfRow(row!);
		expect(wording.words.subject).to.equal('Old "one"');
		expect(bodyText(wording.words.body)).to.equal('First line\nsecond');
	});

	it('stands in lists with the names of its fields', () => {
		expect(
			listWords(
				'{{student}}{{^student}}x{{/student}}: {{date:2027-03-12}} {{#teacher}}t{{/teacher}}'
			)
		).to.equal('[student’s first name, or names]: [2027-03-12] t');
	});
});

describe('kept wording', () => {
	let school: TestSchool;
	before(async () => (school = await testSchool()));
	after(() => school.close());

	it('is one’s own by name, beside the set that every school begins with', async () => {
		const mine = { ...wordingOf('{{student}}', 'x'), variants: [] };
		await keepWording(school.db, coordinator, 'Ferry', mine);
		await keepWording(school.db, coordinator, 'ferry', wordingOf('Second', 'y'));
		const list = await keptWordings(school.db, coordinator);
		expect(list.map((k) => [k.name, k.id === null])).to.deep.equal([
			['ferry', false],
			...['Closure', 'Late ferry', 'Event reminder', 'Missing slip', 'Picture day', 'Welcome'].map(
				(name) => [name, true]
			)
		]);
		expect(list[0]!.wording.words.subject).to.equal('Second');
		expect((await keptWordings(school.db, teacher))[0]!.name).to.equal('Closure');
		expect(await giveUpWording(school.db, teacher, list[0]!.id!)).to.equal(false);
		expect(await giveUpWording(school.db, coordinator, list[0]!.id!)).to.equal(true);
		expect(await keptWordings(school.db, coordinator)).to.have.length(6);
	});
});

describe('stopping a kind of message by email', () => {
	let school: TestSchool;
	before(async () => (school = await testSchool()));
	after(() => school.close());

	it('holds for that kind only, from the next plan on, and can be taken back', async () => {
		const s = sheetOf({ holdMinutes: 0 });
		const sent = await schedule(school.db, key, coordinator, s, 5);
		if (!sent.ok) throw new Error('not sent');
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE way = 'email' AND person_id = 10`
		))!;
		const link = await openLink(school.db, await tokenOf(school.db, key, id));
		if (!link.ok) throw new Error('no link');
		const kind = (await kindOfDispatch(school.db, link.dispatchId))!;
		expect(kind).to.equal('message');
		const emails = async (kindOf: 'message' | 'announcement') =>
			(await landing(school.db, coordinator, sheetOf({ kind: kindOf }))).tally.byWay.email;
		expect(await emails('message')).to.equal(1);
		for (const [stopped, left] of [
			[true, 1],
			[true, 1],
			[false, 1]
		] as const) {
			await setStopped(school.db, 10, kind, stopped);
			expect(await hasStopped(school.db, 10, kind)).to.equal(stopped);
			// The other who reads at that address has not stopped: the copy is theirs now.
			expect(await emails('message')).to.equal(left);
		}
		await setStopped(school.db, 10, kind, true);
		await setStopped(school.db, 11, kind, true);
		expect([await emails('message'), await emails('announcement')]).to.deep.equal([0, 1]);
		expect(await kindOfDispatch(school.db, null)).to.equal(null);
	});
});

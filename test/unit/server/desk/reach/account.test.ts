import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { placeInbox } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { accountText } from '../../../../../src/lib/core/track/account';
import { growthOf } from '../../../../../src/lib/core/track/growth';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { readAccount } from '../../../../../src/lib/server/desk/reach/account';
import { accountPdf } from '../../../../../src/lib/server/desk/reach/account-pdf';
import { accountSheet } from '../../../../../src/lib/server/desk/reach/account-sheet';
import { deliveryCsv } from '../../../../../src/lib/server/desk/reach/delivery-csv';
import { inboxOf } from '../../../../../src/lib/server/desk/family/family';
import { failingAddresses, mendAddress } from '../../../../../src/lib/server/desk/people/mend';
import { mendDigest } from '../../../../../src/lib/server/desk/staff/mend-digest';
import { personView } from '../../../../../src/lib/server/desk/people/person';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { reportEnded } from '../../../../../src/lib/server/desk/staff/reports';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import {
	coordinator,
	sheetOf,
	teacher,
	testSchool,
	testStart,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;
const day = 86_400_000;

/** The words of a PDF, by Debian's pdftotext (poppler-utils). */
function wordsOf(pdf: Uint8Array): string {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-pdf-'));
	try {
		writeFileSync(join(folder, 'x.pdf'), pdf);
		return execFileSync('pdftotext', ['-layout', join(folder, 'x.pdf'), '-'], {
			encoding: 'utf8'
		});
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
}

describe('the account of a dispatch', () => {
	let school: TestSchool;
	let id: number;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.run(
			`UPDATE address SET failing = 'the mailbox does not exist', failing_since = ${testStart - day} WHERE person_id = 11`
		);
		await school.db.write((tx) => rosterChanged(tx));
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ ways: ['inbox', 'text'], holdMinutes: 0 }),
			4
		);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		id = sent.dispatchId;
		const me = identity(school.db);
		await me.beat();
		await placeInbox(school.db, me);
	});
	afterEach(() => school.close());
	const happens = async (
		person: number,
		way: string,
		kind: 'accepted' | 'failed' | 'acknowledged' | 'stopped',
		detail = 'x',
		said = ''
	) =>
		school.db.write(async (tx) => {
			const copy = await tx.one<{ id: number }>(
				'SELECT id FROM delivery WHERE person_id = $person AND way = $way',
				{ person, way }
			);
			const at = await now(tx);
			await record(tx, [{ deliveryId: copy!.id, at, kind, source: 'courier', detail, said }]);
		});

	it('says to whom, by what, who has read, and to whom not and why; its sums are those of Reach', async () => {
		await happens(10, 'inbox', 'acknowledged');
		await happens(10, 'text', 'accepted');
		await happens(12, 'text', 'failed', 'the number is not in service', 'receipt, UNDELIV 001');
		const account = (await readAccount(school.db, coordinator, id))!;
		const reach = (await dispatchReach(school.db, coordinator, id, everything))!;
		expect(account.sentence).to.equal(`${reach.coverage.sentence}.`);
		expect(
			account.parts.map((p) => [
				p.heading,
				...p.rows.map((r) => `${r.value} ${r.label} ${r.note}`.trim())
			])
		).to.deep.equal([
			['To whom: 2 people, 4 copies', '2 Text 1 sent, 1 failed', '2 Inbox 1 read, 1 delivered'],
			['Not to whom, and why: 1 person', '1 No number on file. No account for the inbox'],
			['Copies that failed: 1', '1 The number is not in service'],
			['How reading grew', '2 of 3 At this count']
		]);
		for (const w of reach.copies.byWay) {
			const line = account.parts[0]!.rows.find((r) => r.label.toLowerCase() === w.way)!;
			expect(Number(line.value)).to.equal(w.copies);
		}
	});

	it('is the same in the CSV, a line for each copy and each person left out', async () => {
		await happens(10, 'inbox', 'acknowledged', '=cmd|bad');
		const csv = (await deliveryCsv(school.db, coordinator, id))!;
		const [head, ...all] = csv.trim().split('\r\n');
		expect(head).to.match(/^copy,person,relation,students/);
		const reach = (await dispatchReach(school.db, coordinator, id, everything))!;
		const lines = all.filter((l) => /^\d/.test(l));
		expect(lines).to.have.length(4);
		expect(all).to.have.length(lines.length + reach.left.rows);
		for (const { way, states } of reach.copies.byWay) {
			for (const [state, n] of Object.entries(states)) {
				expect(
					lines.filter((l) => l.includes(`,${way},`) && l.includes(`,${state},`))
				).to.have.length(n);
			}
		}
		// Nothing a spreadsheet would run.
		expect(csv).to.contain(",'=cmd|bad,");
		expect(csv).to.contain('Delfina Amaro,mother,Ana Amaro; Rui Amaro');
		expect(csv).to.match(/2027-03-09T10:00:0\d-05:00/);
	});

	it('is the same on paper, read back word for word, in two pages at most', async () => {
		await happens(10, 'inbox', 'acknowledged');
		const words = wordsOf((await accountSheet(school.db, coordinator, id))!);
		const account = (await readAccount(school.db, coordinator, id))!;
		const flat = words.replace(/\s+/g, ' ');
		for (const said of [
			account.title,
			account.sentence,
			...account.about,
			...account.parts.flatMap((p) => [p.heading, ...p.rows.flatMap((r) => [r.label, r.value])]),
			'Not covered: 1',
			'Linh Pham, Drama 7-A'
		]) {
			expect(flat, said).to.contain(said.replace(/\s+/g, ' '));
		}
		expect(words.split('\f').filter((p) => p.trim() !== '')).to.have.length(1);
	});

	it('holds its numbers to two pages, has every name behind them, and says when it cuts, in every script of the families', async () => {
		const account = (await readAccount(school.db, coordinator, id))!;
		const names = Array.from(
			{ length: 900 },
			(_, i) => `Phạm Thị Ánh ${i}, Зоя, Ana Gonçalves, سلمى`
		);
		const pdf = await accountPdf({
			account: {
				...account,
				parts: [
					...account.parts,
					{
						key: 'failed',
						name: 'Many',
						heading: 'Many',
						rows: Array.from({ length: 12 }, (_, i) => ({
							label: `A reason that is long enough to run over more than a single line of the page, number ${i}`,
							value: String(i),
							note: 'and a remark beside it that is long as well'
						}))
					}
				]
			},
			district: 'Brackwater Isles',
			growth: growthOf([1, 2, 3], 5, 0, 60_000),
			all: 5,
			lists: {
				notCovered: names,
				notCoveredInAll: 5_000,
				leftOut: names,
				leftOutInAll: names.length
			}
		});
		const words = wordsOf(pdf);
		const pages = words.split('\f').filter((p) => p.trim() !== '');
		// 900 names twice over, at some fifty to a page.
		expect(pages.length).to.be.within(25, 40);
		expect(pages.slice(0, 2).join(' ')).to.contain('A reason that is long enough');
		expect(words).to.contain('Phạm Thị Ánh 0').and.contain('Зоя').and.contain('سلمى');
		expect(words).to.contain('Phạm Thị Ánh 899').and.contain('Not covered: 5000');
		expect(words).to.contain('and 4100 more, in Reach and its CSV');
		expect(words).to.contain(`${pages.length} of ${pages.length}`);
	});

	it('comes by itself once it has ended, once, into the inbox, and by mail where that is wanted', async () => {
		expect(await reportEnded(school.db, 'http://x.example')).to.equal(0);
		await happens(10, 'text', 'accepted');
		await happens(12, 'text', 'stopped');
		await school.db.run(
			`UPDATE dispatch SET state = 'sent', sent_at = ${testStart}, handling = json_set(handling, '$.accountByMail', json('true'))`
		);
		expect(await reportEnded(school.db, 'http://x.example')).to.equal(0);
		await moveTo(school.db, (await now(school.db)) + 3 * day + 1_000);
		expect(await reportEnded(school.db, 'http://x.example')).to.equal(1);
		expect(await reportEnded(school.db, 'http://x.example')).to.equal(0);
		const notice = (await school.db.one<{ state: string; subject: string; text: string }>(
			'SELECT state, subject, text FROM notice'
		))!;
		expect(notice).to.include({ state: 'waiting', subject: 'Report: Boats' });
		expect(notice.text).to.contain(
			accountText((await readAccount(school.db, coordinator, id))!).split('\n')[0]
		);
		expect(notice.text).to.contain(`http://x.example/reach/${id}`);
		const inbox = await inboxOf(school.db, coordinator.personId, '/f/x');
		expect(inbox.letters.map((l) => [l.subject, l.mayAcknowledge])).to.deep.equal([
			['Report: Boats', false]
		]);
	});

	it('comes as soon as everybody is covered', async () => {
		await happens(10, 'inbox', 'acknowledged');
		await happens(12, 'inbox', 'acknowledged');
		await school.db.run(`UPDATE dispatch SET state = 'sent', sent_at = ${testStart}`);
		expect(await reportEnded(school.db, 'http://x.example')).to.equal(1);
		const notice = await school.db.one<{ state: string }>('SELECT state FROM notice');
		expect(notice!.state).to.equal('inbox');
	});

	it('is not for those who may not see the dispatch', async () => {
		expect(await readAccount(school.db, teacher, id)).to.equal(null);
		expect(await deliveryCsv(school.db, teacher, id)).to.equal(null);
		expect(await accountSheet(school.db, teacher, id)).to.equal(null);
	});
});

describe('addresses to mend', () => {
	let school: TestSchool;
	let broken: number;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.run(
			`UPDATE address SET failing = 'the mailbox does not exist', failing_since = ${testStart - day / 2} WHERE way = 'email'`
		);
		broken = (await school.db.one<{ id: number }>(
			`SELECT id FROM address WHERE person_id = 10 AND way = 'email'`
		))!.id;
	});
	afterEach(() => school.close());
	const value = async () =>
		(await school.db.one<{ value: string; failing: string | null }>(
			'SELECT value, failing FROM address WHERE id = $broken',
			{ broken }
		))!;

	it('say what was missed since, and who looks after them', async () => {
		await school.db.write((tx) => rosterChanged(tx));
		await schedule(school.db, key, coordinator, sheetOf({ ways: ['email'], holdMinutes: 0 }), 0);
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ ways: ['email', 'inbox'], holdMinutes: 0 }),
			2
		);
		expect(sent.ok).to.equal(true);
		const [line] = (await failingAddresses(school.db, coordinator)).addresses.filter(
			(a) => a.personId === 11
		);
		expect(line).to.include({
			lookedAfterBy: 'Heron Landing office',
			why: 'the mailbox does not exist'
		});
		expect(line!.missed.map((m) => m.subject)).to.deep.equal(['Boats']);
	});

	it('are used again with another value, or as they are for everyone who has them', async () => {
		const mended = await mendAddress(school.db, coordinator, { id: broken, value: '' });
		expect(mended).to.deep.equal({
			ok: true,
			said: 'home@harbormail.example is used again for 2 people.'
		});
		expect((await failingAddresses(school.db, coordinator)).addresses).to.deep.equal([]);
		await school.db.run(`UPDATE address SET failing = 'full' WHERE id = ${broken}`);
		const next = await mendAddress(school.db, coordinator, {
			id: broken,
			value: ' delfina@tidebox.example '
		});
		expect(next.ok && next.said).to.contain('delfina@tidebox.example');
		expect(await value()).to.deep.equal({ value: 'delfina@tidebox.example', failing: null });
		const person = await personView(school.db, coordinator, 10, {
			way: 'all',
			state: 'all',
			mine: false,
			page: 1
		});
		expect(person!.addresses[0]!.mended).to.include({
			by: 'Maren Quill',
			before: 'home@harbormail.example'
		});
	});

	it('that several people share are mended for one, and the others are still to be mended', async () => {
		const mended = await mendAddress(school.db, coordinator, {
			id: broken,
			value: 'delfina@tidebox.example'
		});
		expect(mended).to.deep.equal({
			ok: true,
			said: 'Delfina Amaro is written to at delfina@tidebox.example from now on. One more person has the old one, which is still to be mended.'
		});
		expect(
			(await failingAddresses(school.db, coordinator)).addresses.map((a) => a.personId)
		).to.deep.equal([11]);
	});

	it('refuse what is no address, with the reason, and change nothing', async () => {
		for (const bad of ['nobody', 'a b@c.example', '@x.example']) {
			const mended = await mendAddress(school.db, coordinator, { id: broken, value: bad });
			expect(mended.ok, bad).to.equal(false);
			expect(!mended.ok && mended.why).to.contain('is no mail address');
		}
		expect((await value()).failing).not.to.equal(null);
		expect((await mendAddress(school.db, teacher, { id: broken, value: '' })).ok).to.equal(false);
		expect((await mendAddress(school.db, coordinator, { id: 999, value: '' })).ok).to.equal(false);
	});

	it('go to the office as one letter on a school morning, once, and only when there are new ones', async () => {
		expect(await mendDigest(school.db, 'http://x.example')).to.equal(1);
		expect(await mendDigest(school.db, 'http://x.example')).to.equal(0);
		const notice = (await school.db.one<{ subject: string; text: string }>(
			'SELECT subject, text FROM notice'
		))!;
		expect(notice.subject).to.equal('2 addresses to mend (2 email)');
		expect(notice.text).to.contain('Delfina Amaro, for Ana, Rui: home@harbormail.example');
		await moveTo(school.db, testStart + day);
		expect(await mendDigest(school.db, 'http://x.example')).to.equal(0);
		// Saturday: the office is closed.
		await school.db.run(
			`UPDATE address SET failing_since = ${testStart + 4 * day - 1} WHERE id = ${broken}`
		);
		await moveTo(school.db, testStart + 4 * day);
		expect(await mendDigest(school.db, 'http://x.example')).to.equal(0);
	});
});

describe("a person's log", () => {
	let school: TestSchool;
	const all = { way: 'all', state: 'all', mine: false, page: 1 } as const;
	before(async () => {
		school = await testSchool();
		for (const [user, sections] of [
			[coordinator, [100, 101]],
			[teacher, [100]]
		] as const) {
			const sheet = sheetOf({
				subject: `By ${user.name}`,
				audience: audienceOf([...sections]),
				ways: ['inbox', 'email'],
				holdMinutes: 0
			});
			const sent = await schedule(school.db, key, user, sheet, user === coordinator ? 3 : 2);
			if (!sent.ok) throw new Error(sent.checks[0]!.text);
		}
	});
	after(() => school.close());
	const log = async (user: typeof coordinator, id: number, over = {}) =>
		(await personView(school.db, user, id, { ...all, ...over }))?.log.map((e) => e.subject).sort();

	it('holds what was sent to a person and about a student, by anyone; a teacher sees own dispatches only', async () => {
		expect(await log(coordinator, 10)).to.deep.equal(['By Chidi Okafor', 'By Maren Quill']);
		expect(await log(coordinator, 1)).to.deep.equal(['By Chidi Okafor', 'By Maren Quill']);
		expect(await log(coordinator, 1, { mine: true })).to.deep.equal(['By Maren Quill']);
		expect(await log(teacher, 1)).to.deep.equal(['By Chidi Okafor']);
		expect(await log(teacher, 3)).to.equal(undefined);
	});

	it('holds copies at an address that is shared, and says why there was none', async () => {
		const father = (await personView(school.db, coordinator, 11, all))!;
		expect(father.log.map((e) => e.copies.map((c) => `${c.person} ${c.way}`))).to.deep.equal([
			['Delfina Amaro email'],
			['Delfina Amaro email']
		]);
		const bao = (await personView(school.db, coordinator, 12, { ...all, way: 'email' }))!;
		expect(bao.log).to.deep.equal([]);
		expect(await log(coordinator, 10, { way: 'text' })).to.deep.equal([]);
		expect(await log(coordinator, 10, { state: 'left-out' })).to.deep.equal([]);
	});

	it('shows habits with what stands behind them', async () => {
		const { habits } = (await personView(school.db, coordinator, 10, all))!;
		expect(habits.map((h) => [h.way, h.copies])).to.deep.equal([
			['email', 0],
			['text', 0],
			['inbox', 0]
		]);
	});
});

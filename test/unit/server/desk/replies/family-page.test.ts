import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import { now } from '../../../../../src/lib/server/clock';
import { inboxOf } from '../../../../../src/lib/server/desk/family/family';
import { lettersFound } from '../../../../../src/lib/server/desk/family/letters-found';
import { ownAnswerFile } from '../../../../../src/lib/server/desk/family/talks';
import {
	answerFileForUser,
	keepAnswerFiles,
	roomForFiles
} from '../../../../../src/lib/server/desk/replies/answer-files';
import {
	answerOnPage,
	writeToSection
} from '../../../../../src/lib/server/desk/replies/from-inbox';
import {
	sectionsToWriteTo,
	setSectionOpen
} from '../../../../../src/lib/server/desk/replies/sections-open';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { answersStoodOpen } from '../../../../../src/lib/server/desk/family/answers-opened';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, manyGuardians, office, sheetOf, teacher } from '../../database';
import { answeredSchool, type AnsweredSchool } from './answered-school';

const key = Buffer.alloc(32, 7);
const dot = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
	'base64'
);

describe('what a family writes on its page', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());
	const link = (personId: number) =>
		({ ok: true, personId, deliveryId: null, dispatchId: null }) as const;
	const write = (
		personId: number,
		words: string,
		over: { key?: string; dispatchId?: number } = {}
	) =>
		answerOnPage(school.db, link(personId), over.dispatchId ?? school.dispatchId, {
			...{ key: over.key ?? randomUUID(), words, files: [] }
		});
	const page = (personId: number) => inboxOf(school.db, personId, '/f/x');
	const said = async (personId: number) =>
		(await page(personId)).talks.flatMap((t) => t.lines.map((l) => l.words));

	it('stands in the same conversation, is strong evidence, and is there once however often it is sent', async () => {
		const own = randomUUID();
		expect(await write(12, 'When does it end?', { key: own })).to.deep.equal({ ok: true });
		await write(12, 'When does it end?', { key: own });
		await school.text('+12075550102', 'Hello?');
		const { lines } = (await school.opened(await school.talkWith(12)))!;
		expect(lines.map((l) => l.kind === 'family' && [l.way, l.words])).to.deep.equal([
			['inbox', 'When does it end?'],
			['text', 'Hello?']
		]);
		expect(
			await school.db.one(
				`SELECT state, strength FROM delivery WHERE way = 'inbox' AND person_id = 12`
			)
		).to.deep.equal({ state: 'answered', strength: 'strong' });
		// And on their page both, with what they are answered.
		await school.answer(await school.talkWith(12), 'At four.', { way: 'inbox', atOnce: true });
		expect(await said(12)).to.deep.equal(['When does it end?', 'Hello?']);
		const copies = await school.db.all<{ id: number }>(
			`SELECT delivery.id FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE kind = 'answer'`
		);
		const at = Math.round(await now(school.db));
		await school.db.write((tx) =>
			record(
				tx,
				copies.map((c) => ({
					...{ deliveryId: c.id, at, kind: 'delivered', source: 'courier', detail: 'placed' }
				}))
			)
		);
		expect(await said(12)).to.deep.equal(['When does it end?', 'Hello?', 'At four.']);
		// Where the letter stands open our answer is read, and it is no letter of its own.
		await school.pass(60_000);
		await answersStoodOpen(school.db, link(12), school.dispatchId, {
			...{ method: 'POST', agent: 'Mozilla/5.0', purpose: '', key: 'bao' }
		});
		const talk = (await school.opened(await school.talkWith(12)))!;
		expect(talk.lines.at(-1)).to.include({ kind: 'ours', state: 'read' });
		expect((await page(12)).letters.map((l) => l.subject)).to.deep.equal(['Boats']);
	});

	it('answers no announcement, nothing that they have no letter of, and no more than thirty times an hour', async () => {
		const closed = await school.send({ subject: 'Closed', kind: 'announcement' });
		expect(await write(12, 'Why?', { dispatchId: closed })).to.include({ why: 'one-way' });
		expect(await write(90, 'Me too.')).to.include({ why: 'gone' });
		expect(await write(12, 'Hm.', { dispatchId: 4711 })).to.include({ why: 'gone' });
		for (let n = 0; n < 30; n += 1) expect(await write(12, `Line ${n}`)).to.include({ ok: true });
		expect(await write(12, 'One more')).to.include({ why: 'too-many' });
	});

	it('of two who read one copy is each one’s own; what comes from the mailbox they share stands on nobody’s page', async () => {
		await write(10, 'Delfina here.');
		await write(11, 'Paulo here.');
		await school.mail(10, 'One of us.');
		expect(await said(10)).to.deep.equal(['Delfina here.']);
		expect(await said(11)).to.deep.equal(['Paulo here.']);
		expect((await school.look()).counts.waiting).to.equal(2);
	});

	it('of three hundred families is never on another’s page', async () => {
		await school.db.write((tx) => manyGuardians(tx, 300));
		await school.db.run(`UPDATE person SET has_inbox = 1 WHERE id >= 1000`);
		const sheet = sheetOf({ ways: ['inbox'], holdMinutes: 0, subject: 'Many' });
		const tried = await schedule(school.db, key, coordinator, sheet, 0);
		const sent = await schedule(
			...([school.db, key, coordinator, sheet] as const),
			tried.ok ? 0 : tried.tally.copies
		);
		const dispatchId = sent.ok ? sent.dispatchId : 0;
		await school.db.run(
			`UPDATE delivery SET state = 'delivered' WHERE dispatch_id = ${dispatchId}`
		);
		const people = Array.from({ length: 300 }, (_, i) => 1000 + i);
		for (const id of people) await write(id, `only ${id}`, { dispatchId });
		for (const id of people.filter((_, i) => i % 7 === 0)) {
			expect(await said(id)).to.deep.equal([`only ${id}`]);
		}
	});

	it('brings pictures along: what they are, their content says; what is none is named and not kept', async () => {
		const files = await keepAnswerFiles(
			school.folder,
			[
				{ name: 'slip.txt', content: new Uint8Array(dot) },
				{ name: 'run.pdf', content: new Uint8Array(Buffer.from('MZ\x90\x00\x03\x00\x00\x00')) },
				{ name: 'cut.png', content: new Uint8Array(dot.subarray(0, 40)) }
			],
			1_000_000
		);
		expect(files.map((f) => [f.name, f.type, f.hash !== null])).to.deep.equal([
			['slip.txt.png', 'image/png', true],
			['run.pdf', '', false],
			['cut.png', '', false]
		]);
		await answerOnPage(school.db, link(12), school.dispatchId, {
			...{ key: randomUUID(), words: '', files }
		});
		const [slip] = (await school.look()).heads[0]!.slips;
		expect(slip).to.include({ pictures: 1, files: 2, words: '' });
		const [line] = (await school.opened(slip!.id))!.lines;
		const id = line!.kind === 'family' ? line!.files[0]!.id : 0;
		expect(await ownAnswerFile(school.db, 12, id)).to.include({ name: 'slip.txt.png' });
		expect(await ownAnswerFile(school.db, 10, id)).to.equal(undefined);
		expect(await answerFileForUser(school.db, office, id)).to.include({ type: 'image/png' });
		expect(await answerFileForUser(school.db, teacher, id)).to.equal(undefined);
	});

	it('begins with the staff of a section that allows it, whose hours are said, and goes on there', async () => {
		const begin = (personId: number, sectionId: number) =>
			writeToSection(
				school.db,
				link(personId),
				{ sectionId, subject: 'Homework' },
				{ key: randomUUID(), words: 'Which page?', files: [] }
			);
		expect(await begin(10, 100)).to.include({ why: 'gone' });
		const open = { open: true, hours: 'Read from 8 to 4' };
		expect(await setSectionOpen(school.db, teacher, 101, open)).to.equal(false);
		expect(await setSectionOpen(school.db, teacher, 100, open)).to.equal(true);
		expect(await sectionsToWriteTo(school.db, 12)).to.deep.equal([]);
		expect(await sectionsToWriteTo(school.db, 10)).to.deep.equal([
			{ id: 100, name: 'Mathematics 7-A', schoolId: 1, hours: 'Read from 8 to 4' }
		]);
		expect(await begin(10, 100)).to.include({ ok: true });
		const { heads } = await school.look(teacher);
		expect(heads.map((h) => [h.kind, h.slips[0]!.who, h.slips[0]!.words])).to.deep.equal([
			['begun', 'Delfina Amaro', 'Which page?']
		]);
		const id = heads[0]!.slips[0]!.id;
		const told = await school.db.all('SELECT person_id AS id, kind FROM notice');
		expect(told).to.deep.equal([{ id: 91, kind: 'answer' }]);
		expect(await school.answer(id, 'Page 12.', {}, teacher)).to.include({ ok: true, copies: 1 });
		const on = { key: randomUUID(), words: 'Thank you', files: [] };
		const to = { conversationId: id };
		expect(await writeToSection(school.db, link(12), to, on)).to.include({ why: 'gone' });
		expect(await writeToSection(school.db, link(10), to, on)).to.include({ ok: true });
		expect((await page(10)).talks[0]).to.include({
			section: 'Mathematics 7-A',
			subject: 'Homework'
		});
		expect((await page(12)).talks).to.deep.equal([]);
	});

	it('is found among letters by words whatever their accents, and by the child', async () => {
		await school.send({ subject: 'Excursão ao farol' });
		const { letters, students } = await page(10);
		const find = (q: string, child: number | null = null) =>
			lettersFound(letters, { q, child }).map((l) => l.subject);
		expect(students.map((s) => s.name)).to.deep.equal(['Ana', 'Rui']);
		expect(find('excursao FAROL')).to.deep.equal(['Excursão ao farol']);
		expect(find('boat late')).to.have.length(2);
		expect(find('<p>')).to.deep.equal([]);
		expect(find('', 1)).to.have.length(2);
		expect(find('', 3)).to.deep.equal([]);
	});

	it('takes files for so much a day only: what is beyond is named, and says why', async () => {
		const at = () => now(school.db);
		const free = await roomForFiles(school.db, { personId: 12 }, await at());
		const file = { name: 'slip.png', content: new Uint8Array(dot) };
		const [kept] = await keepAnswerFiles(school.folder, [file], 1_000_000, free);
		await answerOnPage(school.db, link(12), school.dispatchId, {
			...{ key: randomUUID(), words: 'Slip', files: [kept!] }
		});
		expect(await roomForFiles(school.db, { personId: 12 }, await at())).to.equal(free - dot.length);
		const [late] = await keepAnswerFiles(school.folder, [file], 1_000_000, dot.length - 1);
		expect(late).to.include({ hash: null });
		expect(late!.why).to.match(/more than is kept of one family in a day/);
		await school.pass(86_400_001);
		expect(await roomForFiles(school.db, { personId: 12 }, await at())).to.equal(free);
	});
});

import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { now } from '../../../../../src/lib/server/clock';
import {
	aside,
	markUnread,
	looked,
	passOn,
	settle,
	takeBackFrom,
	waitAgain
} from '../../../../../src/lib/server/desk/replies/act';
import { answeredByPerson } from '../../../../../src/lib/server/desk/replies/answer-by-person';
import { callBackAnswer } from '../../../../../src/lib/server/desk/replies/call-back-answer';
import { holdSeconds } from '../../../../../src/lib/server/desk/replies/types';
import { talksAbout } from '../../../../../src/lib/server/desk/replies/shelf-counts';
import { settleEnded } from '../../../../../src/lib/server/desk/replies/ended-terms';
import { forwardCopy } from '../../../../../src/lib/server/desk/replies/forward';
import { dispatchHead } from '../../../../../src/lib/server/desk/reach/head';
import { moveAnswer } from '../../../../../src/lib/server/desk/replies/move-answer';
import { jumpTo } from '../../../../../src/lib/server/desk/people/jump';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { weekView } from '../../../../../src/lib/server/desk/week/week';
import { coordinator, manyGuardians, office, teacher, whyOf } from '../../database';
import { answeredSchool, type AnsweredSchool } from './answered-school';

const bao = '+12075550102';
const delfina = '+12075550101';
const dayMs = 86_400_000;

describe('a conversation', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());
	const standing = (id: number) =>
		school.db.one<{ state: string; since: number | null; unread: number; alike: string | null }>(
			'SELECT state, since, unread, alike FROM conversation WHERE id = $id',
			{ id }
		);

	it('is one for each person and dispatch, whatever ways the answers come by, the oldest first', async () => {
		await school.text(delfina, 'Can he bring his boots?');
		await school.pass(60_000);
		await school.mail(10, 'And his coat?');
		await school.text(bao, 'When does it end?');
		const { heads, counts } = await school.look();
		expect(heads).to.have.length(1);
		expect(heads[0]).to.include({ dispatchId: school.dispatchId, answered: 2, waiting: 2 });
		expect(heads[0]!.slips.map((s) => [s.who, s.relation, s.words, s.way])).to.deep.equal([
			['Delfina Amaro', 'mother of Ana and Rui', 'And his coat?', 'email'],
			['Bao Pham', 'father of Linh', 'When does it end?', 'text']
		]);
		expect(counts).to.deep.include({ waiting: 2, unread: 2, settled: 0, aside: 0 });
		expect(counts.sections).to.deep.equal([
			{ id: 101, name: 'Drama 7-A', n: 1 },
			{ id: 100, name: 'Mathematics 7-A', n: 1 }
		]);
		expect(counts.ways).to.deep.equal({ email: 1, text: 1, inbox: 0 });
		const at = Math.round(await now(school.db));
		expect(await talksAbout(school.db, coordinator, school.dispatchId, at)).to.deep.equal({
			...{ answered: 2, waiting: 2 }
		});
		const talk = (await school.opened(await school.talkWith(10)))!;
		expect(talk.lines.map((l) => l.kind === 'family' && [l.way, l.words])).to.deep.equal([
			['text', 'Can he bring his boots?'],
			['email', 'And his coat?']
		]);
	});

	it('waits since the first that nobody has answered, whatever comes after it', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		const { since } = (await standing(id))!;
		await school.pass(dayMs + 1);
		await school.text(bao, 'Hello?');
		expect((await standing(id))!.since).to.equal(since);
		expect((await school.look()).counts.overDay).to.equal(1);
		expect((await school.look(coordinator, { overDay: '1' })).heads).to.have.length(1);
	});

	it('leads to Reach only whoever may open it there', async () => {
		await school.mail(10, 'Thank you.');
		// The district wrote; the school's office sees what its family answers, and not the dispatch.
		const [own] = (await school.look()).heads;
		expect(own).to.include({ inReach: true });
		const [seen] = (await school.look(office)).heads;
		const reach = await dispatchHead(school.db, office, school.dispatchId);
		expect(seen).to.include({ dispatchId: school.dispatchId, inReach: reach !== null });
		await school.db.run('UPDATE dispatch SET school_id = NULL');
		await school.db.run('DELETE FROM dispatch_student');
		const [after] = (await school.look(office)).heads;
		expect(await dispatchHead(school.db, office, school.dispatchId)).to.equal(null);
		expect(after).to.include({ inReach: false });
	});

	it('is answered by the way the family used, once, held for a moment; then it is settled', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		const key = '3f3f3f3f-1111-4111-8111-111111111111';
		const first = await school.answer(id, 'At four.', { key });
		expect(first).to.include({ ok: true, copies: 1, without: 0 });
		expect(await school.answer(id, 'At four.', { key })).to.deep.equal(first);
		const copies = await school.db.all<{
			way: string;
			address: string;
			state: string;
			due: number;
		}>(
			`SELECT way, address, delivery.state, due_at AS due FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
			WHERE kind = 'answer'`
		);
		expect(copies).to.have.length(1);
		expect(copies[0]).to.include({ way: 'text', address: bao, state: 'held' });
		expect(copies[0]!.due - (await now(school.db))).to.be.within(0, holdSeconds * 1_000);
		expect(await standing(id)).to.include({ state: 'settled', since: null, unread: 0 });
		const talk = (await school.opened(id))!;
		expect(talk.lines.at(-1)).to.include({
			kind: 'ours',
			words: 'At four.',
			mine: true,
			held: true
		});
		// What answers a family stands in no list of dispatches, is counted for nobody, and is called back by its own door only.
		const { dispatches, copies: all } = await weekView(school.db, coordinator);
		expect([dispatches, all]).to.deep.equal([1, 5]);
		expect(JSON.stringify(await jumpTo(school.db, coordinator, 'Re: Boats'))).not.to.contain('Re:');
		expect(await callBack(school.db, coordinator, first.ok ? first.dispatchId : 0)).to.include({
			ok: false
		});
	});

	it('can be answered by another way that works, and by none that does not', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		expect((await school.opened(id))!.ways.map((w) => w.way)).to.deep.equal(['text', 'inbox']);
		expect(await school.answer(id, 'At four.', { way: 'email' })).to.include({ ok: false });
		expect(await school.answer(id, 'At four.', { way: 'inbox' })).to.include({ ok: true });
	});

	it('is not answered by text to a number that said STOP meanwhile, and what waited for it does not leave', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		await school.answer(id, 'At four.');
		await school.text(bao, 'STOP');
		expect((await school.opened(id))!.lines.at(-1)).to.include({ state: 'failed' });
		expect((await school.opened(id))!.ways.map((w) => w.way)).to.deep.equal(['inbox']);
	});

	it('is never answered to an address that is not on file: it may be anybody’s', async () => {
		await school.mail(10, 'Send me the list.', { fromAddress: 'else@where.example' });
		const id = await school.talkWith(10);
		const { lines, ways } = (await school.opened(id))!;
		expect(lines[0]).to.include({ elsewhere: 'else@where.example', who: 'else@where.example' });
		expect(ways.map((w) => w.address)).not.to.include('else@where.example');
		const answered = await school.answer(id, 'Who are you?');
		const copy = await school.db.one(`SELECT address FROM delivery WHERE dispatch_id = $id`, {
			id: answered.ok ? answered.dispatchId : 0
		});
		expect(copy).to.deep.equal({ address: 'home@harbormail.example' });
	});

	it('lets an answer be called back while it is held: it waits as it did, and the words come back', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		const before = await standing(id);
		const answered = await school.answer(id, 'At five.');
		const dispatchId = answered.ok ? answered.dispatchId : 0;
		expect(await callBackAnswer(school.db, teacher, dispatchId)).to.include({ ok: false });
		expect(await callBackAnswer(school.db, coordinator, dispatchId)).to.deep.equal({
			ok: true,
			words: 'At five.'
		});
		expect(await standing(id)).to.include({ state: 'waiting', since: before!.since });
		expect(await school.db.all(`SELECT 1 FROM dispatch WHERE kind = 'answer'`)).to.deep.equal([]);
		// A copy that is in the courier's hands is gone.
		const again = await school.answer(id, 'At four.');
		await school.db.run(`UPDATE delivery SET attempts = 1 WHERE state = 'held'`);
		expect(
			await callBackAnswer(school.db, coordinator, again.ok ? again.dispatchId : 0)
		).to.include({
			ok: false
		});
		// No other dispatch can be called back by this door.
		expect(await callBackAnswer(school.db, coordinator, school.dispatchId)).to.include({
			ok: false
		});
	});

	it('waits out quiet hours, but not where the family wrote by this way a moment ago', async () => {
		await school.pass(12 * 3_600_000);
		await school.text(bao, 'Is school open tomorrow?');
		const id = await school.talkWith(12);
		const time = await now(school.db);
		const soon = await school.answer(id, 'Yes.', { atOnce: true });
		expect(soon.ok && soon.firstAt - time).to.be.below(1_000);
		await school.text(bao, 'And on Friday?');
		await school.pass(3_600_000);
		const later = await school.answer(id, 'Yes.');
		// 8 am of the next day in the school's zone.
		expect(later.ok && new Date(later.firstAt).toISOString()).to.equal('2027-03-10T13:00:00.000Z');
		expect((await school.opened(id))!.ways[0]).to.include({
			quietUntil: Date.parse('2027-03-10T13:00:00Z')
		});
	});

	it('is put aside until a time, when it waits again, and not into the past', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		const time = Math.round(await now(school.db));
		expect(whyOf(await aside(school.db, coordinator, id, time - 1))).to.match(/has passed/);
		expect(whyOf(await aside(school.db, coordinator, id, time + 400 * dayMs))).to.match(
			/half a year/
		);
		expect(await aside(school.db, coordinator, id, time + 3_600_000)).to.include({ ok: true });
		expect((await school.look()).counts).to.include({ waiting: 0, aside: 1 });
		expect((await school.look(coordinator, { shelf: 'aside' })).heads).to.have.length(1);
		await school.pass(3_600_001);
		expect((await school.look()).counts).to.include({ waiting: 1, aside: 0, asideNext: null });
		expect((await school.opened(id))!.state).to.equal('waiting');
		// What the family writes meanwhile brings it back at once.
		await aside(school.db, coordinator, id, time + 9 * dayMs);
		await school.text(bao, 'Hello?');
		expect((await school.look()).counts).to.include({ waiting: 1, aside: 0 });
	});

	it('is settled, waits again, and is marked as not looked at, each written down with who', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		await settle(school.db, coordinator, [id]);
		expect((await school.look()).counts).to.include({ waiting: 0, settled: 1 });
		await waitAgain(school.db, coordinator, id);
		await looked(school.db, coordinator, id);
		expect((await standing(id))!.unread).to.equal(0);
		await markUnread(school.db, coordinator, id);
		expect((await standing(id))!.unread).to.equal(1);
		const acts = (await school.opened(id))!.lines.filter((l) => l.kind === 'act');
		expect(acts.map((a) => a.kind === 'act' && [a.act, a.by])).to.deep.equal([
			['settled', 'Maren Quill'],
			['waits-again', 'Maren Quill'],
			['unread', 'Maren Quill']
		]);
	});

	it('is seen by whoever sent what it answers, by the office of its school, and by whom it was passed on to: this one and no other', async () => {
		const own = await school.send({ subject: 'Boots', audience: audienceOf([100]) }, teacher);
		await school.text(delfina, 'What boots?');
		const mine = await school.talkWith(10, own);
		await school.text(bao, 'When does it end?');
		const theirs = await school.talkWith(12);
		expect((await school.look(teacher)).counts.waiting).to.equal(1);
		expect(await school.opened(mine, teacher)).not.to.equal(null);
		expect(await school.opened(theirs, teacher)).to.equal(null);
		expect((await school.look(office)).counts.waiting).to.equal(2);
		expect(await school.answer(theirs, 'At four.', {}, teacher)).to.include({ ok: false });
		expect(await settle(school.db, teacher, [theirs])).to.deep.equal({ ok: true, n: 0 });
		expect(await passOn(school.db, teacher, theirs, 91)).to.include({ ok: false });

		await passOn(school.db, coordinator, theirs, 91);
		expect((await school.look(teacher)).counts.waiting).to.equal(2);
		expect((await school.opened(theirs, teacher))!.byGuest).to.equal(true);
		expect(whyOf(await passOn(school.db, teacher, theirs, 95))).to.match(/passed on to you/);
		// The dispatch itself, and who else answered it, stays closed to them.
		await school.mail(10, 'Who comes along?', {}, school.dispatchId);
		const { heads } = await school.look(teacher, { dispatch: String(school.dispatchId) });
		expect(heads[0]).to.include({ answered: 1, waiting: 1 });
		await takeBackFrom(school.db, coordinator, theirs, 91);
		expect(await school.opened(theirs, teacher)).to.equal(null);
	});

	it('from a phone that nobody has waits apart, for the district office alone, and cannot be answered to a stranger', async () => {
		await school.text('+12075559999', 'Who is this?');
		const { heads } = await school.look();
		expect(heads[0]).to.include({ kind: 'numbers', dispatchId: null });
		expect((await school.look(office)).heads).to.deep.equal([]);
		const id = heads[0]!.slips[0]!.id;
		expect((await school.opened(id))!.ways).to.deep.equal([]);
		expect(await school.answer(id, 'The school.')).to.include({ ok: false });
	});

	it('from a phone is answered to whoever has its number since, if that is one person', async () => {
		await school.text('+12075559999', 'Who is this?');
		const { id } = (await school.look()).heads[0]!.slips[0]!;
		const onFile = (personId: number) =>
			school.db.run(
				`INSERT INTO address (person_id, way, value, consent) VALUES (${personId}, 'text', '(207) 555-9999', 'unknown')`
			);
		await onFile(12);
		expect((await school.opened(id))!.ways.map((w) => w.way)).to.include('inbox');
		await school.text('+12075559999', 'Hello?');
		expect((await school.opened(id))!.lines.at(-1)).to.include({ who: 'Bao Pham' });
		expect(await school.answer(id, 'The school.', { way: 'text' })).to.include({
			...{ ok: true, copies: 1 }
		});

		await school.text('+12075558888', 'And this?');
		for (const personId of [10, 12])
			await school.db.run(
				`INSERT INTO address (person_id, way, value, consent) VALUES (${personId}, 'text', '+12075558888', 'in')`
			);
		const other = (await school.look()).heads.at(-1)!.slips[0]!.id;
		expect((await school.opened(other))!.ways).to.deep.equal([]);
	});

	it('of somebody who was made one with another is answered to whom they are now', async () => {
		await school.mail(10, 'What boots?');
		const id = await school.talkWith(10);
		await school.db.run(`UPDATE address SET person_id = 12 WHERE person_id = 10 AND way = 'email'`);
		await school.db.run('UPDATE person SET same_as = 12 WHERE id = 10');
		expect(await school.answer(id, 'Rubber ones.', { way: 'email' })).to.include({ ok: true });
		const [copy] = await school.db.all<{ personId: number; address: string }>(
			`SELECT delivery.person_id AS personId, address FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE kind = 'answer'`
		);
		expect(copy).to.deep.equal({ personId: 12, address: 'home@harbormail.example' });
	});

	it('of a phone that two dispatches went to says both, and is about the last', async () => {
		const later = await school.send({ subject: 'Boots' });
		await school.pass(60_000);
		await school.text(bao, 'Which day?');
		const id = await school.talkWith(12, later);
		const [line] = (await school.opened(id))!.lines;
		expect(line!.kind === 'family' && line!.orAbout).to.deep.equal([
			{ dispatchId: school.dispatchId, subject: 'Boats' }
		]);
		// Whoever does not see the other dispatch is not told of it.
		await passOn(school.db, coordinator, id, 91);
		const [passed] = (await school.opened(id, teacher))!.lines;
		expect(passed!.kind === 'family' && passed!.orAbout).to.deep.equal([]);
		// So long after that it is about nothing any more.
		await school.pass(15 * dayMs);
		await school.text(bao, 'Hello?');
		expect((await school.look()).heads.map((h) => h.kind)).to.deep.equal(['dispatch', 'numbers']);
	});

	it('in which only a machine may have written waits for nobody, until a person says that somebody wrote', async () => {
		await school.mail(10, 'I am out of office until Monday.');
		expect((await school.look()).counts).to.include({ waiting: 0, doubtful: 1 });
		const id = await school.talkWith(10);
		const [line] = (await school.opened(id))!.lines;
		expect(await answeredByPerson(school.db, teacher, line!.id)).to.equal(false);
		expect(await answeredByPerson(school.db, coordinator, line!.id)).to.equal(true);
		expect((await school.look()).counts).to.include({ waiting: 1, doubtful: 0 });
	});

	it('about an announcement is kept and waits for nobody', async () => {
		const told = await school.send({ subject: 'Closed', kind: 'announcement', ways: ['text'] });
		await school.text(bao, 'Until when?');
		expect(await standing(await school.talkWith(12, told))).to.include({
			state: 'settled',
			unread: 1
		});
	});

	it('is found again by the words of either side, and by who it is with, only by whoever may see it', async () => {
		await school.text(bao, 'Is there a life jacket?');
		await school.answer(await school.talkWith(12), 'One for each child.');
		const found = async (search: string, user = coordinator) =>
			(await school.look(user, { search })).heads.flatMap((h) => h.slips.map((s) => s.who));
		for (const words of ['life jacket', 'JACK', 'each child', 'bao']) {
			expect(await found(words)).to.deep.equal(['Bao Pham']);
		}
		expect(await found('kite')).to.deep.equal([]);
		expect(await found('jacket" OR *')).to.deep.equal([]);
		expect(await found('jacket', teacher)).to.deep.equal([]);
	});

	it('moves to the dispatch that a text is about, with the evidence; not to one that did not go to that phone', async () => {
		const later = await school.send({ subject: 'Boots' });
		const elsewhere = await school.send({ subject: 'Coats', ways: ['email'] });
		await school.pass(60_000);
		await school.text(bao, 'Which boat?');
		const id = await school.talkWith(12, later);
		const [line] = (await school.opened(id))!.lines;
		const move = (to: number, user = coordinator) => moveAnswer(school.db, user, line!.id, to);
		expect(await move(elsewhere)).to.include({ ok: false });
		expect(await move(school.dispatchId, teacher)).to.include({ ok: false });
		expect(await move(school.dispatchId)).to.include({ ok: true });
		const [head, ...rest] = (await school.look()).heads;
		expect(rest).to.deep.equal([]);
		expect(head).to.include({ dispatchId: school.dispatchId, waiting: 1 });
		expect(
			await school.db.one(
				`SELECT state FROM delivery WHERE dispatch_id = ${school.dispatchId} AND address = '${bao}'`
			)
		).to.deep.equal({ state: 'answered' });
	});

	it('is copied to another address without ours or the family’s; the original stays', async () => {
		await school.text(bao, 'My daughter has a fever.');
		const id = await school.talkWith(12);
		const [line] = (await school.opened(id))!.lines;
		const copy = (to: string, user = coordinator) =>
			forwardCopy(school.db, user, id, { answer: line!.id, to });
		expect(whyOf(await copy('nurse'))).to.match(/no mail address/);
		expect(await copy('nurse@brackwater.example', teacher)).to.include({ ok: false });
		expect(await copy('nurse@brackwater.example')).to.include({ ok: true });
		const sent = await school.db.one<{ address: string; text: string; about: number | null }>(
			`SELECT address, text, conversation_id AS about FROM notice WHERE kind = 'forward'`
		);
		expect(sent).to.include({ address: 'nurse@brackwater.example', about: null });
		expect(sent!.text).to.contain('fever').and.not.contain(bao);
		const { lines } = (await school.opened(id))!;
		expect(lines.map((l) => l.kind)).to.deep.equal(['family', 'act']);
		expect(lines[1]).to.include({ act: 'forwarded', to: 'nurse@brackwater.example' });
	});

	it('is settled by itself when its term has ended, and waits again with what comes later', async () => {
		await school.text(bao, 'When does it end?');
		const id = await school.talkWith(12);
		expect(await settleEnded(school.db)).to.equal(0);
		await school.pass(14 * dayMs);
		expect(await settleEnded(school.db)).to.equal(1);
		expect((await school.opened(id))!.lines.at(-1)).to.include({ act: 'term-ended', by: null });
		expect((await school.look()).counts).to.include({ waiting: 0, settled: 1 });
		expect((await school.look(coordinator, { search: 'when' })).heads).to.have.length(1);
		await waitAgain(school.db, coordinator, id);
		expect((await school.look()).counts.waiting).to.equal(1);
	});

	it('tells the colleague it is passed on to, with what was written', async () => {
		await school.text(bao, 'When does it end?');
		await passOn(school.db, coordinator, await school.talkWith(12), 91);
		const told = await school.db.one<{ text: string; about: number }>(
			`SELECT text, conversation_id AS about FROM notice WHERE person_id = 91`
		);
		expect(told!.text).to.contain('Maren Quill has passed on').and.contain('When does it end?');
		expect(told!.about).to.equal(await school.talkWith(12));
	});

	it('that says the same as others stands with them as one line; one that adds a word stands alone', async () => {
		await school.db.write((tx) => manyGuardians(tx, 8));
		const sent = await school.send({ subject: 'Walk', ways: ['email'] });
		await school.pass(600_000);
		const says = [
			'Yes',
			'We will be there',
			'Linh comes',
			'Sí, gracias',
			'Yes!',
			'Yes, but late',
			'👍',
			'OK'
		];
		for (const [i, words] of says.entries()) {
			await school.mail(1000 + i, words, { fromAddress: `reader${i}@harbormail.example` }, sent);
		}
		const [head] = (await school.look()).heads;
		expect(head!.alike.map((a) => [a.likeness, a.ids.length])).to.deep.equal([['yes', 5]]);
		expect(head!.slips.map((s) => s.words)).to.deep.equal(['Yes, but late', '👍', 'OK']);
		expect(head).to.include({ waiting: 8, answered: 8 });
		const looked = await school.look(coordinator, { alike: 'yes', dispatch: String(sent) });
		expect(looked.heads[0]!.slips).to.have.length(5);
		// Each gets a copy of their own, and one that writes again meanwhile stands alone.
		await school.mail(
			1000,
			'Yes, and Rui too',
			{ fromAddress: 'reader0@harbormail.example' },
			sent
		);
		const left = (await school.look()).heads[0]!.alike[0]!.ids;
		expect(left).to.have.length(4);
		expect(await school.answer(left, 'See you there.')).to.include({ copies: 4, without: 0 });
		const to = await school.db.all<{ address: string }>(
			`SELECT address FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE kind = 'answer' ORDER BY address`
		);
		expect(to.map((t) => t.address)).to.deep.equal(
			[1, 2, 3, 4].map((i) => `reader${i}@harbormail.example`)
		);
		expect((await school.look()).counts).to.include({ waiting: 4, settled: 4 });
	});
});

import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { now } from '../../../../../src/lib/server/clock';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { askedBy } from '../../../../../src/lib/server/desk/sheet/asked';
import { answer } from '../../../../../src/lib/server/desk/invitations/answer';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { readDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import {
	changeInvitation,
	changeSchema,
	openToAnybody,
	putDown
} from '../../../../../src/lib/server/desk/invitations/change';
import { doorListCsv, doorListPdf } from '../../../../../src/lib/server/desk/invitations/door-list';
import { followInvitation } from '../../../../../src/lib/server/desk/invitations/follow';
import { comingList } from '../../../../../src/lib/server/desk/invitations/list';
import { answeredWhere } from '../../../../../src/lib/server/desk/invitations/on-boards';
import { invitationReach } from '../../../../../src/lib/server/desk/invitations/reach';
import type { Answered } from '../../../../../src/lib/server/desk/invitations/types';
import { makeChase } from '../../../../../src/lib/server/desk/reach/chase';
import { coordinator, sheetOf, teacher, whyOf } from '../../database';
import { readPdf } from '../../read-pdf';
import { hourMs, invitedSchool, key, type InvitedSchool } from './invited-school';

const said = (done: Answered) => {
	if (!done.ok) return done.why;
	const { comes, people, seated, before } = done.standing;
	return !comes ? 'not' : seated ? `${people} in` : `${people} wait, ${before} before`;
};
const all = { state: 'all', slot: 0, search: '', page: 1 } as const;
const site = { key, publicUrl: 'https://courier.example' };

describe('an invitation', () => {
	let school: InvitedSchool;
	beforeEach(async () => (school = await invitedSchool()));
	afterEach(() => school.close());
	const reach = async (id: number, user = coordinator) =>
		(await invitationReach(school.db, site, user, id))!;
	const notes = () =>
		school.db.all<{ kind: string; address: string; due: number }>(
			`SELECT kind, address, due_at AS due FROM auto_note WHERE kind LIKE 'coming-%' ORDER BY id`
		);

	it('is answered for the household, is evidence of reading, and can be changed until its time', async () => {
		const id = await school.invite();
		expect((await school.sees(10, id))!.mine).to.equal(null);
		expect(said(await school.says(10, id, { adults: 2, students: 1 }))).to.equal('3 in');
		// Who lives with her sees that it is answered, and by whom.
		expect((await school.sees(11, id))!.mine).to.include({ people: 3, students: 1, by: 'Delfina' });
		expect((await school.sees(10, id))!.mine).to.include({ by: '' });
		expect((await school.sees(12, id))!.mine).to.equal(null);
		expect((await reach(id)).counts).to.include({
			...{ asked: 2, comes: 1, people: 3, adults: 2, students: 1, not: 0, unsaid: 1 }
		});
		const { state } = (await school.db.one<{ state: string }>(
			`SELECT state FROM delivery WHERE dispatch_id = $id AND person_id = 10 AND state = 'answered' LIMIT 1`,
			{ id }
		))!;
		expect(state).to.equal('answered');
		expect(said(await school.says(11, id, { comes: false }))).to.equal('not');
		expect((await reach(id)).counts).to.include({ comes: 0, people: 0, not: 1, unsaid: 1 });
		await school.pass(25 * hourMs);
		expect(said(await school.says(10, id, {}))).to.equal('closed');
		expect((await school.sees(10, id))!.open).to.equal(false);
	});

	it('is nobody else’s to answer: not by whoever has no copy, nor where nothing is asked', async () => {
		const id = await school.invite({}, { audience: audienceOf([100]) });
		expect(await school.sees(12, id)).to.equal(null);
		expect(await school.sees(10, school.dispatchId)).to.equal(null);
		expect(said(await school.says(10, school.dispatchId, {}))).to.equal('gone');
	});

	it('takes what fits and nothing else', async () => {
		const id = await school.invite({ most: 4 });
		expect(said(await school.says(10, id, { adults: 0, students: 0 }))).to.equal('no-people');
		expect(said(await school.says(10, id, { adults: 4, students: 1 }))).to.equal('too-many');
		const slots = [{ id: 3, at: (await now(school.db)) + 90 * hourMs, words: '', places: 2 }];
		const timed = await school.invite({ slots });
		expect(said(await school.says(10, timed, { slot: null }))).to.equal('no-slot');
		expect(said(await school.says(10, timed, { slot: 9 }))).to.equal('no-slot');
		expect(said(await school.says(10, timed, { slot: 3 }))).to.equal('1 in');
		// More than anybody changes their mind.
		for (let i = 0; i < 14; i += 1) await school.says(10, id, { adults: 1 });
		expect(said(await school.says(10, id, {}))).to.equal('1 in');
		expect(said(await school.says(10, id, {}))).to.equal('too-often');
	});

	it('gives places in turn: who waits moves up when others do not come, and is told once, not at night', async () => {
		const id = await school.invite({ places: 3 });
		expect(said(await school.says(10, id, { adults: 2 }))).to.equal('2 in');
		expect(said(await school.says(12, id, { adults: 2 }))).to.equal('2 wait, 0 before');
		// Whoever has places and asks for more than there are keeps them.
		expect(said(await school.says(10, id, { adults: 4 }))).to.equal('no-room');
		expect((await school.sees(10, id))!.mine).to.include({ people: 2, seated: true });
		expect((await reach(id)).counts).to.include({ people: 2, waits: 1, waitingPeople: 2 });
		await school.pass(13 * hourMs);
		expect(said(await school.says(11, id, { comes: false }))).to.equal('not');
		expect((await school.sees(12, id))!.mine).to.include({ seated: true });
		const [told, ...more] = await notes();
		expect(told).to.include({ kind: 'coming-up', address: '+12075550102' });
		expect(more).to.deep.equal([]);
		expect(told!.due).to.be.greaterThan(await now(school.db));
	});

	it('two hundred at once at the last places: exactly as many as there are have them', async () => {
		await school.close();
		school = await invitedSchool(200);
		const id = await school.invite({ places: 7 });
		const done = await Promise.all(
			Array.from({ length: 200 }, (_, i) => school.says(1000 + i, id, { adults: 1 }))
		);
		expect(done.filter((d) => d.ok && d.standing.seated)).to.have.length(7);
		expect(done.filter((d) => d.ok && !d.standing.seated)).to.have.length(193);
		const { left, counts } = await reach(id);
		expect([left, counts.people, counts.waits]).to.deep.equal([0, 7, 193]);
		// One of them leaves: exactly one comes in, the first in line.
		const seated = done.findIndex((d) => d.ok && d.standing.seated);
		await school.says(1000 + seated, id, { comes: false });
		expect((await reach(id)).counts).to.include({ people: 7, waits: 192 });
		const { turn, least } = (await school.db.one<{ turn: number; least: number }>(
			`SELECT (SELECT turn FROM coming JOIN coming_said ON coming_id = coming.id WHERE coming_said.how = 'moved-up') AS turn,
				(SELECT min(turn) FROM coming WHERE comes AND NOT seated) AS least`
		))!;
		expect(turn).to.be.lessThan(least);
	});

	it('an answer by text: “yes 2” and “no”, with what became of it; anything beside it waits for a person', async () => {
		const id = await school.invite({ places: 3 });
		await school.text('+12075550102', 'Có 2');
		expect((await school.sees(12, id))!.mine).to.include({
			people: 2,
			seated: true,
			students: null
		});
		expect((await reach(id)).counts).to.include({ people: 2, unsaidKind: 2, adults: 0 });
		await school.text('+12075550101', 'Sim, 2');
		expect((await school.sees(10, id))!.mine).to.include({ seated: false, people: 2 });
		await school.pass(120_000);
		await school.text('+12075550102', 'không');
		expect((await school.sees(12, id))!.mine).to.include({ comes: false });
		expect((await school.sees(10, id))!.mine).to.include({ seated: true });
		expect((await notes()).map((n) => n.kind)).to.deep.equal([
			...['coming-taken', 'coming-taken', 'coming-up', 'coming-taken']
		]);
		expect((await school.look()).heads).to.have.length(0);
		await school.pass(120_000);
		await school.text('+12075550102', 'yes 2, but we come late');
		expect((await school.sees(12, id))!.mine).to.include({ comes: false });
		expect((await school.look()).heads).to.have.length(1);
	});

	it('by text where a time is to be chosen, the page is told; after another letter “yes” answers that', async () => {
		const at = (await now(school.db)) + 90 * hourMs;
		const id = await school.invite({ slots: [{ id: 1, at, words: '', places: 1 }] });
		await school.text('+12075550102', 'yes');
		expect((await school.sees(12, id))!.mine).to.equal(null);
		expect((await notes()).map((n) => n.kind)).to.deep.equal(['coming-choose']);
		await school.pass(120_000);
		await school.send({ subject: 'Boats again' });
		await school.text('+12075550102', 'no');
		expect((await school.sees(12, id))!.mine).to.equal(null);
		expect((await school.look()).heads).to.have.length(1);
	});

	it('a phone that answers by itself is told a few times a day and no more, and what it says is taken', async () => {
		const at = (await now(school.db)) + 90 * hourMs;
		await school.invite({
			...{ slots: [{ id: 1, at, words: '', places: 1 }], until: at }
		});
		for (let i = 0; i < 20; i += 1) {
			await school.pass(120_000);
			await school.text('+12075550102', 'yes');
		}
		expect(await notes()).to.have.length(8);
		expect((await school.look()).heads).to.have.length(0);
	});

	it('staff put down what was said at the phone, also after its time; nobody else can, and it is written down', async () => {
		const id = await school.invite({ places: 2 });
		await school.pass(30 * hourMs);
		const put = (user: typeof coordinator, who: string, adults = 2) =>
			putDown(school.db, user, id, who, { comes: true, adults, students: 0, slot: null });
		expect(whyOf(await put(coordinator, 'household 2'))).to.equal('done');
		expect(whyOf(await put(coordinator, 'household 77'))).to.match(/no such invitation/);
		expect(whyOf(await put(coordinator, 'person 12'))).to.match(/no such invitation/);
		expect(whyOf(await put(teacher, 'household 1'))).to.match(/no such invitation/);
		expect(whyOf(await put(coordinator, 'household 1', 0))).to.match(/how many/);
		expect((await school.sees(12, id))!.mine).to.include({ people: 2, by: 'Maren' });
		const { n } = (await school.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM log_line WHERE act = 'coming-put-down' AND thing_id = $id`,
			{ id }
		))!;
		expect(n).to.equal(1);
	});

	it('more places let those in line in; fewer take nobody’s away', async () => {
		const id = await school.invite({ places: 1 });
		await school.says(10, id, {});
		await school.says(12, id, { adults: 2 });
		const change = (places: number | null) =>
			changeInvitation(school.db, coordinator, id, {
				...{ places, most: 10, slotPlaces: {} },
				until: 1_900_000_000_000
			});
		expect(whyOf(await change(3))).to.equal('done');
		expect((await school.sees(12, id))!.mine).to.include({ seated: true });
		expect((await notes()).map((n) => n.kind)).to.deep.equal(['coming-up']);
		for (const bad of [{ until: '' }, { until: 'x' }, { places: '0' }, { most: '21' }])
			expect(
				changeSchema.safeParse({ until: '9', places: '', most: '2', slotPlaces: {}, ...bad })
					.success,
				JSON.stringify(bad)
			).to.equal(false);
		await change(1);
		expect((await reach(id)).counts).to.include({ people: 3, waits: 0 });
		expect((await reach(id)).left).to.equal(0);
		expect(
			whyOf(
				await changeInvitation(school.db, teacher, id, {
					until: 0,
					places: 9,
					most: 1,
					slotPlaces: {}
				})
			)
		).to.match(/no such/);
	});

	it('its list says what each has said, those in line by their turn, and finds a student', async () => {
		const id = await school.invite({ places: 1 });
		await school.says(12, id, {});
		await school.says(10, id, { adults: 1, students: 2 });
		const list = (await comingList(school.db, coordinator, id, all))!;
		expect(
			list.lines.map((l) => `${l.names.join('+')} ${l.state} ${l.people} ${l.inLine}`)
		).to.deep.equal(['Bao Pham comes 1 0', 'Delfina Amaro+Paulo Amaro waits 3 1']);
		expect(list.lines[1]!.students).to.deep.equal(['Ana Amaro', 'Rui Amaro']);
		const found = await comingList(school.db, coordinator, id, { ...all, search: 'Linh' });
		expect(found!.lines.map((l) => l.key)).to.deep.equal(['household 2']);
		expect(await comingList(school.db, teacher, id, all)).to.equal(null);
		expect(await invitationReach(school.db, site, teacher, id)).to.equal(null);
	});

	it('the list for the door has who comes with a box each, and who stands in line', async () => {
		const at = Date.UTC(2027, 3, 8, 20, 15);
		const slots = [
			{ id: 1, at, words: 'Room 12', places: 1 },
			{ id: 2, at: at + 900_000, words: '', places: 1 }
		];
		const id = await school.invite({ slots, until: at - hourMs });
		await school.says(10, id, { slot: 2, adults: 1 });
		await school.says(12, id, { slot: 2, adults: 1 });
		const csv = (await doorListCsv(school.db, coordinator, id))!.trim().split('\r\n');
		expect(csv[1]).to.equal(
			'Delfina Amaro; Paulo Amaro,Ana Amaro; Rui Amaro,yes,1,0,"Thu Apr 8, 4:30 pm",,'
		);
		expect(csv[2]).to.match(/^Bao Pham,Linh Pham,in line,1,0,.*,1,$/);
		const paper = readPdf((await doorListPdf(school.db, coordinator, id))!).words.join(' ');
		expect(paper).to.include('Thu Apr 8, 4:15 pm, Room 12: 0 people');
		expect(paper).to.include('Delfina Amaro, Paulo Amaro');
		expect(paper).to.include('In line, in their order: 1 person');
		expect(await doorListPdf(school.db, teacher, id)).to.equal(null);
	});

	it('a reminder goes to those who come, a chase to those who have not answered, and both show the same question', async () => {
		const id = await school.invite({ places: 2 });
		await school.says(12, id, {});
		const draftTo = async (is: 'comes' | 'unsaid') => {
			const draft = (await followInvitation(school.db, coordinator, id, is))!;
			return (await readDraft(school.db, coordinator, draft))!;
		};
		const people = async (is: 'comes' | 'unsaid') => {
			const { manifest } = await planSheet(school.db, coordinator, await draftTo(is));
			return manifest.recipients.map((r) => r.personId).sort();
		};
		expect(await people('comes')).to.deep.equal([12]);
		expect(await people('unsaid')).to.deep.equal([10, 11]);
		// Who answers meanwhile is in the one and not in the other.
		await school.says(11, id, {});
		expect(await people('comes')).to.deep.equal([10, 11, 12]);
		const again = await school.send(await draftTo('comes'));
		expect((await school.sees(12, again))!.id).to.equal(id);
		expect(said(await school.says(12, again, { comes: false }))).to.equal('not');
		expect((await reach(id)).counts).to.include({ comes: 1, not: 1, asked: 2 });
		expect((await reach(again)).id).to.equal(id);
		const chase = (await makeChase(school.db, coordinator, id))!;
		expect((await readDraft(school.db, coordinator, chase))!.invitation).to.deep.equal({
			...{ kind: 'about', dispatchId: id }
		});
	});

	it('whoever was put in by hand is reminded as well, where they come', async () => {
		const byHand = [{ personId: 12, way: 'in', by: 'Maren Quill', at: 0 }] as const;
		const id = await school.invite({}, { audience: { ...audienceOf([100]), byHand: [...byHand] } });
		const people = async (is: 'comes' | 'unsaid') => {
			const draft = (await followInvitation(school.db, coordinator, id, is))!;
			const sheet = (await readDraft(school.db, coordinator, draft))!;
			const { manifest } = await planSheet(school.db, coordinator, sheet);
			return manifest.recipients.map((r) => r.personId).sort();
		};
		expect(await people('comes')).to.deep.equal([]);
		expect(await people('unsaid')).to.deep.equal([10, 11, 12]);
		await school.says(12, id, {});
		expect(await people('comes')).to.deep.equal([12]);
	});

	it('what cannot be asked so is said before it goes', async () => {
		const asks = {
			...({ kind: 'asks', until: null, places: 1, most: 10, anybody: false } as const),
			slots: [{ id: 1, at: null, words: ' ', places: null }]
		};
		const checks = async (over: Parameters<typeof sheetOf>[0]) =>
			(await landing(school.db, coordinator, sheetOf(over))).checks
				.filter((c) => c.where === 'invitation')
				.map((c) => `${c.level} ${c.text}`);
		const bad = await checks({ invitation: asks });
		expect(bad.join('\n'))
			.to.match(/not said until when/)
			.and.match(/neither when nor what/);
		expect(bad.join('\n')).to.match(/caution There is 1 place for 3 people/);
		const [gone] = await checks({ invitation: { kind: 'about', dispatchId: 99_999 } });
		expect(gone).to.match(/^block .*not there, or not yours/);
		// Nobody learns of another's invitation by naming its number.
		const id = await school.invite();
		const [theirs] = (
			await landing(
				school.db,
				teacher,
				sheetOf({ invitation: { kind: 'about', dispatchId: id }, audience: audienceOf([100]) })
			)
		).checks.filter((c) => c.where === 'invitation');
		expect(theirs!.text).to.match(/not there, or not yours/);
	});

	it('called back, it asks nobody any more', async () => {
		const id = await school.invite({ anybody: true });
		expect(whyOf(await openToAnybody(school.db, coordinator, id, false))).to.equal('done');
		expect((await reach(id)).link).to.equal(null);
		await openToAnybody(school.db, coordinator, id, true);
		expect((await reach(id)).link).to.match(/^https:\/\/courier.example\/i\/\d+-/);
		const draft = sheetOf({ holdMinutes: 5, subject: 'Held' });
		expect((await callBack(school.db, coordinator, id)).ok).to.equal(false);
		expect(draft.invitation).to.equal(null);
	});

	it('whoever has a copy for information is not asked; should they answer, they are counted and nobody else’s answer is missing less', async () => {
		const id = await school.invite(
			{},
			{ copies: { ...sheetOf().copies, toSender: true }, ways: ['email', 'text', 'inbox'] }
		);
		expect((await reach(id)).counts).to.include({ asked: 2, unsaid: 2 });
		await school.db.write(async (tx) => {
			const asked = (await askedBy(tx, id))!;
			const yes = { comes: true, people: 1, students: null, slot: 0 };
			await answer(tx, asked, { kind: 'person', id: 90 }, yes, { personId: 90, how: 'page' });
		});
		expect((await reach(id)).counts).to.include({ asked: 3, comes: 1, unsaid: 2 });
		const list = (await comingList(school.db, coordinator, id, all))!;
		expect(list.lines.map((l) => l.state)).to.deep.equal(['comes', 'unsaid', 'unsaid']);
		expect(list.lines[0]!.names).to.deep.equal(['Maren Quill']);
	});

	it('on a board it is answered in the letter of whoever has one, else by the link for anybody, and no longer than its time', async () => {
		const id = await school.invite({ anybody: true }, { audience: audienceOf([100]) });
		const own = await school.invite({}, { audience: audienceOf([100]), subject: 'Ours' });
		const where = (personId: number | null) =>
			answeredWhere(
				school.db,
				key,
				[id, own, school.dispatchId],
				personId === null ? null : { personId, base: '/f/x' }
			);
		expect(await where(10)).to.deep.equal({
			[id]: `/f/x?letter=${id}#coming`,
			[own]: `/f/x?letter=${own}#coming`
		});
		for (const reader of [12, null]) {
			const there = await where(reader);
			expect(Object.keys(there)).to.deep.equal([String(id)]);
			expect(there[id]).to.match(/^\/i\/\d+-/);
		}
		await school.pass(25 * hourMs);
		expect(await where(10)).to.deep.equal({});
	});
});

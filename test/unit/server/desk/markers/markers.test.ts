import { expect } from 'chai';
import { audienceOf, type Audience } from '../../../../../src/lib/core/audience/audience';
import { markerField } from '../../../../../src/lib/core/copy/fields';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { setClock } from '../../../../../src/lib/server/clock';
import { deliveryFacts } from '../../../../../src/lib/server/db/copy-facts';
import { audienceFrom, sentenceOf } from '../../../../../src/lib/server/desk/audience/sentence';
import { makeOne, makeTwo } from '../../../../../src/lib/server/desk/hand/make-one';
import {
	giveUpMarker,
	makeMarker,
	markerSchema,
	setMarks
} from '../../../../../src/lib/server/desk/markers/change-marker';
import { lackingAudience } from '../../../../../src/lib/server/desk/markers/lacking';
import {
	lookAtMarks,
	takeMarks,
	takeMarksSchema
} from '../../../../../src/lib/server/desk/markers/list-marks';
import { markerList, markerView } from '../../../../../src/lib/server/desk/markers/markers';
import { marksCsv } from '../../../../../src/lib/server/desk/markers/marks-out';
import { planBook, plannedFacts } from '../../../../../src/lib/server/desk/plan/plan-facts';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { replan } from '../../../../../src/lib/server/desk/send/replan';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	as,
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	testStart,
	type TestSchool,
	whyOf
} from '../../database';

const key = Buffer.alloc(32, 7);

describe('markers', () => {
	let school: TestSchool;
	let id: number;
	const make = (over: Record<string, unknown> = {}, user = office) =>
		makeMarker(
			school.db,
			user,
			markerSchema.parse({
				...{ name: 'museum slip', kind: 'yes-no', schoolId: '1', termId: '' },
				...over
			})
		);
	const made = async (over: Record<string, unknown> = {}, user = office): Promise<number> => {
		const done = await make(over, user);
		if (!done.ok) throw new Error(done.why);
		return done.id;
	};
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		for (const statement of [
			`INSERT INTO school VALUES (2, 'Tern Point', 'Tern')`,
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (5, 'student', 'Ida', 'Berg', 'en', 2, '7', 0)`,
			`UPDATE person SET identifier = '471' || id WHERE kind = 'student'`
		])
			await school.db.run(statement);
		id = await made();
	});
	afterEach(() => school.close());

	const set = (entries: readonly [number, string, string][], user = office, marker = id) =>
		setMarks(
			school.db,
			user,
			marker,
			entries.map(([studentId, was, value]) => ({ studentId, was, value }))
		);
	const values = async (marker = id) =>
		Object.fromEntries(
			(
				await school.db.all<{ s: number; v: string | null }>(
					`SELECT student_id AS s, value AS v FROM marked WHERE marker_id = $marker ORDER BY student_id`,
					{ marker }
				)
			).map((row) => [row.s, row.v])
		);
	const look = (text: string, user = office, marker = id) =>
		lookAtMarks({ db: school.db, key }, user, marker, Buffer.from(text));
	const seen = async (text: string, marker = id) => {
		const done = await look(text, office, marker);
		if (!done.ok) throw new Error(done.why);
		return done;
	};
	const take = async (text: string, complete = 'no', marker = id) => {
		const { said } = await seen(text, marker);
		const parsed = takeMarksSchema.parse({ said: JSON.stringify(said), complete });
		const done = await takeMarks(school.db, office, marker, parsed);
		if (!done.ok) throw new Error(done.why);
		return { put: done.put, stays: done.stays };
	};

	it('are made by whoever works at a school, for it; the same name twice is none', async () => {
		expect(whyOf(await make({ name: 'Museum SLIP' }))).to.contain('already');
		expect(whyOf(await make({ schoolId: '' }))).to.contain('your own school only');
		expect(whyOf(await make({ name: 'x', schoolId: '2' }))).to.contain('your own school only');
		expect(whyOf(await make({ name: 'mine' }, teacher))).to.equal('done');
		expect(whyOf(await make({ name: 'museum slip', schoolId: '2' }, coordinator))).to.equal('done');
		// Whoever sees the district's could not tell it from a school's.
		expect(whyOf(await make({ name: 'museum slip', schoolId: '' }, coordinator))).to.contain(
			'already'
		);
		expect((await markerList(school.db, office)).map((m) => [m.name, m.have, m.of])).to.deep.equal([
			['mine', 0, 3],
			['museum slip', 0, 3]
		]);
		expect(await markerList(school.db, as(office, 'office', 2))).to.have.length(1);
	});

	it('are set on a section’s list, written down, and not over what somebody else has set meanwhile', async () => {
		expect(
			await set([
				[1, '', 'yes'],
				[2, '', ''],
				[5, '', 'yes']
			])
		).to.deep.include({ put: 1 });
		expect(await values()).to.deep.equal({ 1: 'yes' });
		// A teacher marks own students and nobody else.
		expect(
			await set(
				[
					[2, '', 'yes'],
					[3, '', 'yes']
				],
				teacher
			)
		).to.deep.include({ put: 1 });
		// The office's form was open since before.
		const late = await set([[2, '', '']]);
		expect(late).to.deep.include({ put: 0, meanwhile: [] });
		expect(await set([[1, '', 'no']])).to.deep.include({ put: 0 });
		await set([[1, 'yes', '']]);
		const text = await made({ name: 'bus', kind: 'text' });
		await set([[1, '', 'bus 7']], office, text);
		const other = await set([[1, '', 'bus 9']], teacher, text);
		expect(other).to.deep.include({ put: 0, meanwhile: ['Ana Amaro'] });
		expect(whyOf(await set([[1, 'bus 7', 'x'.repeat(200)]], office, text))).to.contain('Ana Amaro');
		const lines = await school.db.all<{ after: string | null; by: number }>(
			`SELECT after, by_id AS "by" FROM person_change WHERE field = 'marker' ORDER BY id`
		);
		expect(lines.map((l) => [l.after, l.by])).to.deep.equal([
			['museum slip: yes', 95],
			['museum slip: yes', 91],
			[null, 95],
			['bus: bus 7', 95]
		]);
		const view = (await markerView(school.db, teacher, text, { sectionId: 100, find: '' }))!;
		expect(view.section!.students.map((s) => [s.name, s.value])).to.deep.equal([
			['Ana Amaro', 'bus 7'],
			['Rui Amaro', null]
		]);
		expect(view.places.map((p) => [p.key, p.have, p.of])).to.deep.equal([['section-100', 1, 2]]);
		expect(
			(await markerView(school.db, teacher, text, { sectionId: 101, find: '' }))!.section
		).to.equal(null);
	});

	it('come with a list that is looked at first; what a hand has set stays until the list says something new', async () => {
		const list =
			'Student number;Student;museum slip\n4711;;yes\n4712;;no\n4799;;yes\n4713;;perhaps\n';
		const first = await seen(list);
		expect(first.column).to.equal('museum slip');
		expect(first.set.map((m) => [m.name, m.before, m.value])).to.deep.equal([
			['Ana Amaro', null, 'yes']
		]);
		expect(first.wrong.map((w) => [w.line, w.text])).to.deep.equal([
			[4, 'No student of yours is “4799”.'],
			[5, 'Linh Pham: “perhaps” is neither a yes nor a no.']
		]);
		expect(await values()).to.deep.equal({});
		expect(await take(list)).to.deep.equal({ put: 1, stays: 0 });
		await set([
			[1, 'yes', ''],
			[2, '', 'yes']
		]);
		// The same list again: the hand has the last word.
		const again = await seen(list);
		expect([again.set, again.stays.map((m) => m.name)]).to.deep.equal([
			[],
			['Ana Amaro', 'Rui Amaro']
		]);
		expect(await take(list)).to.deep.equal({ put: 0, stays: 2 });
		expect(await values()).to.deep.equal({ 1: null, 2: 'yes' });
		// The list changes its mind, there and back.
		await take('4711\n');
		await take('Student number;museum slip\n4711;no\n4712;no\n');
		expect(await take(list)).to.deep.equal({ put: 1, stays: 1 });
		expect(await values()).to.deep.equal({ 1: 'yes', 2: 'yes' });
	});

	it('that a complete list does not name are lost; without a column whoever stands on it has it', async () => {
		await take('4711\n4712\n4713\n');
		expect(Object.values(await values())).to.deep.equal(['yes', 'yes', 'yes']);
		const part = await seen('Student name\nLinh Pham\n');
		expect(part.absent.map((m) => m.name)).to.deep.equal(['Ana Amaro', 'Rui Amaro']);
		expect(await take('4713\n', 'yes')).to.deep.equal({ put: 2, stays: 0 });
		expect(await values()).to.deep.equal({ 1: null, 2: null, 3: 'yes' });
		const day = await made({ name: 'passport', kind: 'date' });
		expect(whyOf(await look('4711\n', office, day))).to.contain(
			'No column says what “passport” is'
		);
		expect(whyOf(await look('Student number,a,b\n4711,1,2\n', office, day))).to.contain(
			'2 columns'
		);
		expect(await take('Student number,until\n4711,25/12/2027\n', 'no', day)).to.include({ put: 1 });
		expect((await values(day))[1]).to.equal('2027-12-25');
		for (const bad of ['{', '[[1]]', '[[1,2]]'])
			expect(takeMarksSchema.safeParse({ said: bad }).success, bad).to.equal(false);
		// Somebody who sends what no list has said.
		const forged = takeMarksSchema.parse({ said: '[[1,"perhaps"]]' });
		expect(whyOf(await takeMarks(school.db, office, id, forged))).to.contain('neither');
		const away = takeMarksSchema.parse({ said: '[[5,"yes"],[1,"yes"]]' });
		expect(await takeMarks(school.db, office, id, away)).to.include({ put: 1 });
	});

	it('leave as a list that changes nothing when it comes in again', async () => {
		await set([
			[1, '', 'yes'],
			[3, '', 'yes']
		]);
		const out = (await marksCsv({ db: school.db, key }, office, id))!;
		let text = '';
		for await (const piece of out.csv) text += piece;
		expect(text.trim().split('\r\n')).to.have.length(3);
		const back = await seen(text);
		expect([back.set, back.same, back.wrong]).to.deep.equal([[], 2, []]);
		expect(await marksCsv({ db: school.db, key }, as(office, 'office', 2), id)).to.equal(null);
	});

	const about = (audience: Audience, over = {}) =>
		sheetOf({ audience, holdMinutes: 0, ways: ['email', 'text'], ...over });
	const lacking = () => lackingAudience(id, 'school-1')!;
	const send = async (sheet: ReturnType<typeof sheetOf>, user = office) => {
		const { tally } = await landing(school.db, user, sheet);
		const sent = await schedule(school.db, key, user, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		return sent.dispatchId;
	};
	const students = (dispatch: number) =>
		school.db
			.all<{ s: number }>(
				`SELECT DISTINCT student_id AS s FROM delivery_student JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = $dispatch ORDER BY 1`,
				{ dispatch }
			)
			.then((rows) => rows.map((r) => r.s));

	it('say who is written to, in a sentence that is read back, and anew when it leaves', async () => {
		await set([[1, '', 'yes']]);
		const words = await sentenceOf(school.db, office, lacking());
		expect(words).to.equal(
			'Guardians of students in school Heron, who lack the marker museum slip'
		);
		const read = await audienceFrom(school.db, office, words, lacking(), 0);
		expect(read).to.deep.equal({ ok: true, audience: lacking() });
		// Of a marker of another school nobody learns the name.
		const away = as(office, 'office', 2);
		expect(await sentenceOf(school.db, away, lacking())).to.not.contain('museum');
		expect((await landing(school.db, away, about(lacking()))).checks.map((c) => c.text)).to.include(
			`The marker #${id} is no longer there. Take it out.`
		);
		const at = { when: { kind: 'at', at: '2027-03-10T10:00' }, ends: null, urgent: false } as const;
		const later = await send(about(lacking(), { timing: at }));
		expect(await students(later)).to.deep.equal([2, 3]);
		await set([[2, '', 'yes']]);
		await replan(school.db, key, later);
		expect(await students(later)).to.deep.equal([3]);
		// Given up, nobody is written to by mistake: it waits, with the reason.
		await giveUpMarker(school.db, office, id);
		await replan(school.db, key, later);
		const row = await school.db.one<{ waits: string }>(
			'SELECT waits FROM dispatch WHERE id = $later',
			{
				later
			}
		);
		expect(row!.waits).to.contain('no longer there');
		expect(await students(later)).to.deep.equal([]);
	});

	it('end with their term', async () => {
		const term = await made({ name: 'skate day', termId: '2' });
		const sheet = about(lackingAudience(term, 'school-1')!);
		expect(
			(await landing(school.db, office, sheet)).checks.filter((c) => c.level === 'block')
		).to.deep.equal([]);
		await setClock(school.db, testStart + 20 * 86_400_000);
		expect((await landing(school.db, office, sheet)).checks.map((c) => c.text)).to.include(
			`The marker #${term} is no longer there. Take it out.`
		);
		expect(
			(await markerView(school.db, office, term, { sectionId: null, find: '' }))!.ended
		).to.equal('It ended with Winter.');
		expect(whyOf(await make({ name: 'late', termId: '2' }))).to.contain('is over');
	});

	it('are said in copies as they were when those were planned; a gap blocks, and nobody reads another school’s', async () => {
		const bus = await made({ name: 'bus', kind: 'text' });
		const field = markerField(bus, 'bus');
		const copies = { ...sheetOf().copies, perStudent: true };
		const sheet = about(audienceOf([100]), {
			wording: wordingOf('Bus', `Bus: {{${field}}}.`),
			copies
		});
		await set([[1, '', 'red']], office, bus);
		const gap = await landing(school.db, office, sheet);
		expect(
			gap.checks
				.filter((c) => c.level === 'block')
				.map((c) => c.text)
				.join()
		).to.contain('“bus” has no value for');
		const spoken = about(audienceOf([100]), {
			wording: wordingOf('Bus', `Bus: {{${field}}}{{^${field}}}none{{/${field}}}.`),
			copies
		});
		const { roster, manifest } = await planSheet(school.db, office, spoken);
		const book = await planBook(school.db, office, spoken.wording);
		const dispatch = await send(spoken);
		await set([[1, 'red', 'blue']], office, bus);
		const rows = await school.db.all<{ id: number; personId: number; way: string; s: number }>(
			`SELECT delivery.id, person_id AS personId, way, student_id AS s FROM delivery
			JOIN delivery_student ON delivery_id = delivery.id WHERE dispatch_id = $dispatch`,
			{ dispatch }
		);
		const written = await deliveryFacts(
			school.db,
			rows.map((r) => r.id)
		);
		for (const copy of manifest.copies) {
			const row = rows.find(
				(r) => r.personId === copy.personId && r.way === copy.way && r.s === copy.studentIds[0]
			)!;
			expect(written.get(row.id)!.facts).to.deep.equal(plannedFacts(roster, book, manifest, copy));
		}
		const marks = [...written.values()].flatMap((w) =>
			w.facts.students.map((s) => s.marks?.get(bus))
		);
		expect(new Set(marks)).to.deep.equal(new Set(['red', undefined]));
		// A marker of another school, by its number: nothing is said of it.
		const theirs = await made({ name: 'their bus', kind: 'text', schoolId: '2' }, coordinator);
		await school.db.run(
			`INSERT INTO marked (marker_id, student_id, value, how, since, by_id) VALUES ($theirs, 1, 'secret', 'hand', 0, 90)`,
			{ theirs }
		);
		const guess = markerField(theirs, 'x');
		const sly = about(audienceOf([100]), {
			wording: wordingOf('Bus', `Bus: {{${guess}}}{{^${guess}}}none{{/${guess}}}.`)
		});
		const sent = await send(sly);
		expect(
			await school.db.all('SELECT value FROM dispatch_mark WHERE dispatch_id = $sent', { sent })
		).to.deep.equal([]);
	});

	it('that change while a sheet is on its way down are counted anew', async () => {
		const sheet = about(lacking());
		const { tally } = await landing(school.db, office, sheet);
		await set([
			[1, '', 'yes'],
			[2, '', 'yes']
		]);
		const sent = await schedule(school.db, key, office, sheet, tally.copies);
		expect(sent.ok).to.equal(false);
		if (!sent.ok) expect(sent.checks[0]!.text).to.contain('copies now, not');
	});

	it('go over where two students are made one, and back', async () => {
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (6, 'student', 'Anna', 'Amaro', 'pt', 1, '7', 0)`
		);
		await set([[6, '', 'yes']]);
		const one = await makeOne(school.db, office, { keepId: 1, otherId: 6 });
		expect(whyOf(one)).to.equal('done');
		expect(await values()).to.deep.equal({ 1: 'yes' });
		const row = await school.db.one<{ id: number }>('SELECT id FROM made_one');
		await makeTwo(school.db, office, row!.id);
		expect(await values()).to.deep.equal({ 6: 'yes' });
	});
});

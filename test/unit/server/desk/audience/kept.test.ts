import { expect } from 'chai';
import { audienceOf, type Audience } from '../../../../../src/lib/core/audience/audience';
import { ownChanged, readRoster, rosterChanged } from '../../../../../src/lib/server/db/roster';
import {
	giveUpKept,
	keepAudience,
	keptChange,
	keptLines,
	renameKept,
	useKept
} from '../../../../../src/lib/server/desk/audience/kept';
import { manifestPage } from '../../../../../src/lib/server/desk/plan/manifest-page';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { setStopped } from '../../../../../src/lib/server/desk/family/own-choices';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { audienceFrom, sentenceOf } from '../../../../../src/lib/server/desk/audience/sentence';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { manifestFilterSchema } from '../../../../../src/lib/server/desk/plan/types';

const key = Buffer.alloc(32, 7);

describe('kept audiences', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const keep = async (name: string, form: 'rule' | 'list', audience = audienceOf([100])) => {
		const kept = await keepAudience(school.db, coordinator, name, form, audience);
		if (!kept.ok) throw new Error(kept.why);
		return kept.id;
	};
	const change = async (...statements: string[]) => {
		for (const statement of statements) await school.db.run(statement);
		await rosterChanged(school.db);
	};
	const people = async (audience: Audience | null) =>
		(
			await planSheet(school.db, coordinator, sheetOf({ audience: audience! }))
		).manifest.recipients.map((r) => r.personId);

	it('a rule is worked out again and says who came in and dropped out; a list stays as it was', async () => {
		const rule = await keep('Maths', 'rule');
		const list = await keep('Maths, as of today', 'list');
		await change(
			'INSERT INTO enrolment (section_id, student_id) VALUES (100, 3)',
			'DELETE FROM enrolment WHERE section_id = 100 AND student_id IN (1, 2)'
		);
		expect(await people(await useKept(school.db, coordinator, rule))).to.deep.equal([12]);
		expect(await people(await useKept(school.db, coordinator, list))).to.deep.equal([10, 11]);
		const lines = await keptLines(school.db, coordinator);
		expect(
			lines.map((l) => [l.name, l.form, l.people, l.students, l.cameIn, l.droppedOut])
		).to.deep.equal([
			['Maths', 'rule', 1, 1, 1, 2],
			['Maths, as of today', 'list', 2, 2, 0, 0]
		]);
		expect(await keptChange(school.db, coordinator, rule)).to.deep.equal({
			cameIn: ['Bao Pham'],
			droppedOut: ['Delfina Amaro', 'Paulo Amaro']
		});
	});

	it('a list does not write to who has lost custody since, and says how many', async () => {
		const list = await keep('Maths', 'list');
		await change('UPDATE contact SET custody = 0 WHERE person_id = 11');
		expect(await people(await useKept(school.db, coordinator, list))).to.deep.equal([10]);
		const [line] = await keptLines(school.db, coordinator);
		expect([line!.people, line!.droppedOut]).to.deep.equal([1, 1]);
	});

	it('sending a rule unchanged notes what it came to; sending other lines does not', async () => {
		const rule = await keep('Maths', 'rule');
		await change('DELETE FROM contact WHERE person_id = 11');
		const send = async (audience: Audience) => {
			const sheet = sheetOf({ audience });
			const { tally } = await landing(school.db, coordinator, sheet);
			expect((await schedule(school.db, key, coordinator, sheet, tally.copies)).ok).to.equal(true);
		};
		const dropped = async () => (await keptLines(school.db, coordinator))[0]!.droppedOut;
		await send(audienceOf([100, 101]));
		expect(await dropped()).to.equal(1);
		await send((await useKept(school.db, coordinator, rule))!);
		expect(await dropped()).to.equal(0);
	});

	it('a rule whose section has been deleted says so, blocks until it is taken out, and is no error', async () => {
		await keep('Both', 'rule', audienceOf([100, 101]));
		await change(
			'DELETE FROM enrolment WHERE section_id = 101',
			'DELETE FROM section WHERE id = 101'
		);
		const [line] = await keptLines(school.db, coordinator);
		expect(line!.missing).to.equal(1);
		expect(line!.words).to.equal(
			'Guardians of students in Mathematics 7-A and #101 (no longer there)'
		);
		const sheet = sheetOf({ audience: (await useKept(school.db, coordinator, line!.id))! });
		const { checks } = await landing(school.db, coordinator, sheet);
		expect(checks[0]).to.include({ level: 'block', where: 'who' });
		expect(checks[0]!.text).to.match(/^1 of what is picked is no longer on the roster/);
	});

	it('an expression broken by hand or of another version is shown, cannot be used, and can be given up', async () => {
		const id = await keep('Maths', 'rule');
		await school.db.run(`UPDATE kept_audience SET audience = '{"version":9,"lines":"x"}'`);
		expect((await keptLines(school.db, coordinator))[0]).to.include({ people: 0, missing: 1 });
		expect(await useKept(school.db, coordinator, id)).to.equal(null);
		expect(await giveUpKept(school.db, coordinator, id)).to.equal(true);
		expect(await keptLines(school.db, coordinator)).to.deep.equal([]);
	});

	it('of version 1 is used as the present one', async () => {
		const id = await keep('Maths', 'rule');
		await school.db.run(
			`UPDATE kept_audience SET audience = '{"version":1,"lines":[{"to":["guardians"],"sectionIds":[100]}]}'`
		);
		expect(await useKept(school.db, coordinator, id)).to.deep.equal(audienceOf([100]));
	});

	it('refuses a name that is taken and an audience that comes to nobody', async () => {
		await keep('Maths', 'rule');
		const again = await keepAudience(school.db, coordinator, 'mATHS', 'list', audienceOf([101]));
		expect(!again.ok && again.why).to.match(/^You keep an audience "mATHS" already/);
		const nobody = await keepAudience(school.db, coordinator, 'None', 'rule', audienceOf([]));
		expect(!nobody.ok && nobody.why).to.match(/^It comes to nobody/);
		const id = await keep('Drama', 'rule', audienceOf([101]));
		expect(await renameKept(school.db, coordinator, id, 'Maths')).to.include({ ok: false });
		expect(await renameKept(school.db, coordinator, id, 'Stage')).to.deep.equal({ ok: true });
	});

	it("are their maker's: a teacher sees and uses no other's, and none of their people through a list", async () => {
		const rule = await keep('Maths', 'rule');
		const list = await keep('All', 'list', audienceOf([100, 101]));
		expect(await keptLines(school.db, teacher)).to.deep.equal([]);
		for (const id of [rule, list]) {
			expect(await useKept(school.db, teacher, id)).to.equal(null);
			expect(await giveUpKept(school.db, teacher, id)).to.equal(false);
			expect(await keptChange(school.db, teacher, id)).to.equal(null);
		}
		const stolen: Audience = {
			version: 2,
			lines: [{ verb: 'and', people: { kind: 'list', keptId: list }, only: [] }],
			byHand: []
		};
		const { tally, checks } = await landing(school.db, teacher, sheetOf({ audience: stolen }));
		expect(tally.people).to.equal(0);
		expect(checks[0]!.text).to.equal(`The fixed list #${list} is no longer there. Take it out.`);
		// What is given up is gone for the maker too.
		await giveUpKept(school.db, coordinator, list);
		const after = await landing(school.db, coordinator, sheetOf({ audience: stolen }));
		expect(after.checks[0]!.text).to.match(/^The fixed list #\d+ is no longer there/);
	});
});

describe('audiences and what is on file', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());

	it('ask what an earlier dispatch came to, as it is at the time of asking, and only of one that may be seen', async () => {
		const first = sheetOf({ ways: ['email', 'inbox'] });
		const { tally } = await landing(school.db, coordinator, first);
		const sent = await schedule(school.db, key, coordinator, first, tally.copies);
		const dispatchId = sent.ok ? sent.dispatchId : 0;
		const chase = sheetOf({
			audience: {
				version: 2,
				lines: [
					{
						verb: 'and',
						to: [{ kind: 'guardians' }],
						of: { kind: 'uncovered', ids: [dispatchId] },
						only: [{ kind: 'outcome', dispatchId, read: false }]
					}
				],
				byHand: []
			}
		});
		const asked = async () => (await landing(school.db, coordinator, chase)).tally;
		expect(await asked()).to.include({ students: 3, people: 3 });
		// The mother reads in her inbox: her two children are covered, and the audience shrinks by itself.
		const inbox = await school.db.one<{ id: number }>(
			`SELECT id FROM delivery WHERE person_id = 10 AND way = 'inbox'`
		);
		await school.db.write((tx) =>
			record(tx, [
				{ deliveryId: inbox!.id, at: 5, kind: 'acknowledged', source: 'inbox', detail: 'x' }
			])
		);
		expect(await asked()).to.include({ students: 1, people: 1 });
		const others = await landing(school.db, teacher, chase);
		expect(others.tally.people).to.equal(0);
		expect(others.checks[0]!.text).to.equal(
			`The earlier dispatch #${dispatchId} is no longer there. Take it out.`
		);
	});

	it('are put into words and read back with the names on file, each person by hand with who did it', async () => {
		const audience: Audience = {
			...audienceOf([100, 101]),
			byHand: [{ personId: 91, way: 'in', by: 'Ines Tavares', at: 7 }]
		};
		const words = await sentenceOf(school.db, coordinator, audience);
		expect(words).to.equal(
			'Guardians of students in Mathematics 7-A and Drama 7-A, with Chidi Okafor by hand'
		);
		const read = await audienceFrom(
			school.db,
			coordinator,
			`${words}, without Bao Pham by hand`,
			audience,
			99
		);
		expect(read).to.deep.equal({
			ok: true,
			audience: {
				...audience,
				byHand: [...audience.byHand, { personId: 12, way: 'out', by: 'Maren Quill', at: 99 }]
			}
		});
	});

	it('name what shares its name by term, school or number, and ask which where it is not said', async () => {
		await school.db.run(`INSERT INTO term VALUES (1, 'Fall', '2026-08-31', '2026-12-01')`);
		await school.db.run(
			`INSERT INTO section (id, course_id, term_id, name, period) VALUES (102, 1, 1, 'Mathematics 7-A', 'period 1')`
		);
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (13, 'adult', 'Delfina', 'Amaro', 'pt', NULL, NULL, 0)`
		);
		await rosterChanged(school.db);
		await school.db.run(`UPDATE clock SET offset_ms = ${Date.UTC(2027, 0, 11) - Date.now()}`);
		const read = (text: string) => audienceFrom(school.db, coordinator, text, audienceOf([]), 0);
		const sections = async (text: string) => {
			const answer = await read(text);
			return answer.ok ? JSON.stringify(answer.audience.lines[0]) : answer.why;
		};
		expect(await sentenceOf(school.db, coordinator, audienceOf([100, 102]))).to.equal(
			'Guardians of students in Mathematics 7-A and Mathematics 7-A (Fall)'
		);
		expect(await sections('Guardians of students in Mathematics 7-A')).to.contain('[100]');
		expect(await sections('Guardians of students in Mathematics 7-A (Fall)')).to.contain('[102]');
		expect(await sections('Guardians of students in Mathematics 7-A (Spring)')).to.equal(
			'There is no section "Mathematics 7-A" with "Spring".'
		);
		expect(await sections('The people Delfina Amaro')).to.match(
			/^There are 2 with the name "Delfina Amaro" \(person\)\. Say which, in brackets behind it: #10; #13\./
		);
		expect(await sections('The people Delfina Amaro (#13)')).to.contain('[13]');
	});

	it('are read back with commas in what tells names apart, with languages nobody here reads, and people who are gone', async () => {
		await school.db.run(`UPDATE school SET short_name = 'Heron, North (new)'`);
		await school.db.run(`INSERT INTO course VALUES (3, 1, 'N', 'Mathematics')`);
		await school.db.run(
			`INSERT INTO section (id, course_id, term_id, name, period) VALUES (103, 3, 2, 'Mathematics 7-A', 'period 1')`
		);
		await rosterChanged(school.db);
		const audience: Audience = {
			version: 2,
			lines: [
				{
					verb: 'and',
					to: [{ kind: 'guardians' }],
					of: { kind: 'courses', ids: [1], termId: 2 },
					only: [{ kind: 'language', tags: ['so', 'pt-BR', 'zh-Hant', 'pt'] }]
				},
				{ verb: 'and', people: { kind: 'named', ids: [10, 777] }, only: [] }
			],
			byHand: [{ personId: 778, way: 'out', by: 'Ines', at: 3 }]
		};
		const words = await sentenceOf(school.db, coordinator, audience);
		expect(words).to.contain('who read Somali, ').and.contain('#777 (no longer there)');
		expect(await audienceFrom(school.db, coordinator, words, audience, 99)).to.deep.equal({
			ok: true,
			audience
		});
		const adult = await audienceFrom(
			school.db,
			coordinator,
			'Guardians of students in the list of Ana Amaro and Delfina Amaro',
			audience,
			99
		);
		expect(!adult.ok && adult.why).to.match(/^A list of students holds students only/);
	});

	it('tell a teacher of nobody but own students and their families', async () => {
		const read = await audienceFrom(school.db, teacher, 'The people Bao Pham', audienceOf([]), 0);
		expect(!read.ok && read.why).to.equal(
			'There is no person "Bao Pham" among your students and their families.'
		);
		const staff: Audience = {
			version: 2,
			lines: [
				{ verb: 'and', people: { kind: 'staff', roles: [], schoolIds: [] }, only: [] },
				{ verb: 'and', people: { kind: 'named', ids: [12, 10] }, only: [] }
			],
			byHand: []
		};
		await school.db.run(`INSERT INTO staff VALUES (90, NULL, 'coordinator')`);
		await rosterChanged(school.db);
		const own = await landing(school.db, teacher, sheetOf({ audience: staff }));
		expect(own.tally.people).to.equal(1);
		expect(JSON.stringify(own)).not.to.match(/Bao|Pham/);
		expect(own.checks[0]!.text).to.match(/^You may not write to these staff or people/);
		const all = await landing(school.db, coordinator, sheetOf({ audience: staff }));
		expect(all.tally.people).to.equal(3);
	});

	it('of staff alone are followed person by person, and copies by other ways are in the sums', async () => {
		await school.db.run(`INSERT INTO staff VALUES (90, NULL, 'office'), (91, 1, 'teacher')`);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (91, 'email', 'chidi@brackwater.example', 'in')`
		);
		await rosterChanged(school.db);
		const sheet = sheetOf({
			ways: ['inbox'],
			audience: {
				version: 2,
				lines: [
					{ verb: 'and', people: { kind: 'staff', roles: ['office'], schoolIds: [] }, only: [] }
				],
				byHand: []
			},
			copies: { ...sheetOf().copies, toColleagues: [91] }
		});
		const { tally, checks } = await landing(school.db, coordinator, sheet);
		expect(tally).to.deep.include({ people: 1, students: 0, copies: 2, informed: 1 });
		expect(checks.filter((c) => c.level !== 'caution')).to.deep.equal([]);
		const sent = await schedule(school.db, key, coordinator, sheet, 2);
		const reach = await dispatchReach(school.db, coordinator, sent.ok ? sent.dispatchId : 0, {
			way: 'all',
			state: 'all',
			section: 0,
			search: '',
			page: 1
		});
		expect(reach!.coverage.sentence).to.equal('0 of 2 people have read it, 2 waiting');
		expect(reach!.copies.byWay.map((w) => [w.way, w.copies])).to.deep.equal([
			['email', 1],
			['inbox', 1]
		]);
		expect(reach!.copies.found).to.equal(2);
		// A parent is no colleague.
		const parent = { ...sheet, copies: { ...sheet.copies, toColleagues: [12] } };
		const refused = await landing(school.db, coordinator, parent);
		expect(refused.checks[0]!.text).to.match(/^Copies for information go to staff only/);
	});

	it('read only what is some people’s own again, and everything after any other change', async () => {
		const before = await readRoster(school.db);
		expect(await readRoster(school.db)).to.equal(before);
		await school.db.run(`UPDATE address SET failing = 'gone' WHERE person_id = 12`);
		await school.db.run(`UPDATE person SET given_name = 'Changed' WHERE id = 10`);
		await ownChanged(school.db, [12]);
		const after = await readRoster(school.db);
		expect(after.addressesOf(12)[0]!.failing).to.equal('gone');
		expect(before.addressesOf(12)[0]!.failing).to.equal(null);
		// The name was changed behind our back: only what was named was read.
		expect(after.person(10)!.givenName).to.equal('Delfina');
		// A tap on "stop" is one person's own matter, too.
		await setStopped(school.db, 12, 'message', true);
		const stopped = await readRoster(school.db);
		expect(stopped.declines(12, 'message', 'email')).to.equal(true);
		expect(stopped.person(10)!.givenName).to.equal('Delfina');
		await setStopped(school.db, 12, 'message', false);
		expect((await readRoster(school.db)).declines(12, 'message', 'email')).to.equal(false);
		await rosterChanged(school.db);
		expect((await readRoster(school.db)).person(10)!.givenName).to.equal('Changed');
	});

	it('point out whoever has three messages that day', async () => {
		for (let i = 0; i < 3; i += 1) {
			const sheet = sheetOf({ audience: audienceOf([100]), ways: ['email'] });
			expect((await schedule(school.db, key, coordinator, sheet, 1)).ok).to.equal(true);
		}
		const { checks } = await landing(school.db, coordinator, sheetOf());
		expect(checks.map((c) => c.text)).to.include(
			'2 people have 3 messages or more on Tue Mar 9 already. See whether it can go on another day.'
		);
	});

	it('give the manifest a page at a time, by any filter, with what there is to filter by', async () => {
		const ask = (filter: object) =>
			manifestPage(school.db, coordinator, sheetOf(), ['en'], manifestFilterSchema.parse(filter));
		const all = await ask({});
		expect([all.found, all.all, all.pages]).to.deep.equal([3, 3, 1]);
		expect(all.languages).to.deep.equal([
			{ value: 'pt', word: 'Portuguese', people: 2 },
			{ value: 'vi', word: 'Vietnamese', people: 1 }
		]);
		expect(all.reasons.map((r) => [r.value, r.word, r.people])).to.deep.equal([
			['no-inbox', 'No account for the inbox', 1],
			['no-email', 'No email address on file', 1],
			['no-number', 'No number on file', 1]
		]);
		for (const [filter, found] of [
			[{ language: 'vi' }, ['Bao Pham']],
			[{ section: 'Drama 7-A' }, ['Bao Pham']],
			[{ reason: 'no-number' }, ['Paulo Amaro']],
			[{ way: 'text' }, ['Delfina Amaro', 'Bao Pham']],
			[{ show: 'shared' }, ['Delfina Amaro', 'Paulo Amaro']],
			[{ show: 'several', way: 'inbox' }, ['Delfina Amaro']],
			[{ search: 'PÃM' }, []],
			[{ search: 'phám drama' }, ['Bao Pham']],
			[{ show: 'out' }, []],
			[{ page: 99, search: 'ama' }, ['Delfina Amaro', 'Paulo Amaro', 'Bao Pham']]
		] as const) {
			const page = await ask(filter);
			expect(
				page.households.flatMap((h) => h.people.map((p) => p.name)),
				JSON.stringify(filter)
			).to.have.members(found);
			expect(page.found).to.equal(found.length);
		}
	});
});

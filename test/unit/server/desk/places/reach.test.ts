import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import type { User } from '../../../../../src/lib/server/access/user';
import { reachOfPlaces } from '../../../../../src/lib/server/desk/places/place';
import { placeCards } from '../../../../../src/lib/server/desk/places/cards';
import { reachOfPlace } from '../../../../../src/lib/server/desk/places/reach';
import { sectionList, sectionView } from '../../../../../src/lib/server/desk/places/sections';
import { enrol, unenrol } from '../../../../../src/lib/server/desk/hand/enrol';
import { saveDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import {
	as,
	coordinator,
	districtDatabase,
	sheetOf,
	teacher,
	testSchool,
	type FreshDatabase,
	type TestSchool
} from '../../database';

const office = as(coordinator, 'office', 1);
const all = { by: 'all', language: '', page: 1 } as const;

describe('how well families can be reached', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());

	it('leave as vCards: whoever is written to by the usual duty, each once, with those they look after', async () => {
		await school.db.write(async (tx) => {
			await tx.run(`UPDATE contact SET custody = 0 WHERE person_id = 12`);
			await tx.run(`UPDATE address SET consent = 'out' WHERE way = 'text'`);
			await tx.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
		});
		const { name, cards } = (await placeCards(
			{ db: school.db, key: Buffer.alloc(32, 7) },
			coordinator,
			'school-1'
		))!;
		expect(name).to.equal('Heron Landing');
		expect(cards.match(/^FN:.*$/gm)).to.deep.equal(['FN:Delfina Amaro', 'FN:Paulo Amaro']);
		expect(cards.match(/TYPE=child/g)).to.have.length(4);
		// A number that has said no takes no texts; it can be called.
		expect(cards).to.contain('TEL;VALUE=uri;TYPE=voice:tel:+12075550101');
		expect(cards).to.contain('CATEGORIES:Heron Landing');
		expect(
			await placeCards(
				{ db: school.db, key: Buffer.alloc(32, 7) },
				as(office, 'office', 2),
				'school-1'
			)
		).to.equal(null);
		expect(
			await placeCards({ db: school.db, key: Buffer.alloc(32, 7) }, teacher, 'section-101')
		).to.equal(null);
	});

	it('of whom a sheet is about, as it is saved, for whoever may see it', async () => {
		const sheet = sheetOf({ audience: audienceOf([100]), subject: 'Boats' });
		const key = `sheet-${sheet.sheetKey}`;
		expect(await reachOfPlace(school.db, teacher, key, all)).to.equal(null);
		await saveDraft(school.db, teacher, sheet, null);
		const view = (await reachOfPlace(school.db, teacher, key, all))!;
		expect(view.place).to.deep.include({ key, name: 'Boats', students: 2, none: 0 });
		expect(view.people.map((p) => p.name)).to.deep.equal(['Ana Amaro', 'Rui Amaro']);
		// A draft is its writer's; of others' students a teacher's sheet counts nobody.
		expect(await reachOfPlace(school.db, coordinator, key, all)).to.equal(null);
		const wide = sheetOf({ audience: audienceOf([100, 101]) });
		await saveDraft(school.db, teacher, wide, null);
		const own = (await reachOfPlace(school.db, teacher, `sheet-${wide.sheetKey}`, all))!;
		expect(own.place.students).to.equal(2);
		for (const bad of ['sheet-', 'sheet-1', `sheet-${'x'.repeat(36)}`])
			expect(await reachOfPlace(school.db, coordinator, bad, all), bad).to.equal(null);
	});

	it('counts students for whom somebody with the usual duty can be reached, as a dispatch is planned', async () => {
		const { what, lines, all: whole } = await reachOfPlaces(school.db, coordinator);
		expect(what).to.equal('schools');
		expect(whole).to.equal(null);
		expect(lines).to.deep.equal([
			{
				...{ key: 'school-1', name: 'Heron Landing', students: 3, none: 0, languages: 2 },
				by: { email: 2, text: 3, inbox: 3 }
			}
		]);
		// Who has no custody, or whose number has not opted in, reaches nobody.
		await school.db.write(async (tx) => {
			await tx.run(`UPDATE contact SET custody = NULL WHERE student_id = 3`);
			await tx.run(`UPDATE address SET consent = 'unknown' WHERE way = 'text'`);
			await tx.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
		});
		const [line] = (await reachOfPlaces(school.db, coordinator)).lines;
		expect(line).to.deep.include({ none: 1, languages: 1, by: { email: 2, text: 0, inbox: 2 } });
		const { tally } = await landing(school.db, coordinator, sheetOf());
		expect(tally.leftOutBy.map((r) => [r.text, r.people])).to.deep.include([
			'Nobody has said yet whether they have custody',
			1
		]);
		const behind = (await reachOfPlace(school.db, coordinator, 'school-1', {
			...all,
			by: 'none'
		}))!;
		expect(behind.people).to.deep.equal([
			{
				...{ studentId: 3, name: 'Linh Pham', note: 'Grade 7, Heron' },
				adults: [
					{
						...{ personId: 12, name: 'Bao Pham', relation: 'father', by: [] },
						why: 'Nobody has said yet whether they have custody'
					}
				]
			}
		]);
		expect(behind.languages.map((l) => [l.name, l.students, l.none])).to.deep.equal([
			['Portuguese', 2, 0],
			['nobody to write to', 1, 1]
		]);
		const nobody = await reachOfPlace(school.db, coordinator, 'school-1', {
			...all,
			language: '-'
		});
		expect(nobody!.people.map((p) => p.name)).to.deep.equal(['Linh Pham']);
	});

	it('an office sees its grades, a teacher own sections, and neither what is another’s', async () => {
		const grades = await reachOfPlaces(school.db, office);
		expect(grades.lines.map((l) => [l.key, l.students])).to.deep.equal([['grade-1-7', 3]]);
		const sections = await reachOfPlaces(school.db, teacher);
		expect(sections.lines.map((l) => [l.key, l.students])).to.deep.equal([['section-100', 2]]);
		const seen = async (user: User, key: string) =>
			(await reachOfPlace(school.db, user, key, all))?.found ?? null;
		expect(await seen(teacher, 'section-101')).to.equal(null);
		expect(await seen(teacher, 'school-1')).to.equal(null);
		expect(await seen(teacher, 'mine')).to.equal(2);
		expect(await seen(as(office, 'office', 2), 'school-1')).to.equal(null);
		expect(await seen(coordinator, 'grade-1-7')).to.equal(3);
		for (const key of ['', 'school-', 'school-1e3', 'group-1', "grade-1-7' OR 1", 'section-999'])
			expect(await seen(coordinator, key), key).to.be.oneOf([null, 0]);
	});

	it('a section shows its students and staff; one is put in and taken out by hand', async () => {
		expect((await enrol(school.db, office, { sectionId: 101, studentId: 1 })).ok).to.equal(true);
		const view = (await sectionView(school.db, office, 101))!;
		expect(view.people.map((p) => p.name)).to.deep.equal(['Ana Amaro', 'Linh Pham']);
		expect(view.reach).to.deep.include({ students: 2, by: { email: 1, text: 2, inbox: 2 } });
		await unenrol(school.db, office, { sectionId: 101, studentId: 3 });
		const after = (await sectionView(school.db, office, 101))!;
		expect(after.people.map((p) => p.name)).to.deep.equal(['Ana Amaro']);
		expect(await sectionView(school.db, teacher, 101)).to.equal(null);
		const away = as(office, 'office', 2);
		const refused = await enrol(school.db, away, { sectionId: 100, studentId: 3 });
		expect(refused).to.deep.include({ ok: false });
		const list = await sectionList(school.db, teacher, { term: 0, q: 'math', page: 1 });
		expect(list.lines.map((l) => [l.name, l.staff, l.students])).to.deep.equal([
			['Mathematics 7-A', 'Chidi Okafor', 2]
		]);
		expect((await sectionList(school.db, coordinator, { term: 9, q: '', page: 7 })).page).to.equal(
			1
		);
	});
});

describe('how well the families of a made district can be reached', () => {
	let fresh: FreshDatabase;
	before(async () => {
		fresh = await districtDatabase(11);
	});
	after(() => fresh.close());

	it('comes to what the database says, counted in SQL', async () => {
		const duty = `contact_now AS contact JOIN person_now AS adult ON adult.id = contact.person_id
			WHERE student_id = student.id AND guardian AND custody AND correspondence`;
		const has = (condition: string) => `EXISTS (SELECT 1 FROM ${duty} AND ${condition})`;
		const declines = (way: string) =>
			`EXISTS (SELECT 1 FROM declined WHERE person_id = adult.id AND kind = 'message' AND way = '${way}')`;
		const email = `EXISTS (SELECT 1 FROM address WHERE person_id = adult.id AND way = 'email'
			AND failing IS NULL AND consent != 'out') AND NOT ${declines('email')}`;
		const text = `EXISTS (SELECT 1 FROM address WHERE person_id = adult.id AND way = 'text' AND failing IS NULL AND consent = 'in')`;
		const inbox = `has_inbox AND NOT ${declines('inbox')}`;
		const counted = await fresh.db.all<Record<string, number>>(
			`SELECT count(*) AS students, sum(${has(email)}) AS email, sum(${has(text)}) AS text,
				sum(${has(inbox)}) AS inbox, sum(NOT ${has(`(${email} OR ${text} OR ${inbox})`)}) AS none
			FROM person_now AS student JOIN school ON school.id = student.school_id
			WHERE kind = 'student' GROUP BY school.id ORDER BY school.name`
		);
		const { lines, all: whole } = await reachOfPlaces(fresh.db, coordinator);
		expect(lines.map((l) => ({ students: l.students, ...l.by, none: l.none }))).to.deep.equal(
			counted
		);
		expect(whole!.students).to.equal(counted.reduce((sum, c) => sum + c.students!, 0));
	});
});

import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import type { Way } from '../../../../../src/lib/core/roster/way';
import { silences } from '../../../../../src/lib/core/track/silent';
import type { User } from '../../../../../src/lib/server/access/rights';
import { moveTo, now, setClock } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { sheetWith } from '../../../../../src/lib/server/desk/sheet/sheet';
import { silentCsv, silentPdf } from '../../../../../src/lib/server/desk/silent/phone-sheet';
import {
	silentFamilies,
	silentFilterSchema,
	silentToCall,
	type SilentFilter
} from '../../../../../src/lib/server/desk/silent/silent-families';
import {
	putSpoken,
	spokenSchema,
	takeBackSpoken
} from '../../../../../src/lib/server/desk/silent/spoken';
import { readByHabit } from '../../../../read-by-habit';
import {
	as,
	coordinator,
	districtWithCoordinator,
	sheetOf,
	teacher,
	testSchool,
	testStart,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const day = 86_400_000;
const filter = (over: Partial<SilentFilter> = {}): SilentFilter => ({
	...silentFilterSchema.parse({}),
	...over
});

describe('families that nothing reaches, in a small school', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		// Ana and Rui live with their mother; Linh in no household.
		await school.db.run(`INSERT INTO household (id, name) VALUES (5, 'Amaro')`);
		await school.db.run('INSERT INTO household_member VALUES (5, 1), (5, 2), (5, 10), (5, 11)');
		await school.db.write((tx) => rosterChanged(tx));
	});
	afterEach(() => school.close());

	/** Sends by some ways, and lets all copies leave; resolves to the number. */
	async function send(...ways: Way[]): Promise<number> {
		const { db } = school;
		const sheet = sheetOf({ ways, holdMinutes: 0 });
		const { tally } = await landing(db, coordinator, sheet);
		const sent = await schedule(db, key, coordinator, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		await db.run(
			`UPDATE delivery SET state = 'delivered', left_at = due_at WHERE dispatch_id = $id`,
			{ id: sent.dispatchId }
		);
		await db.run(`UPDATE dispatch SET state = 'sent' WHERE id = $id`, { id: sent.dispatchId });
		await moveTo(db, (await now(db)) + day);
		return sent.dispatchId;
	}
	const seen = (over: Partial<SilentFilter> = {}, user = coordinator) =>
		silentFamilies(school.db, user, filter(over));

	it('are told apart by what is to be done, with why and what would probably work', async () => {
		expect(await seen()).to.include({ homes: 0, silent: 0 });
		const first = await send('text');
		const view = await seen();
		expect(view).to.include({ homes: 2, silent: 2, dispatches: 1, spoken: 0 });
		const [amaro, pham] = view.lines;
		expect(amaro).to.deep.include({
			...{ householdId: 5, studentId: null, kind: 'not-read', meant: 1, left: 1, arrived: 1 },
			...{ school: 'Heron Landing', lastReadAt: null, spoken: null },
			why: ['Delfina Amaro: 1 text arrived, and was not read'],
			students: [
				{ id: 1, name: 'Ana Amaro', section: 'Mathematics 7-A' },
				{ id: 2, name: 'Rui Amaro', section: 'Mathematics 7-A' }
			]
		});
		expect(amaro!.try).to.match(/^(email|inbox), not tried yet/);
		expect(amaro!.adults.map((a) => [a.name, a.numbers])).to.deep.equal([
			['Delfina Amaro', ['+12075550101']],
			['Paulo Amaro', []]
		]);
		expect(pham).to.deep.include({ householdId: null, studentId: 3, kind: 'not-read' });

		await school.db.run(`UPDATE delivery SET state = 'failed' WHERE person_id = 12`);
		// What happened is read anew once ten minutes are over, or the roster has changed.
		await school.db.write((tx) => rosterChanged(tx));
		expect((await seen({ kind: 'not-arrived' })).lines.map((l) => l.studentId)).to.deep.equal([3]);
		await school.db.run(`UPDATE address SET failing = 'no such number' WHERE person_id = 12`);
		await school.db.run('UPDATE person SET has_inbox = 0 WHERE id = 12');
		await school.db.write((tx) => rosterChanged(tx));
		const noWay = (await seen({ kind: 'no-way' })).lines;
		expect(noWay).to.have.lengthOf(1);
		expect(noWay[0]!.why[0]).to.match(/^Bao Pham: No email address on file.*no such number/);
		expect(noWay[0]!.try).to.equal('a call');

		// Any of the home who reads anything of it, at whatever address, is enough.
		await school.db.run(
			'UPDATE delivery SET read_at = left_at + 60000 WHERE dispatch_id = $first AND person_id = 10',
			{ first }
		);
		await school.db.write((tx) => rosterChanged(tx));
		expect((await seen()).lines.map((l) => l.studentId)).to.deep.equal([3]);
		expect((await seen()).kinds).to.deep.equal({
			...{ 'no-way': 1, 'left-out': 0, 'not-arrived': 0, 'not-read': 0 }
		});
	});

	it('left out each time say why, how often', async () => {
		await send('email');
		await send('email');
		const { lines, kinds } = await seen({ kind: 'left-out' });
		expect(kinds['left-out']).to.equal(1);
		expect(lines[0]).to.deep.include({
			...{ studentId: 3, left: 0, meant: 2 },
			why: ['Bao Pham, 2 times: No email address on file']
		});
	});

	it('what was read in the stretch counts, though it left before; what was read before does not', async () => {
		const id = await send('email', 'inbox');
		const at = (await now(school.db)) - 2 * day;
		await school.db.run('UPDATE delivery SET read_at = $at WHERE person_id IN (10, 12)', { at });
		await moveTo(school.db, testStart + 40 * day);
		await send('email', 'inbox');
		expect((await seen()).silent).to.equal(2);
		await school.db.run(
			'UPDATE delivery SET read_at = $at WHERE person_id = 12 AND dispatch_id = $id',
			{
				...{ at: testStart + 38 * day, id }
			}
		);
		await school.db.write((tx) => rosterChanged(tx));
		expect((await seen()).lines.map((l) => l.householdId)).to.deep.equal([5]);
		expect((await seen()).lines[0]!.lastReadAt).to.equal(at);
	});

	it('spoken to are none for as long as the stretch is; a slip is taken back by whoever made it', async () => {
		await send('text');
		const { db } = school;
		const home = spokenSchema.parse({ householdId: '5', words: 'Both will come on Friday.' });
		expect((await putSpoken(db, coordinator, home)).ok).to.equal(true);
		const view = await seen();
		expect(view).to.include({ silent: 1, spoken: 1 });
		expect((await takeBackSpoken(db, teacher, home)).ok).to.equal(false);
		expect((await takeBackSpoken(db, coordinator, home)).ok).to.equal(true);
		expect(await seen()).to.include({ silent: 2, spoken: 0 });
		await putSpoken(db, coordinator, home);
		await moveTo(db, (await now(db)) + 20 * day);
		await send('text');
		expect(await seen({ days: 7 })).to.include({ silent: 2 });
		const again = (await seen({ days: 7 })).lines.find((l) => l.householdId === 5)!;
		expect(again.spoken).to.include({ by: 'Maren Quill', words: 'Both will come on Friday.' });
		const acts = await db.all<{ act: string }>(
			`SELECT act FROM log_line WHERE act IN ('spoken-to', 'not-spoken-to') ORDER BY id`
		);
		expect(acts.map((a) => a.act)).to.deep.equal(['spoken-to', 'not-spoken-to', 'spoken-to']);
	});

	it('pressed twice is said once, and without the right to answer not at all', async () => {
		await send('text');
		const { db } = school;
		const home = spokenSchema.parse({ householdId: '5' });
		await putSpoken(db, coordinator, home);
		await putSpoken(db, coordinator, { ...home, words: 'On Friday.' });
		expect(await db.all('SELECT words FROM spoken_to')).to.deep.equal([{ words: 'On Friday.' }]);
		await takeBackSpoken(db, coordinator, home);
		expect(await seen()).to.include({ silent: 2, spoken: 0 });
		const operator = as(coordinator, 'operator', null);
		expect(await putSpoken(db, operator, home)).to.have.property('ok', false);
		expect(await seen({}, operator)).to.include({ homes: 0 });
	});

	it('what only stands on boards was sent to nobody, and makes nobody one of them', async () => {
		await send('text');
		await school.db.run(`UPDATE delivery SET read_at = left_at + 1000`);
		await school.db.run(
			`INSERT INTO dispatch (sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, leaves_at, kind)
			SELECT 'board', 'Tide tables', body, audience, audience_words, '[]', 0, sender_id, 'sent', changed_at, $at, 'announcement' FROM dispatch LIMIT 1`,
			{ at: await now(school.db) }
		);
		await school.db.run(
			`INSERT INTO dispatch_student (dispatch_id, student_id) SELECT (SELECT max(id) FROM dispatch), id FROM person WHERE kind = 'student'`
		);
		await moveTo(school.db, (await now(school.db)) + 40 * day);
		expect(await seen()).to.include({ dispatches: 0, homes: 0, silent: 0 });
		expect(await seen({ days: 60 })).to.include({ dispatches: 1, silent: 0 });
	});

	it('somebody else’s are not seen, and not put down; what is no family is refused', async () => {
		await send('text');
		const { db } = school;
		// Section 100 is his: Ana and Rui, not Linh.
		const own = await seen({}, teacher);
		expect(own.lines.map((l) => l.householdId)).to.deep.equal([5]);
		expect(own.homes).to.equal(1);
		const linh = spokenSchema.parse({ studentId: '3' });
		expect(await putSpoken(db, teacher, linh)).to.have.property('ok', false);
		expect(await putSpoken(db, as(coordinator, 'office', 7), linh)).to.have.property('ok', false);
		expect(await db.all('SELECT 1 FROM spoken_to')).to.have.lengthOf(0);
		for (const wrong of [
			{},
			{ householdId: '5', studentId: '3' },
			{ householdId: 'x' },
			{ householdId: 5, words: 'x'.repeat(501) }
		])
			expect(spokenSchema.safeParse(wrong).success).to.equal(false);
		const sheet = await silentToCall(db, teacher, { days: 30, school: '' });
		expect(await silentCsv(db, sheet)).to.not.contain('Pham');
	});
});

describe('families that nothing reaches, in a district', () => {
	let house: Awaited<ReturnType<typeof districtWithCoordinator>>;
	let user: User;
	before(async () => {
		house = await districtWithCoordinator(9);
		const { db } = house;
		({ user } = house);
		await db.write((tx) => rosterChanged(tx));
		const sections = await db.all<{ id: number }>(
			'SELECT id FROM section WHERE term_id = 2 ORDER BY id LIMIT 8'
		);
		for (const [i, ways] of ([['email'], ['inbox'], ['email', 'inbox']] as Way[][]).entries()) {
			await setClock(db, testStart + i * day);
			const sheet = sheetWith({
				sheetKey: crypto.randomUUID(),
				audience: audienceOf(sections.map((s) => s.id)),
				wording: wordingOf('Boats', 'The boat is late.'),
				holdMinutes: 0,
				ways
			});
			const { tally } = await landing(db, user, sheet);
			const sent = await schedule(db, key, user, sheet, tally.copies);
			if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
			await readByHabit(db, sent.dispatchId, 'silent');
		}
		await setClock(db, testStart + 6 * day);
	});
	after(() => house.close());

	it('are as many as the rows say, by school, by kind and on the phone sheet', async () => {
		const { db } = house;
		const view = await silentFamilies(db, user, filter());
		// A second way to the same number: households of SQL alone.
		const rows = await db.all<{ id: number; reads: number; copies: number }>(
			`WITH meant AS (SELECT DISTINCT household_id AS id FROM household_member JOIN dispatch_student ON student_id = person_id),
			adults AS (SELECT DISTINCT meant.id, contact.person_id FROM meant JOIN household_member AS child ON child.household_id = meant.id
				JOIN contact ON contact.student_id = child.person_id AND guardian AND custody AND correspondence
				JOIN household_member AS mine ON mine.household_id = meant.id AND mine.person_id = contact.person_id)
			SELECT meant.id, (SELECT count(*) FROM adults JOIN delivery ON delivery.person_id = adults.person_id
					WHERE adults.id = meant.id AND read_at <= ${testStart + 6 * day})
				+ (SELECT count(*) FROM adults JOIN delivery_also ON delivery_also.person_id = adults.person_id JOIN delivery ON delivery.id = delivery_id
					WHERE adults.id = meant.id AND read_at <= ${testStart + 6 * day}) AS reads,
				(SELECT count(*) FROM adults WHERE adults.id = meant.id) AS copies
			FROM meant`
		);
		const withAdults = rows.filter((r) => r.copies > 0);
		const silent = withAdults.filter((r) => r.reads === 0);
		const someone = view.lines.length > 0;
		expect(someone).to.equal(true);
		const sheet = await silentToCall(db, user, { days: 30, school: '' });
		const listed = sheet.lines.filter((l) => l.householdId !== null && l.adults.length > 0);
		expect(listed.map((l) => l.householdId).sort()).to.deep.equal(silent.map((r) => r.id).sort());
		expect(view.silent).to.equal(sheet.lines.length);
		expect(silences.reduce((n, kind) => n + view.kinds[kind], 0)).to.equal(view.silent);
		for (const groups of [view.schools, view.languages]) {
			expect(groups.reduce((n, g) => n + g.share.of, 0)).to.equal(view.homes);
			expect(groups.reduce((n, g) => n + g.share.count, 0)).to.equal(view.silent);
		}
		for (const { key: one, share } of view.schools) {
			const own = await silentFamilies(db, user, filter({ school: one }));
			expect(own.found).to.equal(share.count);
			expect((await silentToCall(db, user, { days: 30, school: one })).lines).to.have.lengthOf(
				share.count
			);
		}
		const pages: string[] = [];
		for (let page = 1; page <= Math.ceil(view.silent / 25); page += 1)
			pages.push(
				...(await silentFamilies(db, user, filter({ page }))).lines.map(
					(l) => `${l.householdId} ${l.studentId}`
				)
			);
		expect(new Set(pages).size).to.equal(view.silent);
		const csv = await silentCsv(db, sheet);
		expect(csv.trim().split('\r\n')).to.have.lengthOf(
			1 + sheet.lines.reduce((n, l) => n + Math.max(1, l.adults.length), 0)
		);
		expect((await silentPdf(db, sheet)).subarray(0, 5).toString()).to.equal('%PDF-');
	});
});

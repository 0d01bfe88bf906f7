import { expect } from 'chai';
import { claim, placeInbox } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { writeOutcomes } from '../../../../../courier/outcomes';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { callSheet } from '../../../../../src/lib/server/desk/reach/call-sheet';
import { makeChase } from '../../../../../src/lib/server/desk/reach/chase';
import { chainOf } from '../../../../../src/lib/server/desk/track/chase-chain';
import {
	coverageBy,
	type DispatchCoverage
} from '../../../../../src/lib/server/desk/track/coverage';
import { readDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import type { Draft } from '../../../../../src/lib/server/desk/sheet/types';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { reachCoverage } from '../../../../../src/lib/server/desk/reach/covered';
import type { Query } from '../../../../../src/lib/server/db/open';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { draws } from '../../../random';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('a chase', () => {
	let school: TestSchool;
	let first: number;
	beforeEach(async () => {
		school = await testSchool();
		first = await send(sheetOf({ ways: ['inbox'], holdMinutes: 0 }));
	});
	afterEach(() => school.close());

	/** Sends a sheet and lets all of it leave. */
	async function send(sheet: Draft): Promise<number> {
		const { tally } = await landing(school.db, coordinator, sheet);
		const sent = await schedule(school.db, key, coordinator, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		await moveTo(school.db, (await now(school.db)) + 600_000);
		const me = identity(school.db);
		await me.beat();
		await placeInbox(school.db, me);
		const at = await now(school.db);
		for (const way of ['email', 'text'] as const) {
			for (const copy of await claim(school.db, me, way, 50)) {
				await school.db.write((tx) =>
					writeOutcomes(tx, [{ copy, outcome: { kind: 'accepted', detail: 'ok' }, at }])
				);
			}
		}
		return sent.dispatchId;
	}
	const reads = (dispatchId: number, person: number) =>
		school.db.write(async (tx) => {
			const rows = await tx.all<{ id: number }>(
				'SELECT id FROM delivery WHERE dispatch_id = $dispatchId AND person_id = $person LIMIT 1',
				{ dispatchId, person }
			);
			const at = await now(tx);
			await record(
				tx,
				rows.map(({ id }) => ({
					deliveryId: id,
					at,
					kind: 'acknowledged',
					source: 'inbox',
					detail: 'x'
				}))
			);
		});
	const chaseOf = async (id: number): Promise<Draft> => {
		const draft = await makeChase(school.db, coordinator, id);
		return (await readDraft(school.db, coordinator, draft!))!;
	};
	const copiesOf = async (sheet: Draft) =>
		(await planSheet(school.db, coordinator, sheet)).manifest.copies.map(
			(c) => `${c.personId} ${c.way}`
		);

	it('goes to those not covered, by a way not yet tried, with the words of the first', async () => {
		await reads(first, 10);
		const chase = await chaseOf(first);
		expect(chase.wording.words.subject).to.equal('Boats');
		expect(chase).to.include({ chases: first, cover: 'adult' });
		// The mother has read, so her two children are covered; Bao Pham was written to by inbox alone.
		expect(await copiesOf(chase)).to.deep.equal(['12 text']);
	});

	it('is a rule: who reads meanwhile drops out at the moment of sending', async () => {
		const chase = await chaseOf(first);
		expect(await copiesOf(chase)).to.have.members(['10 text', '11 email', '12 text']);
		await reads(first, 12);
		expect(await copiesOf(chase)).to.have.members(['10 text', '11 email']);
		await reads(first, 10);
		const { tally, checks } = await landing(school.db, coordinator, chase);
		expect(tally.copies).to.equal(0);
		expect(checks.some((c) => c.level === 'block')).to.equal(true);
	});

	it('followed up again takes the way that is left, and counts all of the matter together', async () => {
		await reads(first, 10);
		const second = await send(await chaseOf(first));
		expect(await chainOf(school.db, coordinator, second)).to.deep.equal([first, second]);
		const third = await chaseOf(second);
		// Text and inbox were tried once each and there is no email: text goes first again.
		expect(await copiesOf(third)).to.deep.equal(['12 text']);
		await reads(second, 12);
		expect(await copiesOf(third)).to.deep.equal([]);
		const reach = await dispatchReach(school.db, coordinator, first, everything);
		expect(reach!.coverage).to.include({ covered: 2, students: 3 });
		expect(reach!.coverage.together).to.deep.equal({ covered: 3, dispatches: 1 });
		expect(reach!.dispatch.chasedBy.map((c) => c.id)).to.deep.equal([second]);
	});

	it('asks the other home where every household must have read, and not who has read', async () => {
		for (const statement of [
			`INSERT INTO household (id, name) VALUES (1, 'Amaro'), (2, 'Amaro, Paulo')`,
			`INSERT INTO household_member VALUES (1, 1), (1, 2), (1, 10), (2, 1), (2, 2), (2, 11)`,
			`UPDATE person SET has_inbox = 1 WHERE id = 11`
		]) {
			await school.db.run(statement);
		}
		await school.db.write((tx) => rosterChanged(tx));
		const id = await send(sheetOf({ ways: ['inbox'], holdMinutes: 0, cover: 'households' }));
		await reads(id, 10);
		expect((await coverageBy(school.db, [id])).get(id)).to.include({ covered: 0, students: 3 });
		expect(await copiesOf(await chaseOf(id))).to.have.members(['11 email', '12 text']);
		await reads(id, 11);
		expect((await coverageBy(school.db, [id])).get(id)).to.include({ covered: 2 });
	});

	it('is not for those who may not see the first', async () => {
		expect(await makeChase(school.db, teacher, first)).to.equal(null);
		expect(await callSheet(school.db, teacher, first, 'open')).to.equal(null);
	});

	it('leaves a sheet for phone calls: by section, with every number on file and why', async () => {
		await school.db.run(`UPDATE person SET has_inbox = 0 WHERE id IN (10, 12)`);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (11, 'text', '+12075550103', 'out')`
		);
		await school.db.write((tx) => rosterChanged(tx));
		const id = await send(sheetOf({ ways: ['email'], holdMinutes: 0 }));
		expect((await callSheet(school.db, coordinator, id, 'unreachable'))!.sections).to.deep.equal([
			{
				section: 'Drama 7-A',
				school: 'Heron Landing',
				students: [
					{
						studentId: 3,
						name: 'Linh Pham',
						people: [
							{
								name: 'Bao Pham',
								relation: 'father',
								numbers: ['+12075550102'],
								why: 'No email address on file'
							}
						]
					}
				]
			}
		]);
		const open = (await callSheet(school.db, coordinator, id, 'open'))!;
		expect(open.students).to.equal(3);
		const ana = open.sections.flatMap((s) => s.students).find((s) => s.name === 'Ana Amaro')!;
		expect(ana.people.map((p) => [p.name, p.numbers.join()])).to.deep.equal([
			['Delfina Amaro', '+12075550101'],
			['Paulo Amaro', '+12075550103']
		]);
	});

	it('is a sheet for each school where it would be too long, and every student is on one of them', async () => {
		await school.db.run(`INSERT INTO school VALUES (2, 'Whelk Point', 'Whelk')`);
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox)
				WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 600)
			SELECT 1000 + i, 'student', 'Given' || i, 'Family', 'en', CASE WHEN i > 590 THEN NULL WHEN i > 240 THEN 2 ELSE 1 END, '7', 0 FROM n`
		);
		await school.db.write((tx) => rosterChanged(tx));
		const id = await send(sheetOf({ ways: ['email'], holdMinutes: 0 }));
		await school.db.run(
			`INSERT INTO dispatch_student SELECT ${id}, id, NULL FROM person WHERE id > 1000`
		);
		const sheetFor = async (wanted: number | null) =>
			(await callSheet(school.db, coordinator, id, 'open', wanted))!;
		const first = await sheetFor(null);
		expect(first.students).to.equal(603);
		expect(first.schools.map((s) => [s.id, s.students])).to.deep.equal([
			[1, 243],
			[2, 350],
			[0, 10]
		]);
		expect(first.school).to.equal(1);
		const seen = new Set<number>();
		for (const s of first.schools) {
			const sheet = await sheetFor(s.id);
			const shown = sheet.sections.flatMap((x) => x.students.map((y) => y.studentId));
			expect(shown, s.name).to.have.length(s.students);
			for (const studentId of shown) seen.add(studentId);
		}
		expect(seen.size).to.equal(603);
		// A school that nobody of it goes to is as good as none.
		expect((await sheetFor(77)).school).to.equal(1);
	});
});

describe('coverage that is kept', () => {
	it('is what counting anew gives, after any evidence (60 random steps)', async () => {
		const school = await testSchool();
		const sheet = sheetOf({ holdMinutes: 0 });
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		const id = sent.ok ? sent.dispatchId : 0;
		const r = draws(31);
		const copies = (await school.db.all<{ id: number }>('SELECT id FROM delivery')).map(
			(c) => c.id
		);
		const kinds = ['accepted', 'delivered', 'failed', 'opened', 'link-followed', 'noted'] as const;
		let before: { coverage: DispatchCoverage; said: object } | undefined;
		for (let i = 0; i < 60; i += 1) {
			await school.db.write((tx) =>
				record(tx, [
					{
						deliveryId: r.pick(copies),
						at: 1_000 * i,
						kind: r.pick(kinds),
						source: 'courier',
						detail: `step ${i}`
					}
				])
			);
			const kept = (await coverageBy(school.db, [id])).get(id)!;
			// Another reader of the same database has nothing kept.
			const anew = (await school.db.write((tx) => coverageBy({ ...tx }, [id]))).get(id)!;
			expect([...kept.standing]).to.deep.equal([...anew.standing]);
			expect([...kept.kept.times]).to.deep.equal([...anew.kept.times]);
			const lines = (coverage: typeof kept, by: Query) =>
				reachCoverage(by, coordinator, id, { coverage, firstLeft: null });
			expect(await lines(kept, school.db)).to.deep.equal(await lines(anew, { ...school.db }));
			// Whoever still has in hand how it stood before is told that.
			if (before) expect(await lines(before.coverage, school.db)).to.deep.equal(before.said);
			before = { coverage: kept, said: await lines(kept, school.db) };
		}
		await school.close();
	});

	it('does not go back to what was read before another look had taken in more', async () => {
		const school = await testSchool();
		const sent = await schedule(school.db, key, coordinator, sheetOf({ holdMinutes: 0 }), 5);
		const id = sent.ok ? sent.dispatchId : 0;
		const { copy } = (await school.db.one<{ copy: number }>(
			'SELECT min(id) AS copy FROM delivery'
		))!;
		let go = () => {};
		const gate = new Promise<void>((open) => (go = open));
		let reached = () => {};
		const atGate = new Promise<void>((there) => (reached = there));
		let asked = 0;
		const db: Query = {
			...school.db,
			// The first look has read how the copy stands, and is held up before it takes that in.
			all: async (sql, bind) => {
				if (sql.includes('DISTINCT student_id') && (asked += 1) === 1) {
					reached();
					await gate;
				}
				return school.db.all(sql, bind);
			}
		};
		const happens = (kind: 'accepted' | 'acknowledged') =>
			school.db.write((tx) =>
				record(tx, [{ deliveryId: copy, at: asked + 1, kind, source: 'courier', detail: kind }])
			);
		const look = async () => (await coverageBy(db, [id])).get(id)!;
		expect((await look()).covered).to.equal(0);
		await happens('accepted');
		const slow = look();
		await atGate;
		await happens('acknowledged');
		expect((await look()).covered).to.be.greaterThan(0);
		go();
		expect((await slow).covered).to.equal((await look()).covered);
		await school.close();
	});
});

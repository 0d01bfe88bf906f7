import { expect } from 'chai';
import { makeCourier } from '../../../../../courier/courier';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { now, setClock } from '../../../../../src/lib/server/clock';
import {
	giveUpMarker,
	makeMarker,
	setMarks
} from '../../../../../src/lib/server/desk/markers/change-marker';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import {
	nextRelease,
	nextToRelease,
	release
} from '../../../../../src/lib/server/desk/send/release';
import {
	endStanding,
	putStanding,
	tryAgain
} from '../../../../../src/lib/server/desk/send/standing';
import { standingLines, standingView } from '../../../../../src/lib/server/desk/week/standing';
import { readSettings } from '../../../../../src/lib/server/settings';
import {
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
const minute = 60_000;

describe('a sheet that leaves when a marker is gained', () => {
	let school: TestSchool;
	let marker: number;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		const made = await makeMarker(school.db, office, {
			...{ name: 'museum slip', kind: 'yes-no', schoolId: 1, termId: '' }
		});
		if (!made.ok) throw new Error(made.why);
		marker = made.id;
	});
	afterEach(() => school.close());

	const advance = async (ms: number) => setClock(school.db, (await now(school.db)) + ms);
	const sheet = (over: Parameters<typeof sheetOf>[0] = {}) =>
		sheetOf({
			ways: ['email', 'text'],
			holdMinutes: 10,
			timing: {
				...usualTiming,
				when: { kind: 'gain', markerId: marker, until: '2027-03-12T10:00' }
			},
			...over
		});
	const put = async (one = sheet(), user = office) => {
		const { tally } = await landing(school.db, user, one);
		const done = await putStanding(school.db, user, one, tally.copies);
		if (!done.ok) throw new Error(done.checks.map((c) => c.text).join(' '));
		return done.standingId;
	};
	const set = (student: number, value: string, user = office) =>
		setMarks(school.db, user, marker, [{ studentId: student, was: value ? '' : 'yes', value }]);
	/** Lets go whatever is due, as the courier does. */
	const letGo = async () => {
		for (let n = 0; n < 9; n += 1) {
			const id = await nextToRelease(school.db);
			if (id === null) return;
			await release(school.db, key, id);
		}
		throw new Error('it does not come to an end');
	};
	const sent = () =>
		school.db.all<{ d: number; s: number; n: number }>(
			`SELECT dispatch_id AS d, student_id AS s, count(*) AS n FROM delivery
			JOIN delivery_student ON delivery_id = delivery.id GROUP BY 1, 2 ORDER BY 1, 2`
		);

	it('leaves for each student who gains it, after the hold, once', async () => {
		const id = await put();
		expect((await standingLines(school.db, office))[0]).to.deep.include({
			...{ id, students: 0, held: 0 },
			waitsFor: { kind: 'marker', id: marker, name: 'museum slip' },
			expected: { students: 3, copies: 3 }
		});
		expect(await nextRelease(school.db)).to.equal(null);
		await set(1, 'yes');
		await letGo();
		expect(await sent()).to.deep.equal([]);
		expect((await nextRelease(school.db))! - testStart).to.be.closeTo(10 * minute, 5_000);
		await advance(11 * minute);
		await letGo();
		const [first] = await sent();
		// Its sentence names nobody: thousands may have gained it at once.
		expect(
			await school.db.one('SELECT audience_words AS words FROM dispatch WHERE id = $id', {
				id: first!.d
			})
		).to.deep.equal({
			words:
				'Guardians of students in Mathematics 7-A and Drama 7-A, who have the marker museum slip'
		});
		expect(first).to.deep.include({ s: 1, n: 2 });
		// Taken off and gained again: their family has had it.
		await set(1, '');
		await set(1, 'yes');
		await set(3, 'yes');
		await advance(11 * minute);
		await letGo();
		expect((await sent()).map((r) => r.s)).to.deep.equal([1, 3]);
		await replanAhead(school.db, key);
		const view = (await standingView(school.db, office, id))!;
		expect(view).to.deep.include({ students: 2, held: 0, expected: { students: 1, copies: 2 } });
		expect(view.sent.map((l) => l.copies)).to.deep.equal([1, 2]);
		expect(await standingView(school.db, teacher, id)).to.equal(null);
		expect(await standingLines(school.db, coordinator)).to.have.length(1);
	});

	it('asks nothing of the marker itself of those who have gained it, and takes out whom it takes out', async () => {
		const { audience } = sheet();
		const [line] = audience.lines;
		const asked = {
			...audience,
			lines: [
				{
					...line!,
					only: [{ kind: 'marker', markerId: marker, is: { test: 'lacks' } } as const]
				},
				{
					verb: 'but-not',
					to: [{ kind: 'relation', relation: 'father' }],
					of: { kind: 'sections', ids: [100] },
					only: []
				} as const
			]
		} as typeof audience;
		const copies = { ...sheet().copies, perPerson: true };
		await put(sheet({ audience: asked, holdMinutes: 0, copies }));
		await set(1, 'yes');
		await letGo();
		const people = await school.db.all<{ p: number }>(
			'SELECT DISTINCT person_id AS p FROM delivery'
		);
		expect(people).to.deep.equal([{ p: 10 }]);
	});

	it('leaves nobody out whose slip was ticked by mistake: taken off within the hold, nothing is sent', async () => {
		await put();
		await set(1, 'yes');
		await set(1, '');
		await advance(11 * minute);
		await letGo();
		expect(await sent()).to.deep.equal([]);
		await set(1, 'yes');
		await advance(11 * minute);
		await letGo();
		expect((await sent()).map((r) => r.s)).to.deep.equal([1]);
	});

	it('is sent by the courier itself, to those of its audience only', async () => {
		const own = sheet({ audience: audienceOf([100]), holdMinutes: 0 });
		const id = await put(own, teacher);
		const courier = makeCourier(school.db, readSettings({ IDLE_COURIER_DATA: school.folder }), key);
		await set(1, 'yes');
		// Of a student of somebody else's the teacher's sheet knows nothing.
		await set(3, 'yes');
		await courier.beat();
		expect(await courier.settle()).to.equal(1);
		expect((await sent()).map((r) => r.s)).to.deep.equal([1]);
		expect(
			await school.db.all('SELECT student_id AS s, why FROM gained WHERE dispatch_id IS NULL')
		).to.deep.equal([{ s: 3, why: 'not in its audience' }]);
		expect((await standingView(school.db, teacher, id))!.nothing).to.deep.equal([]);
		await courier.close();
	});

	it('is put down once, waits no longer than its end, and can be ended', async () => {
		const one = sheet();
		const id = await put(one);
		const { tally } = await landing(school.db, office, one);
		expect(await putStanding(school.db, office, one, tally.copies)).to.deep.equal({
			ok: true,
			standingId: id
		});
		const stolen = await putStanding(school.db, coordinator, one, tally.copies);
		expect(!stolen.ok && stolen.checks[0]!.text).to.contain('someone else');
		await set(1, 'yes');
		expect(whyOf(await endStanding(school.db, teacher, id))).to.contain('no such sheet');
		expect(whyOf(await endStanding(school.db, office, id))).to.equal('done');
		await advance(11 * minute);
		await letGo();
		expect(await sent()).to.deep.equal([]);
		expect((await standingView(school.db, office, id))!.nothing.map((n) => n.why)).to.deep.equal([
			'it was ended before'
		]);
		const late = await put(sheet());
		await advance(4 * 86_400_000);
		await set(2, 'yes');
		await letGo();
		expect(await sent()).to.deep.equal([]);
		expect(await standingLines(school.db, office)).to.deep.equal([]);
		expect((await standingView(school.db, office, late))!.held).to.equal(0);
	});

	it('holds up, with the reason, where it cannot leave as it stands; and goes on', async () => {
		const id = await put();
		await set(1, 'yes');
		await advance(11 * minute);
		await school.db.run('DELETE FROM role WHERE person_id = 95');
		await letGo();
		expect((await standingView(school.db, coordinator, id))!.waits).to.contain('no longer sign in');
		expect(await nextToRelease(school.db)).to.equal(null);
		expect(whyOf(await tryAgain(school.db, teacher, id))).to.contain('no such sheet');
		expect(whyOf(await tryAgain(school.db, coordinator, id))).to.equal('done');
		expect(await nextToRelease(school.db)).to.equal(id);
		await giveUpMarker(school.db, coordinator, marker);
		expect((await standingView(school.db, coordinator, id))!.waits).to.contain('was given up');
	});

	it('is refused where it would come to somebody at each gain, or waits for nothing', async () => {
		const blocks = async (over: Parameters<typeof sheetOf>[0]) =>
			(await landing(school.db, coordinator, sheet(over))).checks
				.filter((c) => c.level === 'block')
				.map((c) => c.text)
				.join(' ');
		const { audience } = sheet();
		expect(
			await blocks({
				audience: {
					...audience,
					lines: [
						...audience.lines,
						{ verb: 'and', people: { kind: 'named', ids: [90] }, only: [] }
					]
				}
			})
		).to.contain('would get it each time');
		const when = { kind: 'gain', markerId: null, until: '2027-03-12T10:00' } as const;
		expect(await blocks({ timing: { ...usualTiming, when } })).to.contain('No marker is chosen');
		const past = { ...when, markerId: marker, until: '2027-03-09T09:00' };
		expect(await blocks({ timing: { ...usualTiming, when: past } })).to.contain('is past');
		expect(
			await blocks({ timing: { ...usualTiming, when: { ...when, markerId: 99 } } })
		).to.contain('no longer there');
	});
});

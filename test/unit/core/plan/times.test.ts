import { expect } from 'chai';
import { DateTime } from 'luxon';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { byWays } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import { fairOrder, timed, timesTally, type Departure } from '../../../../src/lib/core/plan/times';
import type { QuietBook } from '../../../../src/lib/core/plan/reader-rules';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import { localOf } from '../../../../src/lib/core/time/local';
import { callingHours, stillHours } from '../../../../src/lib/core/time/quiet';
import type { OwnTime, RosterRows } from '../../../../src/lib/core/roster/types';
import { adult, email, guardian, phone, student } from '../fixture';
import type { Way } from '../../../../src/lib/core/roster/way';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const book: QuietBook = {
	zone: () => zone,
	hours: (way) => (way === 'text' ? [callingHours] : [stillHours]),
	closed: (date, schools) => date === '2027-03-15' && schools.length > 0 && schools[0] === 1
};

/** `n` students of each of two schools, each with one guardian who has email and phone. */
function rowsOf(n: number, ownTimes: OwnTime[] = []): RosterRows {
	const ids = Array.from({ length: 2 * n }, (_, i) => i + 1);
	return {
		people: ids.flatMap((i) => [
			{ ...student(i, `S${i}`), schoolId: i <= n ? 1 : 2 },
			adult(1000 + i, `G${i}`)
		]),
		addresses: ids.flatMap((i) => [
			email(1000 + i, `g${i}@harbormail.example`),
			phone(1000 + i, `+1${2070000000 + 555_0100 + (i % 100)}`)
		]),
		contacts: ids.map((i) => guardian(i, 1000 + i)),
		sections: [{ id: 1, courseId: 1, schoolId: 1, termId: 1, name: 'All' }],
		enrolments: ids.map((studentId) => ({ sectionId: 1, studentId })),
		sectionStaff: [],
		groupMembers: [],
		householdMembers: [],
		staffRoles: [],
		declined: [],
		ownTimes
	};
}
const district = (n: number, ownTimes: OwnTime[] = []) => makeRoster(rowsOf(n, ownTimes));
const plan = (
	n: number,
	ways: readonly Way[],
	over: Partial<Departure> & { leaves: string },
	own: OwnTime[] = []
) => {
	const roster = district(n, own);
	const { leaves, ...rest } = over;
	const manifest = planManifest(roster, audienceOf([1]), byWays(ways));
	return timed(
		manifest,
		roster,
		{
			...{ leavesAt: at(leaves), turnsAt: [], endsAt: null, eventAt: null },
			...{ urgent: false, pace: {}, turn: 0, ...rest }
		},
		book
	);
};
const locals = (dueAt: readonly number[]) =>
	[...new Set(dueAt.map((d) => localOf(d, zone)))].sort();

describe('when each copy leaves', () => {
	it('all at once where nothing is quiet', () => {
		const t = plan(3, ['email', 'text'], { leaves: '2027-03-12T14:15' });
		expect(locals(t.dueAt)).to.deep.equal(['2027-03-12T14:15']);
		expect(timesTally(t)).to.deep.include({ shifted: 0, shifts: [] });
	});

	it('by way: what is too early for a text is not too early for mail, and urgent is never', () => {
		const t = plan(3, ['email', 'text'], { leaves: '2027-03-12T07:00' });
		t.copies.forEach((c, i) =>
			expect(localOf(t.dueAt[i]!, zone).slice(11)).to.equal(c.way === 'text' ? '08:00' : '07:00')
		);
		expect(timesTally(t)).to.deep.include({
			shifted: 6,
			shifts: [{ to: at('2027-03-12T08:00'), copies: 6 }]
		});
		const urgent = plan(3, ['email', 'text'], { leaves: '2027-03-12T03:00', urgent: true });
		expect(locals(urgent.dueAt)).to.deep.equal(['2027-03-12T03:00']);
	});

	it('by person: their own zone and hours', () => {
		const t = plan(2, ['text'], { leaves: '2027-03-12T18:30' }, [
			{ personId: 1001, zone: 'Europe/Lisbon', quiet: null, digest: null },
			{
				personId: 1002,
				zone: null,
				quiet: { fromMinute: 18 * 60, toMinute: 9 * 60 },
				digest: null
			}
		]);
		const due = new Map(t.copies.map((c, i) => [c.personId, localOf(t.dueAt[i]!, zone)]));
		// 11:30 pm in Lisbon, until 8 am there, which is 4 am in New York: five hours between them, and four that week.
		expect(due.get(1001)).to.equal('2027-03-13T03:00');
		expect(due.get(1002)).to.equal('2027-03-13T09:00');
		expect(due.get(1003)).to.equal('2027-03-12T18:30');
	});

	it('letters in the digest of whoever wants one: no text, nothing urgent, and at a shared address only where all want it', () => {
		const digest = (personId: number, minute: number | null): OwnTime => ({
			...{ personId, zone: null, quiet: null, digest: minute }
		});
		const own = [digest(1001, 18 * 60), digest(1002, null)];
		const dueOf = (over: Partial<Departure> = {}) => {
			const t = plan(2, ['email', 'text'], { leaves: '2027-03-12T10:00', ...over }, own);
			return t.copies.flatMap((c, i) =>
				t.inDigest[i] ? [[c.personId, c.way, localOf(t.dueAt[i]!, zone), t.quietUntil[i]]] : []
			);
		};
		expect(dueOf()).to.deep.equal([[1001, 'email', '2027-03-12T18:00', null]]);
		expect(dueOf({ urgent: true })).to.deep.equal([]);
		expect(dueOf({ endsAt: at('2027-03-12T18:00') })).to.deep.equal([]);
		expect(dueOf({ eventAt: at('2027-03-12T17:00') })).to.deep.equal([]);
		expect(timesTally(plan(2, ['email'], { leaves: '2027-03-12T10:00' }, own)).inDigests).to.equal(
			1
		);
		// A pace draws apart what does not go together.
		expect(dueOf({ pace: { email: 1 } })).to.have.length(1);
		const shared = (second: OwnTime[]) => {
			const rows = rowsOf(1, [digest(1001, 18 * 60), ...second]);
			const roster = makeRoster({
				...rows,
				addresses: [email(1001, 'home@harbormail.example'), email(1002, 'home@harbormail.example')],
				contacts: [guardian(1, 1001), guardian(1, 1002)]
			});
			const t = timed(
				planManifest(roster, audienceOf([1]), byWays(['email'])),
				roster,
				{
					...{ leavesAt: at('2027-03-12T10:00'), turnsAt: [], endsAt: null, eventAt: null },
					...{ urgent: false, pace: {}, turn: 0 }
				},
				book
			);
			return t.inDigest;
		};
		expect(shared([])).to.deep.equal([false]);
		expect(shared([digest(1002, 7 * 60)])).to.deep.equal([true]);
	});

	it('by school: a closed day holds back only those whose schools are all shut', () => {
		const t = plan(2, ['email'], { leaves: '2027-03-15T10:00' });
		const due = t.copies.map((c, i) => [c.studentIds[0]! <= 2, localOf(t.dueAt[i]!, zone)]);
		for (const [first, when] of due) {
			expect(when).to.equal(first ? '2027-03-16T06:30' : '2027-03-15T10:00');
		}
	});

	it('never past the end: then it is left out, with that reason, once for each person', () => {
		const t = plan(2, ['email', 'text'], {
			leaves: '2027-03-12T07:00',
			endsAt: at('2027-03-12T08:00')
		});
		expect(t.copies.every((c) => c.way === 'email')).to.equal(true);
		expect(t.notByWay).to.have.length(4);
		expect(t.leftOut).to.deep.equal([]);
		const none = plan(2, ['text'], { leaves: '2027-03-12T07:00', endsAt: at('2027-03-12T08:00') });
		expect(none.copies).to.deep.equal([]);
		expect(none.leftOut.map((l) => [l.personId, l.reasons[0]!.code])).to.deep.equal(
			[1001, 1002, 1003, 1004].map((id) => [id, 'past-end'])
		);
		const tally = tallyOf(none);
		expect([tally.people, tally.leftOut, tally.studentsWithNobody]).to.deep.equal([0, 4, 4]);
	});

	it('at the pace: so many a minute, no minute more, the last when it says', () => {
		const t = plan(50, ['email'], { leaves: '2027-03-12T14:15', pace: { email: 30 } });
		const perMinute = new Map<number, number>();
		t.dueAt.forEach((d) => perMinute.set(d, (perMinute.get(d) ?? 0) + 1));
		expect([...perMinute.values()]).to.deep.equal([30, 30, 30, 10]);
		expect(localOf(timesTally(t).lastAt!, zone)).to.equal('2027-03-12T14:18');
	});

	it('does not run into the night: what the pace leaves over goes on in the morning', () => {
		const t = plan(50, ['text'], { leaves: '2027-03-11T20:58', pace: { text: 40 } });
		expect(locals(t.dueAt)).to.deep.equal([
			'2027-03-11T20:58',
			'2027-03-11T20:59',
			'2027-03-12T08:00'
		]);
	});

	it('fairly: each school is spread over the whole run, and which comes first changes', () => {
		const schools = [
			...Array<number>(60).fill(1),
			...Array<number>(20).fill(2),
			...Array<number>(20).fill(3)
		];
		const order = fairOrder(schools, 0).map((i) => schools[i]!);
		expect([...order].sort()).to.deep.equal([...schools].sort());
		for (let from = 0; from < 100; from += 20) {
			const part = order.slice(from, from + 20);
			expect(part.filter((s) => s === 1).length).to.be.within(10, 14);
			expect(part.filter((s) => s === 3).length).to.be.within(3, 5);
		}
		const equal = schools.map((_, i) => i % 4);
		const first = (turn: number) => equal[fairOrder(equal, turn)[0]!];
		expect(new Set([0, 1, 2, 3, 4].map(first)).size).to.equal(4);
	});

	it('in turn: a later way waits for its own time, and for the first one’s where none is set', () => {
		const roster = district(1);
		const manifest = planManifest(
			roster,
			audienceOf([1]),
			byWays(['email', 'text'], { steps: { email: 0, text: 1, inbox: 2 } })
		);
		const leavesAt = at('2027-03-12T10:00');
		const departure = { leavesAt, endsAt: null, eventAt: null, urgent: false, pace: {}, turn: 0 };
		const second = at('2027-03-13T10:00');
		const dueOf = (turnsAt: number[], way: Way) => {
			const t = timed(manifest, roster, { ...departure, turnsAt }, book);
			return t.copies.flatMap((c, i) => (c.way === way ? [t.dueAt[i]] : []));
		};
		expect(dueOf([second], 'email')).to.deep.equal([leavesAt, leavesAt]);
		expect(dueOf([second], 'text')).to.deep.equal([second, second]);
		expect(dueOf([], 'text')).to.deep.equal([leavesAt, leavesAt]);
	});

	it('the first and the last are told, and what quiet moves, by the moment it moves to', () => {
		const t = plan(2, ['email', 'text'], { leaves: '2027-03-12T05:00' });
		expect(timesTally(t)).to.deep.equal({
			firstAt: at('2027-03-12T06:30'),
			lastAt: at('2027-03-12T08:00'),
			shifted: 8,
			shifts: [
				{ to: at('2027-03-12T06:30'), copies: 4 },
				{ to: at('2027-03-12T08:00'), copies: 4 }
			],
			inDigests: 0
		});
		const [early, late] = [at('2027-03-12T06:30'), at('2027-03-12T08:00')];
		expect(
			timesTally({ dueAt: [late, early], quietUntil: [late, early], inDigest: [false, false] })
		).to.deep.equal({
			firstAt: early,
			lastAt: late,
			shifted: 2,
			shifts: [
				{ to: early, copies: 1 },
				{ to: late, copies: 1 }
			],
			inDigests: 0
		});
		expect(timesTally({ ...t, dueAt: [], quietUntil: [] })).to.deep.include({
			firstAt: null,
			lastAt: null
		});
	});

	it('a pace is that of one way, and none is kept by what may never leave', () => {
		const t = plan(4, ['email', 'text'], { leaves: '2027-03-12T10:00', pace: { text: 5 } });
		const minutes = (way: Way) =>
			t.copies.flatMap((c, i) => (c.way === way ? [localOf(t.dueAt[i]!, zone).slice(14)] : []));
		expect([...minutes('email')].sort()).to.deep.equal(Array(8).fill('00'));
		expect([...minutes('text')].sort()).to.deep.equal([
			...Array<string>(5).fill('00'),
			...Array<string>(3).fill('01')
		]);
		const never: QuietBook = { ...book, closed: () => true };
		const roster = district(2);
		const none = timed(
			planManifest(roster, audienceOf([1]), byWays(['text'])),
			roster,
			{
				leavesAt: at('2027-03-12T10:00'),
				turnsAt: [],
				eventAt: null,
				endsAt: null,
				urgent: false,
				pace: { text: 1 },
				turn: 0
			},
			never
		);
		expect(none.copies).to.deep.equal([]);
		expect(none.recipients).to.deep.equal([]);
		expect(none.leftOut.map((l) => [l.personId, l.studentIds, l.reasons, l.reached])).to.deep.equal(
			[1, 2, 3, 4].map((i) => [1000 + i, [i], [{ code: 'no-allowed-time' }], false])
		);
		expect(none.notByWay).to.deep.equal(
			[1, 2, 3, 4].map((i) => ({
				personId: 1000 + i,
				way: 'text',
				reason: { code: 'no-allowed-time' }
			}))
		);
	});

	it('schools take turns at a pace, so that none leaves last of all', () => {
		const t = plan(4, ['text'], { leaves: '2027-03-12T10:00', pace: { text: 2 } });
		const minuteOf = (i: number) => localOf(t.dueAt[i]!, zone).slice(14);
		for (const minute of ['00', '01', '02', '03']) {
			const schools = t.copies.flatMap((c, i) =>
				minuteOf(i) === minute ? [c.studentIds[0]! <= 4 ? 1 : 2] : []
			);
			expect(schools.sort(), minute).to.deep.equal([1, 2]);
		}
	});

	it('who is told of one child and not of the other is left out for that one, by the reason', () => {
		const roster = makeRoster({
			...rowsOf(1),
			people: [
				{ ...student(1, 'Ana'), schoolId: 1 },
				{ ...student(2, 'Rui'), schoolId: 2 },
				adult(1001, 'Marta'),
				adult(1002, 'Paulo')
			],
			addresses: [email(1001, 'marta@harbormail.example'), email(1002, 'paulo@harbormail.example')],
			contacts: [guardian(1, 1001), guardian(2, 1001), guardian(2, 1002, { custody: false })],
			enrolments: [
				{ sectionId: 1, studentId: 1 },
				{ sectionId: 1, studentId: 2 }
			]
		});
		const manifest = planManifest(roster, audienceOf([1]), byWays(['email'], { perStudent: true }));
		// The first school is shut that day, and by the next the news is stale.
		const t = timed(
			manifest,
			roster,
			{
				leavesAt: at('2027-03-15T10:00'),
				turnsAt: [],
				eventAt: null,
				endsAt: at('2027-03-15T20:00'),
				urgent: false,
				pace: {},
				turn: 0
			},
			book
		);
		expect(t.copies.map((c) => [c.personId, c.studentIds])).to.deep.equal([[1001, [2]]]);
		expect(t.recipients.map((r) => r.personId)).to.deep.equal([1001]);
		expect(t.leftOut.map((l) => [l.personId, l.studentIds, l.reasons, l.reached])).to.deep.equal([
			[1002, [2], [{ code: 'no-custody' }], false],
			[1001, [1], [{ code: 'past-end' }], true]
		]);
	});
});

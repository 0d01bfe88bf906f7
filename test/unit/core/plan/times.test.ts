import { expect } from 'chai';
import { DateTime } from 'luxon';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { byWays } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import {
	fairOrder,
	timed,
	timesTally,
	type Departure,
	type QuietBook
} from '../../../../src/lib/core/plan/times';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import { localOf } from '../../../../src/lib/core/time/local';
import { callingHours, stillHours } from '../../../../src/lib/core/time/quiet';
import type { OwnTime } from '../../../../src/lib/core/roster/types';
import { adult, email, guardian, phone, student } from '../fixture';
import type { Way } from '../../../../src/lib/core/roster/way';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const book: QuietBook = {
	zone,
	hours: (way) => (way === 'text' ? [callingHours] : [stillHours]),
	closed: (date, schools) => date === '2027-03-15' && schools.length > 0 && schools[0] === 1
};

/** `n` students of each of two schools, each with one guardian who has email and phone. */
function district(n: number, ownTimes: OwnTime[] = []) {
	const ids = Array.from({ length: 2 * n }, (_, i) => i + 1);
	return makeRoster({
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
	});
}
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
		{ leavesAt: at(leaves), turnsAt: [], endsAt: null, urgent: false, pace: {}, turn: 0, ...rest },
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
			{ personId: 1001, zone: 'Europe/Lisbon', quiet: null },
			{ personId: 1002, zone: null, quiet: { fromMinute: 18 * 60, toMinute: 9 * 60 } }
		]);
		const due = new Map(t.copies.map((c, i) => [c.personId, localOf(t.dueAt[i]!, zone)]));
		// 11:30 pm in Lisbon, until 8 am there, which is 4 am in New York: five hours between them, and four that week.
		expect(due.get(1001)).to.equal('2027-03-13T03:00');
		expect(due.get(1002)).to.equal('2027-03-13T09:00');
		expect(due.get(1003)).to.equal('2027-03-12T18:30');
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
});

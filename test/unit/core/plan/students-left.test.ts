import { expect } from 'chai';
import {
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type MeantKind,
	type StudentSet
} from '../../../../src/lib/core/audience/audience';
import { holds } from '../../../../src/lib/core/audience/people';
import { noFacts } from '../../../../src/lib/core/audience/facts';
import { studentsOfSet } from '../../../../src/lib/core/audience/students';
import { termsOf } from '../../../../src/lib/core/audience/pairs';
import { resolveAudience } from '../../../../src/lib/core/audience/resolve';
import { byWays } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import type { Manifest } from '../../../../src/lib/core/plan/manifest';
import { studentsLeft, whyLeft } from '../../../../src/lib/core/plan/students-left';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { timed } from '../../../../src/lib/core/plan/times';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import type { Contact, RosterRows } from '../../../../src/lib/core/roster/types';
import { adult, email, familyRoster, guardian, phone, student } from '../fixture';
import { draws, often } from '../../random';
import { ways } from '../../../../src/lib/core/roster/way';

type Draws = ReturnType<typeof draws>;

/** A small school at random: guardians of every kind, addresses of every kind, students without anybody. */
function randomSchool(r: Draws): RosterRows {
	const students = Array.from({ length: r.int(3, 9) }, (_, i) => student(i + 1, `S${i + 1}`));
	const adults = Array.from({ length: r.int(2, 9) }, (_, i) =>
		adult(20 + i, `P${i}`, r.chance(0.3))
	);
	const contacts: Contact[] = [];
	for (const s of students) {
		for (const p of r.shuffle(adults).slice(0, r.int(0, 3))) {
			contacts.push(
				guardian(s.id, p.id, {
					relation: r.pick(['mother', 'father', 'aunt']),
					guardian: r.chance(0.8),
					custody: r.chance(0.7),
					correspondence: r.chance(0.8),
					emergency: r.chance(0.2)
				})
			);
		}
	}
	return {
		people: [...students, ...adults, adult(90, 'Teacher', true)],
		addresses: adults.flatMap((a) => [
			...(r.chance(0.6) ? [email(a.id, `a${r.int(0, 4)}@mail.example`)] : []),
			...(r.chance(0.5) ? [phone(a.id, `+1207555010${r.int(0, 9)}`, r.pick(['in', 'out']))] : [])
		]),
		contacts,
		sections: [100, 101, 102].map((id) => ({
			id,
			courseId: 1,
			schoolId: 1,
			termId: id === 102 ? 3 : 2,
			name: `Section ${id}`
		})),
		enrolments: students.flatMap((s) =>
			[100, 101, 102]
				.filter(() => r.chance(0.5))
				.map((sectionId) => ({ sectionId, studentId: s.id }))
		),
		sectionStaff: [{ sectionId: 101, personId: 90 }],
		groupMembers: [],
		householdMembers: [],
		staffRoles: [{ personId: 90, schoolId: 1, role: 'teacher' }],
		declined: [],
		ownTimes: []
	};
}

function randomSet(r: Draws, deep = 0): StudentSet {
	const sections = (): StudentSet => ({
		kind: 'sections',
		ids: r.shuffle([100, 101, 102]).slice(0, r.int(1, 2))
	});
	if (deep > 1 || r.chance(0.6)) {
		return r.chance(0.8)
			? sections()
			: { kind: 'students', ids: Array.from({ length: r.int(1, 3) }, () => r.int(1, 9)) };
	}
	return r.chance(0.5)
		? { kind: 'except', from: randomSet(r, deep + 1), minus: randomSet(r, deep + 1) }
		: { kind: r.pick(['any', 'all']), of: [randomSet(r, deep + 1), randomSet(r, deep + 1)] };
}

const kinds: readonly MeantKind[] = [
	{ kind: 'students' },
	{ kind: 'guardians' },
	{ kind: 'all-guardians' },
	{ kind: 'relation', relation: 'aunt' },
	{ kind: 'emergency' },
	{ kind: 'section-staff' }
];

function randomAudience(r: Draws): Audience {
	const line = (): AudienceLine =>
		r.chance(0.15)
			? {
					verb: r.chance(0.6) ? 'and' : 'but-not',
					people: { kind: 'named', ids: [r.int(20, 26), r.int(1, 9)] },
					only: []
				}
			: {
					verb: r.chance(0.6) ? 'and' : 'but-not',
					to: r.shuffle(kinds).slice(0, r.int(1, 2)),
					of: randomSet(r),
					only: r.chance(0.2) ? [{ kind: 'email', works: r.chance(0.5) }] : []
				};
	return {
		version: 2,
		lines: Array.from({ length: r.int(1, 4) }, line),
		byHand: Array.from({ length: r.int(0, 2) }, () => ({
			personId: r.int(20, 28),
			way: r.pick(['in', 'out'] as const),
			by: 'Maren',
			at: 0
		}))
	};
}

describe('every student of an audience is somewhere', () => {
	/** The students that some line picks: with conditions those who have somebody that fits them. */
	function picked(rows: RosterRows, audience: Audience): Set<number> {
		const roster = makeRoster(rows);
		const all = new Set<number>();
		for (const line of audience.lines) {
			if (line.verb !== 'and' || isPeopleLine(line)) continue;
			const alone: Audience = { version: 2, lines: [line], byHand: [] };
			if (line.only.length === 0) {
				studentsOfSet(roster, line.of).forEach((id) => all.add(id));
			} else resolveAudience(roster, alone).students.forEach((id) => all.add(id));
		}
		return all;
	}

	function checkAll(rows: RosterRows, audience: Audience, manifest: Manifest, seed: string) {
		const spoken = new Set(manifest.copies.flatMap((c) => c.studentIds));
		const left = studentsLeft(manifest);
		const out = left.map((s) => s.studentId);
		expect(new Set(out).size, `${seed}: each once`).to.equal(out.length);
		const all = picked(rows, audience);
		for (const id of all) {
			const places = Number(spoken.has(id)) + Number(out.includes(id));
			expect(places, `${seed}: student ${id} is in exactly one place`).to.equal(1);
		}
		for (const s of left) {
			expect(all.has(s.studentId), `${seed}: ${s.studentId} was picked`).to.equal(true);
			expect(whyLeft(s, String, [])).not.to.equal('');
			for (const p of s.people) expect(p.reasons).not.to.have.length(0);
			if (s.kind === 'alone') {
				// Nobody whom a line means for this student may be missing from the list.
				const someone = audience.lines.some(
					(l) =>
						l.verb === 'and' &&
						!isPeopleLine(l) &&
						l.to.some((t) => t.kind === 'all-guardians' || t.kind === 'guardians') &&
						studentsOfSet(makeRoster(rows), l.of).has(s.studentId) &&
						rows.contacts.some(
							(c) =>
								c.studentId === s.studentId &&
								c.guardian &&
								l.only.every((o) => holds(makeRoster(rows), noFacts, o, c.personId, s.studentId))
						)
				);
				expect(someone, `${seed}: student ${s.studentId} has somebody`).to.equal(false);
			}
		}
		const tally = tallyOf(manifest);
		expect(tally.studentsWithNobody + tally.studentsOut).to.equal(left.length);
		expect(tally.students + tally.studentsOut).to.equal(all.size);
	}

	it('over 3,000 random schools and audiences, with one copy or one for each student, and when some cannot leave in time', () => {
		let alone = 0;
		let out = 0;
		for (let seed = 1; seed <= often(3_000); seed += 1) {
			const r = draws(seed);
			const rows = randomSchool(r);
			const audience = randomAudience(r);
			const roster = makeRoster(rows);
			const handling = byWays(
				ways.filter(() => r.chance(0.6)),
				{ perStudent: r.chance(0.4), perPerson: r.chance(0.3) }
			);
			const manifest = planManifest(roster, audience, handling);
			checkAll(rows, audience, manifest, `seed ${seed}`);
			// A pace of one a minute and an end soon after: some copies are too late.
			const late = timed(
				manifest,
				roster,
				{
					leavesAt: 0,
					turnsAt: [],
					eventAt: null,
					endsAt: 120_000,
					urgent: false,
					pace: { email: 1, text: 1, inbox: 1 },
					turn: 0
				},
				{ zone: () => 'America/New_York', hours: () => [], closed: () => false }
			);
			checkAll(rows, audience, late, `seed ${seed}, late`);
			alone += tallyOf(manifest).studentsAlone;
			out += tallyOf(manifest).studentsOut;
		}
		// Else the test would have seen none of what it is for.
		expect(alone).to.be.greaterThan(often(100));
		expect(out).to.be.greaterThan(often(100));
	});

	const line = (over: Partial<Extract<AudienceLine, { to: unknown }>> = {}): AudienceLine => ({
		verb: 'and',
		to: [{ kind: 'guardians' }],
		of: { kind: 'sections', ids: [101] },
		only: [],
		...over
	});
	const plan = (lines: AudienceLine[], byHand: Audience['byHand'] = []) =>
		planManifest(familyRoster, { version: 2, lines, byHand }, byWays(['email']));

	it('a line that takes nobody away takes no student away either', () => {
		const before = plan([line()]);
		const after = plan([line(), line({ verb: 'but-not', to: [{ kind: 'students' }] })]);
		expect(after.students).to.deep.equal(before.students);
		expect(after.leftOut).to.deep.equal(before.leftOut);
		expect(after.takenOut).to.deep.equal([]);
	});
	it('says which line took a student out, and that it was done by hand', () => {
		const m = plan([line(), line({ verb: 'but-not', of: { kind: 'students', ids: [2] } })]);
		expect(m.takenOut).to.deep.equal([{ studentId: 2, by: 1 }]);
		const byHand = plan(
			[line({ of: { kind: 'students', ids: [3] } })],
			[{ personId: 13, way: 'out', by: 'Maren', at: 0 }]
		);
		expect(byHand.takenOut).to.deep.equal([{ studentId: 3, by: 'hand' }]);
		expect(byHand.leftOut.map((l) => l.reasons[0]!.code)).to.deep.equal(['by-hand']);
	});
	it('lists a guardian for the one child they are passed over for, though they get a copy for the other', () => {
		const m = plan(
			[line({ of: { kind: 'students', ids: [1, 2] } })],
			[{ personId: 10, way: 'out', by: 'Maren', at: 0 }]
		);
		const rui = studentsLeft(m).find((s) => s.studentId === 2)!;
		expect(rui.people.map((p) => [p.personId, p.reasons[0]!.code])).to.deep.equal([
			[11, 'no-custody'],
			[10, 'by-hand']
		]);
		expect(tallyOf(m)).to.include({ people: 1, leftOut: 1, leftOutForSome: 1 });
	});
	it('gives whom a line took out a reason only where nobody else is written to for the student', () => {
		const notMothers = line({ verb: 'but-not', to: [{ kind: 'relation', relation: 'mother' }] });
		const m = plan([line({ of: { kind: 'students', ids: [1, 2] } }), notMothers]);
		expect(m.leftOut.filter((l) => l.personId === 10)).to.deep.equal([
			{ personId: 10, studentIds: [2], reasons: [{ code: 'by-line', line: 1 }], reached: false }
		]);
	});
	it('what is excepted has no say in whose staff is meant', () => {
		const inTerm = (termId: number) => ({ kind: 'terms' as const, ids: [termId] });
		expect(
			termsOf(familyRoster, { kind: 'except', from: inTerm(2), minus: inTerm(3) })
		).to.deep.equal(new Set([2]));
	});
	it('an exception never adds anybody, over 1,500 random audiences', () => {
		for (let seed = 1; seed <= often(1_500); seed += 1) {
			const r = draws(seed + 50_000);
			const roster = makeRoster(randomSchool(r));
			const [from, minus] = [randomSet(r), randomSet(r)];
			const to = r.shuffle(kinds).slice(0, 2);
			const people = (of: StudentSet) =>
				new Set(
					resolveAudience(roster, {
						version: 2,
						lines: [{ verb: 'and', to, of, only: [] }],
						byHand: []
					}).meant.map((m) => m.personId)
				);
			const whole = people(from);
			for (const id of people({ kind: 'except', from, minus })) {
				expect(whole.has(id), `seed ${seed}`).to.equal(true);
			}
		}
	});
});

describe('counts that are what they say', () => {
	it('a guardian who is also named is written to for as many students as they have', () => {
		const m = planManifest(
			familyRoster,
			{
				version: 2,
				lines: [
					{
						verb: 'and',
						to: [{ kind: 'guardians' }],
						of: { kind: 'students', ids: [3] },
						only: []
					},
					{ verb: 'and', people: { kind: 'named', ids: [13] }, only: [] }
				],
				byHand: []
			},
			byWays(['inbox'])
		);
		expect(tallyOf(m)).to.include({ people: 1, severalStudents: 0 });
	});
	it('two who share an address are merged once, however many students each copy is for', () => {
		const shared = makeRoster({
			people: [student(1, 'Ana'), student(2, 'Rui'), adult(10, 'Mae'), adult(11, 'Pai')],
			addresses: [email(10, 'home@mail.example'), email(11, 'home@mail.example')],
			contacts: [guardian(1, 10), guardian(2, 10), guardian(1, 11), guardian(2, 11)],
			sections: [],
			enrolments: [],
			sectionStaff: [],
			groupMembers: [],
			householdMembers: [],
			staffRoles: [],
			declined: [],
			ownTimes: []
		});
		const m = planManifest(
			shared,
			{
				version: 2,
				lines: [
					{
						verb: 'and',
						to: [{ kind: 'guardians' }],
						of: { kind: 'students', ids: [1, 2] },
						only: []
					}
				],
				byHand: []
			},
			byWays(['email'], { perStudent: true })
		);
		expect(tallyOf(m)).to.include({ copies: 2, merged: 1, severalStudents: 2 });
	});
	it('a colleague who cannot be informed is listed with the reasons', () => {
		const m = planManifest(
			familyRoster,
			{
				version: 2,
				lines: [
					{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'students', ids: [1] }, only: [] }
				],
				byHand: []
			},
			byWays(['email'], { informed: [12] })
		);
		expect(m.informed).to.deep.equal([]);
		expect(m.leftOut.find((l) => l.personId === 12)!.reasons.map((r) => r.code)).to.deep.equal([
			'no-email',
			'no-inbox'
		]);
	});
	it('an only copy by the way tried least does not wait for a turn', () => {
		const m = planManifest(
			familyRoster,
			{
				version: 2,
				lines: [
					{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'students', ids: [2] }, only: [] }
				],
				byHand: []
			},
			byWays(['email', 'text'], { leastTried: true, steps: { email: 0, text: 1, inbox: 0 } }),
			{ ...noFacts, tried: (_, way) => (way === 'email' ? 3 : 0) }
		);
		expect(m.copies.map((c) => [c.way, c.step])).to.deep.equal([['text', 0]]);
	});
	it('an aunt is no guardian', () => {
		const m = planManifest(
			familyRoster,
			{
				version: 2,
				lines: [
					{
						verb: 'and',
						to: [{ kind: 'relation', relation: 'aunt' }],
						of: { kind: 'students', ids: [1] },
						only: []
					}
				],
				byHand: []
			},
			byWays(['text'])
		);
		expect(whyLeft(studentsLeft(m)[0]!, () => 'Inês', [])).to.equal(
			'Inês: Has no custody of this student'
		);
	});
});

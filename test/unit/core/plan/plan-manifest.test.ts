import { expect } from 'chai';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { byWays, type Handling } from '../../../../src/lib/core/plan/handling';
import { usableAddress } from '../../../../src/lib/core/plan/usable-address';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import type { Manifest } from '../../../../src/lib/core/plan/manifest';
import {
	sectionsWithNobody,
	studentsWithNobody
} from '../../../../src/lib/core/plan/students-left';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { reasonText } from '../../../../src/lib/core/audience/reasons';
import { makeRoster, type Roster } from '../../../../src/lib/core/roster/roster';
import { madeDistrict } from '../../made-district';
import { draws } from '../../random';
import { adult, email, family, familyRoster, guardian, phone, student } from '../fixture';
import { ways, type Way } from '../../../../src/lib/core/roster/way';

const audience = audienceOf;

describe('the manifest', () => {
	it('writes to guardians with custody who are marked for correspondence, and to nobody else (common practice)', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['email', 'inbox']));
		expect(m.students).to.deep.equal([1, 2, 3]);
		expect(m.recipients.map((r) => r.personId)).to.have.members([10, 11, 13]);
		// The aunt is an emergency contact: never by accident.
		expect(JSON.stringify(m)).not.to.contain('"personId":12');
	});

	it('gives one person one copy that speaks of all their students', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['inbox']));
		expect(m.copies.filter((c) => c.personId === 10)).to.deep.equal([
			{
				personId: 10,
				way: 'inbox',
				address: null,
				studentIds: [1, 2],
				alsoFor: [],
				step: 0,
				overWish: false
			}
		]);
	});

	it('does not write to a father about the child he has no custody of, though he gets a copy for the other', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['email']));
		expect(
			m.recipients.find((r) => r.personId === 11)!.because.map((b) => b.studentId)
		).to.deep.equal([1]);
		expect(m.leftOut.filter((l) => l.personId === 11)).to.deep.equal([
			{ personId: 11, studentIds: [2], reasons: [{ code: 'no-custody' }], reached: true }
		]);
	});

	it('leaves out whoever has no custody of any student meant, with the reason', () => {
		const roster = makeRoster({
			...family,
			contacts: family.contacts.filter((c) => !(c.personId === 11 && c.studentId === 1))
		});
		const m = planManifest(roster, audience([101]), byWays(['email']));
		expect(m.leftOut).to.deep.include({
			personId: 11,
			studentIds: [2],
			reasons: [{ code: 'no-custody' }],
			reached: false
		});
	});

	it('uses a shared mailbox once, however it is spelled, and says for whom else', () => {
		const m = planManifest(familyRoster, audience([100]), byWays(['email']));
		expect(m.copies).to.deep.equal([
			{
				personId: 10,
				way: 'email',
				address: 'home@harbormail.example',
				studentIds: [1],
				alsoFor: [11],
				step: 0,
				overWish: false
			}
		]);
		expect(m.recipients).to.have.length(2);
		expect(tallyOf(m)).to.include({ people: 2, copies: 1, merged: 1 });
	});

	it('texts only those who opted in, and tells not opted in from opted out and from no number', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['text']));
		expect(m.copies.map((c) => c.personId)).to.deep.equal([10]);
		expect(m.leftOut.find((l) => l.personId === 11)!.reasons).to.deep.equal([
			{ code: 'not-opted-in' }
		]);
		expect(m.leftOut.find((l) => l.personId === 13)!.reasons).to.deep.equal([
			{ code: 'opted-out', way: 'text' }
		]);
		expect(usableAddress(familyRoster, 1, 'text')).to.deep.equal({ reason: { code: 'no-number' } });
	});

	it('leaves nobody out who has another way', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['email', 'text', 'inbox']));
		expect(m.leftOut.filter((l) => !l.reached)).to.deep.equal([]);
		expect(m.notByWay).to.deep.include({
			personId: 13,
			way: 'email',
			reason: { code: 'opted-out', way: 'email' }
		});
	});

	it('takes the first address that works, and gives the cause where none does', () => {
		const rows = {
			...family,
			people: [student(1, 'Ana'), adult(10, 'Delfina'), adult(11, 'Paulo')],
			contacts: [guardian(1, 10), guardian(1, 11)],
			addresses: [
				email(10, 'old@harbormail.example', { failing: 'the mailbox does not exist' }),
				email(10, 'new@harbormail.example'),
				email(11, 'gone@harbormail.example', { failing: 'the mailbox is switched off' }),
				phone(11, '+12075550105', 'in', 'not in service')
			]
		};
		const m = planManifest(makeRoster(rows), audience([100]), byWays(['email', 'text']));
		expect(m.copies.map((c) => c.address)).to.deep.equal(['new@harbormail.example']);
		expect(m.leftOut[0]!.reasons.map((r) => r.code)).to.deep.equal([
			'address-failing',
			'address-failing'
		]);
		expect(tallyOf(m).leftOutBy).to.deep.equal([
			{ text: 'Email address does not work, number does not work', people: 1 }
		]);
	});

	it('gives each student a copy of their own where that is wanted, also at a shared mailbox', () => {
		const plan = (over: Partial<Handling>) =>
			planManifest(familyRoster, audience([100, 101]), byWays(['email', 'inbox'], over));
		const usual = plan({});
		const each = plan({ perStudent: true });
		expect(each.copies.map((c) => [c.personId, c.way, c.studentIds, c.alsoFor])).to.deep.equal([
			[10, 'email', [1], [11]],
			[10, 'email', [2], []],
			[10, 'inbox', [1], []],
			[10, 'inbox', [2], []],
			[13, 'inbox', [3], []]
		]);
		// Who gets something, and for whom, is the same as with one copy.
		expect(each.recipients).to.deep.equal(usual.recipients);
		const apart = plan({ perPerson: true });
		expect(apart.copies.filter((c) => c.way === 'email').map((c) => c.personId)).to.deep.equal([
			10, 11
		]);
		expect(tallyOf(apart).merged).to.equal(0);
	});

	it('writes by the ways chosen by hand, and no further than the person allows', () => {
		const hand = (personId: number, chosen: Way[]) => ({ personId, ways: chosen, by: 'x', at: 0 });
		const plan = (waysByHand: Handling['waysByHand']) =>
			planManifest(familyRoster, audience([100, 101]), byWays(['email', 'inbox'], { waysByHand }));
		const ofMother = (m: Manifest) => m.copies.filter((c) => c.personId === 10).map((c) => c.way);
		expect(ofMother(plan([hand(10, ['text'])]))).to.deep.equal(['text']);
		expect(plan([hand(10, ['text'])]).notByWay).to.deep.include({
			personId: 10,
			way: 'email',
			reason: { code: 'way-by-hand' }
		});
		// The father has not opted in to text: choosing it for him does not make it so.
		expect(plan([hand(11, ['text'])]).leftOut).to.deep.include({
			personId: 11,
			studentIds: [1],
			reasons: [{ code: 'not-opted-in' }],
			reached: false
		});
		expect(plan([hand(11, [])]).leftOut.find((l) => l.personId === 11)!.reasons).to.deep.equal([
			{ code: 'way-by-hand' }
		]);
	});

	it('adds one copy for each who is informed, none for who gets one anyway, and none where nobody does', () => {
		const rows = {
			...family,
			people: [...family.people, adult(14, 'Chidi', true), adult(15, 'Ruth')],
			addresses: [...family.addresses, email(15, 'ruth@brackwater.example')]
		};
		const plan = (sections: number[]) =>
			planManifest(
				makeRoster(rows),
				audience(sections),
				byWays(['text'], { informed: [14, 15, 10, 14] })
			);
		const m = plan([100]);
		expect(m.informed).to.deep.equal([14, 15]);
		expect(m.copies.slice(-2).map((c) => [c.personId, c.way, c.studentIds])).to.deep.equal([
			[14, 'inbox', []],
			[15, 'email', []]
		]);
		expect(tallyOf(m)).to.include({ people: 1, copies: 3, informed: 2 });
		expect(plan([]).copies).to.deep.equal([]);
	});

	it('keeps to what a person has declined for a kind of message, and says so', () => {
		const roster = makeRoster({
			...family,
			declined: [
				{ personId: 10, kind: 'announcement', way: 'email' },
				{ personId: 10, kind: 'announcement', way: 'inbox' }
			]
		});
		const plan = (kind: Handling['kind']) =>
			planManifest(roster, audience([100]), byWays(['email', 'inbox'], { kind }));
		expect(plan('message').copies.map((c) => c.personId)).to.deep.equal([10, 10]);
		const out = plan('announcement').leftOut.find((l) => l.personId === 10)!;
		expect(out.reasons.map((r) => reasonText(r))).to.deep.equal([
			'Wants no announcements by email',
			'Wants no announcements by inbox'
		]);
	});

	it('passes over what was declined where it is urgent, and says for whom; never over an opt-out', () => {
		const roster = makeRoster({
			...family,
			declined: [
				{ personId: 10, kind: 'announcement', way: 'inbox' },
				{ personId: 13, kind: 'announcement', way: 'inbox' }
			]
		});
		const m = planManifest(
			roster,
			audience([100, 101]),
			byWays(['email', 'text', 'inbox'], { kind: 'announcement', urgent: true })
		);
		const over = m.copies.filter((c) => c.overWish).map((c) => [c.personId, c.way]);
		expect(over).to.deep.equal([
			[10, 'inbox'],
			[13, 'inbox']
		]);
		expect(tallyOf(m).overWish).to.equal(2);
		// Bao has opted out of text and of email: that is no kind of message.
		expect(m.copies.some((c) => c.personId === 13 && c.way !== 'inbox')).to.equal(false);
	});

	it('uses one phone once however it is written, and no address that cannot be one', () => {
		const rows = {
			...family,
			people: [student(1, 'Ana'), adult(10, 'Delfina'), adult(11, 'Paulo'), adult(12, 'Inês')],
			contacts: [guardian(1, 10), guardian(1, 11), guardian(1, 12)],
			addresses: [
				phone(10, '(207) 555-0101'),
				phone(11, '+1 207 555 0101'),
				email(12, 'ines at harbormail.example'),
				phone(12, '555')
			]
		};
		const m = planManifest(makeRoster(rows), audience([100]), byWays(['email', 'text']));
		expect(m.copies.map((c) => [c.address, c.personId, c.alsoFor])).to.deep.equal([
			['+12075550101', 10, [11]]
		]);
		expect(
			m.leftOut.find((l) => l.personId === 12)!.reasons.map((r) => reasonText(r))
		).to.deep.equal([
			'Email address does not work: not a mail address, it has no @',
			'Number does not work: "555" is not a phone number'
		]);
	});

	it('takes what is a person’s own, exchanged, from then on, and leaves the roster before as it was', () => {
		const nothing = { people: [], addresses: [], declined: [], ownTimes: [] };
		const changed = familyRoster.withOwn([10], {
			...nothing,
			addresses: [email(10, 'new@harbormail.example')]
		});
		const to = (r: Roster) =>
			planManifest(r, audience([100]), byWays(['email'])).copies.map((c) => c.address);
		expect(to(changed)).to.deep.equal(['new@harbormail.example', 'Home@harbormail.example']);
		expect(to(familyRoster)).to.deep.equal(['home@harbormail.example']);
		expect(to(changed.withOwn([10, 11], nothing))).to.deep.equal([]);
		const declined = { personId: 10, kind: 'message', way: 'email' } as const;
		const time = { personId: 11, zone: 'Europe/Lisbon', quiet: null, digest: null };
		const chosen = familyRoster.withOwn([10, 11], {
			people: [],
			addresses: [],
			declined: [declined],
			ownTimes: [time]
		});
		expect(chosen.declines(10, 'message', 'email')).to.equal(true);
		expect(chosen.declines(10, 'message', 'inbox')).to.equal(false);
		expect(chosen.declines(10, 'announcement', 'email')).to.equal(false);
		expect(chosen.ownTime(11)).to.equal(time);
		const again = chosen.withOwn([10], nothing);
		expect([again.declines(10, 'message', 'email'), again.ownTime(11)]).to.deep.equal([
			false,
			time
		]);
	});

	it('names the sections in which nobody can be reached', () => {
		const m = planManifest(familyRoster, audience([100, 101]), byWays(['text']));
		expect(studentsWithNobody(m)).to.deep.equal([3]);
		expect(sectionsWithNobody(m)).to.deep.equal([]);
		const drama = planManifest(familyRoster, audience([101]), byWays([]));
		expect(sectionsWithNobody(drama)).to.deep.equal([101]);
	});

	it('comes to nobody for no section, no way, and a section that is gone', () => {
		for (const [a, w] of [
			[audience([]), ways],
			[audience([100]), []],
			[audience([999]), ways]
		] as const) {
			expect(tallyOf(planManifest(familyRoster, a, byWays(w)))).to.include({
				copies: 0,
				people: 0
			});
		}
	});

	it('agrees with a count made another way over 80 random audiences of the demo district', () => {
		const { rows, roster: plain } = madeDistrict(5);
		// What people have declined is tested elsewhere; here it would be in the way of plain filters.
		const roster = makeRoster({ ...plain, declined: [] });
		const r = draws(3);
		for (let i = 0; i < 80; i += 1) {
			const picked = r.shuffle(rows.section.map((s) => s[0])).slice(0, r.int(1, 12));
			const to = r.pick<('guardians' | 'students')[]>([
				['guardians'],
				['students'],
				['guardians', 'students']
			]);
			const chosen = ways.filter(() => r.chance(0.6)) as Way[];
			const m = planManifest(roster, audience(picked, to), byWays(chosen));
			const t = tallyOf(m);

			// The same by plain filters over the rows, knowing nothing of the index or the plan.
			const students = new Set(
				rows.enrolment.filter(([s]) => picked.includes(s)).map(([, st]) => st)
			);
			const meant = new Set<number>();
			if (to.includes('students')) students.forEach((s) => meant.add(s));
			if (to.includes('guardians'))
				rows.contact
					.filter(([s, , , g, c, k]) => students.has(s) && g && c && k)
					.forEach(([, p]) => meant.add(p));
			const emails = new Set(
				rows.address
					.filter(([, p, w, , c]) => meant.has(p) && w === 'email' && c !== 'out')
					.map(([, , , v]) => v.toLowerCase())
			);
			const numbers = new Set(
				rows.address
					.filter(([, p, w, , c]) => meant.has(p) && w === 'text' && c === 'in')
					.map(([, , , v]) => v)
			);
			const inboxes = rows.person.filter((p) => meant.has(p[0]) && p[7] === 1).length;

			expect(t.students).to.equal(students.size);
			expect(t.byWay.email).to.equal(chosen.includes('email') ? emails.size : 0);
			expect(t.byWay.text).to.equal(chosen.includes('text') ? numbers.size : 0);
			expect(t.byWay.inbox).to.equal(chosen.includes('inbox') ? inboxes : 0);
			// The parts add up: everyone meant is a recipient or left out, each once.
			const ids = [...m.recipients.map((x) => x.personId), ...m.leftOut.map((x) => x.personId)];
			expect(new Set(ids).size).to.equal(ids.length);
			const found = new Set(ids);
			expect([...meant].filter((id) => !found.has(id))).to.deep.equal([]);
			expect(t.leftOutBy.reduce((sum, l) => sum + l.people, 0)).to.equal(t.leftOut);
			for (const way of chosen) {
				const missing = t.notByWay[way].reduce((sum, x) => sum + x.people, 0);
				const merged = m.copies
					.filter((c) => c.way === way)
					.reduce((sum, c) => sum + c.alsoFor.length, 0);
				expect(t.byWay[way] + merged + missing, way).to.equal(t.people);
			}
		}
	});
});

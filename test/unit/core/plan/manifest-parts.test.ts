import { expect } from 'chai';
import type { Audience } from '../../../../src/lib/core/audience/audience';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { noFacts, type Facts } from '../../../../src/lib/core/audience/facts';
import { byWays, type Handling } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import { whyLeft } from '../../../../src/lib/core/plan/students-left';
import { tallyOf } from '../../../../src/lib/core/plan/tally';
import { stepsOf, turnsInUse, turnsSchema, turnsWords } from '../../../../src/lib/core/plan/turns';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import type { RosterRows } from '../../../../src/lib/core/roster/types';
import { ways, type Way } from '../../../../src/lib/core/roster/way';
import { adult, email, family, guardian, phone } from '../fixture';

/** A mother whom every way reaches, for two children; others as a test wants them. */
const rows = (over: Partial<RosterRows> = {}): RosterRows => ({
	...family,
	people: [...family.people, adult(14, 'Teo', true), adult(15, 'Mila')],
	addresses: [email(10, 'home@harbormail.example'), phone(10, '+12075550101')],
	contacts: [guardian(1, 10), guardian(2, 10)],
	...over
});
const plan = (
	handling: Partial<Handling> = {},
	over: Partial<RosterRows> = {},
	{ facts = noFacts, audience = audienceOf([101]) }: { facts?: Facts; audience?: Audience } = {}
) => planManifest(makeRoster(rows(over)), audience, { ...byWays(ways), ...handling }, facts);
/** Her ways, chosen by hand. */
const byHand = (list: readonly Way[]) => ({
	personId: 10,
	ways: [...list],
	by: 'Maren Quill',
	at: 0
});
const copiesOf = (m: ReturnType<typeof plan>) =>
	m.copies.map((c) => `${c.personId} ${c.way} ${c.studentIds.join('+')}`);

describe('the way that is tried least', () => {
	const facts = (
		tried: Partial<Record<Way, number>>,
		reads: Partial<Record<Way, number>>
	): Facts => ({
		...noFacts,
		tried: (_, way) => tried[way] ?? 0,
		reads: (_, way) => reads[way] ?? null
	});
	const chosen = (tried: Partial<Record<Way, number>>, reads: Partial<Record<Way, number>> = {}) =>
		plan({ leastTried: true }, {}, { facts: facts(tried, reads) });

	it('is the one with the fewest tries, whatever it is read', () => {
		expect(copiesOf(chosen({ text: 1, email: 0, inbox: 1 }))).to.deep.equal(['10 email 1+2']);
		expect(copiesOf(chosen({ text: 2, email: 2, inbox: 1 }, { text: 1 }))).to.deep.equal([
			'10 inbox 1+2'
		]);
	});

	it('among equals the one its reader reads best, and text before email before inbox where nothing is known', () => {
		expect(copiesOf(chosen({}))).to.deep.equal(['10 text 1+2']);
		expect(copiesOf(chosen({}, { inbox: 0.9, email: 0.4 }))).to.deep.equal(['10 inbox 1+2']);
		expect(copiesOf(chosen({}, { text: 0.5, email: 0.5 }))).to.deep.equal(['10 text 1+2']);
		expect(copiesOf(chosen({ text: 1 }, { text: 1, inbox: 0.1 }))).to.deep.equal(['10 inbox 1+2']);
	});

	it('leaves the others with that reason, and only among ways that work', () => {
		expect(chosen({}).notByWay).to.deep.equal([
			{ personId: 10, way: 'email', reason: { code: 'tried-less' } },
			{ personId: 10, way: 'inbox', reason: { code: 'tried-less' } }
		]);
		const withoutPhone = planManifest(
			makeRoster(rows({ addresses: [email(10, 'home@harbormail.example')] })),
			audienceOf([101]),
			{ ...byWays(ways), leastTried: true },
			noFacts
		);
		expect(copiesOf(withoutPhone)).to.deep.equal(['10 email 1+2']);
		// By hand outweighs it.
		const chosenBy = plan({ leastTried: true, waysByHand: [byHand(['inbox'])] });
		expect(copiesOf(chosenBy)).to.deep.equal(['10 inbox 1+2']);
	});
});

describe('what becomes of a person in the manifest', () => {
	it('who is not on the roster is left out by that', () => {
		const m = plan({}, { contacts: [guardian(1, 99), guardian(1, 10)] });
		expect(m.leftOut.filter((l) => l.personId === 99)).to.deep.equal([
			{ personId: 99, studentIds: [1], reasons: [{ code: 'not-on-roster' }], reached: false }
		]);
	});

	it('who has no way left by hand is left out by that; ways put away are said beside those that stay', () => {
		const none = plan({ waysByHand: [byHand([])] });
		expect(none.leftOut).to.deep.equal([
			{ personId: 10, studentIds: [1, 2], reasons: [{ code: 'way-by-hand' }], reached: false }
		]);
		const some = plan({ waysByHand: [byHand(['inbox', 'text'])] });
		expect(some.notByWay).to.deep.equal([
			{ personId: 10, way: 'email', reason: { code: 'way-by-hand' } }
		]);
	});

	it('who refused texts is told from who never opted in, and a number that fails from both', () => {
		const reason = (...numbers: RosterRows['addresses']) =>
			plan(byWays(['text']), { addresses: numbers }).notByWay[0]?.reason.code;
		expect(reason(phone(10, '+12075550101', 'out'))).to.equal('opted-out');
		expect(reason(phone(10, '+12075550101', 'unknown'))).to.equal('not-opted-in');
		expect(reason(phone(10, '+12075550101', 'unknown'), phone(10, '+12075550102', 'out'))).to.equal(
			'opted-out'
		);
		expect(
			reason(phone(10, '+12075550101', 'out'), phone(10, '+12075550102', 'in', 'off too long'))
		).to.equal('address-failing');
		expect(reason(email(10, 'home@harbormail.example', { consent: 'out' }))).to.equal('no-number');
		expect(reason()).to.equal('no-number');
	});

	it('urgent news passes over what was declined, and says so; ordinary news does not', () => {
		const declined = [{ personId: 10, kind: 'message', way: 'email' }] as const;
		const urgent = plan({ ...byWays(['email']), urgent: true }, { declined });
		expect(urgent.copies.map((c) => c.overWish)).to.deep.equal([true]);
		expect(tallyOf(urgent).overWish).to.equal(1);
		const ordinary = plan(byWays(['email']), { declined });
		expect(ordinary.copies).to.deep.equal([]);
		expect(ordinary.notByWay[0]!.reason).to.deep.equal({
			code: 'declined',
			way: 'email',
			kind: 'message'
		});
		expect(tallyOf(plan(byWays(['email']))).overWish).to.equal(0);
	});

	it('who shares a mailbox has one copy, at the earliest turn of those who share it', () => {
		const shared = {
			addresses: [
				email(10, 'home@harbormail.example'),
				phone(10, '+12075550101'),
				email(15, 'HOME@harbormail.example')
			],
			contacts: [guardian(1, 10), guardian(2, 15)]
		};
		const steps = { ...byWays(ways).steps, email: 1 };
		const m = plan({ steps }, shared);
		const mail = m.copies.filter((c) => c.way === 'email');
		expect(mail.map((c) => [c.personId, c.alsoFor, c.studentIds, c.step])).to.deep.equal([
			[10, [15], [1, 2], 0]
		]);
		expect(tallyOf(m)).to.include({ merged: 1, inTurn: 0 });
		const apart = plan({ steps, perPerson: true }, shared);
		expect(apart.copies.filter((c) => c.way === 'email')).to.have.length(2);
		expect(tallyOf(apart).inTurn).to.equal(1);
		// With a copy for each student the two meet once for each child they share, and are counted once.
		const both = {
			...shared,
			contacts: [guardian(1, 10), guardian(2, 10), guardian(1, 15), guardian(2, 15)]
		};
		const each = plan({ ...byWays(['email']), perStudent: true }, both);
		expect(copiesOf(each)).to.deep.equal(['10 email 1', '10 email 2']);
		expect(tallyOf(each).merged).to.equal(1);
	});

	it('who is to be informed gets one copy by mail, else in the inbox; nobody of a dispatch to nobody', () => {
		const m = plan({ informed: [14, 14, 10, 15] });
		expect(m.informed).to.deep.equal([14]);
		expect(copiesOf(m).at(-1)).to.equal('14 inbox ');
		expect(m.leftOut).to.deep.equal([
			{
				personId: 15,
				studentIds: [],
				reasons: [{ code: 'no-email' }, { code: 'no-inbox' }],
				reached: false
			}
		]);
		expect(tallyOf(m)).to.include({ informed: 1, leftOut: 1 });
		expect(plan({ informed: [14] }, { contacts: [] }).informed).to.deep.equal([]);
	});

	it('who was taken out by a line is listed only for students of whom no copy speaks', () => {
		const of = { kind: 'sections' as const, ids: [101] };
		const line = (verb: 'and' | 'but-not', ids: number[]) => ({
			verb,
			to: [{ kind: 'guardians' as const }],
			of: { kind: 'students' as const, ids },
			only: []
		});
		const audience: Audience = {
			version: 2,
			lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] }, line('but-not', [2])],
			byHand: []
		};
		const m = plan({}, {}, { audience });
		expect(copiesOf(m)).to.deep.equal(['10 email 1', '10 text 1', '10 inbox 1']);
		expect(m.takenOut).to.deep.equal([{ studentId: 2, by: 1 }]);
		expect(tallyOf(m).studentsOut).to.equal(1);
	});
});

describe('the tally', () => {
	it('counts each person left out by all that holds for them, the most first', () => {
		const people = [20, 21, 22].map((id) => adult(id, `No ${id}`));
		const m = plan(byWays(['email', 'text']), {
			people: [...rows().people, ...people],
			addresses: [email(10, 'a@b.example', { failing: 'the mailbox is full' })],
			contacts: [guardian(1, 10), ...people.map((p) => guardian(2, p.id))]
		});
		expect(tallyOf(m).leftOutBy).to.deep.equal([
			{ text: 'No email address on file, no number on file', people: 3 },
			{ text: 'Email address does not work, no number on file', people: 1 }
		]);
		const one = plan(byWays(['email', 'inbox']), { addresses: [] });
		expect(tallyOf(one).notByWay.email).to.deep.equal([
			{ text: 'No email address on file', people: 1 }
		]);
		expect(tallyOf(one)).to.include({ severalStudents: 1, byOtherLine: 0, leftOut: 0 });
	});

	it('counts who is meant by more than one line', () => {
		const line = { ...audienceOf([101]).lines[0]! };
		const m = plan({}, {}, { audience: { version: 2, lines: [line, line], byHand: [] } });
		expect(tallyOf(m).byOtherLine).to.equal(1);
	});
});

describe('why a student is left', () => {
	const name = (id: number) => `No ${id}`;
	const left = { studentId: 1, people: [] };
	it('is said by what took them out, or by each of their people', () => {
		expect(whyLeft({ ...left, kind: 'alone', by: null }, name, [])).to.equal(
			'None of the people asked for is on file'
		);
		expect(whyLeft({ ...left, kind: 'out', by: 'hand' }, name, [])).to.match(/by hand/i);
		expect(whyLeft({ ...left, kind: 'out', by: 0 }, name, ['but not Drama'])).to.contain(
			'but not Drama'
		);
		const people = [10, 11].map((personId) => ({
			personId,
			reasons: [{ code: 'no-email' as const }]
		}));
		expect(whyLeft({ ...left, kind: 'unreached', by: null, people }, name, [])).to.equal(
			'No 10: No email address on file; No 11: No email address on file'
		);
	});
});

describe('turns', () => {
	const turn = (list: readonly Way[], minutes = 90) => ({
		ways: [...list],
		after: { kind: 'minutes' as const, minutes }
	});
	it('give each way one turn, and go first where they have none', () => {
		expect(turnsSchema.safeParse([turn(['text']), turn(['text'])]).success).to.equal(false);
		expect(turnsSchema.safeParse([turn(['text']), turn(['email'])]).success).to.equal(true);
		expect(stepsOf([turn(['text']), turn(['email'])])).to.deep.equal({
			inbox: 0,
			text: 1,
			email: 2
		});
		expect(turnsInUse([turn(['text', 'email'])], ['text', 'email'])).to.deep.equal([]);
		expect(turnsInUse([turn(['text', 'email'])], ['text', 'inbox'])).to.deep.equal([
			turn(['text'])
		]);
	});
	it('are said in words', () => {
		expect(turnsWords(['email', 'text', 'inbox'], [])).to.equal('email, text and inbox');
		expect(turnsWords(['email', 'inbox'], [])).to.equal('email and inbox');
		expect(turnsWords(['email', 'text'], [turn(['text'])])).to.match(
			/^email first; text to those who have not read within 90 min$/
		);
		expect(turnsWords(['email', 'text'], [turn(['text'], 120)])).to.match(/within 2 h$/);
	});
});

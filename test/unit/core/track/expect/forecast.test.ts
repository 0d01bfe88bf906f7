import { expect } from 'chai';
import { groupBy } from '../../../../../src/lib/core/group-by';
import {
	familiesOf,
	type CopyAhead,
	type StudentAhead
} from '../../../../../src/lib/core/track/expect/families';
import {
	forecast,
	leavingChances,
	type Bonds
} from '../../../../../src/lib/core/track/expect/forecast';
import type { CoverRule } from '../../../../../src/lib/core/track/coverage';
import { learnBonds } from '../../../../../src/lib/core/track/expect/learn-bonds';
import { tellMinutes, type PastCopy } from '../../../../../src/lib/core/track/expect/past-copy';
import { learn, type ReadingModel } from '../../../../../src/lib/core/track/expect/reading-model';
import type { Way } from '../../../../../src/lib/core/roster/way';
import { dayMs, leavingAt, madeWorld, monday, withCopies, type World } from './made-past';

const apart = { ways: 0, home: 0, dispatch: 0 };
/** Two a week, at nine and in the evening, by mail and text, and every third by one of them. */
const moments = (n: number, from = monday) =>
	Array.from({ length: n }, (_, i) => ({
		at: from + Math.floor(i / 2) * 7 * dayMs + (i % 2) * (3 * dayMs + 9 * 3_600_000),
		ways: (i % 3 === 0 ? ['email'] : i % 3 === 1 ? ['text'] : ['email', 'text']) as Way[]
	}));
function pastOf(world: World, n: number): { copies: PastCopy[]; now: number } {
	const copies = moments(n).flatMap(({ at, ways }, i) => world.send(i, ways, at));
	return { copies, now: monday + (n / 2) * 7 * dayMs };
}

describe('what is to be expected', () => {
	/** A model that says what it is told. */
	const told = (share: number): ReadingModel => ({
		knows: () => true,
		reading: () => ({ share, minutes: 60 }),
		chance: (_person, _way, _leaving, minutes) => (minutes >= tellMinutes ? share : 0)
	});
	const copyTo = (
		personId: number,
		householdId: number | null,
		more: Partial<CopyAhead> = {}
	): CopyAhead => ({
		...{ personId, householdId, readers: [personId], adult: true },
		...{ way: 'email', at: 0, step: 0, hour: 9, weekday: 0, ...more }
	});
	const child = (personId: number) => copyTo(personId, 5, { adult: false });
	const by = 4 * dayMs;
	/** The chance of the only student. */
	const chance = (
		copies: readonly CopyAhead[],
		rule: CoverRule,
		{ homes = [], bonds = apart }: { homes?: number[][]; bonds?: Bonds } = {}
	): number => {
		const families = familiesOf([{ studentId: 1, copies, homes }], rule);
		return forecast(told(0.5), families, { by, bonds })!.chances[0]!;
	};

	it('is what both adults of a student leave unread, by each rule of covering', () => {
		const copies = [copyTo(10, 5), copyTo(11, 6), child(1)];
		const homes = [[10], [11]];
		expect(chance(copies, 'adult', { homes })).to.be.closeTo(0.75, 1e-12);
		expect(chance(copies, 'households', { homes })).to.be.closeTo(0.25, 1e-12);
		expect(chance(copies, 'student-too', { homes })).to.be.closeTo(0.375, 1e-12);
		// A home of which nobody gets a copy; and where no home is known, any adult will do.
		expect(chance([copyTo(10, 5)], 'households', { homes })).to.equal(0);
		expect(chance([copyTo(10, 5)], 'households')).to.equal(0.5);
		// To students alone, by whatever rule: their own reading.
		expect(chance([child(1)], 'households', { homes })).to.equal(0.5);
		// Of one home, hanging wholly together: no better than one of them; of two homes, each for itself.
		const bonds = { ...apart, home: 1 };
		expect(chance([copyTo(10, 5), copyTo(11, 5)], 'adult', { bonds })).to.be.closeTo(0.5, 1e-12);
		expect(chance([copyTo(10, 5), copyTo(11, 6)], 'adult', { bonds })).to.be.closeTo(0.75, 1e-12);
	});

	it('a copy that an adult shares with the student is read by either of them', () => {
		const shared = copyTo(1, 5, { readers: [1, 10], adult: true });
		expect(chance([shared], 'adult')).to.equal(0.5);
		expect(chance([shared], 'student-too')).to.equal(0.5);
		expect(chance([shared, child(1)], 'student-too')).to.be.closeTo(0.5, 1e-12);
		expect(chance([shared, copyTo(11, 6), child(1)], 'student-too')).to.be.closeTo(0.625, 1e-12);
		expect(chance([shared], 'households', { homes: [[10]] })).to.equal(0.5);
	});

	it('counts copies that have left by then, and no others; nobody written to is covered by nothing', () => {
		expect(chance([copyTo(10, 5, { at: by })], 'adult')).to.equal(0);
		expect(chance([], 'adult')).to.equal(0);
	});

	it('a later turn leaves as often as nothing has been read by then', () => {
		const text = copyTo(10, 5, { way: 'text', at: 3 * dayMs, step: 1 });
		const copies = [copyTo(10, 5), text, copyTo(11, 5)];
		expect(leavingChances(told(0.5), copies, apart)).to.deep.equal([1, 0.5, 1]);
		const soon = { ...text, at: dayMs };
		expect(leavingChances(told(0.5), [copyTo(10, 5), soon], apart)).to.deep.equal([1, 1]);
	});

	it('brothers and sisters are covered together: the band is as wide as their families make it', () => {
		const siblings = [1, 2, 3, 4].map((studentId): StudentAhead => ({
			studentId,
			homes: [],
			copies: [copyTo(10, 5)]
		}));
		const alone: StudentAhead = { studentId: 5, homes: [], copies: [] };
		const families = familiesOf([...siblings, alone, { ...alone, studentId: 6 }], 'adult');
		const f = forecast(told(0.5), families, { by, bonds: apart })!;
		expect(f.expected).to.be.closeTo(2, 1e-9);
		expect([f.low, f.high, f.students]).to.deep.equal([0, 4, 6]);
		// One call in two cases to the first, and one to each of those to whom nobody is written.
		expect(f.calls).to.be.closeTo(2.5, 1e-9);
	});

	it('says nothing where too little is known: no past, few copies, few dispatches, another way', () => {
		const world = madeWorld(1, { families: 20 });
		const ahead = withCopies(world.students, [{ way: 'email', at: monday }]);
		const ask = (model: ReadingModel) =>
			forecast(model, familiesOf(ahead, 'adult'), { by: monday + dayMs, bonds: apart });
		expect(ask(learn([], world.readerOf, monday))).to.equal(null);
		const one = world.send(0, ['email'], monday - 7 * dayMs);
		expect(ask(learn(one, world.readerOf, monday))).to.equal(null);
		const { copies, now } = pastOf(world, 12);
		const texts = copies.filter((c) => c.way === 'text');
		expect(ask(learn(texts, world.readerOf, now))).to.equal(null);
		expect(ask(learn(copies, world.readerOf, now))).to.not.equal(null);
	});
});

describe('a model that has learned from a past whose habits are known', () => {
	const world = madeWorld(42);
	const { copies, now } = pastOf(world, 60);
	const model = learn(copies, world.readerOf, now);
	const bonds = learnBonds(model, copies, world.readerOf);

	it('finds again how much hangs together, as far as it is there', () => {
		expect(bonds.home).to.be.within(0.1, 0.5);
		expect(bonds.dispatch).to.be.within(0.2, 0.5);
	});

	// 300 dispatches that it has never seen: the band of nine of ten holds in 86 to 94 of 100, and each student’s chance is nearer to
	// what came (Brier 1950) than everybody’s average and than the last dispatch’s share.
	it('its bands hold as often as they say, and it is nearer than both plain rivals', () => {
		let [within, mine, average, last, n] = [0, 0, 0, 0, 0];
		const usual = { sum: 0, of: 0 };
		let before = 0.5;
		for (let i = 0; i < 300; i += 1) {
			const ways: Way[] = i % 2 === 0 ? ['email'] : ['email', 'text'];
			const at = now + (i % 5) * dayMs + (i % 2) * 9 * 3_600_000;
			const until = at + (i % 3 === 0 ? 6 : 24) * 3_600_000;
			const ahead = withCopies(
				world.students,
				ways.map((way) => ({ way, at }))
			);
			const f = forecast(model, familiesOf(ahead, 'adult'), { by: until, bonds })!;
			const came = world.send(1000 + i, ways, at);
			const read = new Set(
				came
					.filter((c) => c.minutes !== null && c.minutes <= (until - at) / 60_000)
					.map((c) => world.readerOf(c.personId).householdId!)
			);
			const covered = world.students.filter((s) => read.has(s.home)).length;
			if (covered >= f.low && covered <= f.high) within += 1;
			world.students.forEach((s, k) => {
				const was = read.has(s.home) ? 1 : 0;
				mine += (f.chances[k]! - was) ** 2;
				average += ((usual.of === 0 ? 0.5 : usual.sum / usual.of) - was) ** 2;
				last += (before - was) ** 2;
				n += 1;
			});
			usual.sum += covered;
			usual.of += world.students.length;
			before = covered / world.students.length;
		}
		expect(within / 300).to.be.within(0.86, 0.94);
		expect(mine / n).to.be.below((average / n) * 0.93);
		expect(mine / n).to.be.below((last / n) * 0.9);
	});

	it('knows those who read everything from those who read nothing, and the evening from the morning', () => {
		const shareOf = (id: number) => model.reading(id, 'email', { hour: 9, weekday: 0 })!.share;
		const seen = world.students.flatMap((s) => [2 * s.home, 2 * s.home + 1]);
		const mails = groupBy(
			copies.filter((c) => c.way === 'email'),
			(c) => c.personId
		);
		const rate = (id: number) => {
			const own = mails.get(id)!;
			return own.filter((c) => c.minutes !== null).length / own.length;
		};
		const rates = new Map(seen.map((id) => [id, rate(id)]));
		const sorted = [...seen].sort((a, b) => rates.get(a)! - rates.get(b)!);
		expect(shareOf(sorted[0]!)).to.be.below(0.3);
		expect(shareOf(sorted.at(-1)!)).to.be.above(0.7);
		const evening = (id: number) => model.reading(id, 'email', { hour: 18, weekday: 3 })!.share;
		const mean = (of: (id: number) => number) =>
			seen.reduce((sum, id) => sum + of(id), 0) / seen.length;
		expect(mean(evening)).to.be.above(mean(shareOf) + 0.03);
	});

	it('of somebody new it says what their school does, and of a language what it does there', () => {
		const readerOf = (id: number) =>
			id < 100_000
				? world.readerOf(id)
				: { householdId: null, schoolId: id % 3, language: id < 200_000 ? 'en' : 'es' };
		const fresh = learn(copies, readerOf, now);
		const share = (id: number) => fresh.reading(id, 'email', { hour: 9, weekday: 0 })!.share;
		// Schools are 0, 1 and 2, the later the better: 100,002 is at the first of them.
		expect(share(100_002)).to.be.below(share(100_000));
		expect(share(100_000)).to.be.below(share(100_001));
		expect(share(200_001)).to.be.below(share(100_002));
	});
});

describe('somebody who changes their habits', () => {
	it('is soon taken for what they do now', () => {
		const world = madeWorld(7, { families: 60, shock: 0 });
		const id = 4;
		world.changes(id, 0.97);
		const early = moments(40).flatMap(({ at }, i) => world.send(i, ['email'], at));
		world.changes(id, 0.03);
		const from = monday + 20 * 7 * dayMs;
		const late = moments(12, from).flatMap(({ at }, i) => world.send(100 + i, ['email'], at));
		const now = from + 6 * 7 * dayMs;
		const share = (copies: readonly PastCopy[], at: number) =>
			learn(copies, world.readerOf, at).reading(id, 'email', leavingAt(monday))!.share;
		const all = [...early, ...late].filter((c) => c.personId === id);
		const ever = all.filter((c) => c.minutes !== null).length / all.length;
		const [before, after] = [share(early, from), share([...early, ...late], now)];
		expect(before).to.be.above(0.8);
		// Further down than all they ever did together would say, though those they live with read as before.
		expect(after)
			.to.be.below(before - 0.25)
			.and.below(ever - 0.1);
	});
});

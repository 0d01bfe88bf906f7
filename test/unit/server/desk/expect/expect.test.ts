import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { usualWanted } from '../../../../../src/lib/core/plan/wanted';
import type { Way } from '../../../../../src/lib/core/roster/way';
import { openAccount } from '../../../../../src/lib/server/access/accounts';
import { userById, type User } from '../../../../../src/lib/server/access/user';
import { setClock } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { habitsOf } from '../../../../../src/lib/server/desk/expect/habits';
import { howGood } from '../../../../../src/lib/server/desk/expect/how-good';
import { judgeForecasts } from '../../../../../src/lib/server/desk/expect/judge-forecasts';
import { keepForecasts } from '../../../../../src/lib/server/desk/expect/keep-forecasts';
import { keptForecast } from '../../../../../src/lib/server/desk/expect/kept-forecast';
import { learnByNight, learnReading } from '../../../../../src/lib/server/desk/expect/learn';
import { learnedLast } from '../../../../../src/lib/server/desk/expect/model';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { whatToExpect } from '../../../../../src/lib/server/desk/plan/what-to-expect';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { stopRest } from '../../../../../src/lib/server/desk/send/stop';
import { sheetWith, type Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import { readByHabit } from '../../../../read-by-habit';
import { districtWithCoordinator, testStart } from '../../database';

const key = Buffer.alloc(32, 7);
const site = { publicUrl: 'https://courier.example', waysOut: ['email', 'text'] } as const;
const day = 86_400_000;

describe('what is to be expected, by the rows', () => {
	let house: Awaited<ReturnType<typeof districtWithCoordinator>>;
	let user: User;
	let sections: number[];
	let at = testStart - 60 * day;
	before(async () => {
		house = await districtWithCoordinator(5);
		const { db } = house;
		({ user } = house);
		sections = (
			await db.all<{ id: number }>('SELECT id FROM section WHERE term_id = 2 ORDER BY id LIMIT 6')
		).map((s) => s.id);
		await db.write((tx) => rosterChanged(tx));
	});
	after(() => house.close());

	const sheetTo = (ways: Way[], over: Partial<Sheet> = {}): Sheet =>
		sheetWith({
			sheetKey: crypto.randomUUID(),
			audience: audienceOf(sections),
			wording: wordingOf('Boats', 'The boat is late.'),
			holdMinutes: 0,
			...{ ways, ...over }
		});

	/** Sends a sheet at the clock’s time; resolves to its number. */
	async function send(sheet: Sheet): Promise<number> {
		const { tally } = await landing(house.db, user, sheet);
		const sent = await schedule(house.db, key, user, sheet, tally.copies);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		return sent.dispatchId;
	}

	const read = (id: number) => readByHabit(house.db, id, 'expect');

	/** Three a week, until a day. */
	async function past(n: number): Promise<void> {
		for (let i = 0; i < n; i += 1) {
			await setClock(house.db, at);
			await read(await send(sheetTo(i % 2 === 0 ? ['email', 'inbox'] : ['email'])));
			at += 2 * day;
		}
		await setClock(house.db, at);
	}

	it('is not said where nothing has been learned, and then not by a way that was not used', async () => {
		await setClock(house.db, at);
		const { db } = house;
		expect((await landing(db, user, sheetTo(['email']))).expect).to.deep.include({
			unknown: ['email']
		});
		expect((await whatToExpect(db, site, user, sheetTo(['email']))).is).to.equal('unknown');
		expect(await keepForecasts(db)).to.equal(0);
		await past(14);
		await learnReading(db);
		expect(Object.keys((await learnedLast(db))!.everybody)).to.have.members(['email', 'inbox']);
		expect((await landing(db, user, sheetTo(['email', 'text']))).expect).to.deep.include({
			unknown: ['text']
		});
		// Learned today: the night has nothing to do.
		expect(await learnByNight(db)).to.equal(0);
	});

	it('is learned a part at a time, goes on where it was left, and comes to the same', async () => {
		const { db } = house;
		const habits = () =>
			db.all<{ personId: number; way: Way; share: number; copies: number; read: number }>(
				'SELECT person_id AS personId, way, share, copies, read FROM habit ORDER BY 1, 2'
			);
		const before = (await learnedLast(db))!;
		const whole = await habits();
		await setClock(db, at + 2 * day);
		expect(await learnByNight(db, 0)).to.equal(0);
		// What was learned last holds until all of it is learned anew.
		expect((await learnedLast(db))!.id).to.equal(before.id);
		const under = await db.one<{ id: number; people: number }>(
			'SELECT id, people FROM reading_model WHERE done IS NOT NULL'
		);
		while ((await learnByNight(db, 0)) === 0);
		const after = (await learnedLast(db))!;
		expect(after.id).to.equal(under!.id);
		expect(after.people).to.be.above(under!.people);
		expect(await db.all('SELECT 1 FROM reading_model')).to.have.lengthOf(1);
		const inParts = await habits();
		await db.run('DELETE FROM reading_model');
		await learnReading(db);
		const atOnce = await habits();
		const counts = (all: typeof atOnce) => all.map(({ share: _, ...rest }) => rest);
		expect(counts(atOnce)).to.deep.equal(counts(inParts));
		// What is seconds older weighs that much less.
		atOnce.forEach(({ share }, i) => expect(share).to.be.closeTo(inParts[i]!.share, 1e-3));
		expect(inParts.length).to.be.at.least(whole.length);
		// One that was left days ago is begun anew.
		await setClock(db, at + 4 * day);
		await learnByNight(db, 0);
		await setClock(db, at + 6 * day);
		while ((await learnByNight(db, 0)) === 0);
		expect((await learnedLast(db))!.at).to.be.at.least(at + 6 * day);
		await setClock(db, at);
		await db.run('UPDATE reading_model SET at = $at', { at });
	});

	it('each one’s habit is what their rows say, drawn to those they live with', async () => {
		const { db } = house;
		const counted = await db.all<{ id: number; copies: number; read: number }>(
			`SELECT person_id AS id, count(*) AS copies, sum(read_at IS NOT NULL AND read_at - left_at <= ${3 * day}) AS read
			FROM delivery WHERE way = 'email' AND left_at < $told GROUP BY person_id`,
			{ told: at - 3 * day }
		);
		const own = counted.slice(0, 40);
		const habits = await habitsOf(
			db,
			own.map((c) => c.id)
		);
		for (const { id, copies, read } of own) {
			const { email } = habits.get(id)!;
			expect(email.copies).to.be.at.least(copies);
			expect(email.read).to.be.at.least(read);
			expect(email.share).to.be.within(email.low, email.high);
		}
		const rate = (c: { copies: number; read: number }) => c.read / c.copies;
		const sorted = [...counted].filter((c) => c.copies > 9).sort((a, b) => rate(a) - rate(b));
		const [least, best] = [sorted[0]!.id, sorted.at(-1)!.id];
		const both = await habitsOf(db, [least, best]);
		expect(both.get(least)!.email.share).to.be.below(0.4);
		expect(both.get(best)!.email.share).to.be.above(0.7);
	});

	it('says the same beside the tally, on its page, and in what is kept', async () => {
		const { db } = house;
		const sheet = sheetTo(['email', 'inbox'], { wanted: { ...usualWanted, share: 70 } });
		const line = (await landing(db, user, sheet)).expect!;
		const page = await whatToExpect(db, site, user, sheet);
		if (page.is !== 'known' || 'unknown' in line) throw new Error('too little is known');
		const own = page.rows.find((r) => r.own)!;
		expect(line).to.include({ by: page.by, students: page.students, of: 'students' });
		expect([line.expected, line.low, line.high]).to.deep.equal([own.expected, own.low, own.high]);
		expect(own.copies).to.equal((await landing(db, user, sheet)).tally.copies);
		// No way that nothing is known of, none that costs more and reaches fewer.
		expect(page.rows.flatMap((r) => r.ways)).to.not.include('text');
		const cheapest = page.rows.find((r) => r.cheapest)!;
		expect(cheapest.expected).to.be.at.least(Math.floor(0.7 * page.students));
		expect(cheapest.copies).to.be.at.most(own.copies);
		expect(page.hardly.lines.every((l) => l.chance < 0.5 && l.why.length > 0)).to.equal(true);
		expect(page.curve.map((p) => p.expected)).to.deep.equal(
			page.curve.map((p) => p.expected).sort((a, b) => a - b)
		);
		// Nothing is offered that nobody outside is there to carry; what the sheet itself says stays.
		const alone = await whatToExpect(db, { ...site, waysOut: ['text'] }, user, sheet);
		if (alone.is !== 'known') throw new Error('too little is known');
		expect(alone.rows.map((r) => r.ways.join()).sort()).to.deep.equal(['email,inbox', 'inbox']);
		const id = await send(sheet);
		expect(await keepForecasts(db)).to.equal(1);
		expect(await keepForecasts(db)).to.equal(0);
		const kept = (await keptForecast(db, id))!;
		expect(kept).to.include({ by: page.by, students: page.students, covered: null });
		expect([kept.expected, kept.low, kept.high]).to.deep.equal([own.expected, own.low, own.high]);
	});

	it('one in turn costs as many of the later copies as nobody has read before them', async () => {
		const { db } = house;
		const turns: Sheet['turns'] = [{ ways: ['inbox'], after: { kind: 'minutes', minutes: 600 } }];
		const page = await whatToExpect(db, site, user, sheetTo(['email', 'inbox'], { turns }));
		if (page.is !== 'known') throw new Error('too little is known');
		const own = page.rows.find((r) => r.own)!;
		expect(own.words).to.equal('email first; inbox to those who have not read within 10 h');
		expect(own.copies).to.be.below(own.planned);
		expect(page.turns).to.have.lengthOf(1);
	});

	it('is judged once its time has come: what came is counted from the rows, and rivals are those that were known', async () => {
		const { db } = house;
		const ids: number[] = [];
		for (let i = 0; i < 12; i += 1) {
			await setClock(db, at);
			ids.push(await send(sheetTo(['email', 'inbox'])));
			await keepForecasts(db);
			await read(ids.at(-1)!);
			at += 2 * day;
		}
		expect(await judgeForecasts(db)).to.be.above(0);
		await setClock(db, at + day);
		while ((await judgeForecasts(db)) > 0);
		let within = 0;
		for (const id of ids) {
			const kept = (await keptForecast(db, id))!;
			const { covered } = (await db.one<{ covered: number }>(
				`SELECT count(DISTINCT student_id) AS covered FROM delivery JOIN delivery_student ON delivery_id = delivery.id
				WHERE dispatch_id = $id AND read_at <= $by`,
				{ id, by: kept.by }
			))!;
			expect(kept.covered).to.equal(covered);
			if (covered >= kept.low && covered <= kept.high) within += 1;
		}
		const good = await howGood(db, user);
		const judged = good.lines.filter((l) => ids.includes(l.dispatchId));
		expect(judged).to.have.lengthOf(12);
		expect(judged.filter((l) => l.covered >= l.low && l.covered <= l.high)).to.have.lengthOf(
			within
		);
		expect(within).to.be.at.least(8);
		expect(good.students).to.equal(good.lines.reduce((sum, l) => sum + l.students, 0));
		expect(good.tenths.reduce((sum, t) => sum + t.of, 0)).to.equal(good.students);
		expect(good.schools.reduce((sum, s) => sum + s.came, 0)).to.equal(
			good.lines.reduce((sum, l) => sum + l.covered, 0)
		);
		expect(good.brier.own).to.be.below(good.brier.usual * 0.95);
		expect(good.brier.own).to.be.below(good.brier.last * 0.95);
		// Whoever sees own dispatches only is told of those.
		const other = await db.one<{ id: number }>(
			'SELECT person_id AS id FROM staff WHERE person_id != $id LIMIT 1',
			{ id: user.personId }
		);
		await db.write((tx) =>
			openAccount(tx, {
				...{ personId: other!.id, userName: 'teacher', title: '', passwordHash: 'x' },
				...{ role: 'teacher', schoolId: null }
			})
		);
		const teacher = (await userById(db, other!.id))!;
		expect((await howGood(db, teacher)).forecasts).to.equal(0);
		await db.run('UPDATE dispatch SET sender_id = $own WHERE id = $id', {
			...{ own: teacher.personId, id: ids[0]! }
		});
		const own = await howGood(db, teacher);
		expect(own.lines.map((l) => l.dispatchId)).to.deep.equal([ids[0]]);
		expect(own.forecasts).to.equal(1);
	});

	it('what somebody stopped before its time is judged by nothing', async () => {
		const { db } = house;
		await setClock(db, at);
		const turns: Sheet['turns'] = [{ ways: ['inbox'], after: { kind: 'minutes', minutes: 600 } }];
		const id = await send(sheetTo(['email', 'inbox'], { turns }));
		await keepForecasts(db);
		await db.run(
			`UPDATE delivery SET state = 'sent', left_at = due_at WHERE dispatch_id = $id AND step = 0`,
			{ id }
		);
		expect((await stopRest(db, user, id)).ok).to.equal(true);
		const before = await howGood(db, user);
		at += 4 * day;
		await setClock(db, at);
		while ((await judgeForecasts(db)) > 0);
		expect((await keptForecast(db, id))!.covered).to.equal(0);
		const { forecasts, brier } = await howGood(db, user);
		expect({ forecasts, brier }).to.deep.equal({
			forecasts: before.forecasts,
			brier: before.brier
		});
	});

	it('what is called back has none any more', async () => {
		const { db } = house;
		const id = await send(sheetTo(['email'], { holdMinutes: 5 }));
		expect(await keepForecasts(db)).to.equal(1);
		expect((await callBack(db, user, id)).ok).to.equal(true);
		expect(await keptForecast(db, id)).to.equal(null);
		const left = await db.one('SELECT 1 FROM forecast_chance WHERE dispatch_id = $id', { id });
		expect(left).to.equal(undefined);
	});
});

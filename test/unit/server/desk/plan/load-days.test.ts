import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { localDays } from '../../../../../src/lib/core/time/zone';
import { dayLoads, loadWindow } from '../../../../../src/lib/server/desk/load/load';
import { moveEffects } from '../../../../../src/lib/server/desk/plan/move-effects';
import { saveDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import type { Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const zone = 'America/New_York';

describe('load counts where copies are due', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.run(`INSERT INTO household (id, name) VALUES (1, 'Amaro'), (2, 'Pham')`);
		await school.db.run(
			`INSERT INTO household_member (household_id, person_id) VALUES (1, 1), (1, 2), (1, 10), (1, 11), (2, 3), (2, 12)`
		);
		await school.db.run(`UPDATE term SET ends_on = '2027-06-30'`);
	});
	afterEach(() => school.close());

	const at = (local: string, over: Partial<Sheet> = {}): Sheet =>
		sheetOf({
			audience: audienceOf([100]),
			ways: ['email'],
			timing: { ...usualTiming, when: { kind: 'at', at: local } },
			...over
		});
	const send = async (sheet: Sheet, copies: number) => {
		const sent = await schedule(school.db, key, coordinator, sheet, copies);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		return sent.dispatchId!;
	};
	const most = async (from: string, days = 7) =>
		dayLoads(await loadWindow(school.db, localDays(from, days, zone))).map((d) => d.most);

	it('a turn of a fortnight later stands in the week it falls in', async () => {
		await send(
			at('2027-03-10T10:00', {
				ways: ['email', 'text'],
				turns: [{ ways: ['text'], after: { kind: 'minutes', minutes: 13 * 24 * 60 } }]
			}),
			2
		);
		expect(await most('2027-03-08')).to.deep.equal([0, 0, 1, 0, 0, 0, 0]);
		expect(await most('2027-03-22')).to.deep.equal([0, 1, 0, 0, 0, 0, 0]);
		const [, day] = dayLoads(await loadWindow(school.db, localDays('2027-03-22', 7, zone)));
		expect(day!.texts).to.equal(1);
	});

	it('the standing check goes by the day copies are due, not the one on which it leaves', async () => {
		for (let i = 0; i < 3; i += 1) await send(at(`2027-03-11T1${i}:00`), 1);
		// Late in the evening it leaves, and quiet hours carry it to the day after.
		const { checks } = await landing(school.db, coordinator, at('2027-03-10T22:30'));
		expect(checks.map((c) => c.text)).to.include(
			'2 people have 3 messages or more on Thu Mar 11 already. See whether it can go on another day.'
		);
		const before = await landing(school.db, coordinator, at('2027-03-10T10:00'));
		expect(before.checks.map((c) => c.text).join()).not.to.match(/messages or more/);
	});

	it('a draft shows what it would do before it is put down, and so does what comes from another week', async () => {
		for (let i = 0; i < 3; i += 1) await send(at(`2027-03-18T1${i}:00`), 1);
		const far = await send(at('2027-03-10T10:00'), 1);
		const draft = at('2027-03-17T10:00');
		const saved = await saveDraft(school.db, coordinator, draft, null);
		expect(saved.ok).to.equal(true);
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM dispatch WHERE state = 'draft'`
		))!;
		for (const inHand of [id, far]) {
			const effects = await moveEffects(school.db, coordinator, inHand, '2027-03-15');
			const thursday = effects.find((e) => e.date === '2027-03-18')!;
			expect([thursday.before, thursday.after], String(inHand)).to.deep.equal([0, 1]);
			expect(effects.find((e) => e.date === '2027-03-19')!.after).to.equal(0);
		}
	});
});

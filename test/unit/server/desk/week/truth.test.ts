import { expect } from 'chai';
import { tellDays } from '../../../../../src/lib/core/track/expect/past-copy';
import { isOver } from '../../../../../src/lib/core/track/over';
import { now } from '../../../../../src/lib/server/clock';
import { dispatch } from '../../../../../src/lib/server/db/models/dispatch';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import {
	dispatchList,
	listFilterSchema
} from '../../../../../src/lib/server/desk/week/dispatch-list';
import { jumpTo } from '../../../../../src/lib/server/desk/people/jump';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { saveDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('what is said of a dispatch', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());

	it('urgent passes over declined kinds, and who used it is written down and shown; a teacher’s wish for it counts for nothing', async () => {
		await school.db.run(
			`INSERT INTO declined (person_id, kind, way) VALUES (10, 'message', 'email'), (10, 'message', 'inbox')`
		);
		await school.db.write((tx) => rosterChanged(tx));
		const sheet = (urgent: boolean) =>
			sheetOf({
				audience: audienceOf([100]),
				ways: ['inbox'],
				holdMinutes: 0,
				timing: { ...usualTiming, urgent }
			});
		expect((await landing(school.db, coordinator, sheet(false))).tally.copies).to.equal(0);
		const said = await landing(school.db, coordinator, sheet(true));
		expect(said.tally).to.include({ copies: 1, overWish: 1 });
		expect(said.checks.map((c) => c.text)).to.include(
			'Urgent: it keeps to no quiet hours, and passes over the wishes of 1 person. That is written down with your name.'
		);
		// What a browser sends is a wish, not a right.
		const wished = await landing(school.db, teacher, sheet(true));
		expect(wished.tally.copies).to.equal(0);
		expect(wished.checks.some((c) => /may not send urgently/.test(c.text))).to.equal(true);

		const sent = await schedule(school.db, key, coordinator, sheet(true), 1);
		const reach = (await dispatchReach(
			school.db,
			coordinator,
			sent.ok ? sent.dispatchId : 0,
			everything
		))!;
		expect(reach.dispatch.urgent).to.deep.include({ by: 'Maren Quill', overWish: 1 });
		expect(reach.copies.deliveries[0]!.evidence[0]!.detail).to.contain(
			'its reader wants none of this kind'
		);
		const usual = await schedule(school.db, key, coordinator, sheetOf({ ways: ['text'] }), 2);
		const other = await dispatchReach(
			school.db,
			coordinator,
			usual.ok ? usual.dispatchId : 0,
			everything
		);
		expect(other!.dispatch.urgent).to.equal(null);
	});

	it('a round is one line of the list with its next date, and opened in place it is all of them; what is next stands first', async () => {
		await school.db.run(`UPDATE term SET ends_on = '2027-06-30'`);
		const at = (local: string) =>
			sheetOf({ subject: local, timing: { ...usualTiming, when: { kind: 'at', at: local } } });
		await schedule(school.db, key, coordinator, at('2027-03-29T10:00'), 5);
		const round = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({
				subject: 'Tide tables',
				timing: {
					...usualTiming,
					when: {
						kind: 'round',
						first: '2027-03-10T10:00',
						rule: 'FREQ=WEEKLY;COUNT=5',
						offDays: 'send'
					}
				}
			}),
			5
		);
		await schedule(school.db, key, coordinator, at('2027-03-12T10:00'), 5);
		const list = (filter: object) =>
			dispatchList(school.db, coordinator, listFilterSchema.parse(filter));
		const closed = await list({ state: 'scheduled' });
		expect(closed.lines.map((l) => [l.subject, l.following?.dates ?? 0])).to.deep.equal([
			['Tide tables', 4],
			['2027-03-12T10:00', 0],
			['2027-03-29T10:00', 0]
		]);
		expect(closed.counts.scheduled).to.equal(7);
		const opened = await list({ state: 'scheduled', round: round.ok ? round.roundId : 0 });
		expect(opened.lines.filter((l) => l.subject === 'Tide tables')).to.have.length(5);
	});

	it('the list calls ended what the core calls over, to the millisecond', async () => {
		const time = Math.round(await now(school.db));
		const weeks = tellDays * 86_400_000;
		const made: { id: number; over: boolean }[] = [];
		const dispatches = school.db.rows(dispatch);
		for (const state of ['sent', 'scheduled'] as const)
			for (const endsAt of [null, time - 1, time, time + 1000])
				for (const sentAt of [null, time - weeks - 1, time - weeks, time - weeks + 1000]) {
					const id = await dispatches.add({
						...{ sheetKey: `over ${made.length}`, subject: 'Over', body: '', audience: '{}' },
						...{ audienceWords: '', ways: '[]', holdMinutes: 0, senderId: 90, changedAt: 0 },
						...{ state, endsAt, sentAt, leavesAt: time - weeks }
					});
					made.push({ id, over: isOver({ state, endsAt, sentAt }, time) });
				}
		const filter = listFilterSchema.parse({ search: 'over', state: 'ended' });
		const listed = (await dispatchList(school.db, coordinator, filter)).lines.map((l) => l.id);
		expect(listed.sort((a, b) => a - b)).to.deep.equal(made.filter((m) => m.over).map((m) => m.id));
		expect(listed).to.have.length.within(5, 15);
	});

	it('a jump leads to what one may see, and to nobody’s drafts', async () => {
		await schedule(school.db, key, coordinator, sheetOf({ subject: 'Amaro family day' }), 5);
		await saveDraft(school.db, coordinator, sheetOf({ subject: 'Amaro draft' }), null);
		const kinds = async (user: typeof coordinator, search: string) =>
			(await jumpTo(school.db, user, search)).map((j) => `${j.kind} ${j.name}`);
		expect(await kinds(coordinator, 'amaro')).to.include.members([
			'person Delfina Amaro',
			'dispatch Amaro family day',
			'dispatch Amaro draft'
		]);
		expect(await kinds(coordinator, '7-a drama')).to.deep.equal(['section Drama 7-A']);
		const theirs = await kinds(teacher, 'amaro');
		expect(theirs).to.include('person Ana Amaro').and.not.include('dispatch Amaro draft');
		expect(theirs).not.to.include('dispatch Amaro family day');
		expect(await kinds(teacher, 'drama')).to.deep.equal([]);
		expect(await kinds(teacher, 'pham')).to.deep.equal([]);
		// Signs that a search of the database would take for its own are letters.
		expect(await kinds(coordinator, '%')).to.deep.equal([]);
	});
});

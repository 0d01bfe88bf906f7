import { expect } from 'chai';
import { audienceOf, type Audience } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { boardCalendar } from '../../../../../src/lib/server/desk/boards/board-calendar';
import { named } from '../../../../../src/lib/server/desk/boards/places';
import { eventChoices, eventLines } from '../../../../../src/lib/server/desk/calendar/events';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import type { Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import type { User } from '../../../../../src/lib/server/access/user';
import {
	coordinator,
	farPoint,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const event = {
	...{ title: '', startsLocal: '2027-03-18T18:45', endsLocal: '2027-03-18T20:00' },
	...{ allDay: false, place: 'The landing' }
};
const everybody: Audience = {
	version: 2,
	lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'terms', ids: [2] }, only: [] }],
	byHand: []
};

describe('an event that is put into the calendar with a sheet', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		await farPoint(school.db);
		await school.db.write((tx) => rosterChanged(tx));
	});
	afterEach(() => school.close());
	const sheet = (over: Partial<Sheet> = {}): Sheet =>
		sheetOf({
			wording: wordingOf('Lantern Walk', 'Come.'),
			event,
			audience: audienceOf([100]),
			...over
		});
	async function put(of: Sheet, user: User = coordinator): Promise<number> {
		const { tally, checks } = await landing(school.db, user, of);
		const sent = await schedule(school.db, key, user, of, tally.copies);
		if (!sent.ok) throw new Error(checks.map((c) => c.text).join('\n'));
		return sent.dispatchId!;
	}
	const checks = async (of: Sheet, user: User = coordinator) =>
		(await landing(school.db, user, of)).checks
			.filter((c) => c.where === 'event')
			.map((c) => `${c.level}: ${c.text}`);
	const outside = async (id: number, kind: 'section' | 'school' = 'section') => {
		const [place] = await named(school.db, [{ kind, id }]);
		return (await boardCalendar(school.db, place!, { link: 'x', open: false })).write();
	};
	const inWeek = () => eventLines(school.db, coordinator, { from: 0, to: Number.MAX_SAFE_INTEGER });

	it('stands in the calendar of whom it is for, under its subject, from when the sheet leaves', async () => {
		await put(sheet());
		const [line, ...more] = await inWeek();
		expect(more).to.deep.equal([]);
		expect(line).to.include({
			title: 'Lantern Walk',
			place: 'The landing',
			concerns: 'Mathematics 7-A'
		});
		expect(new Date(line!.startsAt).toISOString()).to.equal('2027-03-18T22:45:00.000Z');
		// While it is held nobody outside sees it, and nothing is hung on it.
		expect(await outside(100)).to.not.include('Lantern Walk');
		expect(await eventChoices(school.db)).to.deep.equal([]);
		await moveTo(school.db, (await now(school.db)) + 6 * 60_000);
		expect(await outside(100)).to.include('SUMMARY:Lantern Walk');
		expect(await outside(101)).to.not.include('Lantern Walk');
		expect(await eventChoices(school.db)).to.have.length(1);
	});

	it('is gone where the sheet is called back, and the same one where it is sent again', async () => {
		const of = sheet();
		const id = await put(of);
		const [first] = await inWeek();
		expect((await callBack(school.db, coordinator, id)).ok).to.equal(true);
		expect(await inWeek()).to.deep.equal([]);
		await put({ ...of, event: { ...event, title: 'A walk with lanterns' } });
		const [again] = await inWeek();
		expect(again).to.include({ title: 'A walk with lanterns', uid: first!.uid });
	});

	it('is of the whole district where everybody is written to, and of a school', async () => {
		await put(sheet({ audience: everybody }));
		expect((await inWeek())[0]).to.include({ concerns: 'whole district' });
		const ofSchool: Audience = {
			...everybody,
			lines: [{ ...everybody.lines[0]!, of: { kind: 'schools', ids: [1] } } as Audience['lines'][0]]
		};
		await put(sheet({ audience: ofSchool, wording: wordingOf('Doors', 'x') }), office);
		await moveTo(school.db, (await now(school.db)) + 6 * 60_000);
		expect(await outside(1, 'school'))
			.to.include('SUMMARY:Doors')
			.and.include('SUMMARY:Lantern Walk');
		expect(await outside(2, 'school'))
			.to.include('SUMMARY:Lantern Walk')
			.and.not.include('SUMMARY:Doors');
	});

	it('is not put where it would be of nobody, of others’, or again and again', async () => {
		const grade: Audience = {
			...everybody,
			lines: [
				{ ...everybody.lines[0]!, of: { kind: 'grades', levels: ['7'] } } as Audience['lines'][0]
			]
		};
		expect((await checks(sheet({ audience: grade })))[0]).to.match(
			/^block: It would stand in nobody’s calendar/
		);
		// A teacher's event is of their own sections: of a school it is none of theirs.
		const some = await checks(sheet({ audience: audienceOf([100]) }), teacher);
		expect(some).to.deep.equal([
			'fine: Stands in the calendar of Mathematics 7-A from when it leaves.'
		]);
		expect((await checks(sheet({ audience: everybody }), teacher))[0]).to.match(
			/^block: .*nobody’s calendar/
		);
		const round = {
			kind: 'round',
			first: '2027-03-10T09:00',
			rule: 'FREQ=WEEKLY;COUNT=3',
			offDays: 'skip'
		} as const;
		expect((await checks(sheet({ timing: { ...usualTiming, when: round } })))[0]).to.match(
			/^block: An event is put into the calendar once/
		);
		expect(
			(await checks(sheet({ event: { ...event, endsLocal: '2027-03-18T18:00' } })))[0]
		).to.match(/ends before it begins/);
		expect(
			(await checks(sheet({ event: { ...event, startsLocal: '2027-03-01T18:00' } })))[0]
		).to.match(/^caution: .*begins before/);
	});
});

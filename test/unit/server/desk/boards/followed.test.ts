import { parseFeed } from '@rowanmanning/feed-parser';
import { expect } from 'chai';
import ICAL from 'ical.js';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { setClock } from '../../../../../src/lib/server/clock';
import { eventOf } from '../../../../../src/lib/server/db/calendar';
import { boardCalendar } from '../../../../../src/lib/server/desk/boards/board-calendar';
import { boardFeed } from '../../../../../src/lib/server/desk/boards/board-feed';
import { changeWording, takeOff } from '../../../../../src/lib/server/desk/boards/change-post';
import { named, type NamedPlace } from '../../../../../src/lib/server/desk/boards/places';
import { addClosure, dropClosure } from '../../../../../src/lib/server/desk/calendar/closures';
import { callOffEvent, saveEvent } from '../../../../../src/lib/server/desk/calendar/events';
import { importCalendar } from '../../../../../src/lib/server/desk/calendar/import-calendar';
import { readCalendarFile } from '../../../../../src/lib/core/format/icalendar';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	coordinator,
	farPoint,
	sheetOf,
	testSchool,
	testStart,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const minute = 60_000;
const site = 'https://school.example';

describe('what follows a board', () => {
	let school: TestSchool;
	let section: NamedPlace;
	let at: number;
	beforeEach(async () => {
		at = testStart;
		school = await testSchool();
		await farPoint(school.db);
		section = (await named(school.db, [{ kind: 'section', id: 100 }]))[0]!;
	});
	afterEach(() => school.close());
	const later = (ms: number) => setClock(school.db, (at += ms));

	describe('a feed', () => {
		const put = async (subject: string) => {
			const sheet = sheetOf({
				...{ kind: 'announcement', subject, body: 'Rui Amaro, {{student}} and the boat.' },
				audience: audienceOf([100])
			});
			const { tally } = await landing(school.db, coordinator, sheet);
			const sent = await schedule(school.db, key, coordinator, sheet, tally.copies);
			if (!sent.ok) throw new Error('not sent');
			await later(6 * minute);
			return sent.dispatchId;
		};
		const feed = (personId: number | null = null) =>
			boardFeed(school.db, section, {
				...{ personId, language: 'en', site, path: '/b/x', feed: 'news.atom', madeAt: testStart }
			});
		const read = async (personId: number | null = null) =>
			parseFeed(await (await feed(personId)).write());

		it('has the newest first, with ids that stay and the time of each change', async () => {
			const first = await put('One');
			await put('Two');
			const before = await read();
			expect(before.items.map((i) => i.title)).to.deep.equal(['Two', 'One']);
			expect(before.updated!.getTime()).to.equal((await feed()).changedAt);
			await later(minute);
			await changeWording(school.db, coordinator, first, wordingOf('One', 'Anew.'), 0);
			const after = await read();
			// RFC 4287 section 4.2.6: an id never changes; 4.2.15: updated says of what changed.
			expect(after.self).to.equal(before.self);
			expect(after.items.map((i) => i.id)).to.deep.equal(before.items.map((i) => i.id));
			expect(after.items.map((i) => i.published)).to.deep.equal(
				before.items.map((i) => i.published)
			);
			const [, was] = before.items;
			const [, is] = after.items;
			expect(is!.updated!.getTime()).to.be.at.least(was!.updated!.getTime() + minute);
			expect(is!.content).to.include('Anew.');
		});

		it('names nobody where anybody may read it, and is written for its reader where it is theirs', async () => {
			await put('One');
			const open = (await read()).items[0]!;
			expect(open.content).to.include('R. A., your student and the boat.');
			expect(open.url).to.match(/^https:\/\/school\.example\/b\/x\?post=\d+$/);
			const own = (await read(10)).items[0]!;
			expect(own.content).to.include('Rui Amaro, Ana and Rui and the boat.');
			// Their own address opens no page.
			expect(own.url).to.equal(`${site}/in`);
		});

		it('rests on what stands there: its mark changes with each of that, and with nothing else', async () => {
			const marks = new Set<string>();
			const changes = async () => {
				const { mark, changedAt } = await feed();
				const fresh = !marks.has(mark);
				marks.add(mark);
				return { fresh, changedAt };
			};
			expect(await changes()).to.deep.equal({ fresh: true, changedAt: testStart });
			const id = await put('One');
			const put1 = await changes();
			expect(put1.fresh).to.equal(true);
			await later(3 * minute);
			expect(await changes()).to.deep.equal({ fresh: false, changedAt: put1.changedAt });
			await changeWording(school.db, coordinator, id, wordingOf('One', 'Anew.'), 0);
			expect((await changes()).fresh).to.equal(true);
			await takeOff(school.db, coordinator, id);
			await later(minute);
			const off = await changes();
			expect(off.changedAt).to.be.greaterThan(put1.changedAt);
			expect((await read()).items).to.deep.equal([]);
		});
	});

	describe('a calendar', () => {
		const input = {
			...{ id: null, base: null, title: 'Launch, and soup; all', allDay: false, place: 'Pier' },
			...{ startsLocal: '2027-03-12T10:00', endsLocal: '2027-03-12T11:30' },
			...{ schoolIds: [1], sectionIds: [] as number[] }
		};
		const make = async (over: Partial<typeof input> = {}) => {
			const saved = await saveEvent(school.db, key, coordinator, { ...input, ...over });
			if (!saved.ok) throw new Error(saved.why);
			return saved.id;
		};
		const calendar = async (place = section) =>
			new ICAL.Component(
				ICAL.parse(
					(await boardCalendar(school.db, place, { link: `${site}/b/x`, open: false })).write()
				) as unknown[]
			);
		const events = async (place = section) =>
			(await calendar(place)).getAllSubcomponents('vevent').map((v) => {
				const e = new ICAL.Event(v);
				return {
					uid: e.uid,
					title: e.summary,
					start: e.startDate.isDate ? e.startDate.toString() : e.startDate.toJSDate().toISOString(),
					end: e.endDate.isDate ? e.endDate.toString() : e.endDate.toJSDate().toISOString(),
					sequence: e.sequence,
					status: v.getFirstPropertyValue('status')
				};
			});

		it('says what it is and how often to ask (RFC 7986 sections 5.1, 5.2, 5.5, 5.7)', async () => {
			await make();
			const c = await calendar();
			expect(c.getFirstPropertyValue('url')).to.equal(`${site}/b/x`);
			expect(String(c.getFirstPropertyValue('refresh-interval'))).to.equal('PT4H');
			expect(String(c.getFirstPropertyValue('description'))).to.include('Mathematics 7-A');
			const text = (await boardCalendar(school.db, section, { link: site, open: false })).write();
			expect(text).to.include('REFRESH-INTERVAL;VALUE=DURATION:PT4H\r\n');
			expect(text).to.include('NAME:Mathematics 7-A\\, Brackwater Isles\r\n');
		});

		it('an event that is new, moved and called off keeps its UID and counts on (RFC 5545 section 3.8.7.4)', async () => {
			const id = await make();
			const [first] = await events();
			expect(first).to.deep.include({
				...{ title: 'Launch, and soup; all', start: '2027-03-12T15:00:00.000Z' },
				...{ end: '2027-03-12T16:30:00.000Z', sequence: 0, status: null }
			});
			const { changedAt: base } = (await eventOf(school.db, id))!;
			await saveEvent(school.db, key, coordinator, {
				...{ ...input, id, base },
				...{ startsLocal: '2027-03-13T10:00', endsLocal: '2027-03-13T11:30' }
			});
			expect(await events()).to.deep.equal([
				{
					...first,
					start: '2027-03-13T15:00:00.000Z',
					end: '2027-03-13T16:30:00.000Z',
					sequence: 1
				}
			]);
			const again = (await eventOf(school.db, id))!;
			// Saved as it was, it is no other.
			await saveEvent(school.db, key, coordinator, {
				...input,
				...again,
				base: again.changedAt,
				schoolIds: [1],
				sectionIds: []
			});
			expect((await events())[0]!.sequence).to.equal(1);
			await callOffEvent(school.db, coordinator, id);
			expect((await events())[0]).to.include({ uid: first!.uid, sequence: 2, status: 'CANCELLED' });
		});

		it('one that repeats stays at its hour over a change of the clock, each date by itself', async () => {
			// Clocks go on in New York on March 14, 2027 (tzdata).
			const file = [
				'BEGIN:VCALENDAR',
				'VERSION:2.0',
				'PRODID:-//x//y//EN',
				'BEGIN:VEVENT',
				'UID:weekly',
				'DTSTAMP:20270301T000000Z',
				'SUMMARY:Crew',
				'DTSTART;TZID=America/New_York:20270312T100000',
				'DTEND;TZID=America/New_York:20270312T110000',
				'RRULE:FREQ=WEEKLY;COUNT=2',
				'END:VEVENT',
				'END:VCALENDAR'
			].join('\r\n');
			const { events: found } = readCalendarFile(file, 'America/New_York', {
				from: testStart,
				to: testStart + 90 * 86_400_000
			});
			expect(found).to.have.length(2);
			await importCalendar(school.db, key, coordinator, file, 'events', true);
			expect((await events()).map((e) => e.start)).to.deep.equal([
				'2027-03-12T15:00:00.000Z',
				'2027-03-19T14:00:00.000Z'
			]);
		});

		it('a place has the whole district’s, its school’s and its own', async () => {
			await make({ title: 'All', schoolIds: [] });
			await make({ title: 'School' });
			await make({ title: 'Section', schoolIds: [], sectionIds: [100] });
			await make({ title: 'Far', schoolIds: [2] });
			const titles = async (kind: NamedPlace['kind'], id: number) =>
				(await events((await named(school.db, [{ kind, id }]))[0])).map((e) => e.title).sort();
			expect(await titles('section', 100)).to.deep.equal(['All', 'School', 'Section']);
			expect(await titles('section', 101)).to.deep.equal(['All', 'School']);
			expect(await titles('school', 2)).to.deep.equal(['All', 'Far']);
			expect(await titles('district', 0)).to.deep.equal(['All']);
		});

		it('days without school are whole days, and those taken out are called off', async () => {
			const put = { name: 'Storm', startsOn: '2027-03-15', lastOn: '2027-03-16', schoolId: 1 };
			expect((await addClosure(school.db, coordinator, put)).ok).to.equal(true);
			const [first] = await events();
			expect(first).to.deep.include({
				title: 'Storm',
				start: '2027-03-15',
				end: '2027-03-17',
				sequence: 0,
				status: null
			});
			const { changedAt } = await boardCalendar(school.db, section, { link: site, open: false });
			expect(changedAt).to.be.within(testStart, testStart + minute);
			const { id } = (await school.db.one<{ id: number }>('SELECT id FROM closure'))!;
			await later(minute);
			await dropClosure(school.db, coordinator, id);
			expect(await events()).to.deep.equal([{ ...first, sequence: 1, status: 'CANCELLED' }]);
			// Brought again by the file that it came with, it counts on.
			await school.db.run(
				`INSERT INTO closure (uid, name, starts_on, ends_on) VALUES ($uid, 'Storm', '2027-03-15', '2027-03-17')`,
				{ uid: first!.uid }
			);
			expect(await events()).to.deep.equal([{ ...first, sequence: 2 }]);
		});

		it('names nobody where anybody may read it', async () => {
			await make({ title: 'Ana Amaro reads', place: 'Boat of Rui Amaro' });
			const { write } = await boardCalendar(school.db, section, { link: site, open: true });
			expect(write()).to.include('SUMMARY:A. A. reads').and.include('LOCATION:Boat of R. A.');
			expect(write()).not.to.include('Amaro');
			expect((await events())[0]!.title).to.equal('Ana Amaro reads');
		});
	});
});

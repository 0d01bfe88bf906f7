import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import { audienceOf } from '../src/lib/core/audience/audience';
import { wordingOf } from '../src/lib/core/copy/words';
import { tallyOf } from '../src/lib/core/plan/tally';
import { usualTiming, type Timing } from '../src/lib/core/time/timing';
import type { Db } from '../src/lib/server/db/open';
import { rosterChanged } from '../src/lib/server/db/roster';
import { saveDraft } from '../src/lib/server/desk/sheet/draft';
import { addClosure } from '../src/lib/server/desk/calendar/closures';
import { saveEvent } from '../src/lib/server/desk/calendar/events';
import { planSheet } from '../src/lib/server/desk/plan/plan-sheet';
import { schedule } from '../src/lib/server/desk/send/schedule';
import {
	usualBoard,
	usualCopies,
	usualFollowing,
	usualLetter,
	type Sheet
} from '../src/lib/server/desk/sheet/sheet';
import { userNamed } from './history';
import { ways, type Way } from '../src/lib/core/roster/way';
import type { SectionRow } from '../src/lib/server/db/models/roster';

interface Planned {
	readonly by: 'maren' | 'ines' | 'chidi' | 'ruth';
	readonly sections: string;
	readonly schools: readonly number[];
	readonly ways: readonly Way[];
	readonly subject: string;
	readonly body: string;
	readonly timing: Partial<Timing>;
	readonly draft?: boolean;
}

const letter = ['email', 'inbox'] as const;

/** What the demo has ahead: days without school, events, and what is scheduled by four people who do not ask each other. */
export async function planAhead(db: Db, key: Buffer, zone: string, start: number): Promise<void> {
	const monday = DateTime.fromMillis(start, { zone }).startOf('week');
	const day = (n: number) => monday.plus({ days: n - 1 }).toISODate()!;
	const at = (n: number, time: string): Partial<Timing> => ({
		when: { kind: 'at', at: `${day(n)}T${time}` }
	});
	const maren = await userNamed(db, 'maren');
	await addClosure(db, maren, {
		name: 'Spring vacation',
		startsOn: day(29),
		lastOn: day(33),
		schoolId: null
	});
	await addClosure(db, maren, {
		name: 'Boiler inspection',
		startsOn: day(15),
		lastOn: day(15),
		schoolId: 1
	});
	const event = async (
		title: string,
		n: number,
		from: string,
		to: string,
		place: string,
		schoolIds: number[]
	) => {
		const saved = await saveEvent(db, key, maren, {
			id: null,
			base: null,
			title,
			startsLocal: `${day(n)}T${from}`,
			endsLocal: `${day(n)}T${to}`,
			allDay: false,
			place,
			schoolIds,
			sectionIds: []
		});
		if (!saved.ok) throw new Error(`events: ${saved.why}`);
		return saved.id;
	};
	await ownTimes(db);
	const walk = await event('Lantern Walk', 11, '18:45', '20:00', 'The landing', [1]);
	await event('Museum trip', 12, '08:30', '14:50', 'Mainland', [2]);
	await event('Spring play', 26, '19:00', '21:00', 'The hall', [2]);
	const planned: readonly Planned[] = [
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways,
			subject: 'Ferry timetable changes on Friday',
			body: 'From Friday the 3:40 pm boat leaves at 3:55 pm. The late boat stays as it is.',
			timing: at(4, '15:30')
		},
		{
			by: 'ines',
			sections: '% 8-A',
			schools: [2],
			ways: letter,
			subject: 'Eye screening: results',
			body: 'The nurse has written to the families of those who should see a doctor. All others are well.',
			timing: at(4, '14:15')
		},
		{
			by: 'maren',
			sections: 'Homeroom %',
			schools: [1],
			ways: letter,
			subject: 'Week at Heron Landing',
			body: 'The Lantern Walk, the book fair and the new boat times: all in one letter.',
			timing: at(4, '16:30')
		},
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways: letter,
			subject: 'Visit at Brackwater Middle',
			body: 'Grade 5 visits Brackwater Middle on Tuesday. We take the 8:20 boat together.',
			timing: at(4, '10:00')
		},
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways: letter,
			subject: 'Swim slips due',
			body: 'Please send the swim slip by Monday. Without it a child reads in the library.',
			timing: at(4, '12:15')
		},
		{
			by: 'chidi',
			sections: 'Boatbuilding%',
			schools: [3],
			ways: letter,
			subject: 'Launch pictures',
			body: 'The pictures of the first launch hang in the boat shop. Take yours along.',
			timing: at(5, '13:00')
		},
		{
			by: 'ruth',
			sections: 'English 11-A',
			schools: [3],
			ways,
			subject: 'Essay evening',
			body: 'Bring your draft on Thursday evening; six of us will read with you.',
			timing: at(3, '18:30')
		},
		{
			by: 'maren',
			sections: 'Mathematics 7-A',
			schools: [2],
			ways: letter,
			subject: 'Late boat next week',
			body: 'The late boat does not run on Tuesday and Wednesday of next week.',
			timing: at(7, '18:30')
		},
		{
			by: 'maren',
			sections: 'Homeroom K-%',
			schools: [1],
			ways: letter,
			subject: 'Tide tables',
			body: 'High water this week, and which boats board from the upper ramp.',
			timing: {
				when: {
					kind: 'round',
					first: `${day(9)}T07:15`,
					rule: 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270430',
					offDays: 'skip'
				}
			}
		},
		{
			by: 'maren',
			sections: 'Homeroom 1-%',
			schools: [1],
			ways,
			subject: 'Lantern Walk: jar, candle, grown-up',
			body: 'We meet at the landing at 6:45 pm. Bring a jar with a candle and a grown-up.',
			timing: {
				when: {
					kind: 'event',
					eventId: walk,
					offsets: [
						{ amount: 1, unit: 'weeks', side: 'before', of: 'start' },
						{ amount: 1, unit: 'days', side: 'before', of: 'start' },
						{ amount: 3, unit: 'hours', side: 'before', of: 'start' }
					]
				}
			}
		},
		{
			by: 'maren',
			sections: 'Homeroom 3-%',
			schools: [1],
			ways: letter,
			subject: 'Library volunteers',
			body: 'Three families are wanted for the book fair on Saturday.',
			timing: at(5, '10:00'),
			draft: true
		}
	];
	for (const p of planned) {
		const user = await userNamed(db, p.by);
		const sectionIds = (
			await db.all<Pick<SectionRow, 'id'>>(
				`SELECT section.id FROM section JOIN course ON course.id = course_id
				WHERE term_id = 2 AND section.name LIKE $like AND school_id IN (SELECT value FROM json_each($schools))`,
				{ like: p.sections, schools: JSON.stringify(p.schools) }
			)
		).map((s) => s.id);
		const sheet: Sheet = {
			sheetKey: randomUUID(),
			kind: 'message',
			audience: audienceOf(sectionIds, ['guardians']),
			ways: [...p.ways],
			...usualFollowing,
			copies: usualCopies,
			wording: wordingOf(p.subject, p.body),
			letter: usualLetter,
			board: usualBoard,
			timing: { ...usualTiming, ...p.timing },
			holdMinutes: 5
		};
		if (p.draft) {
			await saveDraft(db, user, sheet, null);
			continue;
		}
		const copies = tallyOf((await planSheet(db, user, sheet)).manifest).copies;
		const result = await schedule(db, key, user, sheet, copies);
		if (!result.ok)
			throw new Error(`ahead: ${p.subject}: ${result.checks.map((c) => c.text).join(' ')}`);
	}
}

/** Some guardians work by night, and some live far away. */
async function ownTimes(db: Db): Promise<void> {
	await db.write(async (tx) => {
		await tx.run(
			`INSERT INTO own_time (person_id, zone, quiet_from, quiet_to)
			SELECT id, CASE id % 3 WHEN 0 THEN 'Europe/Lisbon' WHEN 1 THEN 'America/Los_Angeles' END,
				CASE WHEN id % 3 = 2 THEN 1080 END, CASE WHEN id % 3 = 2 THEN 600 END
			FROM person WHERE kind = 'adult' AND id % 29 = 0 AND id IN (SELECT person_id FROM contact WHERE guardian)`
		);
		await rosterChanged(tx);
	});
}

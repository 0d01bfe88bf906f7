import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import { audienceOf } from '../src/lib/core/audience/audience';
import { wordingOf } from '../src/lib/core/copy/words';
import { tallyOf } from '../src/lib/core/plan/tally';
import { usualTiming } from '../src/lib/core/time/timing';
import type { Db } from '../src/lib/server/db/open';
import { rosterChanged } from '../src/lib/server/db/roster';
import { saveDraft } from '../src/lib/server/desk/sheet/draft';
import { addClosure } from '../src/lib/server/desk/calendar/closures';
import { saveEvent } from '../src/lib/server/desk/calendar/events';
import { planSheet } from '../src/lib/server/desk/plan/plan-sheet';
import { schedule } from '../src/lib/server/desk/send/schedule';
import { sheetWith } from '../src/lib/server/desk/sheet/sheet';
import { userNamed } from './history';
import { plannedAhead } from './planned';
import type { SectionRow } from '../src/lib/server/db/models/roster';

/** What the demo has ahead: days without school, events, and what is scheduled by four people who do not ask each other. */
export async function planAhead(db: Db, key: Buffer, zone: string, start: number): Promise<void> {
	const monday = DateTime.fromMillis(start, { zone }).startOf('week');
	const day = (n: number) => monday.plus({ days: n - 1 }).toISODate()!;
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
	for (const p of plannedAhead(day, walk)) {
		const user = await userNamed(db, p.by);
		const sectionIds = (
			await db.all<Pick<SectionRow, 'id'>>(
				`SELECT section.id FROM section JOIN course ON course.id = course_id
				WHERE term_id = 2 AND section.name LIKE $like AND school_id IN (SELECT value FROM json_each($schools))`,
				{ like: p.sections, schools: JSON.stringify(p.schools) }
			)
		).map((s) => s.id);
		const sheet = sheetWith({
			sheetKey: randomUUID(),
			audience: audienceOf(sectionIds, ['guardians']),
			ways: [...p.ways],
			wording: wordingOf(p.subject, p.body),
			timing: { ...usualTiming, ...p.timing }
		});
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

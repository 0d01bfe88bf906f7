import type { StudentSet } from '../../../core/audience/audience';
import { atOffset, type Offset } from '../../../core/time/offset';
import type { SchoolEvent } from '../../../core/time/school-event';
import type { EventProposal } from './types';
import { now } from '../../clock';
import { eventZones } from '../../db/calendar';
import { districtDay } from '../../db/district';
import { readClocks } from '../../db/school-own';
import { runningTerms } from '../../db/terms';
import type { Query } from '../../db/open';

/** A week before, to plan; the day before, to pack (common practice). */
const usual: readonly Offset[] = [
	{ amount: 1, unit: 'weeks', side: 'before', of: 'start' },
	{ amount: 1, unit: 'days', side: 'before', of: 'start' }
];

/** Whom an event concerns, as students. */
async function concerned(db: Query, { schoolIds, sectionIds }: SchoolEvent): Promise<StudentSet> {
	const parts: StudentSet[] = [
		...(schoolIds.length > 0 ? [{ kind: 'schools' as const, ids: [...schoolIds] }] : []),
		...(sectionIds.length > 0 ? [{ kind: 'sections' as const, ids: [...sectionIds] }] : [])
	];
	if (parts.length === 0)
		return { kind: 'terms', ids: await runningTerms(db, await districtDay(db)) };
	return parts.length === 1 ? parts[0]! : { kind: 'any', of: parts };
}

/** The audience and the reminders that an event proposes now. */
export async function proposalOf(db: Query, event: SchoolEvent): Promise<EventProposal> {
	const time = await now(db);
	const zone = (await eventZones(db, await readClocks(db)))(event);
	const ahead = usual.filter((o) => atOffset(event.startsAt, o, zone) > time);
	return {
		eventId: event.id,
		audience: {
			version: 2,
			lines: [
				{ verb: 'and', to: [{ kind: 'guardians' }], of: await concerned(db, event), only: [] }
			],
			byHand: []
		},
		offsets: ahead.length > 0 ? ahead : [{ amount: 1, unit: 'hours', side: 'before', of: 'start' }]
	};
}

import { goodTime, goodTimeWords, type PastReading } from '../../../core/track/good-time';
import { localOf } from '../../../core/time/local';
import type { User } from '../../access/user';
import { readMany } from '../../db/many';
import type { Db } from '../../db/open';
import { habitsOf } from '../expect/habits';
import { planSheet } from './plan-sheet';
import type { Sending } from '../sheet/sheet';
import type { Way } from '../../../core/roster/way';
import { wentWell } from '../../db/copy-state';
import { groupBy } from '../../../core/group-by';

/** Readers looked at: enough to tell, and quick also for a whole district. */
const mostReaders = 600;
const pastDays = 90;

/** When people like those of a sheet read soonest, as a hint; empty where too little is known. Nobody's own reading is told. */
export async function goodTimeHint(db: Db, user: User, sending: Sending): Promise<string> {
	const { manifest, zone, now } = await planSheet(db, user, sending);
	if (manifest.copies.length === 0) return '';
	const step = Math.max(1, Math.floor(manifest.recipients.length / mostReaders));
	const readers = manifest.recipients.filter((_, i) => i % step === 0).map((r) => r.personId);
	const hours = new Map<number, number>();
	const hourOf = (at: number): number => {
		const quarter = Math.floor(at / 900_000);
		let hour = hours.get(quarter);
		if (hour === undefined) hours.set(quarter, (hour = Number(localOf(at, zone).slice(11, 13))));
		return hour;
	};
	const habits = await habitsOf(db, readers);
	const copies = await readMany(
		db,
		'person_id, way, left_at, read_at, dispatch_id',
		`FROM delivery WHERE person_id IN (SELECT value FROM json_each($readers))
			AND way IN (SELECT value FROM json_each($ways)) AND left_at >= $from AND left_at < $to
			AND ${wentWell}`,
		([personId, way, leftAt, readAt, dispatchId]) => ({
			personId: personId as number,
			dispatchId: dispatchId as number,
			leftAt: leftAt as number,
			readAt: readAt === null ? Infinity : (readAt as number),
			usual: habits.get(personId as number)![way as Way].minutes ?? Infinity
		}),
		{
			readers: JSON.stringify(readers),
			ways: JSON.stringify(sending.ways),
			from: now - pastDays * 86_400_000,
			// What left today may still be read.
			to: now - 86_400_000
		}
	);
	// What a reader got by several ways is read once: by the first, and by habit by the quickest.
	const readings = [...groupBy(copies, (c) => `${c.personId} ${c.dispatchId}`).values()].flatMap(
		(list): PastReading[] => {
			const leftAt = Math.min(...list.map((c) => c.leftAt));
			const readAt = Math.min(...list.map((c) => c.readAt));
			const usual = Math.min(...list.map((c) => c.usual));
			// Of one who has never read by these ways no hour is the better one.
			if (usual === Infinity) return [];
			return [
				{
					hour: hourOf(leftAt),
					minutes: readAt === Infinity ? null : Math.max(0, (readAt - leftAt) / 60_000),
					usual,
					dispatchId: list[0]!.dispatchId
				}
			];
		}
	);
	const found = goodTime(readings);
	return found ? goodTimeWords(found) : '';
}

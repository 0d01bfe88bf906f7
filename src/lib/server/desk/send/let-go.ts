import { isBlocked } from '../../../core/plan/check';
import { tallyOf, type Tally } from '../../../core/plan/tally';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { boardsOfSheet } from '../plan/boards-of-sheet';
import { checkSheet } from '../plan/check-sheet';
import { marksOfSheet } from '../plan/marks-of-sheet';
import { planSheet, type Planned } from '../plan/plan-sheet';
import type { Sheet } from '../sheet/sheet';
import { sheetValues } from '../sheet/sheet-row';
import { departing, putScheduled, urgentValues, type Departing } from './put-scheduled';

/** A sheet that leaves by itself, planned and checked as it leaves. */
export interface LetGo {
	readonly user: User;
	readonly sheet: Sheet;
	readonly planned: Planned;
	readonly tally: Tally;
	/** What stands in its way; null where nothing does. */
	readonly blocked: string | null;
	/** Whether anybody would have anything of it: a copy, or a board to read it on. */
	readonly reaches: boolean;
	readonly departing: Departing;
	/** What the markers stood at that it speaks of. */
	readonly marks: string;
}

/** Plans a sheet that leaves now, by itself, and asks what stands in its way. `onBoards` lets it stand on boards, too. */
export async function makeLetGo(
	db: Db,
	key: Buffer,
	user: User,
	sheet: Sheet,
	{ onBoards }: { readonly onBoards: boolean }
): Promise<LetGo> {
	const marks = await marksOfSheet(db, sheet);
	const planned = await planSheet(db, user, sheet);
	const tally = tallyOf(planned.manifest);
	const boards = onBoards ? await boardsOfSheet(db, user, sheet, planned) : null;
	const checks = (
		await checkSheet(db, user, sheet, planned, { tally, boards, event: null })
	).filter((c) => c.where !== 'when');
	return {
		...{ user, sheet, planned, tally, marks },
		blocked: isBlocked(checks) ? checks.find((c) => c.level === 'block')!.text : null,
		reaches: tally.copies > 0 || (boards?.names.length ?? 0) > 0,
		departing: departing(
			key,
			sheet,
			{ ...planned, boards: boards?.on ?? null },
			{ time: await now(db) }
		)
	};
}

/** Whether what it was planned from still is so, as far as markers go. */
export const marksStillSo = async (tx: Query, { sheet, marks }: LetGo): Promise<boolean> =>
	(await marksOfSheet(tx, sheet)) === marks;

/** Puts a sheet down that leaves by itself, in the caller's transaction; `words` is its audience as a sentence. Returns its dispatch. */
export async function putLetGo(
	tx: Query,
	{ user, sheet, planned, departing: ready }: LetGo,
	words: string
): Promise<number> {
	const at = Math.round(await now(tx));
	const schools = new Set(planned.manifest.students.map((s) => planned.roster.person(s)?.schoolId));
	return putScheduled(tx, {
		before: null,
		values: {
			...sheetValues(sheet, words),
			...urgentValues(sheet, user, at),
			sheetKey: sheet.sheetKey,
			schoolId: schools.size === 1 ? ([...schools][0] ?? null) : null,
			scheduledAt: at,
			senderId: user.personId
		},
		sheet,
		departing: ready,
		time: at
	});
}

import { writeDown } from '../../access/log';
import { closure as closures } from '../../db/models/calendar';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { dayAfter, localOf } from '../../../core/time/local';
import { dateWords } from '../../../core/time/said-day';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import type { ClosureLine } from './types';
import type { ClosureRow } from '../../db/models/calendar';

export async function closureLines(db: Db): Promise<ClosureLine[]> {
	return db.all<ClosureLine>(
		`SELECT closure.id, closure.name, starts_on AS startsOn, ends_on AS endsOn, school.name AS school
		FROM closure LEFT JOIN school ON school.id = school_id ORDER BY starts_on LIMIT 500`
	);
}

/** A day that a school plans for: what lies beyond is a slip of the pen. */
const dateSchema = z.iso
	.date({ error: 'A day is missing, or is none. Write it as the calendar has it.' })
	.refine(
		(d) => d >= '2000-01-01' && d <= '2200-12-31',
		'The year must lie between 2000 and 2200.'
	);
/** A stretch of days without school as its form sends it; `lastOn` is its last day. */
export const closureInputSchema = z.object({
	name: z.string().trim().min(1, 'Say why there is no school.').max(100),
	startsOn: dateSchema,
	lastOn: dateSchema,
	schoolId: z.number().int().positive().nullable(),
	/** Whether what is unusual about it has been asked and answered. */
	sure: z.boolean().optional()
});

/** A vacation is shorter; what is longer is a slip of the pen more often than not. */
const usualDays = 30;

/** What is unusual about some days without school, as a question; null where nothing is. */
function unusual(input: z.infer<typeof closureInputSchema>, today: string): string | null {
	const days = Math.round((Date.parse(input.lastOn) - Date.parse(input.startsOn)) / 86_400_000) + 1;
	if (input.lastOn < today)
		return `These days are past: the last is ${dateWords(input.lastOn)}. Put them down all the same?`;
	if (days > usualDays) {
		return `That is ${days} days without school, from ${dateWords(input.startsOn)} to ${dateWords(input.lastOn)}. Put them down all the same?`;
	}
	const years = Number(input.startsOn.slice(0, 4)) - Number(today.slice(0, 4));
	if (years > 2)
		return `That is in ${input.startsOn.slice(0, 4)}, ${years} years ahead. Put it down all the same?`;
	return null;
}

export async function addClosure(
	db: Db,
	user: User,
	input: z.infer<typeof closureInputSchema>
): Promise<{ ok: true } | { ok: false; why: string; ask?: boolean }> {
	if (!isAllowed(user, 'close', input.schoolId)) {
		return { ok: false, why: 'You may close your own school only.' };
	}
	if (
		input.schoolId !== null &&
		!(await db.one('SELECT 1 FROM school WHERE id = $id', { id: input.schoolId }))
	) {
		return { ok: false, why: 'There is no such school. Choose one from the list.' };
	}
	if (input.lastOn < input.startsOn)
		return { ok: false, why: 'The last day comes before the first.' };
	const { zone } = await readDistrict(db);
	const question = unusual(input, localOf(await now(db), zone).slice(0, 10));
	if (question !== null && !input.sure) return { ok: false, why: question, ask: true };
	const { schoolId, startsOn } = input;
	const endsOn = dayAfter(input.lastOn);
	await db.write(async (tx) => {
		const id = await tx
			.rows(closures)
			.add({ uid: randomUUID(), schoolId, name: input.name, startsOn, endsOn });
		await writeDown(tx, {
			...{ act: 'closure-put', by: user, to: ['closure', id], schoolId },
			after: { startsOn, endsOn }
		});
	});
	return { ok: true };
}

/** Takes days without school out again: for whoever may close that school. */
export async function dropClosure(
	db: Db,
	user: User,
	id: number
): Promise<{ ok: true } | { ok: false; why: string }> {
	return db.write(async (tx) => {
		const closure = await tx.one<Pick<ClosureRow, 'schoolId' | 'startsOn' | 'endsOn'>>(
			'SELECT school_id AS schoolId, starts_on AS startsOn, ends_on AS endsOn FROM closure WHERE id = $id',
			{ id }
		);
		if (!closure)
			return { ok: false, why: 'These days are not there any more. Load the page again.' };
		if (!isAllowed(user, 'close', closure.schoolId)) {
			return { ok: false, why: 'You may open your own school only.' };
		}
		await tx.rows(closures).remove({ id });
		const { schoolId, startsOn, endsOn } = closure;
		await writeDown(tx, {
			...{ act: 'closure-dropped', by: user, to: ['closure', id], schoolId },
			before: { startsOn, endsOn }
		});
		return { ok: true };
	});
}

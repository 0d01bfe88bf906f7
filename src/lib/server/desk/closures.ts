import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { dayAfter } from '../../core/time/local';
import type { User } from '../access/sessions';
import type { Db } from '../db/open';

export interface ClosureLine {
	readonly id: number;
	readonly name: string;
	readonly startsOn: string;
	readonly endsOn: string;
	readonly school: string | null;
}

export async function closureLines(db: Db): Promise<ClosureLine[]> {
	return db.all<ClosureLine>(
		`SELECT closure.id, closure.name, starts_on AS startsOn, ends_on AS endsOn, school.name AS school
		FROM closure LEFT JOIN school ON school.id = school_id ORDER BY starts_on LIMIT 500`
	);
}

const dateSchema = z.iso.date();
/** A stretch of days without school as its form sends it; `lastOn` is its last day. */
export const closureInputSchema = z.object({
	name: z.string().trim().min(1, 'Say why there is no school.').max(100),
	startsOn: dateSchema,
	lastOn: dateSchema,
	schoolId: z.number().int().positive().nullable()
});

export async function addClosure(
	db: Db,
	user: User,
	input: z.infer<typeof closureInputSchema>
): Promise<{ ok: true } | { ok: false; why: string }> {
	if (
		user.role !== 'coordinator' &&
		(user.role === 'teacher' || input.schoolId !== user.schoolId)
	) {
		return { ok: false, why: 'You may close your own school only.' };
	}
	if (input.lastOn < input.startsOn)
		return { ok: false, why: 'The last day comes before the first.' };
	await db.run(
		`INSERT INTO closure (uid, school_id, name, starts_on, ends_on) VALUES ($uid, $school, $name, $from, $to)`,
		{
			uid: randomUUID(),
			school: input.schoolId,
			name: input.name,
			from: input.startsOn,
			to: dayAfter(input.lastOn)
		}
	);
	return { ok: true };
}

export async function dropClosure(db: Db, user: User, id: number): Promise<void> {
	if (user.role !== 'coordinator') return;
	await db.run('DELETE FROM closure WHERE id = $id', { id });
}

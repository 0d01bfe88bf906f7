import { writeDown } from '../../access/log';
import { z } from 'zod';
import { readMark } from '../../../core/roster/marker';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { districtDay } from '../../db/district';
import { markerStands } from '../../db/markers';
import { marker, school, term } from '../../db/models/roster';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { idSchema, namePart } from '../hand/fields';
import { markerOf, marking, mayGiveUp, notThere } from './marking';
import type { MarksPut } from './types';

export const markerSchema = z.object({
	name: namePart('The name').max(60, 'The name is over 60 characters. Shorten it.'),
	kind: z.enum(['yes-no', 'date', 'text'], 'Say what it holds: yes or no, a day, or a few words.'),
	/** Empty for the whole district. */
	schoolId: z.literal('').or(idSchema),
	/** Empty where it stays. */
	termId: z.literal('').or(idSchema)
});

/** Makes a marker that nobody has yet. */
export async function makeMarker(
	db: Db,
	user: User,
	{ name, kind, ...of }: z.infer<typeof markerSchema>
): Promise<Said<{ readonly id: number }>> {
	const [schoolId, termId] = [of.schoolId || null, of.termId || null];
	if (!isAllowed(user, 'make-marker', schoolId))
		return { ok: false, why: 'You make markers of your own school only.' };
	return db.write(async (tx): Promise<Said<{ readonly id: number }>> => {
		if (schoolId !== null && !(await tx.rows(school).one({ id: schoolId })))
			return { ok: false, why: 'There is no such school. Load the page again.' };
		const ends = termId === null ? null : await tx.rows(term).one({ id: termId });
		if (termId !== null && (!ends || ends.endsOn <= (await districtDay(tx))))
			return { ok: false, why: 'That term is over. Choose another, or let the marker stay.' };
		// Whoever sees both could not tell them apart.
		const stands = await markerStands(tx);
		const same = await tx.one(
			`SELECT 1 FROM marker WHERE name = $name COLLATE NOCASE AND ${stands.sql}
				AND (school_id IS NULL OR $schoolId IS NULL OR school_id = $schoolId)`,
			{ name, schoolId, ...stands.bind }
		);
		if (same)
			return {
				ok: false,
				why: `There is a marker “${name}” already. Use it, or give this one another name.`
			};
		const madeAt = Math.round(await now(tx));
		const id = await tx
			.rows(marker)
			.add({ name, kind, schoolId, termId, madeBy: user.personId, madeAt });
		await writeDown(tx, { act: 'marker-made', by: user, to: ['marker', id], schoolId });
		return { ok: true, id };
	});
}

/** What a form says of some students: what it showed, and what stands there now. */
const markSchema = z.object({
	studentId: z.number().int().positive(),
	was: z.string().max(200),
	value: z.string().max(400)
});
export const marksSchema = z.array(markSchema).max(5000, 'A form holds 5,000 students at most.');

/**
 * Sets what a marker says of some students by hand. What somebody else has set to something else since the
 * form was shown stays as they have it, and is named.
 */
export async function setMarks(
	db: Db,
	user: User,
	markerId: number,
	entries: z.infer<typeof marksSchema>
): Promise<Said<MarksPut>> {
	const ids = entries.map((e) => e.studentId);
	return marking(db, user, markerId, ids, (m): Said<MarksPut> => {
		let put = 0;
		const meanwhile: string[] = [];
		const seen = new Set<number>();
		for (const { studentId, was, value: text } of entries) {
			const here = m.here.get(studentId);
			if (!here || seen.has(studentId)) continue;
			seen.add(studentId);
			const read = readMark(m.marker.kind, text, 'month-first');
			if (!read.ok) return { ok: false, why: `${here.name}: ${read.why}` };
			if (read.value === here.value || read.value === (was || null)) continue;
			if (here.value !== (was || null)) {
				meanwhile.push(here.name);
				continue;
			}
			m.put({ studentId, value: read.value, listed: here.listed }, 'hand');
			put += 1;
		}
		return { ok: true, put, meanwhile };
	});
}

/** Gives a marker up: nothing asks about it any more; what copies said of it stays. */
export async function giveUpMarker(db: Db, user: User, id: number): Promise<Said> {
	return db.write(async (tx): Promise<Said> => {
		const row = await markerOf(tx, user, id);
		if (!row) return notThere;
		if (!mayGiveUp(user, row))
			return { ok: false, why: 'Whoever made it gives it up, or the office that looks after it.' };
		await tx
			.rows(marker)
			.change({ id }, { goneAt: Math.round(await now(tx)), version: row.version + 1 });
		await tx.run(
			`UPDATE standing SET waits = 'The marker that it waits for was given up. End it, and write it anew.'
			WHERE marker_id = $id AND ended_at IS NULL`,
			{ id }
		);
		await writeDown(tx, {
			...{ act: 'marker-given-up', by: user, to: ['marker', id], schoolId: row.schoolId }
		});
		return { ok: true };
	});
}

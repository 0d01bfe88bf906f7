import { z } from 'zod';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { enrolment } from '../../db/models/roster';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { byHand, notTheirs, personSeen, type Hand } from './by-hand';
import { idSchema } from './fields';

export const enrolSchema = z.object({ sectionId: idSchema, studentId: idSchema });
type Enrol = z.infer<typeof enrolSchema>;

const noSection = {
	ok: false,
	why: 'There is no such section, or another office looks after it. Load the page again.'
} as const;

/** The name of a section that the user may put students into; undefined where there is none. */
async function sectionOf({ tx, user }: Hand, id: number): Promise<string | undefined> {
	const row = await tx.one<{ name: string; schoolId: number }>(
		`SELECT section.name, school_id AS schoolId FROM section_now AS section
		JOIN course ON course.id = course_id WHERE section.id = $id`,
		{ id }
	);
	return row && may(user, 'look-after', row.schoolId) ? row.name : undefined;
}

/** Puts a student into a section by hand. */
export async function enrol(db: Db, user: User, { sectionId, studentId }: Enrol): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const name = await sectionOf(hand, sectionId);
		if (name === undefined) return noSection;
		const student = await personSeen(hand, studentId);
		if (student?.kind !== 'student' || student.goneAt !== null) return notTheirs;
		const rows = hand.tx.rows(enrolment);
		const before = await rows.one({ sectionId, studentId });
		if (before?.goneAt === null) return { ok: true };
		const since = { since: hand.at, goneAt: null };
		if (before) await rows.change({ sectionId, studentId }, since);
		else await rows.add({ sectionId, studentId, ...since });
		hand.wrote({ personId: studentId, field: 'section', after: name });
		return { ok: true };
	});
}

/** Takes a student out of a section by hand; what was sent about them in it stays. */
export async function unenrol(db: Db, user: User, { sectionId, studentId }: Enrol): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const name = await sectionOf(hand, sectionId);
		if (name === undefined) return noSection;
		if (!(await personSeen(hand, studentId))) return notTheirs;
		const before = await hand.tx.rows(enrolment).one({ sectionId, studentId });
		if (!before || before.goneAt !== null) return { ok: true };
		await hand.tx.rows(enrolment).change({ sectionId, studentId }, { goneAt: hand.at });
		hand.wrote({ personId: studentId, field: 'section', before: name });
		return { ok: true };
	});
}

import { writeDown } from '../../access/log';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { sectionTalk } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';

/** A section whose staff a family may write to by itself. */
export interface OpenSection {
	readonly id: number;
	readonly name: string;
	readonly schoolId: number;
	/** When its staff read what comes, in their own words; empty where they say nothing. */
	readonly hours: string;
}

/** The sections a person may write to: of the students they have custody of and get correspondence for, or their own, where the section allows it. */
export const sectionsToWriteTo = (db: Query, personId: number): Promise<OpenSection[]> =>
	db.all<OpenSection>(
		`SELECT DISTINCT section.id, section.name, course.school_id AS schoolId, section_talk.hours
		FROM section_talk JOIN section_now AS section ON section.id = section_talk.section_id JOIN course ON course.id = course_id
		JOIN enrolment_now AS enrolment ON enrolment.section_id = section.id
		WHERE section_talk.open AND EXISTS (SELECT 1 FROM section_staff WHERE section_staff.section_id = section.id)
			AND (enrolment.student_id = $personId OR enrolment.student_id IN
				(SELECT student_id FROM contact_now AS contact WHERE person_id = $personId AND custody AND correspondence))
		ORDER BY section.name`,
		{ personId }
	);

/** Whether families may begin a conversation with a section's staff, and when these read it. */
export async function sectionOpen(
	db: Query,
	sectionId: number
): Promise<{ open: boolean; hours: string }> {
	const row = await db.rows(sectionTalk).one({ sectionId });
	return { open: row?.open === 1, hours: row?.hours ?? '' };
}

/** Lets families write to a section's staff, or no more; false where the section is not the user's. */
export async function setSectionOpen(
	db: Db,
	user: User,
	sectionId: number,
	{ open, hours }: { readonly open: boolean; readonly hours: string }
): Promise<boolean> {
	const own = scope(user).sections;
	return db.write(async (tx) => {
		const mine = await tx.one(
			`SELECT 1 FROM section_now AS section JOIN course ON course.id = course_id
			WHERE section.id = $sectionId AND ${own.sql}`,
			{ sectionId, ...own.bind }
		);
		if (!mine) return false;
		await tx.run(
			`INSERT INTO section_talk (section_id, open, hours) VALUES ($sectionId, $open, $hours)
			ON CONFLICT (section_id) DO UPDATE SET open = excluded.open, hours = excluded.hours`,
			{ sectionId, open: open ? 1 : 0, hours }
		);
		await writeDown(tx, {
			...{ act: 'section-open', by: user, to: ['section', sectionId], after: { open } }
		});
		return true;
	});
}

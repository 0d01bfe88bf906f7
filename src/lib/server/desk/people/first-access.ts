import { DateTime } from 'luxon';
import { isAllowed, scope } from '../../access/may';
import { ownInboxLinks } from '../../access/own-link';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { paperMs } from './office-link';
import type { PaperSize } from '../../paper/sizes';
import { firstAccessPdf } from './first-access-pdf';

/** More sheets than anybody hands out at once. */
const mostSheets = 500;

/** Whose sheets are wanted: one person's, or of everybody in a section whom nothing else reaches. */
export type SheetsOf = { readonly personId: number } | { readonly sectionId: number };

interface Reader {
	readonly id: number;
	readonly name: string;
	readonly language: string;
}

/** An address by which somebody can be written to. */
const works = `(failing IS NULL AND (way = 'email' AND consent != 'out' OR consent = 'in'))`;

/**
 * Those of a section who have an inbox and nothing else that reaches them: students, and the guardians with
 * custody who are marked to receive correspondence. For a person, themselves. Nobody whom the user may not give a link to.
 */
async function readersOf(db: Query, user: User, of: SheetsOf): Promise<Reader[]> {
	if (!isAllowed(user, 'give-link')) return [];
	const seen = scope(user).people('person.id', 'give-link');
	const section = scope(user).sections;
	const [who, bind] =
		'personId' in of
			? (['person.id = $personId', { personId: of.personId }] as const)
			: ([
					`person.id IN (
						SELECT student_id FROM enrolment_now WHERE section_id = $section
						UNION SELECT contact_now.person_id FROM contact_now JOIN enrolment_now USING (student_id)
						WHERE section_id = $section AND guardian AND custody AND correspondence)
					AND $section IN (SELECT section.id FROM section JOIN course ON course.id = course_id WHERE ${section.sql})
					AND NOT EXISTS (SELECT 1 FROM address WHERE person_id = person.id AND ${works})`,
					{ section: of.sectionId, ...section.bind }
				] as const);
	return db.all<Reader>(
		`SELECT person.id, given_name || ' ' || family_name AS name, language FROM person_now AS person
		WHERE has_inbox AND ${who} AND ${seen.sql} ORDER BY family_name, given_name, person.id LIMIT ${mostSheets}`,
		{ ...bind, ...seen.bind }
	);
}

/** How many sheets there would be. */
export const sheetsWanted = async (db: Query, user: User, of: SheetsOf): Promise<number> =>
	(await readersOf(db, user, of)).length;

/** Makes a link for each and prints it on a sheet of its own, in their language; who made them is kept. Null where there is nobody. */
export async function firstAccessSheets(
	{ db, key, publicUrl }: { readonly db: Db; readonly key: Buffer; readonly publicUrl: string },
	user: User,
	of: SheetsOf,
	paper: PaperSize
): Promise<Uint8Array | null> {
	const readers = await readersOf(db, user, of);
	if (readers.length === 0) return null;
	const ids = readers.map((r) => r.id);
	const about = await db.all<{ personId: number; student: string }>(
		`SELECT contact_now.person_id AS personId, given_name || ' ' || family_name AS student FROM contact_now
		JOIN person_now AS person ON person.id = student_id
		WHERE contact_now.person_id IN (SELECT value FROM json_each($ids)) AND guardian AND custody AND correspondence
		ORDER BY given_name, person.id`,
		{ ids: JSON.stringify(ids) }
	);
	const { name, zone } = await readDistrict(db);
	const { paths, endsAt } = await ownInboxLinks(db, key, ids, {
		lastsMs: paperMs,
		madeBy: user.personId
	});
	// The last whole day on which it opens.
	const until = DateTime.fromMillis(endsAt, { zone }).minus({ days: 1 }).toISODate()!;
	return firstAccessPdf(
		name,
		readers.map((reader, i) => ({
			...{ name: reader.name, language: reader.language, until },
			students: about.filter((a) => a.personId === reader.id).map((a) => a.student),
			link: `${publicUrl}${paths[i]}`
		})),
		paper
	);
}

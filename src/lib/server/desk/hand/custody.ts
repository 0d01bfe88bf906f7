import { z } from 'zod';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import type { ContactRow } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { byHand } from './by-hand';
import { flag, idSchema, yesNo } from './fields';

/** How many guardians there are of whom nobody has said whether they have custody, by relation; and for how many students. */
export interface UnsaidCustody {
	readonly relations: readonly {
		readonly relation: string;
		readonly contacts: number;
		readonly students: number;
	}[];
	readonly lines: readonly {
		readonly studentId: number;
		readonly student: string;
		readonly personId: number;
		readonly person: string;
		readonly relation: string;
	}[];
	readonly found: number;
}

const perPage = 50;
const open = 'custody IS NULL AND guardian = 1';

/** Guardians whose custody nobody has said, among those a user may correct. */
export async function unsaidCustody(
	db: Query,
	user: User,
	{ relation, page }: { readonly relation: string; readonly page: number }
): Promise<UnsaidCustody> {
	const seen = scope(user).people('student_id', 'look-after');
	const from = `contact_now AS contact JOIN person_now AS student ON student.id = student_id
		JOIN person_now AS person ON person.id = contact.person_id WHERE ${open} AND ${seen.sql}`;
	const relations = await db.all<UnsaidCustody['relations'][number]>(
		`SELECT relation, count(*) AS contacts, count(DISTINCT student_id) AS students FROM ${from}
		GROUP BY relation ORDER BY contacts DESC`,
		seen.bind
	);
	const one = relation === '' ? '' : 'AND relation = $relation';
	return {
		relations,
		found: relations
			.filter((r) => relation === '' || r.relation === relation)
			.reduce((n, r) => n + r.contacts, 0),
		lines: await db.all(
			`SELECT student.id AS studentId, student.given_name || ' ' || student.family_name AS student,
				person.id AS personId, person.given_name || ' ' || person.family_name AS person, relation
			FROM ${from} ${one} ORDER BY student.family_name, student.given_name, student.id, person.id
			LIMIT ${perPage} OFFSET $offset`,
			{ ...seen.bind, ...(one === '' ? {} : { relation }), offset: (page - 1) * perPage }
		)
	};
}

/** What somebody says of the custody of guardians of whom nobody has: of one, of a relation, of all. */
export const custodyOfSchema = z.object({
	custody: yesNo,
	/** Empty for all relations. */
	relation: z.string().max(200).default(''),
	studentId: idSchema.optional(),
	personId: idSchema.optional()
});

/** Says it; each is written down with who said it. Resolves to how many there were. */
export async function sayCustodyOf(
	db: Db,
	user: User,
	said: z.infer<typeof custodyOfSchema>
): Promise<Said<{ readonly contacts: number }>> {
	const one = said.studentId !== undefined && said.personId !== undefined;
	if (!isAllowed(user, one ? 'correct-people' : 'bring-roster'))
		return {
			ok: false,
			why: 'For many at once the district office says it; for one the school office.'
		};
	const seen = scope(user).people('student_id', 'look-after');
	const which = one
		? 'AND student_id = $student AND person_id = $person'
		: said.relation === ''
			? ''
			: 'AND relation = $relation';
	const bind = {
		...seen.bind,
		...(one
			? { student: said.studentId!, person: said.personId! }
			: said.relation === ''
				? {}
				: { relation: said.relation })
	};
	return byHand(db, user, async ({ tx, wrote }) => {
		const where = `gone_at IS NULL AND ${open} AND ${seen.sql} ${which}`;
		const rows = await tx.all<Pick<ContactRow, 'studentId' | 'personId'>>(
			`SELECT student_id AS studentId, person_id AS personId FROM contact WHERE ${where}`,
			bind
		);
		if (rows.length > 0)
			await tx.run(`UPDATE contact SET custody = $custody WHERE ${where}`, {
				...bind,
				custody: flag(said.custody)
			});
		for (const { studentId, personId } of rows)
			wrote({ personId, field: 'custody', aboutId: studentId, after: said.custody });
		return { ok: true, contacts: rows.length };
	});
}

import { z } from 'zod';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { contact, type ContactRow } from '../../db/models/roster';
import { personChange } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from './files';
import { stopWhatIsNotTheirs, type LostTie } from './not-theirs';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const yesNo = z.enum(['yes', 'no']);

/** What an adult is to a student, as an office corrects it. */
export const tieSchema = z.object({
	studentId: idSchema,
	personId: idSchema,
	relation: z
		.string()
		.trim()
		.min(1, 'Say what they are to the student: mother, uncle, neighbour.')
		.max(80, 'The relation is over 80 characters. Shorten it.'),
	guardian: yesNo,
	/** `unsaid` leaves it open: they are left out until somebody says it. */
	custody: z.enum(['yes', 'no', 'unsaid']),
	correspondence: yesNo,
	emergency: yesNo
});
export type TieInput = z.infer<typeof tieSchema>;

const flag = (answer: 'yes' | 'no'): 0 | 1 => (answer === 'yes' ? 1 : 0);

/** The fields of a tie that are written down when they change. */
const fields = ['relation', 'guardian', 'custody', 'correspondence', 'emergency'] as const;
const text = (value: string | number | null): string | null =>
	typeof value === 'number' ? (value === 1 ? 'yes' : 'no') : value;

/**
 * Corrects what an adult is to a student: an office for its own, the district office for all. It is
 * written down who changed what; copies that wait and may no longer be theirs are taken out at once.
 */
export async function correctTie(db: Db, user: User, input: TieInput): Promise<Said<object>> {
	const { studentId, personId } = input;
	const seen = scope(user).people('student_id');
	return db.write(async (tx): Promise<Said<object>> => {
		const before = await tx.one<ContactRow>(
			`SELECT student_id AS studentId, person_id AS personId, relation, guardian, custody, correspondence, emergency
			FROM contact_now WHERE student_id = $studentId AND person_id = $personId AND ${seen.sql}`,
			{ studentId, personId, ...seen.bind }
		);
		if (!before || !may(user, 'correct-people'))
			return { ok: false, why: 'There is no such tie, or the school office looks after it.' };
		const after = {
			relation: input.relation,
			guardian: flag(input.guardian),
			custody: input.custody === 'unsaid' ? null : flag(input.custody),
			correspondence: flag(input.correspondence),
			emergency: flag(input.emergency)
		};
		const changed = fields.filter((field) => before[field] !== after[field]);
		if (changed.length === 0) return { ok: true };
		const at = Math.round(await now(tx));
		await tx.rows(contact).change({ studentId, personId }, after);
		await tx.rows(personChange).addMany(
			changed.map((field) => ({
				at,
				byId: user.personId,
				personId,
				field,
				aboutId: studentId,
				before: text(before[field]),
				after: text(after[field])
			}))
		);
		await stopWhatIsNotTheirs(tx, { lost: lostTies(before, after), gone: [] });
		await rosterChanged(tx);
		return { ok: true };
	});
}

type Duty = Pick<ContactRow, 'custody' | 'correspondence' | 'guardian'>;

const lostTies = (
	before: Duty & Pick<ContactRow, 'studentId' | 'personId'>,
	after: Duty
): LostTie[] => {
	const duty = (d: Duty) => d.custody === 1 && d.correspondence === 1 && d.guardian === 1;
	return duty(before) && !duty(after)
		? [{ studentId: before.studentId, personId: before.personId, custodyOnly: true }]
		: [];
};

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
	const seen = scope(user).people('student_id');
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
	if (!may(user, one ? 'correct-people' : 'bring-roster'))
		return {
			ok: false,
			why: 'For many at once the district office says it; for one the school office.'
		};
	const seen = scope(user).people('student_id');
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
	return db.write(async (tx) => {
		const where = `gone_at IS NULL AND ${open} AND ${seen.sql} ${which}`;
		const rows = await tx.all<Pick<ContactRow, 'studentId' | 'personId'>>(
			`SELECT student_id AS studentId, person_id AS personId FROM contact WHERE ${where}`,
			bind
		);
		if (rows.length === 0) return { ok: true, contacts: 0 };
		const at = Math.round(await now(tx));
		await tx.run(`UPDATE contact SET custody = $custody WHERE ${where}`, {
			...bind,
			custody: flag(said.custody)
		});
		await tx.rows(personChange).addMany(
			rows.map(({ studentId, personId }) => ({
				at,
				byId: user.personId,
				personId,
				field: 'custody',
				aboutId: studentId,
				before: null,
				after: said.custody
			}))
		);
		await rosterChanged(tx);
		return { ok: true, contacts: rows.length };
	});
}

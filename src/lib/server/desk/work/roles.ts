import { z } from 'zod';
import { localDays } from '../../../core/time/zone';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import { districtOnly, rights, rolePlaces, whereOf, type Right } from '../../access/rights';
import { everyUser, type User } from '../../access/user';
import { now } from '../../clock';
import { districtDay, readDistrict } from '../../db/district';
import { role, roleRight, roles, type RoleName } from '../../db/models/access';
import { school, section } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { followRights } from './lost-rights';
import { roleWords, type RoleChoices, type RoleRights } from './types';
import { rightWords } from './words';

const dayField = z.union([z.literal(''), z.iso.date('A day is missing, or is none.')]);
/** A role as its form says it. */
export const roleSchema = z.object({
	role: z.enum(roles, 'Choose a role.'),
	/** "district", "school 3", "section 41"; a teacher's own sections are the roster's to say. */
	place: z.string().regex(/^(district|(school|section) \d{1,15})$/, 'Choose where.'),
	/** Local days; the last one is in it. Empty from now, and without an end. */
	from: dayField.default(''),
	until: dayField.default('')
});
export type RoleInput = z.infer<typeof roleSchema>;

export const notYours = {
	ok: false,
	why: 'Who works here, and what each may do, is for whoever has the right to say so.'
} as const;

/** What a place says: the school or section, or neither. */
function placeOf(place: string): {
	readonly schoolId: number | null;
	readonly sectionId: number | null;
} {
	const [kind, id] = place.split(' ');
	return {
		schoolId: kind === 'school' ? Number(id) : null,
		sectionId: kind === 'section' ? Number(id) : null
	};
}

/** Gives somebody a role, in the caller's transaction; why not. */
export async function putRole(
	tx: Query,
	by: User,
	personId: number,
	input: RoleInput
): Promise<string | null> {
	const { schoolId, sectionId } = placeOf(input.place);
	if (schoolId !== null && !(await tx.rows(school).one({ id: schoolId })))
		return 'There is no such school. Load the page again.';
	if (sectionId !== null && !(await tx.rows(section).one({ id: sectionId })))
		return 'There is no such section. Load the page again.';
	const { district, school: atSchool, section: ofSection } = rolePlaces[input.role];
	if (sectionId !== null && !ofSection)
		return 'A single section is for a teacher who stands in. Choose a school, or the district.';
	if (schoolId !== null && !atSchool)
		return `${roleWords[input.role].name}s are of the whole district. Choose the district.`;
	if (schoolId === null && sectionId === null && !district)
		return `A ${roleWords[input.role].name.toLowerCase()} works at a school. Choose one.`;
	const { zone } = await readDistrict(tx);
	const time = Math.round(await now(tx));
	const startsAt = input.from === '' ? time : localDays(input.from, 1, zone)[0]!.from;
	const endsAt = input.until === '' ? null : localDays(input.until, 1, zone)[0]!.to;
	if (endsAt !== null && endsAt <= Math.max(startsAt, time))
		return 'The last day is before the first, or past. Choose a later one.';
	const same = await tx.one(
		`SELECT 1 FROM role WHERE person_id = $personId AND role = $role AND school_id IS $schoolId AND section_id IS $sectionId
			AND starts_at < coalesce($endsAt, starts_at + 1) AND (ends_at IS NULL OR ends_at > $startsAt)`,
		{ personId, role: input.role, schoolId, sectionId, startsAt, endsAt }
	);
	if (same) return 'They have this role already for some of that time. End that one first.';
	await tx.rows(role).add({
		personId,
		role: input.role,
		schoolId,
		sectionId,
		startsAt,
		endsAt,
		givenBy: by.personId
	});
	await writeDown(tx, {
		...{ act: 'role-given', by, to: ['person', personId], schoolId },
		after: {
			...{ role: input.role, school: schoolId, section: sectionId },
			...{ from: input.from === '' ? null : startsAt, until: endsAt }
		}
	});
	return null;
}

/** Whether somebody is left who may say who works here: whoever takes the last one's right away locks everybody out. */
const someoneLooksAfter = async (tx: Query): Promise<boolean> =>
	(await everyUser(tx)).some((user) => whereOf(user, 'accounts').whole);
const nobodyLeft =
	'Nobody would be left who may say who works here. Give somebody else that right first.';

/** Thrown to undo what would lock everybody out. */
class NobodyLeft extends Error {}

/** Changes who may do what, all of it or nothing; afterwards what is scheduled is asked again for whoever it concerns. */
async function changing(
	db: Db,
	key: Buffer,
	user: User,
	work: (tx: Query) => Promise<string | null | { readonly people: readonly number[] }>
): Promise<Said> {
	if (!isAllowed(user, 'accounts')) return notYours;
	let people: readonly number[] = [];
	try {
		const why = await db.write(async (tx) => {
			const done = await work(tx);
			if (typeof done === 'string') return done;
			people = done?.people ?? [];
			if (!(await someoneLooksAfter(tx))) throw new NobodyLeft();
			return null;
		});
		if (why !== null) return { ok: false, why };
	} catch (error) {
		if (error instanceof NobodyLeft) return { ok: false, why: nobodyLeft };
		throw error;
	}
	await followRights(db, key, people);
	return { ok: true };
}

/** Gives somebody who works here one more role. */
export const giveRole = (db: Db, key: Buffer, user: User, personId: number, input: RoleInput) =>
	changing(db, key, user, async (tx) => {
		const there = await tx.one(
			`SELECT 1 FROM person_now AS person WHERE id = $personId AND (EXISTS (SELECT 1 FROM sign_in WHERE person_id = person.id)
				OR EXISTS (SELECT 1 FROM account_link WHERE person_id = person.id AND kind = 'invite'))`,
			{ personId }
		);
		if (!there) return 'That person does not work here. Invite them first.';
		return putRole(tx, user, personId, input);
	});

/** Ends a role now; one that has not begun is taken away. */
export const endRole = (db: Db, key: Buffer, user: User, roleId: number) =>
	changing(db, key, user, async (tx) => {
		const row = await tx.rows(role).one({ id: roleId });
		const time = Math.round(await now(tx));
		if (!row || (row.endsAt !== null && row.endsAt <= time))
			return 'That role has ended already. Load the page again.';
		await tx.rows(role).change({ id: roleId }, { endsAt: Math.max(time, row.startsAt) });
		await writeDown(tx, {
			...{ act: 'role-ended', by: user, to: ['person', row.personId], schoolId: row.schoolId },
			before: { role: row.role, school: row.schoolId, section: row.sectionId }
		});
		return { people: [row.personId] };
	});

/** Closes somebody's account, or opens it again: nobody comes in by it meanwhile. */
export const closeAccount = (
	db: Db,
	key: Buffer,
	user: User,
	personId: number,
	closed: boolean
): Promise<Said> =>
	changing(db, key, user, async (tx) => {
		const account = await tx.one<{ closedAt: number | null }>(
			'SELECT closed_at AS closedAt FROM sign_in WHERE person_id = $personId',
			{ personId }
		);
		if (!account) return 'There is no such account. Load the page again.';
		if (personId === user.personId) return 'You cannot close your own account. Another can.';
		if ((account.closedAt !== null) === closed) return { people: [] };
		await tx.run('UPDATE sign_in SET closed_at = $at WHERE person_id = $personId', {
			personId,
			at: closed ? Math.round(await now(tx)) : null
		});
		if (closed) await tx.run('DELETE FROM session WHERE person_id = $personId', { personId });
		await writeDown(tx, {
			...{ act: closed ? 'account-closed' : 'account-opened', by: user, to: ['person', personId] }
		});
		return { people: [personId] };
	});

/** What a role is given, as its form says it. */
export const roleRightsSchema = z.object({
	role: z.enum(roles),
	rights: z.array(z.enum(rights)).max(rights.length)
});

/** Says what a role can do from now on. */
export const setRoleRights = (
	db: Db,
	key: Buffer,
	user: User,
	{ role: name, rights: wanted }: z.infer<typeof roleRightsSchema>
): Promise<Said> =>
	changing(db, key, user, async (tx) => {
		const before = (
			await tx.all<{ can: Right }>('SELECT can FROM role_right WHERE role = $name', { name })
		).map((r) => r.can);
		const inOrder = (of: readonly Right[]) => rights.filter((r) => of.includes(r));
		const after = inOrder(wanted);
		if (JSON.stringify(inOrder(before)) === JSON.stringify(after)) return { people: [] };
		if (after.includes('write') && !after.includes('see'))
			return 'Whoever writes has to see whom: add “see”, or take “write” away.';
		if (after.includes('schedule') && !after.includes('write'))
			return 'Whoever sends has to write: add “write”, or take “send” away.';
		if (after.includes('answer') && !after.includes('see'))
			return 'Whoever answers has to see what families write: add “see”, or take “answer” away.';
		await tx.rows(roleRight).remove({ role: name });
		await tx.rows(roleRight).addMany(after.map((can) => ({ role: name, can })));
		await writeDown(tx, {
			...{ act: 'rights-changed', by: user },
			...{ before: { rights: inOrder(before) }, after: { role: name, rights: after } }
		});
		const people = await tx.all<{ id: number }>(
			'SELECT DISTINCT person_id AS id FROM role WHERE role = $name',
			{ name }
		);
		return { people: people.map((p) => p.id) };
	});

/** What each role can do today. */
export async function roleList(db: Query): Promise<RoleRights[]> {
	const given = await db.all<{ role: RoleName; can: Right }>('SELECT role, can FROM role_right');
	const held = await db.all<{ role: RoleName; n: number }>(
		`SELECT role, count(DISTINCT role.person_id) AS n FROM role JOIN sign_in USING (person_id)
		WHERE closed_at IS NULL AND starts_at <= $time AND (ends_at IS NULL OR ends_at > $time) GROUP BY role`,
		{ time: await now(db) }
	);
	const { factorFor } = await readDistrict(db);
	return roles.map((name) => ({
		...{ role: name, ...roleWords[name] },
		rights: rights.filter((r) => given.some((g) => g.role === name && g.can === r)),
		people: held.find((h) => h.role === name)?.n ?? 0,
		factor: factorFor.includes(name)
	}));
}

/** What roles there are, and the schools that they can be given for. */
export async function roleChoices(db: Query): Promise<RoleChoices> {
	return {
		schools: await db.all('SELECT id, name FROM school ORDER BY name'),
		roles: roles.map((name) => ({ role: name, ...roleWords[name], ...rolePlaces[name] }))
	};
}

/** Sections by the beginning of a name, of terms that have not ended: for whoever stands in. */
export async function sectionsNamed(
	db: Query,
	search: string
): Promise<{ readonly id: number; readonly name: string; readonly note: string }[]> {
	return db.all(
		`SELECT section.id, section.name, school.short_name || ', ' || term.name AS note FROM section_now AS section
		JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id JOIN term ON term.id = term_id
		WHERE section.name LIKE '%' || $search || '%' AND term.ends_on > $today ORDER BY section.name, section.id LIMIT 20`,
		{ search: search.replace(/[%_]/g, ''), today: await districtDay(db) }
	);
}

/** Every right as the page shows it. */
export const rightsShown = rights.map((right) => ({
	right,
	words: rightWords[right],
	whole: districtOnly.includes(right)
}));

import { makeRoster, type Roster } from '../../core/roster/roster';
import type {
	Address,
	Contact,
	Declined,
	Enrolment,
	GroupMember,
	HouseholdMember,
	Person,
	Section,
	SectionStaff,
	StaffRole
} from '../../core/roster/types';
import { readMany, type Value } from './many';
import type { Db, Query } from './open';

/** To be called in every transaction that changes people, contacts, sections, enrolments or own choices. */
export async function rosterChanged(tx: Query): Promise<void> {
	await tx.run('DELETE FROM roster_change');
	await tx.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
}

/** To be called in every transaction that changes nothing but addresses, with the people who have them. */
export async function addressesChanged(tx: Query, personIds: readonly number[]): Promise<void> {
	await tx.run('INSERT INTO roster_change (person_id) SELECT value FROM json_each($ids)', {
		ids: JSON.stringify([...new Set(personIds)])
	});
}

/** The newest change. Numbers are never used twice, also after old changes are cleared away. */
export async function rosterVersion(db: Query): Promise<number> {
	return (await db.one<{ v: number }>('SELECT max(version) AS v FROM roster_change'))?.v ?? 0;
}

/** The newest change of anything but addresses. */
export async function peopleVersion(db: Query): Promise<number> {
	return (
		(
			await db.one<{ v: number }>(
				'SELECT max(version) AS v FROM roster_change WHERE person_id IS NULL'
			)
		)?.v ?? 0
	);
}

interface KeptRoster {
	readonly version: number;
	readonly roster: Promise<Roster>;
}
const kept = new WeakMap<Db, KeptRoster>();

/**
 * The roster in memory. After a change of addresses only those are read again, after any other
 * change all of it: reading the whole of a large district takes seconds, and addresses change with
 * every bounce.
 */
export async function readRoster(db: Db): Promise<Roster> {
	const version = await rosterVersion(db);
	const before = kept.get(db);
	if (before?.version === version) return before.roster;
	const next = { version, roster: before ? renew(db, before) : loadRoster(db) };
	kept.set(db, next);
	next.roster.catch(() => kept.get(db) === next && kept.delete(db));
	return next.roster;
}

/** The people whose addresses have changed since a version; `all` where anything else has. */
export async function changedSince(
	db: Query,
	version: number
): Promise<ReadonlySet<number> | 'all'> {
	const changes = await db.all<{ version: number; personId: number | null }>(
		`SELECT version, person_id AS personId FROM roster_change WHERE version >= $version`,
		{ version }
	);
	const newer = changes.filter((c) => c.version > version);
	// Where our own version has been cleared away, something else than addresses has changed.
	const whole =
		!changes.some((c) => c.version === version) || newer.some((c) => c.personId === null);
	return whole ? 'all' : new Set(newer.map((c) => c.personId!));
}

async function renew(db: Query, before: KeptRoster): Promise<Roster> {
	const changed = await changedSince(db, before.version);
	if (changed === 'all') return loadRoster(db);
	const ids = [...changed];
	return (await before.roster).withAddresses(
		ids,
		await readMany(
			db,
			addressColumns,
			'FROM address WHERE person_id IN (SELECT value FROM json_each($ids)) ORDER BY id',
			toAddress,
			{ ids: JSON.stringify(ids) }
		)
	);
}

const addressColumns = 'id, person_id, way, value, consent, failing';
const toAddress = ([id, personId, way, value, consent, failing]: readonly Value[]): Address => ({
	id: id as number,
	personId: personId as number,
	way: way as Address['way'],
	value: value as string,
	consent: consent as Address['consent'],
	failing: failing as string | null
});
const toPerson = ([
	id,
	kind,
	givenName,
	familyName,
	language,
	schoolId,
	gradeLevel,
	inbox
]: readonly Value[]): Person => ({
	id: id as number,
	kind: kind as Person['kind'],
	givenName: givenName as string,
	familyName: familyName as string,
	language: language as string,
	schoolId: schoolId as number | null,
	gradeLevel: gradeLevel as string | null,
	hasInbox: inbox === 1
});
const toContact = ([
	studentId,
	personId,
	relation,
	guardian,
	custody,
	correspondence,
	emergency
]: readonly Value[]): Contact => ({
	studentId: studentId as number,
	personId: personId as number,
	relation: relation as string,
	guardian: guardian === 1,
	custody: custody === 1,
	correspondence: correspondence === 1,
	emergency: emergency === 1
});

async function loadRoster(db: Query): Promise<Roster> {
	return makeRoster({
		people: await readMany(
			db,
			'id, kind, given_name, family_name, language, school_id, grade_level, has_inbox',
			'FROM person',
			toPerson
		),
		addresses: await readMany(db, addressColumns, 'FROM address ORDER BY id', toAddress),
		contacts: await readMany(
			db,
			'student_id, person_id, relation, guardian, custody, correspondence, emergency',
			'FROM contact ORDER BY student_id, person_id',
			toContact
		),
		sections: await db.all<Section>(
			`SELECT section.id, course_id AS courseId, school_id AS schoolId, term_id AS termId,
				section.name FROM section JOIN course ON course.id = course_id`
		),
		enrolments: await readMany<Enrolment>(
			db,
			'section_id, student_id',
			`FROM enrolment JOIN person ON person.id = student_id
			ORDER BY section_id, family_name, given_name, person.id`,
			([sectionId, studentId]) => ({
				sectionId: sectionId as number,
				studentId: studentId as number
			})
		),
		sectionStaff: await db.all<SectionStaff>(
			`SELECT section_id AS sectionId, person_id AS personId FROM section_staff ORDER BY section_id, person_id`
		),
		groupMembers: await readMany<GroupMember>(
			db,
			'group_id, person_id',
			`FROM group_member JOIN person ON person.id = person_id
			ORDER BY group_id, family_name, given_name, person.id`,
			([groupId, personId]) => ({ groupId: groupId as number, personId: personId as number })
		),
		householdMembers: await readMany<HouseholdMember>(
			db,
			'household_id, person_id',
			'FROM household_member',
			([householdId, personId]) => ({
				householdId: householdId as number,
				personId: personId as number
			})
		),
		staffRoles: await db.all<StaffRole>(
			`SELECT person_id AS personId, school_id AS schoolId, role FROM staff ORDER BY person_id`
		),
		declined: await db.all<Declined>('SELECT person_id AS personId, kind, way FROM declined'),
		ownTimes: (
			await db.all<{
				personId: number;
				zone: string | null;
				from: number | null;
				to: number | null;
			}>('SELECT person_id AS personId, zone, quiet_from AS "from", quiet_to AS "to" FROM own_time')
		).map(({ personId, zone, from, to }) => ({
			personId,
			zone,
			quiet: from === null || to === null ? null : { fromMinute: from, toMinute: to }
		}))
	});
}

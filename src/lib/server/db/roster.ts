import { makeRoster, type OwnRows, type Roster } from '../../core/roster/roster';
import type {
	Address,
	Contact,
	Declined,
	Enrolment,
	GroupMember,
	HouseholdMember,
	Person,
	RosterRows,
	Section,
	SectionStaff,
	StaffRole
} from '../../core/roster/types';
import { inSteps, type Deed } from './at-once';
import { readMany, type Value } from './many';
import type { OwnTimeRow, RosterChangeRow } from './models/roster';
import type { Bind, Db, Query } from './open';

/** To be called in every transaction that changes people, contacts, sections, enrolments, households or groups. */
export async function rosterChanged(tx: Query): Promise<void> {
	await tx.run('DELETE FROM roster_change');
	await tx.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
}

/** That something of some people's own has changed: addresses, what they declined, own hours. */
export const ownChange = (personIds: readonly number[]): Deed => ({
	sql: 'INSERT INTO roster_change (person_id) SELECT value FROM json_each($ids)',
	bind: { ids: JSON.stringify([...new Set(personIds)]) }
});

/** To be called in every transaction that changes nothing but what is some people's own. */
export const ownChanged = (tx: Query, personIds: readonly number[]): Promise<void> =>
	inSteps(tx, [ownChange(personIds)]);

/** The newest change. Numbers are never used twice, also after old changes are cleared away. */
export async function rosterVersion(db: Query): Promise<number> {
	return (await db.one<{ v: number }>('SELECT max(version) AS v FROM roster_change'))?.v ?? 0;
}

/** The newest change of anything but what is one person's own. */
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
 * The roster in memory. After a change of what is one person's own only that is read again, after any
 * other change all of it: reading the whole of a large district takes seconds, and addresses change
 * with every bounce, choices with every tap on a link.
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

/** The people whose own things have changed since a version; `all` where anything else has. */
export async function changedSince(
	db: Query,
	version: number
): Promise<ReadonlySet<number> | 'all'> {
	const changes = await db.all<Pick<RosterChangeRow, 'version' | 'personId'>>(
		`SELECT version, person_id AS personId FROM roster_change WHERE version >= $version`,
		{ version }
	);
	const newer = changes.filter((c) => c.version > version);
	// Where our own version has been cleared away, something else has changed.
	const whole =
		!changes.some((c) => c.version === version) || newer.some((c) => c.personId === null);
	return whole ? 'all' : new Set(newer.map((c) => c.personId!));
}

async function renew(db: Query, before: KeptRoster): Promise<Roster> {
	const changed = await changedSince(db, before.version);
	if (changed === 'all') return loadRoster(db);
	const ids = [...changed];
	return (await before.roster).withOwn(ids, await loadOwn(db, ids));
}

/** How a row of a table becomes what the core takes. */
export interface RowMaker<T> {
	readonly columns: readonly string[];
	/** From the values of the columns, in their order. */
	readonly make: (values: readonly Value[]) => T;
}

export const addressMaker: RowMaker<Address> = {
	columns: ['id', 'person_id', 'way', 'value', 'consent', 'failing'],
	make: ([id, personId, way, value, consent, failing]) => ({
		id: id as number,
		personId: personId as number,
		way: way as Address['way'],
		value: value as string,
		consent: consent as Address['consent'],
		failing: failing as string | null
	})
};
export const personMaker: RowMaker<Person> = {
	columns: [
		'id',
		'kind',
		'given_name',
		'family_name',
		'language',
		'school_id',
		'grade_level',
		'has_inbox',
		'identifier'
	],
	make: ([id, kind, givenName, familyName, language, schoolId, gradeLevel, inbox, identifier]) => ({
		id: id as number,
		kind: kind as Person['kind'],
		givenName: givenName as string,
		familyName: familyName as string,
		language: language as string,
		schoolId: schoolId as number | null,
		gradeLevel: gradeLevel as string | null,
		hasInbox: inbox === 1,
		...(identifier === null ? {} : { identifier: identifier as string })
	})
};
export const contactMaker: RowMaker<Contact> = {
	columns: [
		'student_id',
		'person_id',
		'relation',
		'guardian',
		'custody',
		'correspondence',
		'emergency'
	],
	make: ([studentId, personId, relation, guardian, custody, correspondence, emergency]) => ({
		studentId: studentId as number,
		personId: personId as number,
		relation: relation as string,
		guardian: guardian === 1,
		custody: custody === null ? null : custody === 1,
		correspondence: correspondence === 1,
		emergency: emergency === 1
	})
};
export const enrolmentMaker: RowMaker<Enrolment> = {
	columns: ['section_id', 'student_id'],
	make: ([sectionId, studentId]) => ({
		sectionId: sectionId as number,
		studentId: studentId as number
	})
};
export const householdMemberMaker: RowMaker<HouseholdMember> = {
	columns: ['household_id', 'person_id'],
	make: ([householdId, personId]) => ({
		householdId: householdId as number,
		personId: personId as number
	})
};

/** Reads all rows that a maker makes. */
const readAll = <T>(
	db: Query,
	{ columns, make }: RowMaker<T>,
	from: string,
	bind: Bind = {}
): Promise<T[]> => readMany(db, columns.join(', '), from, make, bind);

/** What is some people's own, or everybody's. */
async function loadOwn(db: Query, personIds: readonly number[] | null): Promise<OwnRows> {
	const whose = personIds ? 'WHERE person_id IN (SELECT value FROM json_each($ids))' : '';
	const bind: Bind = personIds ? { ids: JSON.stringify(personIds) } : {};
	const times = await db.all<OwnTimeRow>(
		`SELECT person_id AS personId, zone, quiet_from AS quietFrom, quiet_to AS quietTo, digest_at AS digestAt FROM own_time ${whose}`,
		bind
	);
	const these = personIds ? 'WHERE id IN (SELECT value FROM json_each($ids))' : '';
	return {
		people: await readAll(db, personMaker, `FROM person_now ${these}`, bind),
		addresses: await readAll(db, addressMaker, `FROM address ${whose} ORDER BY id`, bind),
		declined: await db.all<Declined>(
			`SELECT person_id AS personId, kind, way FROM declined ${whose}`,
			bind
		),
		ownTimes: times.map(({ personId, zone, quietFrom, quietTo, digestAt }) => ({
			personId,
			zone,
			digest: digestAt,
			quiet:
				quietFrom === null || quietTo === null ? null : { fromMinute: quietFrom, toMinute: quietTo }
		}))
	};
}

const loadRoster = async (db: Query): Promise<Roster> => makeRoster(await readRosterRows(db));

/** The whole roster as it is now, row by row. */
export async function readRosterRows(db: Query): Promise<RosterRows> {
	return {
		contacts: await readAll(db, contactMaker, 'FROM contact_now ORDER BY student_id, person_id'),
		sections: await db.all<Section>(
			`SELECT section.id, course_id AS courseId, school_id AS schoolId, term_id AS termId,
				section.name FROM section_now AS section JOIN course ON course.id = course_id`
		),
		enrolments: await readAll(
			db,
			enrolmentMaker,
			`FROM enrolment_now JOIN person_now AS person ON person.id = student_id
			ORDER BY section_id, family_name, given_name, person.id`
		),
		sectionStaff: await db.all<SectionStaff>(
			`SELECT section_id AS sectionId, person_id AS personId FROM section_staff ORDER BY section_id, person_id`
		),
		groupMembers: await readMany<GroupMember>(
			db,
			'group_id, person_id',
			`FROM group_member JOIN person_now AS person ON person.id = person_id
			JOIN school_group_now ON school_group_now.id = group_id
			ORDER BY group_id, family_name, given_name, person.id`,
			([groupId, personId]) => ({ groupId: groupId as number, personId: personId as number })
		),
		householdMembers: await readAll(db, householdMemberMaker, 'FROM household_member'),
		staffRoles: await db.all<StaffRole>(
			`SELECT person_id AS personId, school_id AS schoolId, role FROM staff ORDER BY person_id`
		),
		...(await loadOwn(db, null))
	};
}

import { scope } from '../../access/may';
import { rights, rolePlaces, whereOf, type User } from '../../access/rights';
import { sessionsOf } from '../../access/sessions';
import { studentsAllowed } from '../../access/allowed';
import { userById } from '../../access/user';
import { outsideName } from '../../db/models/access';
import { jobOffset, now } from '../../clock';
import type { Query } from '../../db/open';
import {
	roleWords,
	type AccountLine,
	type AccountView,
	type RightSaid,
	type RoleLine
} from './types';
import { rightWords, whereWords } from './words';

type Row = Omit<AccountLine, 'roles' | 'factor' | 'state'> & {
	readonly factor: number;
	readonly closedAt: number | null;
	readonly goneAt: number | null;
	readonly invitedUntil: number | null;
	readonly roles: string;
	readonly email: string | null;
};

type StoredRole = Omit<RoleLine, 'state' | 'name' | 'place'> & {
	readonly placeName: string | null;
	readonly ofSection: number;
};

function stateOf({ userName, closedAt, goneAt, invitedUntil }: Row): AccountLine['state'] {
	if (goneAt !== null) return 'gone';
	if (closedAt !== null) return 'closed';
	if (userName !== null) return 'open';
	return (invitedUntil ?? 0) > Date.now() ? 'invited' : 'invitation-over';
}

async function accountRows(db: Query, only: number | null): Promise<Row[]> {
	return db.all<Row>(
		`SELECT person.id AS personId, given_name || ' ' || family_name AS name, user_name AS userName,
			coalesce(title, '') AS title, closed_at AS closedAt, gone_at AS goneAt,
			(SELECT max(seen_at) + ${jobOffset} FROM session WHERE person_id = person.id) AS seenAt,
			EXISTS (SELECT 1 FROM second_factor WHERE person_id = person.id AND confirmed_at IS NOT NULL) AS factor,
			(SELECT max(ends_at) FROM account_link WHERE person_id = person.id AND kind = 'invite' AND used_at IS NULL) AS invitedUntil,
			(SELECT value FROM address WHERE person_id = person.id AND way = 'email' ORDER BY failing IS NOT NULL, id LIMIT 1) AS email,
			(SELECT json_group_array(json_object('id', role.id, 'role', role, 'ofSection', role.section_id IS NOT NULL,
				'placeName', coalesce(section.name, school.name), 'startsAt', starts_at, 'endsAt', ends_at))
				FROM role LEFT JOIN section ON section.id = role.section_id LEFT JOIN school ON school.id = role.school_id
				WHERE role.person_id = person.id) AS roles
		FROM person LEFT JOIN sign_in ON sign_in.person_id = person.id
		WHERE (sign_in.person_id IS NOT NULL OR person.id IN (SELECT person_id FROM account_link WHERE kind = 'invite' AND used_at IS NULL))
			${only === null ? '' : 'AND person.id = $only'}
		ORDER BY closed_at IS NOT NULL, family_name, given_name`,
		only === null ? {} : { only }
	);
}

function lineOf(row: Row, time: number): AccountLine {
	const { personId, name, userName, title, seenAt } = row;
	const roles = (JSON.parse(row.roles) as StoredRole[]).map(
		({ placeName, ofSection, ...r }): RoleLine => ({
			...r,
			name: roleWords[r.role].name,
			place:
				rolePlaces[r.role].byRoster && ofSection === 0
					? 'the sections of the roster'
					: (placeName ?? 'the whole district'),
			state: r.startsAt > time ? 'coming' : r.endsAt !== null && r.endsAt <= time ? 'over' : 'now'
		})
	);
	return {
		...{ personId, name, userName, title, seenAt },
		...{ roles: roles.sort((a, b) => a.startsAt - b.startsAt || a.id - b.id) },
		...{ factor: row.factor === 1, state: stateOf(row) }
	};
}

/** Everybody who works here, who was invited, and whose account is closed. */
export async function accountList(db: Query): Promise<AccountLine[]> {
	const time = await now(db);
	return (await accountRows(db, null)).map((row) => lineOf(row, time));
}

const mostNamed = 12;

/** What somebody sees, counted by the same conditions that show it to them. */
async function seesOf(db: Query, user: User): Promise<AccountView['sees']> {
	const seen = scope(user);
	const count = async (from: string, { sql, bind }: typeof seen.kept) =>
		(await db.one<{ n: number }>(`SELECT count(*) AS n FROM ${from} AND ${sql}`, bind))!.n;
	const sections =
		'section_now AS section JOIN course ON course.id = course_id JOIN term ON term.id = term_id WHERE 1';
	const students = await studentsAllowed(db, user, 'see');
	const all = async () =>
		(await db.one<{ n: number }>(`SELECT count(*) AS n FROM person_now WHERE kind = 'student'`))!.n;
	const named = await db.all<{ name: string }>(
		`SELECT section.name FROM ${sections} AND ${seen.sections.sql}
		ORDER BY term.starts_on DESC, section.name LIMIT ${mostNamed}`,
		seen.sections.bind
	);
	return {
		sections: await count(sections, seen.sections),
		students: students === null ? await all() : students.length,
		people: await count('person_now AS person WHERE 1', seen.people('person.id')),
		dispatches: await count(`dispatch WHERE state != 'draft'`, seen.dispatches),
		conversations: await count('conversation WHERE 1', seen.conversations),
		named: named.map((n) => n.name)
	};
}

async function rightsOf(db: Query, user: User): Promise<RightSaid[]> {
	const names = async (sql: string) =>
		new Map((await db.all<{ id: number; name: string }>(sql)).map((r) => [r.id, r.name]));
	const schools = await names('SELECT id, name FROM school');
	const sections = await names(
		`SELECT id, name FROM section WHERE id IN (SELECT section_id FROM role WHERE section_id IS NOT NULL)`
	);
	return rights
		.filter((right) => user.rights[right] !== undefined)
		.map((right) => ({
			right,
			words: rightWords[right],
			where: whereWords(
				whereOf(user, right),
				(id) => schools.get(id) ?? 'a school',
				(id) => sections.get(id) ?? 'a section'
			)
		}));
}

/** One who works here, with what they see; null where there is no such account. */
export async function accountView(
	db: Query,
	looks: User,
	personId: number
): Promise<AccountView | null> {
	const [row] = await accountRows(db, personId);
	if (!row) return null;
	const user = await userById(db, personId);
	return {
		...lineOf(row, await now(db)),
		email: row.email,
		sessions: await sessionsOf(db, personId),
		outside: (await db.rows(outsideName).one({ personId })) !== undefined,
		rights: user ? await rightsOf(db, user) : [],
		sees: user ? await seesOf(db, user) : null,
		self: personId === looks.personId
	};
}

import { joinLanguages, joinPhrases } from '../../../core/copy/join-phrases';
import { nameOfLanguage } from '../../../core/copy/language';
import { fold } from '../../../core/format/fold';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { groupJoined } from './open-groups';
import type { JoinerLine, JoiningHead, JoiningView } from './types';
import { waysIn, type Outside } from './ways-in';

type Row = Omit<JoinerLine, 'claim' | 'student' | 'fitting'> & {
	readonly studentSaid: string;
	readonly claimRefused: number;
	readonly studentId: number | null;
	readonly student: string | null;
};

/** So many are shown; a group of more is a list to be had as CSV. */
const mostShown = 2_000;
const mostFitting = 5;
/** Whoever was asked and has not answered for so long is not shown any more, ms: anybody can type any address. */
const unansweredMs = 7 * 86_400_000;

/** Students whom the user may see and whose name is one that somebody said. */
async function fittingStudents(
	db: Db,
	user: User,
	names: readonly string[]
): Promise<Map<string, JoinerLine['fitting'][number][]>> {
	const found = new Map<string, JoinerLine['fitting'][number][]>();
	if (names.length === 0) return found;
	const seen = scope(user).people('person.id');
	const rows = await db.all<{ id: number; name: string; note: string }>(
		`SELECT person.id, given_name || ' ' || family_name AS name,
			coalesce('grade ' || grade_level || ', ', '') || coalesce(short_name, '') AS note
		FROM person_now AS person LEFT JOIN school ON school.id = school_id
		WHERE kind = 'student' AND ${seen.sql}
			AND family_name COLLATE NOCASE IN (SELECT value FROM json_each($last))`,
		{ ...seen.bind, last: JSON.stringify(names.flatMap(lastNames)) }
	);
	for (const row of rows) {
		const key = fold(row.name);
		found.set(key, [...(found.get(key) ?? []), row]);
	}
	return found;
}

/** What may be the family's name of a name as it was said: each ending of it. */
const lastNames = (name: string): string[] => {
	const words = name.split(' ');
	return words.map((_, i) => words.slice(i).join(' '));
};

/** Whoever was asked and has not answered for long is counted and shown no more. */
const shown = `(joining.state != 'asked' OR asked_at > $lately)`;
const latelyOf = async (db: Db): Promise<number> => Math.round(await now(db)) - unansweredMs;

/** How a group is joined, and how many are how far; null where the user does not look after it. */
export async function joiningHead(
	db: Db,
	user: User,
	groupId: number,
	outside: Outside
): Promise<JoiningHead | null> {
	const own = scope(user).groups;
	const head = await db.one<Pick<JoiningHead, 'id' | 'name' | 'goneAt'>>(
		`SELECT id, name, gone_at AS goneAt FROM school_group WHERE id = $groupId AND ${own.sql}`,
		{ groupId, ...own.bind }
	);
	if (!head) return null;
	const group = await groupJoined(db, groupId);
	const counted = await db.all<{ state: JoinerLine['state']; n: number }>(
		`SELECT state, count(*) AS n FROM joining WHERE group_id = $groupId AND ${shown} GROUP BY state`,
		{ groupId, lately: await latelyOf(db) }
	);
	return {
		...head,
		ways: await waysIn(db, outside, group),
		over: group.over,
		counts: {
			...{ invited: 0, asked: 0, in: 0, left: 0, removed: 0 },
			...Object.fromEntries(counted.map(({ state, n }) => [state, n]))
		}
	};
}

/** Who joined a group, asked to, was invited or has left; null where the user does not look after it. */
export async function joiningView(
	db: Db,
	user: User,
	groupId: number,
	outside: Outside
): Promise<JoiningView | null> {
	const seen = scope(user).people('joining.person_id');
	const head = await joiningHead(db, user, groupId, outside);
	if (!head) return null;
	const rows = await db.all<Row>(
		`SELECT joining.id, joining.name, way, address, how, joining.state, asked_at AS askedAt,
			joined_at AS joinedAt, ended_at AS endedAt, byWhom.given_name || ' ' || byWhom.family_name AS "by",
			iif(person_id IS NOT NULL AND ${seen.sql}, person_id, NULL) AS personId,
			student_said AS studentSaid, claim_refused AS claimRefused, student_id AS studentId,
			student.given_name || ' ' || student.family_name AS student,
			(SELECT iif(state = 'failed', detail, NULL) FROM auto_note WHERE joining_id = joining.id
				ORDER BY auto_note.id DESC LIMIT 1) AS trouble
		FROM joining LEFT JOIN person AS byWhom ON byWhom.id = by_id LEFT JOIN person AS student ON student.id = student_id
		WHERE group_id = $groupId AND ${shown}
		ORDER BY coalesce(joined_at, asked_at) DESC, joining.id DESC LIMIT ${mostShown}`,
		{ groupId, lately: await latelyOf(db), ...seen.bind }
	);
	const open = (r: Row) =>
		r.state === 'in' && r.studentSaid !== '' && r.studentId === null && r.claimRefused === 0;
	const fitting = await fittingStudents(
		db,
		user,
		rows.filter(open).map((r) => r.studentSaid)
	);
	const { language } = await readDistrict(db);
	return {
		...head,
		lines: rows.map(({ studentSaid, claimRefused, studentId, student, ...line }) => ({
			...line,
			claim:
				studentSaid === '' || studentId !== null
					? null
					: { words: studentSaid, refused: claimRefused === 1 },
			student: studentId === null ? null : { id: studentId, name: student ?? '' },
			fitting: (fitting.get(fold(studentSaid)) ?? []).slice(0, mostFitting)
		})),
		languages: joinLanguages.map((tag) => ({ tag, name: nameOfLanguage(tag) })),
		language: joinPhrases(language).tag
	};
}

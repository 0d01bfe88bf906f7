import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { erasedName } from './erasing';
import type { FilePart, WholeFile } from './types';

/** What is asked for each part of somebody’s file; `$id` is the person. Columns are named as people read them; `at` and what ends in `At` are instants. */
const parts: readonly (readonly [name: string, about: string, sql: string])[] = [
	[
		'Who they are',
		'What the district knows them by.',
		`SELECT kind, given_name AS givenName, family_name AS familyName, language, identifier, school.name AS school, grade_level AS grade,
			iif(has_inbox, 'yes', 'no') AS inbox, since AS since_at, gone_at AS gone_at
		FROM person LEFT JOIN school ON school.id = school_id WHERE person.id = $id`
	],
	[
		'Addresses',
		'Where they are written to, and what they said of it.',
		`SELECT way, value AS address, consent, consent_how AS how, consent_said AS said, consent_at AS said_at, failing, failing_since AS failing_at
		FROM address WHERE person_id = $id ORDER BY id`
	],
	[
		'Who belongs to them',
		'Students and the people to them.',
		`SELECT given_name || ' ' || family_name AS name, relation, iif(guardian, 'yes', 'no') AS guardian,
			CASE custody WHEN 1 THEN 'yes' WHEN 0 THEN 'no' ELSE 'not said' END AS custody, iif(correspondence, 'yes', 'no') AS correspondence,
			iif(emergency, 'yes', 'no') AS emergency, contact.since AS since_at, contact.gone_at AS gone_at
		FROM contact JOIN person ON person.id = iif(student_id = $id, person_id, student_id) WHERE student_id = $id OR contact.person_id = $id`
	],
	[
		'Households',
		'Where they live, by name.',
		`SELECT name, since AS since_at, gone_at AS gone_at FROM household JOIN household_member ON household_id = household.id WHERE person_id = $id`
	],
	[
		'Sections, groups and schools',
		'Where they learn or work.',
		`SELECT 'section' AS what, section.name, term.name AS term, enrolment.since AS since_at, enrolment.gone_at AS gone_at FROM enrolment
			JOIN section ON section.id = section_id JOIN term ON term.id = term_id WHERE student_id = $id
		UNION ALL SELECT 'teaches', section.name, term.name, NULL, NULL FROM section_staff JOIN section ON section.id = section_id
			JOIN term ON term.id = term_id WHERE person_id = $id
		UNION ALL SELECT 'group', name, kind, since, NULL FROM group_member JOIN school_group ON school_group.id = group_id WHERE person_id = $id
		UNION ALL SELECT 'works as', role, coalesce(school.name, 'the district'), NULL, NULL FROM staff LEFT JOIN school ON school.id = school_id WHERE person_id = $id
		UNION ALL SELECT 'open group, ' || state, school_group.name, how, joined_at, ended_at FROM joining JOIN school_group ON school_group.id = group_id WHERE person_id = $id`
	],
	[
		'Markers',
		'Facts that are kept of a student.',
		`SELECT marker.name, value, how, marked.since AS since_at FROM marked JOIN marker ON marker.id = marker_id WHERE student_id = $id`
	],
	[
		'Boards',
		'What they read on a board, and which boards they follow by an address of their own.',
		`SELECT 'read' AS what, dispatch.subject AS about, board_read.at AS at FROM board_read JOIN dispatch ON dispatch.id = dispatch_id WHERE person_id = $id
		UNION ALL SELECT 'follows', board_link.kind, made_at FROM board_link WHERE person_id = $id`
	],
	[
		'Invitations',
		'What they said to invitations, for themselves or for those they live with.',
		`SELECT dispatch.subject, coming_said.at AS at, coming_said.how, coming_said.comes, coming_said.people, coming_said.students, coming_said.seated
		FROM coming_said JOIN coming ON coming.id = coming_id JOIN dispatch ON dispatch.id = dispatch_id
		WHERE coming_said.by_id = $id OR coming.person_id = $id ORDER BY coming_said.id`
	],
	[
		'What they chose',
		'Kinds of letters they want none of by a way, and hours of their own.',
		`SELECT kind || 's by ' || way AS declined, NULL AS zone, NULL AS digest FROM declined WHERE person_id = $id
		UNION ALL SELECT NULL, zone, digest_at FROM own_time WHERE person_id = $id`
	],
	[
		'What was sent to them',
		'Every copy, with what became of it.',
		`SELECT dispatch.subject, delivery.way, delivery.address, delivery.state, delivery.strength AS evidence, left_at AS left_at, read_at AS read_at
		FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE delivery.person_id = $id ORDER BY delivery.id`
	],
	[
		'What was sent about them',
		'Copies to others that speak of this student.',
		`SELECT dispatch.subject, delivery.way, delivery.state, left_at AS left_at, read_at AS read_at FROM delivery_student
		JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id WHERE student_id = $id ORDER BY delivery.id`
	],
	[
		'Evidence',
		'What happened to the copies that went to them.',
		`SELECT event.at, dispatch.subject, delivery.way, event.kind, event.detail, event.said FROM event JOIN delivery ON delivery.id = delivery_id
		JOIN dispatch ON dispatch.id = dispatch_id WHERE delivery.person_id = $id ORDER BY event.id`
	],
	[
		'Spoken to',
		'That somebody spoke to their family, since nothing had reached it.',
		`SELECT spoken_to.at AS at, words FROM spoken_to WHERE student_id = $id
			OR household_id IN (SELECT household_id FROM household_member WHERE person_id = $id) ORDER BY spoken_to.id`
	],
	[
		'How they read',
		'What was learned of it last, by way: the share of copies that is read, out of how many.',
		`SELECT habit.way, habit.share, habit.copies, habit.read, reading_model.at AS at FROM habit
		JOIN reading_model ON reading_model.id = model_id WHERE person_id = $id ORDER BY habit.way`
	],
	[
		'What was to be expected',
		'The chance that somebody would have read for this student in time, as it was forecast.',
		`SELECT dispatch.subject, forecast_chance.chance, forecast.made_at AS made_at, forecast.by_at AS by_at FROM forecast_chance
		JOIN forecast ON forecast.dispatch_id = forecast_chance.dispatch_id JOIN dispatch ON dispatch.id = forecast.dispatch_id
		WHERE person_id = $id ORDER BY forecast.dispatch_id`
	],
	[
		'Left out',
		'Dispatches of which they got no copy, and why.',
		`SELECT dispatch.subject, reasons, leaves_at AS left_at FROM left_out JOIN dispatch ON dispatch.id = dispatch_id WHERE person_id = $id ORDER BY left_out.id`
	],
	[
		'What they wrote',
		'Answers by every way.',
		`SELECT answer.at, answer.way, answer.from_address AS address, answer.subject, answer.text AS words FROM answer
		JOIN conversation ON conversation.id = conversation_id WHERE conversation.person_id = $id ORDER BY answer.id`
	],
	[
		'What was changed of them',
		'By hand, and by files.',
		`SELECT person_change.at, field, before, after, coalesce(given_name || ' ' || family_name, roster_file.name) AS "by" FROM person_change
		LEFT JOIN person ON person.id = person_change.by_id LEFT JOIN roster_file ON roster_file.id = file_id WHERE person_id = $id ORDER BY person_change.id`
	],
	[
		'Links to their inbox',
		'Given, asked for, and ended.',
		`SELECT 'ends' AS what, ends_at AS ends_at FROM family_link WHERE person_id = $id UNION ALL SELECT 'ended', at FROM link_end WHERE person_id = $id`
	],
	[
		'How they sign in',
		'Their account here, its roles and open sessions.',
		`SELECT 'account' AS what, user_name AS name, NULL AS began_at, closed_at AS ended_at FROM sign_in WHERE person_id = $id
		UNION ALL SELECT 'role', role, starts_at, ends_at FROM role WHERE person_id = $id
		UNION ALL SELECT 'name at the identity provider', issuer || ', ' || subject, since, NULL FROM outside_name WHERE person_id = $id
		UNION ALL SELECT 'session', browser || ', ' || address, began_at, ends_at FROM session WHERE person_id = $id`
	]
];

/** An instant as ISO 8601 has it, for whoever reads the file elsewhere. */
const read = (name: string, value: unknown): unknown =>
	(name === 'at' || name.endsWith('_at')) && typeof value === 'number'
		? value === 0
			? null
			: new Date(value).toISOString()
		: value;

async function partOf(
	db: Query,
	id: number,
	[name, about, sql]: (typeof parts)[number]
): Promise<FilePart> {
	const rows = await db.all<Record<string, unknown>>(sql, { id });
	return {
		...{ name, about },
		lines: rows.map((row) =>
			Object.fromEntries(
				Object.entries(row)
					.filter(([, value]) => value !== null)
					.map(([column, value]) => [column.replace(/_at$/, ''), read(column, value)])
			)
		)
	};
}

/** Everything about one person; null where the user may not take it out. That it was taken out is written down. */
export async function wholeFile(db: Db, user: User, id: number): Promise<WholeFile | null> {
	if (!isAllowed(user, 'speak-for-district')) return null;
	const seen = scope(user).people('person.id', 'look-after');
	const who = await db.one<{ name: string }>(
		`SELECT trim(given_name || ' ' || family_name) AS name FROM person WHERE person.id = $id AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
	if (!who || who.name === erasedName) return null;
	const { name: district, zone, clock } = await readDistrict(db);
	const file: WholeFile = {
		...{ district, zone, clock, person: who.name, at: new Date(await now(db)).toISOString() },
		parts: await Promise.all(parts.map((part) => partOf(db, id, part)))
	};
	await db.write((tx) =>
		writeDown(tx, { act: 'went-out', by: user, to: ['person', id], after: { what: 'person' } })
	);
	return file;
}

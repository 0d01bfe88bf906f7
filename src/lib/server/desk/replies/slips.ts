import type { Way } from '../../../core/roster/way';
import type { Doubt } from '../../../core/track/auto-answer';
import type { Query } from '../../db/open';
import type { Slip } from './types';

/** So much of what was written stands on a slip. */
const longest = 240;

interface Row {
	readonly id: number;
	readonly personId: number | null;
	readonly name: string | null;
	readonly number: string | null;
	readonly language: string | null;
	readonly relation: string | null;
	readonly way: Way;
	readonly at: number;
	readonly asideUntil: number | null;
	readonly unread: number;
	readonly text: string | null;
	readonly translated: string | null;
	readonly known: number | null;
	readonly fromAddress: string | null;
	readonly doubt: Doubt | null;
	readonly files: number;
	readonly pictures: number;
	readonly guests: string;
}

/** "mother of Tomás and Rui, aunt of Ana", in SQL: what the person of a conversation is to those it is about. */
const relationSql = `(SELECT group_concat(relation || ' of ' || names, ', ') FROM (
	SELECT relation, group_concat(given_name, ' and ') AS names FROM (
		SELECT DISTINCT student.id, student.given_name, contact.relation FROM delivery
		JOIN delivery_student ON delivery_id = delivery.id JOIN person AS student ON student.id = delivery_student.student_id
		JOIN contact ON contact.student_id = student.id AND contact.person_id = conversation.person_id
		WHERE delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id ORDER BY student.id)
	GROUP BY relation))`;

/** Conversations as slips, by id. */
export async function slipsOf(
	db: Query,
	ids: readonly number[]
): Promise<ReadonlyMap<number, Slip>> {
	if (ids.length === 0) return new Map();
	const rows = await db.all<Row>(
		`SELECT conversation.id, conversation.person_id AS personId, given_name || ' ' || family_name AS name, number,
			CASE WHEN language LIKE 'en%' THEN NULL ELSE language END AS language, ${relationSql} AS relation,
			conversation.way, coalesce(conversation.since, last_at) AS at, aside_until AS asideUntil, unread,
			substr(last.text, 1, ${longest}) AS text, substr(last.translated, 1, ${longest}) AS translated,
			last.known, last.from_address AS fromAddress, last.doubt,
			(SELECT count(*) FROM answer_file WHERE answer_id = last.id) AS files,
			(SELECT count(*) FROM answer_file WHERE answer_id = last.id AND width IS NOT NULL) AS pictures,
			(SELECT json_group_array(guest.given_name || ' ' || guest.family_name) FROM conversation_guest
				JOIN person AS guest ON guest.id = conversation_guest.person_id WHERE conversation_id = conversation.id) AS guests
		FROM conversation LEFT JOIN person ON person.id = conversation.person_id
		LEFT JOIN answer AS last ON last.id = (SELECT max(id) FROM answer WHERE conversation_id = conversation.id)
		WHERE conversation.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids) }
	);
	return new Map(
		rows.map((r): [number, Slip] => [
			r.id,
			{
				...{ id: r.id, personId: r.personId, who: r.name ?? r.number ?? '', way: r.way, at: r.at },
				relation: r.relation ?? '',
				language: r.language,
				...{ words: r.text ?? '', translated: r.translated, doubt: r.doubt },
				...{ files: r.files - r.pictures, pictures: r.pictures },
				...{ asideUntil: r.asideUntil, unread: r.unread === 1 },
				elsewhere: r.known === 0 && r.personId !== null ? r.fromAddress : null,
				guests: JSON.parse(r.guests) as string[]
			}
		])
	);
}

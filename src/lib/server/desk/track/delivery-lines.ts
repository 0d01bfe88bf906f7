import { addressText } from '../../../core/roster/address-text';
import { nameList } from '../../../core/copy/names';
import { judged, type EventKind, type Evidence, type Source } from '../../../core/track/evidence';
import { doubtWords, type Doubt } from '../../../core/track/auto-answer';
import type { Bind, Query } from '../../db/open';
import type { DeliveryLine } from './types';
import { groupBy } from '../../../core/group-by';
import type {
	DeliveryAlsoRow,
	DeliveryRow,
	DeliveryStudentRow,
	ReturnedMailRow
} from '../../db/models/delivery';
import type { PersonRow } from '../../db/models/roster';
import type { AnswerRow } from '../../db/models/talk';

/** What belongs to some deliveries, as lines show it, by delivery. */
async function belongings(db: Query, deliveryIds: readonly number[]) {
	const bind: Bind = { ids: JSON.stringify(deliveryIds) };
	const these = 'IN (SELECT value FROM json_each($ids))';
	const by = async <T extends { id: number }>(sql: string) =>
		groupBy(await db.all<T>(sql, bind), (row) => row.id);
	return {
		students: await by<{
			id: DeliveryStudentRow['deliveryId'];
			name: PersonRow['givenName'];
			relation: string | null;
		}>(
			`SELECT delivery_id AS id, given_name AS name, relation
			FROM delivery_student JOIN delivery ON delivery.id = delivery_id
			JOIN person ON person.id = delivery_student.student_id
			LEFT JOIN contact ON contact.student_id = delivery_student.student_id
				AND contact.person_id = delivery.person_id
			WHERE delivery_id ${these} ORDER BY given_name`
		),
		also: await by<{ id: DeliveryAlsoRow['deliveryId']; name: string }>(
			`SELECT delivery_id AS id, given_name || ' ' || family_name AS name
			FROM delivery_also JOIN person ON person.id = person_id WHERE delivery_id ${these}`
		),
		events: await by<Evidence & { id: number; kind: EventKind; source: Source }>(
			`SELECT delivery_id AS id, at, kind, source, strength, detail, said, tries, sign FROM event
			WHERE delivery_id ${these} ORDER BY at, event.id`
		),
		answers: await by<
			Pick<AnswerRow, 'at' | 'text'> & {
				id: DeliveryRow['id'];
				answerId: AnswerRow['id'];
				conversationId: AnswerRow['conversationId'];
				from: string;
				doubt: Doubt | null;
			}
		>(
			`SELECT delivery_id AS id, answer.id AS answerId, conversation_id AS conversationId, at, doubt, text,
				CASE WHEN from_name = '' THEN from_address ELSE from_name || ' <' || from_address || '>' END AS "from"
			FROM answer WHERE delivery_id ${these} ORDER BY at`
		),
		returned: await by<
			Pick<ReturnedMailRow, 'at' | 'words' | 'machine'> & { id: ReturnedMailRow['deliveryId'] }
		>(
			`SELECT delivery_id AS id, at, words, machine FROM returned_mail WHERE delivery_id ${these} ORDER BY at`
		)
	};
}

/** Some deliveries in the order of their ids as given. */
export async function deliveryLines(
	db: Query,
	deliveryIds: readonly number[]
): Promise<DeliveryLine[]> {
	const rows = await db.all<
		Pick<
			DeliveryRow,
			'id' | 'dispatchId' | 'personId' | 'way' | 'address' | 'state' | 'strength' | 'step' | 'dueAt'
		> & { kind: 'student' | 'adult'; person: string }
	>(
		`SELECT delivery.id, dispatch_id AS dispatchId, person_id AS personId, kind,
			given_name || ' ' || family_name AS person, way, address, state, strength, step, due_at AS dueAt
		FROM delivery JOIN person ON person.id = person_id
		WHERE delivery.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(deliveryIds) }
	);
	const { students, also, events, answers, returned } = await belongings(db, deliveryIds);
	const byId = new Map(rows.map((r) => [r.id, r]));
	return deliveryIds.flatMap((id) => {
		const row = byId.get(id);
		if (!row) return [];
		const { kind, ...shown } = row;
		const about = students.get(id) ?? [];
		return [
			{
				...shown,
				address: row.address === null ? null : addressText(row.way, row.address),
				students: nameList(about.map((s) => s.name)),
				relation:
					kind === 'student'
						? 'student'
						: [...new Set(about.flatMap((s) => s.relation ?? []))].join(', '),
				alsoFor: nameList((also.get(id) ?? []).map((a) => a.name)),
				evidence: judged(events.get(id) ?? []),
				answers: (answers.get(id) ?? []).map(
					({ answerId, conversationId, doubt, at, from, text }) => ({
						id: answerId,
						conversationId,
						at,
						from,
						text,
						doubt: doubt && doubtWords[doubt]
					})
				),
				returned: (returned.get(id) ?? []).map(({ at, words, machine }) => ({ at, words, machine }))
			}
		];
	});
}

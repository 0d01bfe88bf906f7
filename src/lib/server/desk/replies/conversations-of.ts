import { rowSet } from '../../db/many';
import type { ConversationRow } from '../../db/models/talk';
import type { Query } from '../../db/open';
import type { Way } from '../../../core/roster/way';

/** What something that came in belongs to: a copy of ours, a conversation there is, or the number of a phone that nobody has. */
export type About =
	| {
			readonly deliveryId: number;
			/** Who wrote, where that is known better than by the copy: on their own page, of a copy that others read too. */
			readonly personId?: number;
	  }
	| { readonly conversationId: number }
	| {
			readonly number: string;
			/** Whose it is, where it is one person's alone. */
			readonly personId: number | null;
	  };

/** A conversation as far as what comes in needs it. */
export type Talk = Pick<
	ConversationRow,
	'id' | 'dispatchId' | 'personId' | 'handlerId' | 'state' | 'asideUntil' | 'since' | 'alike'
> & { readonly unread: 0 | 1 };

const talkColumns = `conversation.id, conversation.dispatch_id AS dispatchId, conversation.person_id AS personId,
	handler_id AS handlerId, conversation.state, aside_until AS asideUntil, since, alike, unread`;

const fresh = `'settled', $at, 0`;

/** A copy, and who is meant by it; null for whom it was made for. */
interface OfCopy {
	readonly id: number;
	readonly person: number | null;
}
const copySet = rowSet('$rows', ['id', 'person']);
const copyMark = ({ id, person }: OfCopy): string => `${id} ${person ?? ''}`;

/** Makes the conversations about copies that are not there yet, of which each person and dispatch has one. */
async function makeAboutCopies(tx: Query, copies: readonly OfCopy[], at: number): Promise<void> {
	await tx.run(
		`INSERT INTO conversation (dispatch_id, person_id, section_id, school_id, handler_id, state, state_at, unread, way, last_at)
		SELECT dispatch.id, coalesce(asked.person, delivery.person_id),
			(SELECT section_id FROM delivery_student JOIN dispatch_student USING (student_id)
				WHERE delivery_id = delivery.id AND dispatch_student.dispatch_id = dispatch.id
				ORDER BY section_id IS NULL, student_id LIMIT 1),
			coalesce(dispatch.school_id, (SELECT school_id FROM delivery_student JOIN person ON person.id = student_id
				WHERE delivery_id = delivery.id ORDER BY student_id LIMIT 1)),
			dispatch.sender_id, ${fresh}, delivery.way, $at
		FROM ${copySet.table} AS asked JOIN delivery ON delivery.id = asked.id JOIN dispatch ON dispatch.id = delivery.dispatch_id
		WHERE delivery.id NOT IN (SELECT delivery_id FROM conversation_copy)
		ON CONFLICT DO NOTHING`,
		{ rows: copySet.json(copies), at }
	);
}

/** The conversations that copies of ours stand in or are answered in, by {@link copyMark}. */
async function aboutCopies(tx: Query, copies: readonly OfCopy[]): Promise<Map<string, Talk>> {
	const rows = await tx.all<Talk & { copyId: number; asked: number | null }>(
		`SELECT delivery.id AS copyId, asked.person AS asked, ${talkColumns}
		FROM ${copySet.table} AS asked JOIN delivery ON delivery.id = asked.id
		JOIN conversation ON conversation.id = coalesce(
			(SELECT conversation_id FROM conversation_copy WHERE delivery_id = delivery.id),
			(SELECT id FROM conversation AS c WHERE c.dispatch_id = delivery.dispatch_id
				AND c.person_id = coalesce(asked.person, delivery.person_id)))`,
		{ rows: copySet.json(copies) }
	);
	return new Map(
		rows.map(({ copyId, asked, ...talk }) => [copyMark({ id: copyId, person: asked }), talk])
	);
}

const numberSet = rowSet('$rows', ['number', 'way', 'person']);

/** The conversations of some things that came in, made where there are none yet; in the caller's transaction. Null for what belongs to nothing any more. */
export async function conversationsOf(
	tx: Query,
	abouts: readonly { readonly about: About; readonly way: Way }[],
	at: number
): Promise<(Talk | null)[]> {
	const copyOf = (about: About): OfCopy | null =>
		'deliveryId' in about ? { id: about.deliveryId, person: about.personId ?? null } : null;
	const copies = [
		...new Map(
			abouts.flatMap(({ about }) => {
				const copy = copyOf(about);
				return copy ? [[copyMark(copy), copy] as const] : [];
			})
		).values()
	];
	const numbers = abouts.flatMap(({ about, way }) =>
		'number' in about ? [{ number: about.number, way, person: about.personId }] : []
	);
	const ids = abouts.flatMap(({ about }) =>
		'conversationId' in about ? [about.conversationId] : []
	);
	if (copies.length > 0) await makeAboutCopies(tx, copies, at);
	if (numbers.length > 0) {
		await tx.run(
			`INSERT INTO conversation (number, way, person_id, school_id, state, state_at, unread, last_at)
			SELECT number, way, person, (SELECT school_id FROM contact_now AS contact JOIN person AS student ON student.id = student_id
				WHERE contact.person_id = person ORDER BY student_id LIMIT 1), ${fresh}, $at
			FROM ${numberSet.table} WHERE true ON CONFLICT (number) WHERE number IS NOT NULL DO UPDATE SET
				person_id = excluded.person_id, school_id = excluded.school_id WHERE person_id IS NULL`,
			{ rows: numberSet.json(numbers), at }
		);
	}
	const byCopy = copies.length > 0 ? await aboutCopies(tx, copies) : new Map<string, Talk>();
	const others =
		numbers.length + ids.length === 0
			? []
			: await tx.all<Talk & { number: string | null }>(
					`SELECT ${talkColumns}, number FROM conversation WHERE id IN (SELECT value FROM json_each($ids))
						OR number IN (SELECT value FROM json_each($numbers))`,
					{ ids: JSON.stringify(ids), numbers: JSON.stringify(numbers.map((n) => n.number)) }
				);
	const byId = new Map(others.map((talk) => [talk.id, talk]));
	const byNumber = new Map(others.map((talk) => [talk.number, talk]));
	return abouts.map(({ about }) => {
		const copy = copyOf(about);
		if (copy) return byCopy.get(copyMark(copy)) ?? null;
		return (
			('number' in about
				? byNumber.get(about.number)
				: 'conversationId' in about
					? byId.get(about.conversationId)
					: null) ?? null
		);
	});
}

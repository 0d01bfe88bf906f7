import { nextForReader } from '../../../core/plan/next-for-reader';
import type { WayOut } from '../../../core/roster/way';
import { readTimes } from '../../db/calendar';
import { membersOf, type Party } from '../../db/coming';
import { comingGuest, type ComingNoteKind, type ComingRow } from '../../db/models/coming';
import { autoNote } from '../../db/models/talk';
import type { Query } from '../../db/open';
import { askingDispatches, type Asked } from '../sheet/asked';

/** Somebody who can be told of an invitation, by a way that works for them, and the copy whose link they have. */
interface Reader {
	readonly personId: number;
	readonly name: string;
	readonly language: string;
	readonly way: WayOut;
	readonly address: string;
	readonly deliveryId: number | null;
	readonly zone: string | null;
	readonly quietFrom: number | null;
	readonly quietTo: number | null;
	/** JSON list. */
	readonly schoolIds: string;
}

/** In whose name a row speaks. */
const partyOfRow = ({
	householdId,
	personId,
	guestId
}: Pick<ComingRow, 'householdId' | 'personId' | 'guestId'>): Party =>
	householdId !== null
		? { kind: 'household', id: householdId }
		: personId !== null
			? { kind: 'person', id: personId }
			: { kind: 'guest', id: guestId! };

/**
 * Who of a party is told: whoever said it, else the first of those who were asked; by text where they allowed it, else
 * by mail. Nobody where none of them can be written to but on their page.
 */
async function readerOf(tx: Query, { id }: Asked, row: ComingRow): Promise<Reader | undefined> {
	const party = partyOfRow(row);
	if (party.kind === 'guest') return undefined;
	return tx.one<Reader>(
		`SELECT person.id AS personId, given_name || ' ' || family_name AS name, language, address.way, address.value AS address,
			(SELECT id FROM delivery WHERE dispatch_id IN ${askingDispatches} AND person_id = person.id AND link_hash IS NOT NULL
				AND left_at IS NOT NULL ORDER BY id DESC LIMIT 1) AS deliveryId,
			zone, quiet_from AS quietFrom, quiet_to AS quietTo,
			(SELECT json_group_array(DISTINCT school_id) FROM person AS student WHERE school_id IS NOT NULL AND (student.id = person.id
				OR student.id IN (SELECT student_id FROM contact_now WHERE contact_now.person_id = person.id))) AS schoolIds
		FROM person_now AS person JOIN address ON address.person_id = person.id
		LEFT JOIN own_time ON own_time.person_id = person.id
		WHERE person.id IN (SELECT value FROM json_each($members)) AND address.failing IS NULL
			AND (address.way = 'email' OR address.consent = 'in')
			AND (person.id = $by OR person.id IN (SELECT person_id FROM delivery WHERE dispatch_id IN ${askingDispatches}
				UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
					WHERE dispatch_id IN ${askingDispatches}))
		ORDER BY person.id = $by DESC, person.id, address.way = 'text' DESC, address.id LIMIT 1`,
		{
			dispatch: id,
			members: JSON.stringify(await membersOf(tx, party)),
			by: row.byId ?? 0
		}
	);
}

/** Tells whoever stood in line that they have their places now, not in hours that are quiet for them. */
export async function tellMovedUp(
	tx: Query,
	asked: Asked,
	row: ComingRow,
	at: number
): Promise<void> {
	if (row.guestId !== null) return tellGuest(tx, row.guestId, 'coming-up', at, row.id);
	const reader = await readerOf(tx, asked, row);
	if (!reader) return;
	const { quiet } = await readTimes(tx);
	const { way, address, name, language, deliveryId } = reader;
	await tx.rows(autoNote).add({
		...{ kind: 'coming-up', way, address, name, language, deliveryId, comingId: row.id },
		...{ madeAt: at, state: 'waiting' },
		dueAt: nextForReader(quiet, at, {
			...reader,
			schoolIds: JSON.parse(reader.schoolIds) as number[]
		})
	});
}

/** Writes to a guest from outside by itself. */
export async function tellGuest(
	tx: Query,
	guestId: number,
	kind: ComingNoteKind,
	at: number,
	comingId: number | null = null
): Promise<void> {
	const guest = (await tx.rows(comingGuest).one({ id: guestId }))!;
	await tx.rows(autoNote).add({
		...{ kind, way: 'email', address: guest.address, name: guest.name, language: guest.language },
		...{ guestId, comingId, madeAt: at, dueAt: at, state: 'waiting' }
	});
}

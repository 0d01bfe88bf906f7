import { knownAddress } from '../../../core/roster/roster';
import type { WayOut } from '../../../core/roster/way';
import { nameParts, type Joiner } from '../../../core/talk/joiner';
import { joining, type JoinHow, type JoiningRow } from '../../db/models/joining';
import type { Query } from '../../db/open';
import { person } from '../../db/models/roster';
import { personChange } from '../../db/models/rosters';
import { rosterChanged } from '../../db/roster';
import { stopWhatIsNotTheirs } from '../roster/not-theirs';
import { letWrite, personJoining } from './joined-person';
import { say } from './notes';
import type { OpenGroup } from './open-groups';

/** Somebody who asks to join: by which address, how, and what they have said of themselves so far. */
export interface Asking extends Joiner {
	readonly way: WayOut;
	/** As it is sent to: E.164, or a mail address. */
	readonly address: string;
	readonly how: Exclude<JoinHow, 'invited' | 'cards'>;
	readonly language: string;
	/** Message-ID of the letter by which they asked. */
	readonly answers?: string | null;
}

/** What every spelling of one mailbox or phone has in common. */
export const addressKeyOf = (way: WayOut, value: string): string =>
	knownAddress({ id: 0, personId: 0, way, value, consent: 'unknown', failing: null }).key;

/** The row of an address in a group; undefined where it has none. */
export const joiningAt = (
	tx: Query,
	groupId: number,
	addressKey: string
): Promise<JoiningRow | undefined> => tx.rows(joining).one({ groupId, addressKey });

/** Writes down that somebody asks, whatever became of them before; whoever the office took out stays out. */
export async function putAsking(
	tx: Query,
	group: OpenGroup,
	{ way, address, how, name, student, language }: Asking,
	at: number
): Promise<JoiningRow> {
	const addressKey = addressKeyOf(way, address);
	const before = await joiningAt(tx, group.id, addressKey);
	const said = { how, name, studentSaid: student, language, askedAt: at };
	let id = before?.id;
	if (id === undefined)
		id = await tx.rows(joining).add({
			...{ groupId: group.id, way, address, addressKey, state: 'asked' },
			...said
		});
	else if (before!.state !== 'removed' && before!.state !== 'in')
		await tx.rows(joining).change({ id }, { ...said, state: 'asked' });
	return (await tx.rows(joining).one({ id }))!;
}

/** Asks whoever wants to join to say so from the address itself; where that is settled already, says so. */
export async function askToJoin(
	tx: Query,
	group: OpenGroup,
	asking: Asking,
	at: number
): Promise<JoiningRow> {
	const row = await putAsking(tx, group, asking, at);
	const { answers = null } = asking;
	const kind =
		row.state === 'in'
			? 'welcome'
			: row.state === 'removed'
				? 'removed'
				: group.over
					? 'over'
					: asking.how === 'text'
						? 'ask-name'
						: 'ask';
	// Whoever types an address on a page is not told by a letter to it what became of it here.
	if (kind === 'removed' && asking.how === 'link') return row;
	await say(tx, row, kind, at, answers);
	return row;
}

const came = (group: string): string => `${group}, joined by its code`;

/** Lets somebody in who has said so from the address itself. False where the group takes in nobody, or not them, or they have come and gone often enough today. */
export async function letIn(
	tx: Query,
	group: OpenGroup,
	row: JoiningRow,
	{ name, student }: Joiner,
	at: number
): Promise<boolean> {
	if (group.over || row.state === 'removed') {
		await say(tx, row, group.over ? 'over' : 'removed', at);
		return false;
	}
	// Coming again is nothing new; and whoever comes and goes without end has everybody read the roster anew.
	if (row.state === 'in') return true;
	if (!(await say(tx, row, 'welcome', at))) return false;
	const { personId, madePerson } = await personJoining(tx, row, nameParts(name), at);
	await letWrite(tx, personId, row, group.name, at);
	await tx.rows(joining).change(
		{ id: row.id },
		{
			...{ state: 'in', name, studentSaid: student, personId, madePerson },
			...{ joinedAt: at, endedAt: null, byId: row.how === 'invited' ? row.byId : null },
			// What the office has said of whoever was in before says nothing of who comes now.
			...{ studentId: null, claimRefused: 0 }
		}
	);
	await tx.rows(personChange).add({ at, personId, field: 'group', after: came(group.name) });
	await rosterChanged(tx);
	return true;
}

/** Whether somebody who is here only since they joined is here for nothing else. */
const nothingElse = `NOT EXISTS (SELECT 1 FROM joining WHERE joining.person_id = person.id AND state = 'in')
	AND NOT EXISTS (SELECT 1 FROM contact_now WHERE contact_now.person_id = person.id)
	AND NOT EXISTS (SELECT 1 FROM staff WHERE staff.person_id = person.id)
	AND NOT EXISTS (SELECT 1 FROM group_member WHERE group_member.person_id = person.id)
	AND NOT EXISTS (SELECT 1 FROM sign_in WHERE sign_in.person_id = person.id)
	AND NOT EXISTS (SELECT 1 FROM known_as WHERE known_as.kind = 'person' AND row_id = person.id)`;

/** Ends what somebody has with groups: they left by themselves, or the office took them out. Whoever was on file for nothing else is there no longer; log and evidence stay. */
export async function endJoinings(
	tx: Query,
	rows: readonly JoiningRow[],
	{ state, byId = null }: { readonly state: 'left' | 'removed'; readonly byId?: number | null },
	at: number
): Promise<void> {
	const members = rows.filter((r) => r.state === 'in' && r.personId !== null);
	for (const { id } of rows)
		await tx
			.rows(joining)
			.change({ id }, { state, endedAt: at, ...(byId === null ? {} : { byId }) });
	await tx.run(
		`UPDATE auto_note SET state = 'failed', detail = 'not wanted any more'
		WHERE state = 'waiting' AND joining_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(rows.map((r) => r.id)) }
	);
	if (members.length === 0) return;
	const gone = await tx.all<{ id: number }>(
		`SELECT id FROM person_now AS person WHERE id IN (SELECT value FROM json_each($ids))
			AND EXISTS (SELECT 1 FROM joining WHERE joining.person_id = person.id AND made_person) AND ${nothingElse}`,
		{ ids: JSON.stringify(members.map((r) => r.personId)) }
	);
	for (const { id } of gone) await tx.rows(person).change({ id }, { goneAt: at });
	for (const { groupId, personId } of members) {
		const group = (await tx.one<{ name: string }>('SELECT name FROM school_group WHERE id = $id', {
			id: groupId
		}))!;
		await tx
			.rows(personChange)
			.add({ at, byId, personId: personId!, field: 'group', before: came(group.name) });
	}
	if (gone.length > 0) await stopWhatIsNotTheirs(tx, { lost: [], gone: gone.map((p) => p.id) });
	await rosterChanged(tx);
}

import { codeInText } from '../../../core/talk/group-code';
import { readJoiner } from '../../../core/talk/joiner';
import { readDistrict } from '../../db/district';
import { joining, type JoiningRow } from '../../db/models/joining';
import type { Query } from '../../db/open';
import { addressKeyOf, askToJoin, endJoinings, joiningAt, letIn } from './join';
import { languageAt } from './joined-person';
import { say } from './notes';
import { groupJoined, groupOfCode } from './open-groups';
import { joiningsWhere } from './rows';

const dayMs = 86_400_000;

/** So many single words a phone may send in a day that are no code: whoever tries codes is not answered any more. */
const mostTries = 20;

/** A text from a phone that may be about joining a group. */
interface FromPhone {
	/** E.164. */
	readonly from: string;
	readonly words: string;
}

const triedEnough = async (tx: Query, from: string, at: number): Promise<boolean> =>
	(await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM answer WHERE way = 'text' AND from_address = $from AND at > $since
			AND text NOT LIKE '% %'`,
		{ from, since: at - dayMs }
	))!.n >= mostTries;

/** The group a phone was asked for a name for within a day: the newest. */
async function askedForName(
	tx: Query,
	addressKey: string,
	at: number
): Promise<JoiningRow | undefined> {
	const row = await tx.one<{ id: number }>(
		`SELECT joining.id FROM joining JOIN auto_note ON joining_id = joining.id
		WHERE address_key = $addressKey AND joining.state = 'asked' AND kind = 'ask-name' AND made_at > $since
		ORDER BY auto_note.id DESC LIMIT 1`,
		{ addressKey, since: at - dayMs }
	);
	return row && tx.rows(joining).one({ id: row.id });
}

/**
 * What a text does about open groups: it is the code of one, or the answer to our question. A phone that
 * sends a code is asked for a name, and is in once it has said one; where the name was said on our page,
 * the code itself is the answer. In the caller's transaction. Null where the text is about something else.
 */
export async function joinByText(
	tx: Query,
	{ from, words }: FromPhone,
	at: number
): Promise<'code' | 'join' | null> {
	const phone = { way: 'text', address: from } as const;
	const addressKey = addressKeyOf('text', from);
	const key = codeInText(words);
	if (key !== null && !(await triedEnough(tx, from, at))) {
		const group = await groupOfCode(tx, key);
		if (group) {
			const before = await joiningAt(tx, group.id, addressKey);
			// Said on our page a short while ago, and by this answer from the phone itself.
			if (before?.state === 'asked' && before.name !== '' && at - before.askedAt < dayMs) {
				const said = { name: before.name, student: before.studentSaid };
				return (await letIn(tx, group, before, said, at)) ? 'join' : 'code';
			}
			await askToJoin(
				tx,
				group,
				{
					...{ ...phone, how: 'text', name: '', student: '' },
					language:
						before?.language ??
						(await languageAt(tx, { ...phone, addressKey })) ??
						(await readDistrict(tx)).language
				},
				at
			);
			return 'code';
		}
	}
	const asked = await askedForName(tx, addressKey, at);
	if (!asked) return null;
	const joiner = readJoiner(words);
	if (!joiner) {
		await say(tx, asked, 'ask-name', at);
		return null;
	}
	return (await letIn(tx, await groupJoined(tx, asked.groupId), asked, joiner, at))
		? 'join'
		: 'code';
}

/** STOP: the number is in no open group any more, asked into none, and told nothing more. In the caller's transaction. */
export async function leaveByText(tx: Query, from: string, at: number): Promise<void> {
	const key = addressKeyOf('text', from);
	// Also what is said to one whom an office took out, who leaves nothing.
	await tx.run(
		`UPDATE auto_note SET state = 'failed', detail = 'the phone answered STOP'
		WHERE state = 'waiting' AND joining_id IN (SELECT id FROM joining WHERE address_key = $key)`,
		{ key }
	);
	const rows = await joiningsWhere(
		tx,
		`address_key = $key AND state IN ('in', 'asked', 'invited')`,
		{ key }
	);
	await endJoinings(tx, rows, { state: 'left' }, at);
}

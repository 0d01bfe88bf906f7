import { z } from 'zod';
import { joinLanguages } from '../../../core/copy/join-phrases';
import { checkMailAddress } from '../../../core/format/mail-address';
import { readJoiner } from '../../../core/talk/joiner';
import type { User } from '../../access/user';
import { joining, type JoiningRow } from '../../db/models/joining';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { groupOfMine, noSuchGroup } from '../groups/change-group';
import { byHand, type Hand } from '../hand/by-hand';
import { addressKeyOf, joiningAt } from './join';
import { languageAt } from './joined-person';
import { say } from './notes';
import { groupJoined } from './open-groups';
import type { Invited } from './types';

/** More than anybody pastes at a time. */
const mostAtOnce = 500;
/** An invitation that was not answered may be repeated after so long, ms. */
const againMs = 7 * 86_400_000;

export const inviteSchema = z.object({
	addresses: z
		.string()
		.max(100_000, 'That is more than 500 addresses. Invite some of them at a time.')
		.refine((text) => text.trim() !== '', 'Write at least one mail address.'),
	language: z.enum(joinLanguages as [string, ...string[]])
});

/** "Ana Pires <ana@x.example>" or an address alone: the address, and the name where one is said. */
function readOne(text: string): { readonly address: string; readonly name: string } {
	const match = /^(.*)<([^<>]+)>$/.exec(text);
	const name = (match?.[1] ?? '').replace(/["']/g, '').trim();
	return { address: (match?.[2] ?? text).trim(), name: readJoiner(name)?.name ?? '' };
}

/** What somebody wrote into the field: a line, a comma or a semicolon between two. A comma within quotes is part of a name. */
const parts = (text: string): string[] =>
	(text.match(/(?:"[^"\n]*"|[^,;\n"])+/g) ?? []).map((p) => p.trim()).filter((p) => p !== '');

/** Why somebody who is known in the group is not invited; null where they are. */
function whyNot(
	{ state, askedAt }: Pick<JoiningRow, 'state' | 'askedAt'>,
	at: number
): string | null {
	switch (state) {
		case 'in':
			return 'is in already';
		case 'removed':
			return 'was taken out by the office; let it in again first';
		case 'left':
			return 'has left, or did not want to; they can come again by the code';
		case 'invited':
		case 'asked':
			return at - askedAt < againMs ? 'was asked within the last week' : null;
	}
}

/** Invites one address; why it was not. */
async function inviteOne(
	{ tx, at, user }: Hand,
	groupId: number,
	text: string,
	language: string
): Promise<string | null> {
	const { address: typed, name } = readOne(text);
	const mail = checkMailAddress(typed);
	if (!mail.ok) return `this is no mail address: ${mail.why}`;
	const addressKey = addressKeyOf('email', mail.value);
	const before = await joiningAt(tx, groupId, addressKey);
	const refused = before && whyNot(before, at);
	if (refused) return refused;
	const said = {
		how: 'invited',
		state: 'invited',
		askedAt: at,
		byId: user.personId,
		name,
		language: (await languageAt(tx, { way: 'email', address: mail.value, addressKey })) ?? language
	} as const;
	const id =
		before?.id ??
		(await tx
			.rows(joining)
			.add({ groupId, way: 'email', address: mail.value, addressKey, ...said }));
	if (before) await tx.rows(joining).change({ id }, said);
	return (await say(
		tx,
		{ id, groupId, addressKey, way: 'email', address: mail.value, language: said.language },
		'invite',
		at
	))
		? null
		: 'was written to often enough today';
}

/** Invites people by mail: each gets a letter with a link of their own. */
export async function invite(
	db: Db,
	user: User,
	groupId: number,
	{ addresses, language }: z.infer<typeof inviteSchema>
): Promise<Said<Invited>> {
	return byHand(db, user, async (hand): Promise<Said<Invited>> => {
		if ((await groupOfMine(hand, groupId)) === undefined) return noSuchGroup;
		if ((await groupJoined(hand.tx, groupId)).over)
			return { ok: false, why: 'The group takes in nobody any more: open it first.' };
		const wanted = [...new Set(parts(addresses))];
		if (wanted.length > mostAtOnce)
			return {
				ok: false,
				why: `${wanted.length} addresses are more than ${mostAtOnce}. Invite some of them at a time.`
			};
		const not: Invited['not'][number][] = [];
		let invited = 0;
		for (const text of wanted) {
			const why = await inviteOne(hand, groupId, text, language);
			if (why === null) invited += 1;
			else not.push({ line: text.slice(0, 200), why });
		}
		return { ok: true, invited, not };
	});
}

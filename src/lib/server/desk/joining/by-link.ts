import { z } from 'zod';
import { checkMailAddress } from '../../../core/format/mail-address';
import { isNumberOf, toE164 } from '../../../core/format/phone';
import { joinLanguages } from '../../../core/copy/join-phrases';
import { readCode, codeKey } from '../../../core/talk/group-code';
import { readJoiner } from '../../../core/talk/joiner';
import { rowOfToken, joinTokenFits } from '../../access/tokens';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { joining, type JoiningRow } from '../../db/models/joining';
import type { Db, Query } from '../../db/open';
import { saidStop } from '../../db/said-stop';
import { askToJoin, endJoinings, letIn, putAsking, type Asking } from './join';
import { mayAskMore } from './notes';
import { groupJoined, groupOfCode, type OpenGroup } from './open-groups';

const dayMs = 86_400_000;
/** How long a letter that asks, and an invitation, can be answered. */
const lastsMs = { asked: 7 * dayMs, invited: 30 * dayMs } as const;

/** What a form holds of somebody who joins; what is wrong is said in their language by the page. */
export const joinerSchema = z.object({
	name: z.string().trim().max(200).catch(''),
	student: z.string().trim().max(200).catch(''),
	language: z.enum(joinLanguages as [string, ...string[]]).catch('en')
});
export const joinFormSchema = joinerSchema.extend({
	way: z.enum(['email', 'text']).catch('email'),
	address: z.string().trim().max(320).catch('')
});

/** What went wrong, by the phrase that says it. */
export type JoinFault = 'noName' | 'noAddress' | 'noCode' | 'wait' | 'ended';

/** The group of a code as it is typed or stands in an address; null where there is none. */
export async function groupTyped(db: Query, typed: string): Promise<OpenGroup | null> {
	const read = readCode(typed.slice(0, 100));
	return read.ok ? groupOfCode(db, codeKey(read.code)) : null;
}

/** A name and a student's, each in its own field. */
function joinerOf({ name, student }: { name: string; student: string }) {
	const read = readJoiner(name);
	const other = student === '' ? '' : (readJoiner(student)?.name ?? null);
	return read === null || read.student !== '' || other === null
		? null
		: { name: read.name, student: other };
}

/** An address that can be asked, from what was typed; null where it is none. */
function askable(way: 'email' | 'text', typed: string, country: string): string | null {
	if (way === 'email') {
		const mail = checkMailAddress(typed);
		return mail.ok ? mail.value : null;
	}
	const number = toE164(typed, country);
	// Texts abroad cost, and are what whoever wants to make us pay asks for (common practice).
	return number !== null && isNumberOf(country, number) ? number : null;
}

/**
 * Somebody asks on our page to join: a letter or a text asks them whether it was they. The answer is the
 * same whatever is known of the address here.
 */
export async function askByLink(
	db: Db,
	typedCode: string,
	form: z.infer<typeof joinFormSchema>
): Promise<
	{ readonly ok: true; readonly to: string } | { readonly ok: false; readonly fault: JoinFault }
> {
	const no = (fault: JoinFault) => ({ ok: false, fault }) as const;
	const joiner = joinerOf(form);
	const { country } = await readDistrict(db);
	const address = askable(form.way, form.address, country);
	return db.write(async (tx) => {
		const at = Math.round(await now(tx));
		const group = await groupTyped(tx, typedCode);
		if (!group) return no('noCode');
		if (group.over) return no('ended');
		if (!joiner) return no('noName');
		if (address === null) return no('noAddress');
		if (!(await mayAskMore(tx, group.id, at))) return no('wait');
		const asking: Asking = {
			...{ way: form.way, address, how: 'link', language: form.language },
			...joiner
		};
		// Whoever has answered STOP is asked nothing; the code sent from the phone itself still lets them in.
		if (form.way === 'text' && (await saidStop(tx, address)))
			await putAsking(tx, group, asking, at);
		else await askToJoin(tx, group, asking, at);
		return { ok: true, to: address };
	});
}

/** Whoever holds a link of their own: what they were asked into, and how that stands. */
export interface OwnJoining {
	readonly row: JoiningRow;
	readonly group: OpenGroup;
	/** Whether it can still be answered. */
	readonly open: boolean;
}

/** What a link of somebody's own opens; null where it is none of ours. */
export async function openJoining(
	db: Query,
	key: Buffer,
	token: string
): Promise<OwnJoining | null> {
	const id = rowOfToken(token);
	const row = id === null ? undefined : await db.rows(joining).one({ id });
	if (!row || row.way !== 'email' || !joinTokenFits(key, token, row)) return null;
	const group = await groupJoined(db, row.groupId);
	const lasts = row.state === 'invited' ? lastsMs.invited : lastsMs.asked;
	const late =
		(row.state === 'asked' || row.state === 'invited') && (await now(db)) > row.askedAt + lasts;
	return { row, group, open: !late && !group.over && row.state !== 'removed' };
}

/** Whoever holds the link says that they join, with their name; null where that is done, else what is wrong. */
export async function joinByLink(
	db: Db,
	key: Buffer,
	token: string,
	form: z.infer<typeof joinerSchema>
): Promise<JoinFault | null> {
	const joiner = joinerOf(form);
	return db.write(async (tx) => {
		const own = await openJoining(tx, key, token);
		if (!own) return 'noCode';
		if (!own.open) return 'ended';
		if (!joiner) return 'noName';
		const at = Math.round(await now(tx));
		const row = { ...own.row, language: form.language };
		await tx.rows(joining).change({ id: row.id }, { language: form.language });
		return (await letIn(tx, own.group, row, joiner, at)) ? null : 'wait';
	});
}

/** Whoever holds the link leaves, or wants nothing of it. */
export async function leaveByLink(db: Db, key: Buffer, token: string): Promise<void> {
	await db.write(async (tx) => {
		const own = await openJoining(tx, key, token);
		if (!own || own.row.state === 'removed' || own.row.state === 'left') return;
		await endJoinings(tx, [own.row], { state: 'left' }, Math.round(await now(tx)));
	});
}

/** The languages that whoever joins is offered: those that the district offers, of those there are words in. */
export async function joinOffered(db: Query): Promise<readonly string[]> {
	const { languages } = await readDistrict(db);
	return joinLanguages.filter((tag) => languages.includes(tag));
}

/** The language a page begins in: what the browser asks for, then the district's. */
export async function languagesWanted(db: Query, header: string | null): Promise<string[]> {
	const asked = (header ?? '')
		.slice(0, 500)
		.split(',')
		.map((part) => part.split(';')[0]!.trim())
		.filter((tag) => /^[a-z]{1,8}(-[a-z0-9]{1,8})*$/i.test(tag));
	return [...asked, (await readDistrict(db)).language];
}

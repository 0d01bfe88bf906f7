import { z } from 'zod';
import { checkMailAddress } from '../../../core/format/mail-address';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { putNotices } from '../staff/notices';
import { putActs, type Done } from './act';

export const forwardSchema = z.object({
	answer: z.number().int().positive(),
	to: z.string().max(320)
});

/**
 * Sends a copy of what a family wrote to another address: the original stays where it is, always. The copy bears no
 * address of ours that would be answered to, and none of the family's.
 */
export async function forwardCopy(
	db: Db,
	user: User,
	conversationId: number,
	{ answer, to }: z.infer<typeof forwardSchema>
): Promise<Done> {
	const address = checkMailAddress(to);
	if (!address.ok) return { ok: false, why: `“${to}” is no mail address: ${address.why}.` };
	const seen = scope(user).conversations;
	return db.write(async (tx): Promise<Done> => {
		const row = await tx.one<{ text: string; who: string | null; subject: string; files: string }>(
			`SELECT text, given_name || ' ' || family_name AS who, coalesce(nullif(conversation.subject, ''), dispatch.subject, '') AS subject,
				(SELECT json_group_array(name) FROM answer_file WHERE answer_id = answer.id) AS files
			FROM answer JOIN conversation ON conversation.id = conversation_id LEFT JOIN dispatch ON dispatch.id = dispatch_id
			LEFT JOIN person ON person.id = conversation.person_id
			WHERE answer.id = $answer AND conversation.id = $conversationId AND ${seen.sql}`,
			{ answer, conversationId, ...seen.bind }
		);
		if (!row) return { ok: false, why: 'There is no such answer, or it is not yours to see.' };
		const at = Math.round(await now(tx));
		const files = JSON.parse(row.files) as string[];
		await putNotices(tx, [
			{
				key: `forward ${answer} ${address.key} ${at}`,
				personId: user.personId,
				kind: 'forward',
				subject: `Copy: ${row.subject}`,
				text: [
					`${user.name} sends you a copy of what ${row.who ?? 'a family'} wrote about “${row.subject}”:`,
					row.text || '(no words)',
					...(files.length > 0
						? [`With it came: ${files.join(', ')}. They stay with the school.`]
						: [])
				].join('\n\n'),
				address: address.value,
				dispatchId: null,
				byMail: true
			}
		]);
		await putActs(tx, [conversationId], 'forwarded', user.personId, at, { address: address.value });
		return { ok: true, n: 1 };
	});
}

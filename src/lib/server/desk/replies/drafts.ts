import { answer as answers } from '../../db/models/talk';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import type { TranslateGateway } from '../../gateway/translate';

/** A draft by the translator, or why there is none. */
export type AnswerDraft =
	{ readonly ok: true; readonly words: string } | { readonly ok: false; readonly why: string };

/** Plain words drafted in another language, paragraph by paragraph. */
export async function draftAnswer(
	gateway: TranslateGateway | null,
	words: string,
	from: string,
	to: string
): Promise<AnswerDraft> {
	if (!gateway) return { ok: false, why: 'No translation service is set up. Write it by hand.' };
	const lines = words.split('\n');
	const said = lines.flatMap((line, i) => (line.trim() === '' ? [] : [i]));
	const answer = await gateway.translate(
		said.map((i) => lines[i]!),
		from,
		to
	);
	if (!answer.ok) return { ok: false, why: `No draft from the translator: ${answer.why}.` };
	if (answer.texts.length !== said.length)
		return { ok: false, why: 'The translator’s draft cannot be used: parts of it are missing.' };
	const made = [...lines];
	said.forEach((line, i) => (made[line] = answer.texts[i]!));
	return { ok: true, words: made.join('\n') };
}

/** What a family wrote, drafted in English and kept beside what they wrote. */
export async function draftOfAnswer(
	db: Db,
	gateway: TranslateGateway | null,
	user: User,
	answerId: number
): Promise<AnswerDraft> {
	const seen = scope(user).conversations;
	const row = await db.one<{ text: string; language: string | null }>(
		`SELECT text, language FROM answer JOIN conversation ON conversation.id = conversation_id
		LEFT JOIN person ON person.id = conversation.person_id WHERE answer.id = $answerId AND ${seen.sql}`,
		{ answerId, ...seen.bind }
	);
	if (!row) return { ok: false, why: 'There is no such answer, or it is not yours to see.' };
	const drafted = await draftAnswer(gateway, row.text.slice(0, 10_000), row.language ?? 'en', 'en');
	if (drafted.ok)
		await db
			.rows(answers)
			.change({ id: answerId }, { translated: drafted.words, translatedTo: 'en' });
	return drafted;
}

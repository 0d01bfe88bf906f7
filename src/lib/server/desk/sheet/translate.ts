import { translatable } from '../../../core/copy/translatable';
import type { Words } from '../../../core/copy/words';
import type { TranslateGateway } from '../../gateway/translate';
import type { Drafted } from './types';

/** Lets the translation service draft words in another language. What it answers is taken only where every field and mark is still in its place. */
export async function draftTranslation(
	gateway: TranslateGateway | null,
	words: Words,
	from: string,
	to: string
): Promise<Drafted> {
	const instead = 'Write it by hand, or try again later. Nothing was changed.';
	if (!gateway) {
		return { ok: false, why: `No translation service is set up. ${instead}` };
	}
	const { texts, rebuild } = translatable(words);
	if (texts.length === 0) return { ok: false, why: 'There are no words to translate yet.' };
	const answer = await gateway.translate(texts, from, to);
	if (!answer.ok)
		return { ok: false, why: `No draft from the translator: ${answer.why}. ${instead}` };
	const made = rebuild(answer.texts);
	return made.ok
		? made
		: { ok: false, why: `The translator's draft cannot be used: ${made.why}. ${instead}` };
}

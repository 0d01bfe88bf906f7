import { inLanguage } from './language';
import { noteLength, type Note } from './note';
import { fillPhrase } from './phrases';

/** The fixed words around a note that is heard or seen. */
export interface NotePhrases {
	/** On the link to it; `{length}` is like "0:42". */
	readonly listen: string;
	readonly watch: string;
	/** Before what is said in it. */
	readonly said: string;
}

export const noteWords: Readonly<Record<string, NotePhrases>> = {
	en: {
		listen: 'Listen to it ({length})',
		watch: 'Watch it ({length})',
		said: 'What is said'
	},
	es: { listen: 'Escúchelo ({length})', watch: 'Véalo ({length})', said: 'Lo que se dice' },
	pt: { listen: 'Ouça ({length})', watch: 'Veja ({length})', said: 'O que é dito' },
	vi: { listen: 'Nghe ({length})', watch: 'Xem ({length})', said: 'Nội dung lời nói' },
	ar: { listen: 'استمع إليها ({length})', watch: 'شاهدها ({length})', said: 'ما يُقال فيها' }
};

/** The fixed words for a language; English where there are none. */
export const notePhrases = (language: string): NotePhrases =>
	inLanguage(noteWords, [language]).words;

/** "Listen to it (0:42)", in a language. */
export const noteLinkWords = (
	{ kind, ms }: Pick<Note, 'kind' | 'ms'>,
	language: string
): string => {
	const { listen, watch } = notePhrases(language);
	return fillPhrase(kind === 'voice' ? listen : watch, { length: noteLength(ms) });
};

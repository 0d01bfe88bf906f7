import { comingPhrases, type ComingPhrases } from './coming-phrases';
import { guestPhrases, type GuestPhrases } from './guest-phrases';
import { fillPhrase } from './phrases';

/** By which phrase it is said why an answer was not taken. */
const phraseOf = {
	'no-slot': 'noSlot',
	'no-people': 'noPeople',
	'too-many': 'tooMany',
	closed: 'closed',
	gone: 'gone',
	'no-room': 'noRoom',
	'too-often': 'tooOften',
	'no-name': 'noName',
	'no-address': 'noAddress',
	wait: 'wait'
} as const satisfies Record<string, keyof (ComingPhrases & GuestPhrases)>;

/** Why an answer to an invitation was not taken, in a language; `most` is how many can come together. */
export const comingFault = (why: keyof typeof phraseOf, language: string, most: number): string =>
	fillPhrase({ ...guestPhrases(language), ...comingPhrases(language) }[phraseOf[why]], {
		n: String(most)
	});

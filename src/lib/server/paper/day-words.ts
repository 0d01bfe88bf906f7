import { languageDirection } from '../../core/copy/direction';

/** An ISO date as a language says it; as it is where the language runs from right to left, since figures in it run the other way. */
export const dayWords = (language: string, day: string): string =>
	languageDirection(language) === 'rtl'
		? day
		: new Intl.DateTimeFormat(language === 'en' ? 'en-US' : language, {
				dateStyle: 'long',
				timeZone: 'UTC'
			}).format(Date.parse(`${day}T12:00:00Z`));

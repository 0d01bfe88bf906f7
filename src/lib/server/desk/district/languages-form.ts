import { z } from 'zod';
import { wordLanguages } from '../../../core/copy/fixed-words';
import { nameOfLanguage } from '../../../core/copy/language';
import type { District } from '../../db/district';
import type { Form } from './form';

/** Languages of families in many districts (common practice), beside those that our own words are in. */
const others = ['fr', 'ht', 'so', 'zh', 'ru', 'uk', 'de', 'ko', 'tl', 'hi', 'ur', 'fa'];

export const languageChoices = [...wordLanguages, ...others].map((value) => ({
	value,
	text: nameOfLanguage(value)
}));

/** The form of the languages that families are offered. */
export const languagesForm: Form<District> = {
	name: 'Languages',
	says: 'What a family can choose on its page, and whoever joins a group. Letters are in whatever languages they are written in; the words around them are ours.',
	fields: [
		{
			...{
				name: 'languages',
				label: `Families are offered (around letters in those after ${nameOfLanguage(wordLanguages.at(-1)!)}, our own words are in English)`,
				kind: 'many'
			},
			choices: languageChoices
		}
	],
	valuesOf: ({ languages }) => ({ languages }),
	schema: z.object({
		languages: z
			.array(z.string())
			.min(1, 'One language is offered at least.')
			.refine(
				(tags) => tags.every((tag) => languageChoices.some((c) => c.value === tag)),
				'Choose among the languages there are.'
			)
	}),
	look: (_db, _user, { languages }, { language }) =>
		Promise.resolve(
			languages?.includes(language) === false
				? `${nameOfLanguage(language)} is the language of everybody of whom no other is known, so it is offered too.`
				: null
		)
};

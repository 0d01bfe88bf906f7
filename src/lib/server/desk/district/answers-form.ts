import { z } from 'zod';
import type { District } from '../../db/district';
import { line } from '../hand/fields';
import type { Form } from './form';
import { number, words } from './form-fields';

/** The form of links, answers and evidence. */
export const answersForm: Form<District> = {
	name: 'Links, answers and evidence',
	says: 'Links that are out keep the time they were given; letters that leave from now on get the new one.',
	fields: [
		{
			name: 'linkDays',
			label: 'A private link opens the inbox for',
			kind: 'number',
			unit: 'days'
		},
		{
			...{ name: 'answerDays', label: 'A text from a phone is an answer to the last one for' },
			...{ kind: 'number', unit: 'days' }
		},
		{
			...{ name: 'stop', label: 'Words that stop texts, beside STOP', kind: 'words' },
			help: 'One on each line. Those that always do are obeyed as well.'
		},
		{ name: 'start', label: 'Words that start them again, beside START', kind: 'words' },
		{ name: 'help', label: 'Words that ask who writes, beside HELP', kind: 'words' },
		{
			...{ name: 'oneWay', label: 'Said to whoever answers an announcement', kind: 'line' },
			help: 'Beside that nobody reads it there, in every language as it stands: “Call your school’s office: 555-0100.”'
		},
		{
			...{ name: 'pictures', label: 'Emails hold a picture of one dot', kind: 'choice' },
			help: 'That it was loaded is weak evidence: mail systems load it by themselves.',
			choices: [
				{ value: 'yes', text: 'yes, and its loading is weak evidence' },
				{ value: 'no', text: 'no' }
			]
		}
	],
	valuesOf: ({ linkDays, textAnswerDays, textWords, oneWayWords, countPictures }) => ({
		oneWay: oneWayWords,
		linkDays: String(linkDays),
		answerDays: String(textAnswerDays),
		stop: textWords.stop.join('\n'),
		start: textWords.start.join('\n'),
		help: textWords.help.join('\n'),
		pictures: countPictures ? 'yes' : 'no'
	}),
	schema: z
		.object({
			linkDays: number('The time of a link', 1, 3650, 'days'),
			answerDays: number('The time for an answer', 1, 365, 'days'),
			stop: words('The words that stop texts'),
			start: words('The words that start texts'),
			help: words('The words that ask who writes'),
			oneWay: line('What is said to whoever answers', 160),
			pictures: z.enum(['yes', 'no'])
		})
		.refine(
			({ stop, start, help }) =>
				new Set([...stop, ...start, ...help]).size === stop.length + start.length + help.length,
			{ path: ['start'], message: 'A word means one thing: take it out of one of the lists.' }
		)
		.transform((v) => ({
			linkDays: v.linkDays,
			textAnswerDays: v.answerDays,
			textWords: { stop: v.stop, start: v.start, help: v.help },
			oneWayWords: v.oneWay,
			countPictures: v.pictures === 'yes'
		}))
};

import { IANAZone } from 'luxon';
import { z } from 'zod';
import { dayMarksLater } from '../../../core/time/zone';
import { holdMinutes } from '../../../core/time/hold';
import { districtSchema, type District } from '../../db/district';
import { roles } from '../../db/models/access';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { line } from '../hand/fields';
import { roleWords } from '../work/types';
import {
	clock,
	clockText,
	countryChoices,
	countrySchema,
	markFields,
	number,
	numberOrNone,
	ticked,
	words,
	zoneChoices
} from './form-fields';
import { languageChoices, languagesForm } from './languages-form';
import { letterheadForm } from './letterhead-form';
import type { ChapterCode, Field } from './types';

/** What the fields of a chapter hold, as a form has them. */
export type Values = Readonly<Record<string, string | readonly string[]>>;

/** A form of the settings: its fields, how they stand in what it is about, and how what is typed is read. */
export interface Form<T> {
	readonly name: string;
	/** What it is about, and from when a change acts. */
	readonly says: string;
	readonly fields: readonly Field[];
	readonly valuesOf: (of: T) => Values;
	/** Reads what is filled in: what of it becomes another. */
	readonly schema: z.ZodType<Partial<T>>;
	/** What the form alone cannot tell: why a change cannot be, or null. */
	readonly look?: (db: Query, user: User, change: Partial<T>, before: T) => Promise<string | null>;
}

const weekdayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const quietDayChoices = [
	{ value: 'never', text: 'leave on every day' },
	{ value: 'closures', text: 'wait on closures' },
	{ value: 'all', text: 'wait on every day without school' }
] as const;

export const chapters: Readonly<Record<ChapterCode, Form<District>>> = {
	district: {
		name: 'The district',
		says: 'Its name stands in every letter from now on. When the zone is changed, what is planned for 7:05 stays at 7:05 by the new clock.',
		fields: [
			{ name: 'name', label: 'Name of the district', kind: 'line' },
			{
				...{ name: 'zone', label: 'Zone of its clocks', kind: 'choice' },
				choices: zoneChoices
			},
			{
				...{ name: 'language', label: 'Language of everybody of whom no other is known' },
				kind: 'choice',
				choices: languageChoices
			},
			{
				...{ name: 'clock', label: 'A time of day is written', kind: 'choice' },
				choices: [
					{ value: '12', text: '2:15 pm' },
					{ value: '24', text: '14:15' }
				]
			},
			{
				...{ name: 'country', label: 'A number without a country’s code is read as in' },
				...{ kind: 'choice', choices: countryChoices }
			},
			{
				...{ name: 'weekStart', label: 'A week begins with', kind: 'choice' },
				choices: ['1', '7', '6'].map((value) => ({ value, text: weekdayNames[Number(value) - 1]! }))
			}
		],
		valuesOf: ({ name, zone, language, clock: style, country, weekStart }) => ({
			...{ name, zone, language, country },
			clock: style,
			weekStart: String(weekStart)
		}),
		schema: z.object({
			name: line('The name', 200).min(1, 'The name is empty. Write it.'),
			zone: z
				.string()
				.refine((zone) => IANAZone.isValidZone(zone), 'Choose the zone of its clocks.'),
			language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'Choose a language.'),
			clock: z.enum(['12', '24'], 'Choose how a time of day is written.'),
			country: countrySchema,
			weekStart: z
				.enum(['1', '6', '7'], 'Choose the day that a week begins with.')
				.transform((day) => Number(day) as 1 | 6 | 7)
		})
	},
	languages: languagesForm,
	quiet: {
		name: 'Quiet hours and school days',
		says: 'What is not urgent waits until they are over, by the clock of whoever reads. What is scheduled moves with them; urgent messages leave at any hour.',
		fields: [
			{ name: 'textFrom', label: 'Texts are quiet from', kind: 'clock' },
			{ name: 'textTo', label: 'Texts are quiet until', kind: 'clock' },
			{ name: 'mailFrom', label: 'Emails and the inbox are quiet from', kind: 'clock' },
			{ name: 'mailTo', label: 'Emails and the inbox are quiet until', kind: 'clock' },
			{
				...{ name: 'quietDays', label: 'Ordinary messages', kind: 'choice' },
				choices: quietDayChoices
			},
			{
				...{ name: 'weekdays', label: 'There is school on', kind: 'many' },
				choices: weekdayNames.map((text, i) => ({ value: String(i + 1), text }))
			},
			...markFields
		],
		valuesOf: ({ quiet, quietDays, schoolWeekdays, marks }) => ({
			...Object.fromEntries(markFields.map((f, i) => [f.name, clockText(marks[i]!)])),
			textFrom: clockText(quiet.text.fromMinute),
			textTo: clockText(quiet.text.toMinute),
			mailFrom: clockText(quiet.mail.fromMinute),
			mailTo: clockText(quiet.mail.toMinute),
			quietDays,
			weekdays: [...schoolWeekdays].sort().map(String)
		}),
		schema: z
			.object({
				textFrom: clock('The beginning of quiet for texts'),
				textTo: clock('The end of quiet for texts'),
				mailFrom: clock('The beginning of quiet for emails'),
				mailTo: clock('The end of quiet for emails'),
				quietDays: z.enum(['never', 'closures', 'all'], 'Say on which days messages wait.'),
				weekdays: ticked(['1', '2', '3', '4', '5', '6', '7']),
				dayBegins: clock('The beginning of the day'),
				schoolBegins: clock('The beginning of school'),
				schoolEnds: clock('The end of school'),
				eveningBegins: clock('The beginning of the evening'),
				dayEnds: clock('The end of the day')
			})
			.refine(({ weekdays }) => weekdays.length > 0, {
				path: ['weekdays'],
				message: 'There is school on one day of the week at least.'
			})
			.transform((v) => ({
				quiet: {
					text: { fromMinute: v.textFrom, toMinute: v.textTo },
					mail: { fromMinute: v.mailFrom, toMinute: v.mailTo }
				},
				quietDays: v.quietDays,
				schoolWeekdays: v.weekdays.map(Number),
				marks: [v.dayBegins, v.schoolBegins, v.schoolEnds, v.eveningBegins, v.dayEnds] as [
					...[number, number, number, number, number]
				]
			}))
			.refine(({ marks }) => dayMarksLater(marks), {
				path: ['dayBegins'],
				message: 'Of the times that part the day each is later than the one before.'
			})
	},
	letterhead: letterheadForm,
	sending: {
		name: 'Hold, pace, price and load',
		says: 'The hold is what Write offers from now on. The pace spreads what is scheduled anew; price and load are what Write and Week count with.',
		fields: [
			{
				...{ name: 'holdAnnouncement', label: 'Announcements are held', kind: 'number' },
				unit: 'minutes'
			},
			{ name: 'holdMessage', label: 'Messages are held', kind: 'number', unit: 'minutes' },
			{
				...{ name: 'paceEmail', label: 'Emails leave', kind: 'number', unit: 'a minute' },
				help: 'Empty for as many as the mail server takes.'
			},
			{
				...{ name: 'paceText', label: 'Texts leave', kind: 'number', unit: 'a minute' },
				help: 'Empty for as many as the provider takes.'
			},
			{
				...{ name: 'price', label: 'A part of a text costs', kind: 'number', unit: 'cents' },
				help: 'Empty where nobody has said.'
			},
			{
				...{ name: 'load', label: 'A day is heavy for a family with more than', kind: 'number' },
				unit: 'messages'
			}
		],
		valuesOf: ({ holds, pace, textPartCents, loadLimit }) => ({
			holdAnnouncement: String(holds.announcement),
			holdMessage: String(holds.message),
			paceEmail: pace.email === null ? '' : String(pace.email),
			paceText: pace.text === null ? '' : String(pace.text),
			price: textPartCents === 0 ? '' : String(textPartCents),
			load: String(loadLimit)
		}),
		schema: z
			.object({
				holdAnnouncement: number('The hold', 0, holdMinutes.most, 'minutes'),
				holdMessage: number('The hold', 0, holdMinutes.most, 'minutes'),
				paceEmail: numberOrNone('The pace of emails', 1, 1_000_000, 'a minute'),
				paceText: numberOrNone('The pace of texts', 1, 1_000_000, 'a minute'),
				price: z.union(
					[
						z.literal('').transform(() => 0),
						z
							.string()
							.trim()
							.regex(/^\d{1,4}([.,]\d{1,4})?$/)
							.transform((typed) => Number(typed.replace(',', '.')))
					],
					{ error: 'The price is a number of cents, as 0.9, or empty.' }
				),
				load: number('The load of a day', 1, 50, 'messages')
			})
			.transform((v) => ({
				holds: { announcement: v.holdAnnouncement, message: v.holdMessage },
				pace: { email: v.paceEmail, text: v.paceText },
				textPartCents: v.price,
				loadLimit: v.load
			}))
	},
	answers: {
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
	},
	files: {
		name: 'Files',
		says: 'For files that are put in from now on; what is in a sheet stays in it.',
		fields: [
			{ name: 'file', label: 'A file is taken up to', kind: 'number', unit: 'MB' },
			{
				...{ name: 'mail', label: 'Mail systems refuse a letter over', kind: 'number', unit: 'MB' },
				help: 'What is larger is a link in the letter. 25 is common practice.'
			}
		],
		valuesOf: ({ fileLimitMegabytes, mailLimitMegabytes }) => ({
			file: String(fileLimitMegabytes),
			mail: String(mailLimitMegabytes)
		}),
		schema: z
			.object({
				// What the web server takes at all is a little more (BODY_SIZE_LIMIT, 24 MB).
				file: number('The largest file', 1, 100, 'MB'),
				mail: number('The largest letter', 1, 200, 'MB')
			})
			.transform(({ file, mail }) => ({ fileLimitMegabytes: file, mailLimitMegabytes: mail }))
	},
	keeping: {
		name: 'How long things are kept',
		says: 'What is past its time goes at night, for good. What was counted stays counted: how many copies there were, how many were read and when. A school year is twelve months.',
		fields: [
			{
				name: 'words',
				label: 'Words of letters, and files in them',
				kind: 'number',
				unit: 'months'
			},
			{
				...{ name: 'evidence', label: 'What was said about each copy' },
				...{ kind: 'number', unit: 'months' },
				help: 'Replies of mail servers, reports that came back.'
			},
			{
				...{ name: 'addresses', label: 'Addresses that copies went to or came from' },
				...{ kind: 'number', unit: 'months' },
				help: 'Those on people’s files are the roster’s, and stay.'
			},
			{
				...{ name: 'answers', label: 'What families answered, and we to them' },
				...{ kind: 'number', unit: 'months' },
				help: 'A conversation that still waits is kept.'
			}
		],
		valuesOf: ({ keeping }) => ({
			words: String(keeping.words),
			evidence: String(keeping.evidence),
			addresses: String(keeping.addresses),
			answers: String(keeping.answers)
		}),
		schema: z
			.object({
				words: number('The time of words', 1, 600, 'months'),
				evidence: number('The time of evidence', 1, 600, 'months'),
				addresses: number('The time of addresses', 1, 600, 'months'),
				answers: number('The time of answers', 1, 600, 'months')
			})
			.transform((keeping) => ({ keeping }))
	},
	factor: {
		name: 'Second factor and sessions',
		says: 'Of whoever has one of these roles a code from an app is asked for after the password. Who has none yet sets it up before anything else opens, at their next request. A session ends when it was not used for a while, and after fourteen hours in any case.',
		fields: [
			{
				...{ name: 'roles', label: 'It is asked for of', kind: 'many' },
				choices: roles.map((value) => ({ value, text: roleWords[value].name }))
			},
			{
				...{ name: 'idle', label: 'A session ends when it was not used for', kind: 'number' },
				unit: 'hours'
			}
		],
		valuesOf: ({ factorFor, idleHours }) => ({
			roles: [...factorFor].sort(),
			idle: String(idleHours)
		}),
		schema: z
			.object({ roles: ticked(roles), idle: number('The time', 1, 14, 'hours') })
			.transform(({ roles: asked, idle }) => ({ factorFor: asked, idleHours: idle }))
	}
};

/** The district as it would be after a change of one chapter. */
export const changedDistrict = (district: District, change: Partial<District>): District =>
	districtSchema.parse({ ...district, ...change });

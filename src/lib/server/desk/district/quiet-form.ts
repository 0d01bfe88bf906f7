import { z } from 'zod';
import { dayMarksLater } from '../../../core/time/zone';
import type { District } from '../../db/district';
import type { Form } from './form';
import { clock, clockText, markFields, marksIn, ticked, weekdayNames } from './form-fields';

const quietDayChoices = [
	{ value: 'never', text: 'leave on every day' },
	{ value: 'closures', text: 'wait on closures' },
	{ value: 'all', text: 'wait on every day without school' }
] as const;

/** The form of quiet hours, days without school, and how a day is parted. */
export const quietForm: Form<District> = {
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
			marks: marksIn(v)
		}))
		.refine(({ marks }) => dayMarksLater(marks), {
			path: ['dayBegins'],
			message: 'Of the times that part the day each is later than the one before.'
		})
};

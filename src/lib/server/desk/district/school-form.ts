import { IANAZone } from 'luxon';
import { z } from 'zod';
import { dayMarksLater, type DayMarks } from '../../../core/time/zone';
import type { SchoolOwn } from '../../db/school-own';
import type { Form } from './form';
import { openChoices, openSchema } from './boards-form';
import { clock, clockText, markFields, marksIn, zoneChoices } from './form-fields';

/** What a school has of its own where nobody has said anything. */
export const nothingOwn: SchoolOwn = { zone: null, quiet: null, marks: null, openBoards: null };

const empty = z.literal('').transform(() => null);
const clockOrNone = (what: string) =>
	z.union([empty, clock(what)], { error: `${what} is a time of day, as 21:00, or empty.` });

/** The form of what a school has of its own. */
export const schoolForm = (name: string): Form<SchoolOwn> => ({
	name,
	says: 'What is left empty is as in the whole district. What is planned for 7:05 by this school’s clock stays at 7:05 when its zone is changed.',
	fields: [
		{
			...{ name: 'zone', label: 'Zone of its clocks', kind: 'choice' },
			choices: [{ value: '', text: 'as in the district' }, ...zoneChoices]
		},
		{ name: 'textFrom', label: 'Texts are quiet from', kind: 'clock' },
		{ name: 'textTo', label: 'Texts are quiet until', kind: 'clock' },
		{ name: 'mailFrom', label: 'Emails and the inbox are quiet from', kind: 'clock' },
		{ name: 'mailTo', label: 'Emails and the inbox are quiet until', kind: 'clock' },
		...markFields,
		{
			...{ name: 'openBoards', label: 'Boards', kind: 'choice' },
			choices: [{ value: '', text: 'as in the district' }, ...openChoices]
		}
	],
	valuesOf: ({ zone, quiet, marks, openBoards }) => ({
		zone: zone ?? '',
		openBoards: openBoards === null ? '' : openBoards ? 'yes' : 'no',
		textFrom: quiet ? clockText(quiet.text.fromMinute) : '',
		textTo: quiet ? clockText(quiet.text.toMinute) : '',
		mailFrom: quiet ? clockText(quiet.mail.fromMinute) : '',
		mailTo: quiet ? clockText(quiet.mail.toMinute) : '',
		...Object.fromEntries(markFields.map((f, i) => [f.name, marks ? clockText(marks[i]!) : '']))
	}),
	schema: z
		.object({
			zone: z.union(
				[
					empty,
					z.string().refine((zone) => IANAZone.isValidZone(zone), 'Choose the zone of its clocks.')
				],
				'Choose the zone of its clocks.'
			),
			textFrom: clockOrNone('The beginning of quiet for texts'),
			textTo: clockOrNone('The end of quiet for texts'),
			mailFrom: clockOrNone('The beginning of quiet for emails'),
			mailTo: clockOrNone('The end of quiet for emails'),
			dayBegins: clockOrNone('The beginning of the day'),
			schoolBegins: clockOrNone('The beginning of school'),
			schoolEnds: clockOrNone('The end of school'),
			eveningBegins: clockOrNone('The beginning of the evening'),
			dayEnds: clockOrNone('The end of the day'),
			openBoards: z.union([empty, openSchema], 'Choose for whom its boards are.').default(null)
		})
		.transform((v, context): SchoolOwn => {
			const hours = [v.textFrom, v.textTo, v.mailFrom, v.mailTo];
			const marks = marksIn(v);
			const whole = (all: readonly (number | null)[], path: string, message: string) => {
				const none = all.every((m) => m === null);
				if (!none && all.includes(null))
					context.addIssue({ code: 'custom', path: [path], message });
				return none ? null : all.map((m) => m ?? 0);
			};
			const own = whole(
				...([hours, 'textFrom'] as const),
				'Fill in all four quiet hours, or none of them.'
			);
			const parted = whole(
				...([marks, 'dayBegins'] as const),
				'Fill in all five times that part the day, or none of them.'
			) as DayMarks | null;
			if (parted && !marks.includes(null) && !dayMarksLater(parted))
				context.addIssue({
					...{ code: 'custom', path: ['dayBegins'] },
					message: 'Of the times that part the day each is later than the one before.'
				});
			return {
				zone: v.zone,
				marks: parted,
				openBoards: v.openBoards,
				quiet: own && {
					text: { fromMinute: own[0]!, toMinute: own[1]! },
					mail: { fromMinute: own[2]!, toMinute: own[3]! }
				}
			};
		})
});

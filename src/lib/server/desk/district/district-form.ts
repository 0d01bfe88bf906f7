import { IANAZone } from 'luxon';
import { z } from 'zod';
import type { District } from '../../db/district';
import { line } from '../hand/fields';
import type { Form } from './form';
import { countryChoices, countrySchema, zoneChoices, weekdayNames } from './form-fields';
import { languageChoices } from './languages-form';

/** The form of the district itself: its name, its clock, how it writes and reads. */
export const districtForm: Form<District> = {
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
		zone: z.string().refine((zone) => IANAZone.isValidZone(zone), 'Choose the zone of its clocks.'),
		language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'Choose a language.'),
		clock: z.enum(['12', '24'], 'Choose how a time of day is written.'),
		country: countrySchema,
		weekStart: z
			.enum(['1', '6', '7'], 'Choose the day that a week begins with.')
			.transform((day) => Number(day) as 1 | 6 | 7)
	})
};

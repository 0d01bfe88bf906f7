import { getCountries, getCountryCallingCode } from 'libphonenumber-js/min';
import { z } from 'zod';
import { clockOfMinute } from '../../../core/time/zone';
import { line } from '../hand/fields';
import type { Field } from './types';

/** How the fields of a chapter are read from a form, each with what is wrong with it in words; and how a value reads. */

export const zoneChoices: readonly { readonly value: string; readonly text: string }[] =
	Intl.supportedValuesOf('timeZone').map((value) => ({ value, text: value.replaceAll('_', ' ') }));

const countryNames = new Intl.DisplayNames('en', { type: 'region' });
/** Every country whose numbers can be read, by its name: "Canada (+1)". */
export const countryChoices: readonly { readonly value: string; readonly text: string }[] =
	getCountries()
		.map((value) => ({
			value: value as string,
			text: `${countryNames.of(value) ?? value} (+${getCountryCallingCode(value)})`
		}))
		.sort((a, b) => a.text.localeCompare(b.text, 'en'));

/** The minutes of the five, as their fields were read. */
export const marksIn = <T>(read: {
	readonly dayBegins: T;
	readonly schoolBegins: T;
	readonly schoolEnds: T;
	readonly eveningBegins: T;
	readonly dayEnds: T;
}): [T, T, T, T, T] => [
	...([read.dayBegins, read.schoolBegins, read.schoolEnds] as const),
	...([read.eveningBegins, read.dayEnds] as const)
];

/** The days of a week, Monday first. */
export const weekdayNames = [
	...['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
];

/** A country by its code, of those whose numbers can be read. */
export const countrySchema = z
	.string()
	.refine((code) => countryChoices.some((c) => c.value === code), 'Choose the country of numbers.');

/** The five times that part a school's day, in their order. */
export const markFields: readonly Field[] = [
	{
		...{ name: 'dayBegins', label: 'The day begins', kind: 'clock' },
		help: 'Week is laid out by these five.'
	},
	{ name: 'schoolBegins', label: 'School begins', kind: 'clock' },
	{ name: 'schoolEnds', label: 'School ends', kind: 'clock' },
	{ name: 'eveningBegins', label: 'The evening begins', kind: 'clock' },
	{ name: 'dayEnds', label: 'The day ends', kind: 'clock' }
];

export const number = (what: string, least: number, most: number, unit: string) =>
	z
		.string()
		.trim()
		.regex(/^\d{1,9}$/, `${what} is a whole number, from ${least} to ${most} ${unit}.`)
		.transform(Number)
		.pipe(
			z
				.number()
				.min(least, `${what} is ${least} ${unit} at least.`)
				.max(most, `${what} is ${most} ${unit} at most.`)
		);
/** A number, or nothing for as many as there are. */
export const numberOrNone = (what: string, least: number, most: number, unit: string) =>
	z.union([z.literal('').transform(() => null), number(what, least, most, unit)], {
		error: `${what} is a whole number, from ${least} to ${most} ${unit}, or empty.`
	});
export const clock = (what: string) =>
	z
		.string()
		.regex(/^([01]\d|2[0-3]):[0-5]\d$/, `${what} is a time of day, as 21:00.`)
		.transform((time) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3)));
export const clockText = (minute: number): string => clockOfMinute(minute % 1440);
/** Boxes that are ticked, of some choices. */
export const ticked = <T extends string>(choices: readonly T[]) =>
	z.array(z.enum(choices as readonly [T, ...T[]])).default([]);
/** Words, one on each line. */
export const words = (what: string) =>
	z
		.string()
		.max(4000, `${what} are too many.`)
		.transform((typed) => [
			...new Set(typed.split(/\r?\n|,/).flatMap((word) => word.trim().toLowerCase() || []))
		])
		.pipe(z.array(line('A word', 40)).max(50, `${what} are 50 at most.`));

/** How a value of a field reads: "21:00", "Monday, Tuesday", "none". */
export function valueWords(field: Field, value: string | readonly string[] | undefined): string {
	const all = value === undefined ? [] : typeof value === 'string' ? [value] : value;
	if (field.kind === 'picture')
		return all[0] ? `picture ${all[0].replace(/ (\d+) (\d+)$/, ', $1 by $2 px')}` : 'none';
	const shown = all
		.flatMap((v) => v.split('\n'))
		.filter((v) => v !== '' || field.choices?.some((c) => c.value === ''))
		.map((v) => field.choices?.find((c) => c.value === v)?.text ?? v);
	return shown.length === 0 ? 'none' : shown.join(', ');
}

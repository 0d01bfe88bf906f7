import { z } from 'zod';

type Issue = Parameters<NonNullable<z.core.$ZodConfig['customError']>>[0];

const kinds: Readonly<Record<string, string>> = {
	number: 'a number',
	int: 'a whole number',
	string: 'text',
	boolean: 'yes or no',
	array: 'a list',
	object: 'a group of values',
	record: 'a group of values'
};
const formats: Readonly<Record<string, string>> = {
	date: 'is no day of the calendar',
	email: 'is no mail address',
	url: 'is no web address',
	uuid: 'is not the key of a sheet'
};
const count = (n: number | bigint): string => Number(n).toLocaleString('en-US');

/** What is wrong with a value, in our words: no library's sentence reaches a screen. Undefined leaves a message of our own. */
export function plainIssue(issue: Issue): string | undefined {
	switch (issue.code) {
		case 'invalid_type':
			return issue.input === undefined
				? 'is missing'
				: `must be ${kinds[issue.expected] ?? issue.expected}`;
		case 'invalid_format':
			return formats[issue.format] ?? 'is not written as it must be';
		case 'too_small':
			if (issue.origin === 'string') {
				return Number(issue.minimum) <= 1
					? 'is empty'
					: `must have at least ${count(issue.minimum)} characters`;
			}
			return issue.origin === 'array'
				? `must have at least ${count(issue.minimum)}`
				: `must be ${issue.inclusive ? 'at least' : 'more than'} ${count(issue.minimum)}`;
		case 'too_big':
			if (issue.origin === 'string') return `has more than ${count(issue.maximum)} characters`;
			return issue.origin === 'array'
				? `has more than ${count(issue.maximum)}`
				: `must be ${issue.inclusive ? 'at most' : 'less than'} ${count(issue.maximum)}`;
		case 'invalid_value':
			if (issue.input === undefined) return 'is missing';
			return `must be ${issue.values.length === 1 ? '' : 'one of '}${issue.values.map(String).join(', ')}`;
		case 'unrecognized_keys':
			return `holds what is not known here: ${issue.keys.join(', ')}`;
		case 'not_multiple_of':
			return `must be a multiple of ${count(issue.divisor)}`;
		case 'invalid_union':
		case 'invalid_key':
		case 'invalid_element':
			return 'is none of what it may be';
		default:
			return undefined;
	}
}

z.config({ customError: plainIssue });

/** What is wrong with a form, each thing once. */
export const issuesText = ({ issues }: z.ZodError): string =>
	[...new Set(issues.map((issue) => issue.message))].join(' ');

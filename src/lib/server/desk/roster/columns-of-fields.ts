import type { Change } from '../../../core/roster/difference';
import type { AnyThing } from '../../../core/roster/things';
import type { Value } from '../../db/many';
import type { Known, NumberedKind } from './known';

/** Columns of each kind of one row, by the field that fills them; what names another thing comes as its number. */
const columnsOfFields = {
	school: { name: 'name' },
	term: { name: 'name', startsOn: 'starts_on', endsOn: 'ends_on' },
	course: { school: 'school_id', code: 'code', title: 'title' },
	section: { course: 'course_id', term: 'term_id', name: 'name', period: 'period' },
	person: {
		kind: 'kind',
		givenName: 'given_name',
		familyName: 'family_name',
		identifier: 'identifier',
		school: 'school_id',
		gradeLevel: 'grade_level',
		hasInbox: 'has_inbox',
		language: 'language'
	},
	household: { name: 'name' },
	contact: {
		relation: 'relation',
		guardian: 'guardian',
		custody: 'custody',
		correspondence: 'correspondence',
		emergency: 'emergency'
	}
} as const satisfies Partial<Record<Change['kind'], Readonly<Record<string, string>>>>;

const named: Readonly<Record<string, NumberedKind>> = {
	school: 'school',
	course: 'course',
	term: 'term'
};

/** Fields of a thing as columns of its row. */
export function columnsOf(
	kind: keyof typeof columnsOfFields,
	fields: AnyThing,
	known: Known
): Record<string, Value> {
	const columns: Record<string, Value> = {};
	for (const [field, column] of Object.entries(columnsOfFields[kind])) {
		const value = fields[field];
		if (value === undefined) continue;
		const of = named[field];
		columns[column] =
			of !== undefined && typeof value === 'string'
				? (known.idOf(of, value) ?? null)
				: typeof value === 'boolean'
					? Number(value)
					: value;
	}
	return columns;
}

import type { Change, Here } from '../../../core/roster/difference';
import {
	slots,
	type AnyThing,
	type FieldValue,
	type Slot,
	type ThingKind
} from '../../../core/roster/things';
import { keptNumber } from '../../../core/format/phone';
import { groupBy } from '../../../core/group-by';
import type { Query } from '../../db/open';
import { isNumbered, type Known, type NumberedKind } from './known';
import { rowsWhere, type AnyRow, type KeptRow, type RowTable } from './row-tables';
import { rowMark } from './work';

/** The rows in which what a source changes stands today. */
export interface RowsHere {
	row<T extends RowTable>(table: T, key: Partial<KeptRow<T>>): KeptRow<T> | undefined;
	addressesOf(personId: number): readonly KeptRow<'address'>[];
}

/** The table of each kind. */
export const tableOf = {
	school: 'school',
	term: 'term',
	course: 'course',
	section: 'section',
	person: 'person',
	household: 'household',
	staffRole: 'staff',
	contact: 'contact',
	householdMember: 'household_member',
	enrolment: 'enrolment',
	sectionStaff: 'section_staff'
} as const satisfies Readonly<Record<ThingKind, RowTable>>;

/** Which of two fields ties find their rows by: the kinds of what they name, and the columns. */
const ties = {
	staffRole: [['person', 'person', 'person_id']],
	contact: [
		['student', 'person', 'student_id'],
		['person', 'person', 'person_id']
	],
	householdMember: [
		['household', 'household', 'household_id'],
		['person', 'person', 'person_id']
	],
	enrolment: [
		['section', 'section', 'section_id'],
		['student', 'person', 'student_id']
	],
	sectionStaff: [
		['section', 'section', 'section_id'],
		['person', 'person', 'person_id']
	]
} as const satisfies Readonly<
	Record<Exclude<ThingKind, NumberedKind>, readonly (readonly [string, NumberedKind, string])[]>
>;

const isTie = (kind: ThingKind): kind is keyof typeof ties => kind in ties;

/** The numbers of all rows that changes may be about, by kind; of ties those of the first thing that they name. */
function numbersOf(changes: readonly Change[], known: Known): Map<ThingKind, Set<number>> {
	const numbers = new Map<ThingKind, Set<number>>();
	for (const { kind, key, before, after } of changes) {
		const [field, of] = isTie(kind) ? ties[kind][0] : [null, kind as NumberedKind];
		const name = field === null ? key : ((after ?? before)![field] as string);
		const id = known.idOf(of, name);
		if (id === undefined) continue;
		const list = numbers.get(kind);
		if (list) list.add(id);
		else numbers.set(kind, new Set([id]));
	}
	return numbers;
}

/** Reads the rows that changes may be about. */
export async function readHere(
	db: Query,
	changes: readonly Change[],
	known: Known
): Promise<RowsHere> {
	const rows = new Map<RowTable, Map<string, AnyRow>>();
	for (const [kind, ids] of numbersOf(changes, known)) {
		const table = tableOf[kind];
		const column = isTie(kind) ? ties[kind][0][2] : 'id';
		const found = await rowsWhere(db, table, `${column} IN (SELECT value FROM json_each($ids))`, {
			ids: JSON.stringify([...ids])
		});
		rows.set(table, new Map(found.map((row: AnyRow) => [rowMark(table, row), row])));
	}
	const people = [...(rows.get('person')?.values() ?? [])].map((row) => row as KeptRow<'person'>);
	const addresses = groupBy(
		await rowsWhere(db, 'address', 'person_id IN (SELECT value FROM json_each($ids)) ORDER BY id', {
			ids: JSON.stringify(people.map((p) => p.id))
		}),
		(a) => a.person_id as number
	);
	return {
		row: <T extends RowTable>(table: T, key: Partial<KeptRow<T>>) =>
			rows.get(table)?.get(rowMark(table, key)) as KeptRow<T> | undefined,
		addressesOf: (id) => addresses.get(id) ?? []
	};
}

/** The key by which the row of a change is found; undefined where the source does not know one. */
export function rowKeyOf(
	{ kind, key, before, after }: Change,
	known: Known
): Record<string, number | string | null> | undefined {
	if (isNumbered(kind)) {
		const id = known.idOf(kind, key);
		return id === undefined ? undefined : { id };
	}
	const thing = (after ?? before)!;
	const found: Record<string, number | string | null> = {};
	for (const [field, of, column] of ties[kind as keyof typeof ties]) {
		const id = known.idOf(of, thing[field] as string);
		if (id === undefined) return undefined;
		found[column] = id;
	}
	if (kind === 'staffRole') {
		const school = thing.school as string | null;
		const id = school === null ? null : known.idOf('school', school);
		if (id === undefined) return undefined;
		found.school_id = id;
		found.role = thing.role as string;
	}
	return found;
}

/** The address of a person that stands for a cell of the roster: the one that came from it, else one with the same words that came from nowhere. */
export function addressFor(
	addresses: readonly KeptRow<'address'>[],
	slot: Slot,
	value: string | null
): KeptRow<'address'> | undefined {
	const way = slot === 'email' ? 'email' : 'text';
	const same = (a: string) =>
		way === 'email' ? a.toLowerCase() === value?.toLowerCase() : keptNumber(a) === value;
	return (
		addresses.find((a) => a.slot === slot) ??
		addresses.find(
			(a) => a.slot === null && a.way === way && value !== null && same(a.value as string)
		)
	);
}

/** The thing of a change as it is here, in the words of its source. */
export function hereOf(change: Change, rows: RowsHere, known: Known): Here | undefined {
	const { kind } = change;
	const key = rowKeyOf(change, known);
	const row: AnyRow | undefined = key && rows.row(tableOf[kind], key);
	if (!row) return undefined;
	const gone = 'gone_at' in row && row.gone_at !== null;
	const ref = (of: NumberedKind, column: string) => known.keyOf(of, row[column] as number | null);
	const text = (column: string) => row[column] as string | null;
	const thing = ((): AnyThing => {
		switch (kind) {
			case 'school':
			case 'household':
				return { name: text('name') };
			case 'term':
				return { name: text('name'), startsOn: text('starts_on'), endsOn: text('ends_on') };
			case 'course':
				return { school: ref('school', 'school_id'), code: text('code'), title: text('title') };
			case 'section':
				return {
					course: ref('course', 'course_id'),
					term: ref('term', 'term_id'),
					name: text('name'),
					period: text('period')
				};
			case 'person': {
				const own = rows.addressesOf(row.id as number);
				const said = (change.before ?? change.after)!;
				const valueOf = (slot: Slot) => {
					const value = (said[slot] ?? null) as string | null;
					const found = addressFor(own, slot, value);
					// Another spelling of the same is the same.
					return found?.slot === null ? value : ((found?.value ?? null) as string | null);
				};
				return {
					kind: text('kind'),
					givenName: text('given_name'),
					familyName: text('family_name'),
					identifier: text('identifier'),
					...(row.kind === 'student' ? { school: ref('school', 'school_id') } : {}),
					gradeLevel: text('grade_level'),
					hasInbox: row.has_inbox === 1,
					language: text('language'),
					texts: consentHere(own, said),
					...Object.fromEntries(slots.map((slot) => [slot, valueOf(slot)]))
				};
			}
			case 'contact':
				return {
					student: change.after?.student ?? '',
					person: change.after?.person ?? '',
					relation: text('relation'),
					guardian: row.guardian === 1,
					custody: row.custody === null ? null : row.custody === 1,
					correspondence: row.correspondence === 1,
					emergency: row.emergency === 1
				};
			default:
				return (change.after ?? change.before)!;
		}
	})();
	return { thing, gone };
}

/** What is known of texts to the number that a source has of a person; null where nobody has said it. */
function consentHere(own: readonly KeptRow<'address'>[], said: AnyThing): FieldValue {
	const slot = textSlot(said);
	const row =
		slot === null ? undefined : addressFor(own, slot, (said[slot] ?? null) as string | null);
	return row && row.consent !== 'unknown' ? (row.consent as string) : null;
}

/** The number that what is said of texts is about: the one for texts, else the other. */
export const textSlot = (thing: AnyThing): 'sms' | 'phone' | null =>
	typeof thing.sms === 'string' ? 'sms' : typeof thing.phone === 'string' ? 'phone' : null;

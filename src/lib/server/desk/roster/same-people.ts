import { fold } from '../../../core/format/fold';
import { groupBy } from '../../../core/group-by';
import type { Change } from '../../../core/roster/difference';
import { slots, type Thing } from '../../../core/roster/things';
import { rowSet } from '../../db/many';
import type { Query } from '../../db/open';
import type { PersonRow } from '../../db/models/roster';
import type { Known } from './known';
import type { Question } from './types';

type NewPerson = Change & { readonly after: Thing<'person'> };

const nameMark = (given: string, family: string): string => fold(`${given} ${family}`.trim());

/**
 * Who of the new people in a file is known here already: by the district's own number, or because
 * somebody has said so. What is known is added to; whoever has the same name and the same address or
 * number and has not been told apart is asked about, and comes in as somebody else until then.
 */
export async function findSamePeople(
	db: Query,
	sourceId: number,
	changes: readonly Change[],
	known: Known
): Promise<Omit<Question, 'inFile'>[]> {
	const people = changes.filter(
		(c): c is NewPerson =>
			c.kind === 'person' &&
			c.before === null &&
			c.after !== null &&
			known.idOf('person', c.key) === undefined
	);
	if (people.length === 0) return [];
	await byIdentifier(db, people, known);
	const told = await toldApart(db, sourceId);
	const open: Omit<Question, 'inFile'>[] = [];
	for (const { change, here } of await alike(db, people)) {
		if (known.idOf('person', change.key) !== undefined) continue;
		const said = told.get(`${change.key} ${here.personId}`);
		if (said === true) known.bind('person', change.key, here.personId);
		else if (said === undefined)
			open.push({ key: change.key, here, shared: here.shared, by: 'address' });
	}
	return open;
}

async function byIdentifier(db: Query, people: readonly NewPerson[], known: Known): Promise<void> {
	const numbers = people.flatMap((p) => p.after.identifier ?? []);
	if (numbers.length === 0) return;
	const rows = await db.all<Pick<PersonRow, 'id' | 'kind'> & { identifier: string }>(
		`SELECT id, kind, identifier FROM person WHERE identifier IN (SELECT value FROM json_each($numbers))`,
		{ numbers: JSON.stringify(numbers) }
	);
	const here = groupBy(rows, (r) => `${r.kind} ${r.identifier}`);
	const inFile = groupBy(people, (p) => `${p.after.kind} ${p.after.identifier}`);
	for (const [mark, list] of inFile) {
		const [same, ...more] = here.get(mark) ?? [];
		// A number that two have tells neither.
		if (!same || more.length > 0 || list.length > 1 || known.has('person', same.id)) continue;
		known.bind('person', list[0]!.key, same.id);
	}
}

/** What was said of people of a source: "key personId" to whether they are the same. */
export async function toldApart(db: Query, sourceId: number): Promise<Map<string, boolean>> {
	const rows = await db.all<{ key: string; personId: number; same: number }>(
		`SELECT key, person_id AS personId, same FROM same_or_other WHERE source_id = $sourceId`,
		{ sourceId }
	);
	return new Map(rows.map((r) => [`${r.key} ${r.personId}`, r.same === 1]));
}

const pairs = rowSet('$pairs', ['n', 'way', 'value']);

/** New people with the same name and the same address or number as somebody here. */
async function alike(
	db: Query,
	people: readonly NewPerson[]
): Promise<
	{
		readonly change: NewPerson;
		readonly here: Question['here'] & { readonly shared: string };
	}[]
> {
	const rows = await db.all<{
		n: number;
		personId: number;
		given: string;
		family: string;
		value: string;
		note: string;
	}>(
		`SELECT DISTINCT pair.n, person.id AS personId, given_name AS given, family_name AS family, address.value,
			CASE WHEN person.kind = 'student' THEN 'student' || coalesce(', grade ' || grade_level, '')
				ELSE coalesce((SELECT group_concat(DISTINCT relation) FROM contact_now WHERE person_id = person.id), 'adult') END AS note
		FROM ${pairs.table} AS pair CROSS JOIN address ON address.value = pair.value COLLATE NOCASE AND address.way = pair.way
		JOIN person_now AS person ON person.id = address.person_id`,
		{
			pairs: pairs.json(
				people.flatMap(({ after }, n) =>
					slots.flatMap((slot) =>
						typeof after[slot] === 'string'
							? [{ n, way: slot === 'email' ? 'email' : 'text', value: after[slot] }]
							: []
					)
				)
			)
		}
	);
	return rows
		.filter(
			(r) =>
				nameMark(r.given, r.family) ===
				nameMark(people[r.n]!.after.givenName, people[r.n]!.after.familyName)
		)
		.map((r) => ({
			change: people[r.n]!,
			here: {
				personId: r.personId,
				name: `${r.given} ${r.family}`,
				note: r.note,
				shared: r.value
			}
		}));
}

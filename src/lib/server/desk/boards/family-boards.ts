import { copyFacts, type StudentFacts } from '../../../core/copy/values';
import { boardKey, type BoardPlace } from '../../../core/audience/board-place';
import { factBook } from '../../db/copy-facts';
import { districtDay } from '../../db/district';
import { groupBy } from '../../../core/group-by';
import type { DispatchMarkRow } from '../../db/models/dispatch';
import type { PersonRow } from '../../db/models/roster';
import type { Query } from '../../db/open';
import { pageFor, type PageReader } from '../family/reader';
import { fileOnBoards } from './open-board';
import { placesOfPerson, termsOver, type PlaceOfPerson } from './places';
import { postsOn } from './posts';
import type { FamilyBoards } from './types';
import { writeBoards, type Asked, type BoardReader } from './write-posts';

/** What some dispatches say of some students' markers, by "dispatch student": as it was when they were planned. */
async function marksOf(
	db: Query,
	dispatches: readonly number[],
	students: readonly number[]
): Promise<ReadonlyMap<string, ReadonlyMap<number, string>>> {
	const rows = await db.all<DispatchMarkRow>(
		`SELECT dispatch_id AS dispatchId, marker_id AS markerId, student_id AS studentId, value FROM dispatch_mark
		WHERE dispatch_id IN (SELECT value FROM json_each($dispatches))
			AND student_id IN (SELECT value FROM json_each($students))`,
		{ dispatches: JSON.stringify(dispatches), students: JSON.stringify(students) }
	);
	return new Map(
		[...groupBy(rows, (r) => `${r.dispatchId} ${r.studentId}`)].map(([key, of]) => [
			key,
			new Map(of.map((r) => [r.markerId, r.value]))
		])
	);
}

/** What announcements on boards can say of a person's students: each with the section on whose board it stands. */
async function factsOfPlaces(
	db: Query,
	personId: number,
	places: readonly PlaceOfPerson[],
	posts: readonly number[],
	reader: PageReader
): Promise<BoardReader['factsOf']> {
	const ids = [...new Set(places.flatMap((p) => p.studentIds))];
	const rows = await db.all<
		Pick<PersonRow, 'id' | 'givenName' | 'familyName' | 'gradeLevel' | 'schoolId'>
	>(
		`SELECT id, given_name AS givenName, family_name AS familyName, grade_level AS gradeLevel, school_id AS schoolId
		FROM person WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids) }
	);
	const book = await factBook(db);
	const students = new Map(rows.map((s) => [s.id, s]));
	const placeOf = new Map(places.map((p) => [boardKey(p), p]));
	const marks = await marksOf(db, posts, ids);
	const factsOf = (id: number, place: BoardPlace, dispatchId: number): StudentFacts => {
		const s = students.get(id)!;
		return {
			id,
			given: s.givenName,
			full: `${s.givenName} ${s.familyName}`.trim(),
			grade: s.gradeLevel,
			school: s.schoolId === null ? null : (book.schools.get(s.schoolId) ?? null),
			marks: marks.get(`${dispatchId} ${id}`) ?? new Map(),
			section: place.kind === 'section' ? (book.sections.get(place.id) ?? null) : null,
			own: id === personId
		};
	};
	return (keys, dispatchId) => {
		const about = new Map<number, StudentFacts>();
		for (const key of keys) {
			const place = placeOf.get(key);
			for (const id of place?.studentIds ?? [])
				if (!about.get(id)?.section) about.set(id, factsOf(id, place!, dispatchId));
		}
		return copyFacts(reader, [...about.values()]);
	};
}

/** The boards of a person's students through one of their links; `base` is the address that pictures and files are under, `asked` an announcement that is wanted whole. */
export async function familyBoards(
	db: Query,
	personId: number,
	base: string,
	{
		termId,
		asked,
		only = null
	}: {
		readonly termId: number | null;
		readonly asked: Asked;
		/** The one board that is wanted, by its key. */
		readonly only?: string | null;
	}
): Promise<FamilyBoards> {
	const { reader, head } = await pageFor(db, personId);
	const today = await districtDay(db);
	const places = (await placesOfPerson(db, personId, today, termId)).filter(
		(p) => only === null || boardKey(p) === only
	);
	const rows = await postsOn(db, places, head.now);
	return {
		...head,
		boards: await writeBoards(
			db,
			places,
			rows,
			{
				...{ language: reader.language, base, withoutNames: null },
				factsOf: await factsOfPlaces(
					db,
					personId,
					places,
					rows.map((r) => r.id),
					reader
				)
			},
			{ time: head.now, asked }
		),
		terms: await termsOver(db, personId, today),
		termId
	};
}

/** A file of something that stands on a board of a person's students, of whatever term; null where there is none. */
export async function fileOnOwnBoards(
	db: Query,
	personId: number,
	fileId: number
): Promise<{ hash: string; name: string; type: string } | null> {
	const today = await districtDay(db);
	const places = [
		...(await placesOfPerson(db, personId, today)),
		...(await inTerms(db, personId, today))
	];
	return fileOnBoards(db, places, fileId, false);
}

async function inTerms(db: Query, personId: number, today: string): Promise<PlaceOfPerson[]> {
	const places: PlaceOfPerson[] = [];
	for (const { id } of await termsOver(db, personId, today))
		places.push(...(await placesOfPerson(db, personId, today, id)));
	return places;
}

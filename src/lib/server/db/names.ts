import { remembering } from './remember';
import { nameOfLanguage, tagOfLanguage } from '../../core/copy/language';
import { type Audience } from '../../core/audience/audience';
import { dispatchesOf, listsOf, markersOf } from '../../core/audience/named';
import { NotFound, type NameFinder } from '../../core/audience/sentence-names';
import type { Name, NameBook, NamedKind } from '../../core/audience/sentence';
import { fullName } from '../../core/roster/roster';
import { now } from '../clock';
import { readMany } from './many';
import { markerNames, type MarkerName } from './markers';
import type { Db, Query } from './open';
import { peopleVersion } from './roster';
import { runningTerms } from './terms';
import { groupBy } from '../../core/group-by';
import type { PersonRow, SchoolRow, SectionRow, TermRow } from './models/roster';

/** A thing with a name, and what can tell it from others of that name, the nearest first. */
interface Row {
	readonly id: number;
	readonly name: string;
	readonly apart: readonly string[];
	/** The first of them always stands beside the name. */
	readonly always?: boolean;
}

/** All names of one kind, both ways. */
class Names {
	readonly #byId: ReadonlyMap<number, Row>;
	readonly #byName: ReadonlyMap<string, readonly Row[]>;
	constructor(rows: readonly Row[]) {
		this.#byId = new Map(rows.map((r) => [r.id, r]));
		this.#byName = groupBy(rows, (r) => fold(r.name));
	}

	/** As much as is needed to find it again: the name, then what tells it apart, in the last resort its number. */
	nameOf(id: number): Name | undefined {
		const row = this.#byId.get(id);
		if (!row) return undefined;
		let like = this.#byName.get(fold(row.name))!;
		const apart: string[] = [];
		for (const [i, word] of row.apart.entries()) {
			const always = i === 0 && row.always === true;
			const left = like.filter((r) => r.apart[i] === word);
			if (left.length === like.length && !always) continue;
			if (word) apart.push(word);
			like = left;
			if (like.length === 1) break;
		}
		return { name: row.name, apart: like.length > 1 ? [`#${id}`] : apart };
	}

	find(kind: string, name: string, apart: readonly string[]): number {
		const number = apart.length === 1 ? /^#(\d{1,15})$/.exec(apart[0]!) : null;
		const like = this.#byName.get(fold(name)) ?? [];
		if (number) {
			const id = Number(number[1]);
			if (like.some((r) => r.id === id)) return id;
			throw new NotFound(`No ${kind} "${name}" has the number ${id}.`);
		}
		const words = apart.map(fold);
		const left = like.filter((r) => words.every((w) => r.apart.some((a) => fold(a) === w)));
		// A name alone means the one that needs nothing beside it, if there is one.
		const plain = left.filter((r) => same(this.nameOf(r.id)!.apart, apart));
		const found = left.length === 1 ? left[0] : plain.length === 1 ? plain[0] : undefined;
		if (found) return found.id;
		if (left.length === 0) {
			throw new NotFound(
				like.length === 0
					? `There is no ${kind} "${name}".`
					: `There is no ${kind} "${name}" with "${apart.join(', ')}".`
			);
		}
		const which = left.slice(0, 4).map((r) => r.apart.join(', ') || `#${r.id}`);
		throw new NotFound(
			`There are ${left.length} with the name "${name}" (${kind}). Say which, in brackets behind it: ${which.join('; ')}.`
		);
	}
}

const same = (a: readonly string[], b: readonly string[]): boolean =>
	a.length === b.length && a.every((word, i) => fold(word) === fold(b[i]!));

const fold = (text: string): string => text.trim().toLowerCase().normalize('NFC');

type RosterKind = Exclude<NamedKind, 'dispatch' | 'list' | 'marker'>;

interface RosterNames {
	readonly names: Readonly<Record<RosterKind, Names>>;
	readonly students: ReadonlySet<number>;
	readonly languages: readonly string[];
	readonly words: Readonly<Record<'grade' | 'role' | 'relation', ReadonlySet<string>>>;
}
const kept = remembering<RosterNames>(1);

/** The names on the roster; read again when it has changed, or another term has begun. */
async function rosterNames(db: Query): Promise<RosterNames> {
	const version = await peopleVersion(db);
	const day = new Date(await now(db)).toISOString().slice(0, 10);
	const running = await runningTerms(db, day);
	return kept.get(db, `${version} ${running.join(',')}`, () => readNames(db, running));
}

async function readNames(db: Query, running: readonly number[]): Promise<RosterNames> {
	const rows = (sql: string) => db.all<{ id: number; name: string; a: string; b: string }>(sql);
	const words = async (sql: string) =>
		new Set((await db.all<{ word: string }>(sql)).map((r) => r.word));
	const plain = (list: readonly { id: number; name: string; a?: string }[]) =>
		new Names(list.map((r) => ({ id: r.id, name: r.name, apart: r.a ? [r.a] : [] })));
	const sections = await db.all<
		Pick<SectionRow, 'id' | 'name'> & {
			term: TermRow['name'];
			school: SchoolRow['shortName'];
			now: number;
		}
	>(
		`SELECT section.id, section.name, term.name AS term, school.short_name AS school,
			term.id IN (${[0, ...running].join(', ')}) AS now FROM section_now AS section JOIN term ON term.id = term_id
		JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id`
	);
	return {
		names: {
			// A section of a term that runs needs none beside its name, unless two that run have one of it; of another it always has it.
			section: new Names(
				sections.map((s) => ({
					id: s.id,
					name: s.name,
					apart: [s.now ? '' : s.term, s.school, s.now ? s.term : ''],
					always: !s.now
				}))
			),
			course: plain(
				await rows(
					`SELECT course.id, title AS name, short_name AS a FROM course JOIN school ON school.id = school_id`
				)
			),
			term: plain(await rows('SELECT id, name FROM term')),
			school: plain(await rows('SELECT id, short_name AS name FROM school')),
			group: plain(
				await rows(
					`SELECT school_group.id, school_group.name, coalesce(short_name, kind) AS a FROM school_group
					LEFT JOIN school ON school.id = school_id`
				)
			),
			person: new Names(
				await readMany(
					db,
					'id, given_name, family_name',
					'FROM person_now AS person',
					([id, givenName, familyName]): Row => ({
						id: id as number,
						name: fullName({ givenName: givenName as string, familyName: familyName as string }),
						apart: []
					})
				)
			)
		},
		students: new Set(
			(
				await db.all<Pick<PersonRow, 'id'>>(
					`SELECT id FROM person_now AS person WHERE kind = 'student'`
				)
			).map((p) => p.id)
		),
		languages: [...(await words('SELECT DISTINCT language AS word FROM person_now AS person'))],
		words: {
			grade: await words('SELECT DISTINCT grade_level AS word FROM person_now AS person'),
			role: await words('SELECT DISTINCT role AS word FROM staff'),
			relation: await words('SELECT DISTINCT relation AS word FROM contact_now AS contact')
		}
	};
}

interface OwnRow {
	readonly id: number;
	readonly name: string;
}

/** What is no roster's, as far as somebody may know it. */
interface OwnNames {
	readonly dispatches: readonly OwnRow[];
	readonly lists: readonly OwnRow[];
	readonly markers: readonly MarkerName[];
}

function bookOf(
	roster: RosterNames,
	{ dispatches, lists, markers }: OwnNames
): NameBook & NameFinder {
	const own = (rows: readonly OwnRow[]) =>
		new Names(rows.map((r) => ({ ...r, apart: [`#${r.id}`], always: true })));
	const all = {
		...roster.names,
		// Subjects come again: an earlier dispatch always has its number beside it.
		dispatch: own(dispatches),
		list: new Names(lists.map((r) => ({ ...r, apart: [] }))),
		marker: new Names(
			markers.map(({ id, name, school }) => ({ id, name, apart: school ? [school] : [] }))
		)
	};
	const tagOf = (name: string): string | undefined =>
		roster.languages.find((tag) => fold(nameOfLanguage(tag)) === fold(name) || tag === name) ??
		tagOfLanguage(name);
	return {
		nameOf: (kind, id) => all[kind].nameOf(id),
		isStudent: (id) => roster.students.has(id) || all.person.nameOf(id) === undefined,
		// A name that would not be found again gives way to the tag.
		language: (tag) => (tagOf(nameOfLanguage(tag)) === tag ? nameOfLanguage(tag) : tag),
		find: (kind, name, apart) => all[kind].find(kind, name, apart),
		isWord: (kind, word) => roster.words[kind].has(word),
		languageTag: tagOf
	};
}

/** A name for everything an audience names. */
export async function nameBook(db: Query, audience: Audience): Promise<NameBook> {
	const own = (sql: string, ids: readonly number[]) =>
		ids.length === 0
			? []
			: db.all<OwnRow>(`${sql} WHERE id IN (SELECT value FROM json_each($ids))`, {
					ids: JSON.stringify(ids)
				});
	return bookOf(await rosterNames(db), {
		dispatches: await own('SELECT id, subject AS name FROM dispatch', dispatchesOf(audience)),
		lists: await own('SELECT id, name FROM kept_audience', listsOf(audience)),
		markers: await markerNames(db, 'marker.id IN (SELECT value FROM json_each($ids))', {
			ids: JSON.stringify(markersOf(audience))
		})
	});
}

/** All names that a sentence may use: those on the roster, and of dispatches, fixed lists and markers the given ones. */
export async function nameFinder(db: Db, names: OwnNames): Promise<NameFinder> {
	return bookOf(await rosterNames(db), names);
}

import { countOf } from '../../../core/roster/counts';
import type { Tab, What } from '../../../core/roster/counts';
import type { FileState, RosterFileRow } from '../../db/models/rosters';
import { rosterFile } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { readColumns } from './columns';
import { keptTogether, withLook } from './look-file';
import { readCustody, sourceById } from './sources';
import type {
	ChangeLine,
	FileLine,
	FileView,
	Looked,
	Question,
	SourceLine,
	WrongLine
} from './types';

const lookedOf = (row: Pick<RosterFileRow, 'looked'>): Looked | null =>
	row.looked === null ? null : (JSON.parse(row.looked) as Looked);

type LineRow = Omit<FileLine, 'numbers' | 'canGoBack'> & {
	readonly looked: string | null;
	readonly undo: number;
};

const numbersOf = (looked: Looked | null): FileLine['numbers'] =>
	looked && [
		countOf(looked.counts, 'new'),
		countOf(looked.counts, 'changed'),
		countOf(looked.counts, 'gone'),
		looked.wrong
	];

/** Roster files by a condition, the newest first. */
async function lines(
	db: Query,
	where: string,
	most: number,
	bind: Readonly<Record<string, number>> = {}
): Promise<FileLine[]> {
	const rows = await db.all<LineRow>(
		`SELECT roster_file.id, roster_file.name, roster_source.name AS source, state, came_at AS cameAt, why, looked,
			by.given_name || ' ' || by.family_name AS "by", taken_at AS takenAt, back_at AS backAt,
			taker.given_name || ' ' || taker.family_name AS takenBy,
			EXISTS (SELECT 1 FROM roster_undo WHERE file_id = roster_file.id) AS undo
		FROM roster_file JOIN roster_source ON roster_source.id = source_id
		LEFT JOIN person AS by ON by.id = by_id LEFT JOIN person AS taker ON taker.id = taken_by
		WHERE ${where} ORDER BY roster_file.id DESC LIMIT ${most}`,
		{ ...bind }
	);
	return rows.map(({ looked, undo, ...row }) => ({
		...row,
		numbers: numbersOf(lookedOf({ looked })),
		canGoBack: row.state === 'taken' && undo === 1
	}));
}

/** The newest files that lay in the watched folder. */
export const nightFiles = (db: Query): Promise<FileLine[]> => lines(db, 'by_id IS NULL', 10);

/** The newest roster files. */
export const fileLines = (db: Query): Promise<FileLine[]> => lines(db, '1', 60);

/** Files that wait for somebody: looked at and not taken in, or refused in the night. */
export const waitingFiles = (db: Query): Promise<FileLine[]> =>
	lines(db, `state IN ('looked', 'columns') OR (state = 'refused' AND by_id IS NULL)`, 20);

/** Where rosters come from, and how many people each knows. */
export const sourceLines = (db: Query): Promise<SourceLine[]> =>
	db.all(
		`SELECT id, name, (SELECT count(*) FROM known_as JOIN person_now AS person ON person.id = row_id
			WHERE source_id = roster_source.id AND known_as.kind = 'person') AS people
		FROM roster_source ORDER BY id`
	);

/** One roster file with what looking at it came to; null where there is none. */
export async function fileView(db: Db, id: number): Promise<FileView | null> {
	const [line] = await lines(db, 'roster_file.id = $id', 1, { id });
	const row = await db.rows(rosterFile).one({ id });
	if (!line || !row) return null;
	const source = await sourceById(db, row.sourceId);
	return {
		...line,
		looked: lookedOf(row),
		columns: readColumns(row.columns),
		custody: { ...source.custody, ...readCustody(row.custody) },
		first: source.appliedOn === null
	};
}

/** How far a file is. */
export const stateOf = async (db: Query, id: number): Promise<FileState | null> =>
	(await db.rows(rosterFile).one({ id }, ['state']))?.state ?? null;

/** So many lines stand on a page; a part holds some pages whole. */
export const linesOnPage = 50;

/** A page of a list, and how many lines there are in all. */
export interface LinePage<T> {
	readonly found: number;
	readonly lines: readonly T[];
}

/** The words of a search; quotes are none, since they stand in what is searched as well. */
const wordsOf = (search: string): string[] =>
	search.toLowerCase().replaceAll('"', ' ').split(/\s+/).filter(Boolean).slice(0, 8);

/** Each word of a search, as it stands in what is searched. */
function wordsIn(search: string): { readonly sql: string; readonly bind: Record<string, string> } {
	const words = wordsOf(search);
	return {
		sql: words.map((_, i) => `AND instr(words, $word${i}) > 0`).join(' '),
		bind: Object.fromEntries(words.map((word, i) => [`word${i}`, word]))
	};
}

async function page<R extends object, T>(
	db: Db,
	from: string,
	bind: Record<string, string | number>,
	asked: number,
	make: (row: R) => T
): Promise<LinePage<T>> {
	const found = (await db.one<{ n: number }>(`SELECT count(*) AS n FROM ${from}`, bind))!.n;
	const rows = await db.all<R>(
		`SELECT * FROM ${from} ORDER BY n LIMIT ${linesOnPage} OFFSET $from`,
		{ ...bind, from: (asked - 1) * linesOnPage }
	);
	return { found, lines: rows.map(make) };
}

/** A page of changes of one sort; null where the file has to be looked at again. */
export const changeLines = (
	dataFolder: string,
	fileId: number,
	asked: {
		readonly what: What;
		readonly tab: Tab;
		readonly search: string;
		readonly page: number;
	}
): Promise<LinePage<ChangeLine> | null> =>
	withLook(dataFolder, fileId, async (db) => {
		const of = { what: asked.what, tab: asked.tab };
		const from = (asked.page - 1) * linesOnPage;
		const parts = (where: string, bind: Record<string, number> = {}) =>
			db.all<Part>(
				`SELECT n, size, lines FROM change WHERE what = $what AND tab = $tab ${where} ORDER BY n`,
				{ ...of, ...bind }
			);
		const words = wordsOf(asked.search);
		if (words.length > 0) {
			// Parts that hold all the words are looked through line by line.
			const found = (await parts(''))
				.filter((part) => holds(part.lines, words))
				.flatMap(linesOf)
				.filter((l) =>
					holds([l.title, l.note, ...l.was, ...l.will, ...l.disputes, l.key].join(' '), words)
				);
			return { found: found.length, lines: found.slice(from, from + linesOnPage) };
		}
		const all = await db.one<{ n: number }>(
			'SELECT coalesce(sum(size), 0) AS n FROM change WHERE what = $what AND tab = $tab',
			of
		);
		const first = Math.floor(from / keptTogether);
		const within = from - first * keptTogether;
		const [part] = await parts('AND n = $n', { n: first });
		return {
			found: all!.n,
			lines: part ? linesOf(part).slice(within, within + linesOnPage) : []
		};
	});

/** Changes that are kept together. */
interface Part {
	readonly n: number;
	readonly size: number;
	readonly lines: string;
}

const linesOf = ({ n, lines }: Part): ChangeLine[] =>
	(JSON.parse(lines) as Omit<ChangeLine, 'n'>[]).map((line, i) => ({
		...line,
		n: n * keptTogether + i
	}));

const holds = (text: string, words: readonly string[]): boolean => {
	const small = text.toLowerCase();
	return words.every((word) => small.includes(word));
};

interface WrongRow {
	readonly n: number;
	readonly line: string;
}

/** A page of wrong lines; null where the file has to be looked at again. */
export const wrongLines = (
	dataFolder: string,
	fileId: number,
	asked: { readonly search: string; readonly page: number }
): Promise<LinePage<WrongLine> | null> =>
	withLook(dataFolder, fileId, (db) => {
		const { sql, bind } = wordsIn(asked.search);
		return page(db, `wrong WHERE 1 ${sql}`, bind, asked.page, ({ n, line }: WrongRow) => ({
			...(JSON.parse(line) as Omit<WrongLine, 'n'>),
			n
		}));
	});

/** Who may be somebody known, a hundred at a time; or all who look the same by one sign. */
export const openQuestions = (
	dataFolder: string,
	fileId: number,
	by?: Question['by']
): Promise<Question[] | null> =>
	withLook(dataFolder, fileId, async (db) => {
		const rows = await db.all<{ line: string }>(
			`SELECT line FROM question ORDER BY n ${by ? '' : 'LIMIT 100'}`
		);
		const all = rows.map(({ line }) => JSON.parse(line) as Question);
		return by ? all.filter((q) => q.by === by) : all;
	});

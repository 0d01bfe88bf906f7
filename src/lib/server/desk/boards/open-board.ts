import { nameOfLanguage } from '../../../core/copy/language';
import { fileNameWithoutNames } from '../../../core/copy/without-names';
import { now } from '../../clock';
import { factBook } from '../../db/copy-facts';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { namesOnFile } from '../../db/person-names';
import { readClocks } from '../../db/school-own';
import { zoneOf } from '../../../core/time/clocks';
import { openFacts } from './open-facts';
import type { NamedPlace } from './places';
import { postsOn } from './posts';
import type { BoardView, OpenBoard } from './types';
import { writeBoards, type Asked } from './write-posts';

/** One board as it is read by nobody in particular. `open`: by anybody, without names and private files; else by whoever works here. */
export async function boardOfPlace(
	db: Query,
	place: NamedPlace,
	{
		language,
		base,
		open,
		asked
	}: {
		readonly language: string;
		readonly base: string;
		readonly open: boolean;
		readonly asked: Asked;
	}
): Promise<BoardView> {
	const time = await now(db);
	const book = await factBook(db);
	const facts = openFacts(language, {
		school: place.kind === 'school' ? place.name : place.school,
		section: place.kind === 'section' ? (book.sections.get(place.id) ?? null) : null,
		named: !open
	});
	const [board] = await writeBoards(
		db,
		[place],
		await postsOn(db, [place], time),
		{
			...{ language, base, factsOf: () => facts },
			withoutNames: open ? await namesOnFile(db) : null
		},
		{ time, asked }
	);
	return board!;
}

/** A board as anybody sees it who has its link, in a language; `base` is the address that pictures and files are under. */
export async function openBoard(
	db: Query,
	place: NamedPlace,
	language: string,
	base: string,
	asked: number | null
): Promise<OpenBoard> {
	const { name, clock, languages } = await readDistrict(db);
	return {
		...{ language, district: name, clock },
		zone: zoneOf(await readClocks(db), place.schoolId),
		now: await now(db),
		board: await boardOfPlace(db, place, { language, base, open: true, asked }),
		languages: languages.map((tag) => ({ tag, name: nameOfLanguage(tag) }))
	};
}

/** Whether a file may be opened on a board: it goes with something that stands there now, and where anybody may open the board, it is not private. Its content's hash, or null. */
export async function fileOnBoards(
	db: Query,
	places: readonly NamedPlace[],
	fileId: number,
	open: boolean
): Promise<{ hash: string; name: string; type: string } | null> {
	const time = await now(db);
	const standing = (await postsOn(db, places, time)).filter((p) => p.from <= time);
	const file = await db.one<{ hash: string; name: string; type: string }>(
		`SELECT hash, name, type FROM file WHERE id = $fileId AND EXISTS (SELECT 1 FROM dispatch_file
			JOIN dispatch ON dispatch.id = dispatch_file.dispatch_id
			WHERE file_id = file.id AND dispatch.id IN (SELECT value FROM json_each($ids))
				-- A voice names whom it likes: notes are for those who belong there.
				AND NOT ($open AND (file.id IS letter ->> '$.note.fileId' OR file.id IS letter ->> '$.note.picture.fileId'
					OR EXISTS (SELECT 1 FROM json_each(letter, '$.files') AS f
					WHERE f.value ->> '$.fileId' = file.id AND f.value ->> '$.private' = 1))))`,
		{ fileId, ids: JSON.stringify(standing.map((p) => p.id)), open: open ? 1 : 0 }
	);
	if (!file) return null;
	return open ? { ...file, name: fileNameWithoutNames(file.name, await namesOnFile(db)) } : file;
}

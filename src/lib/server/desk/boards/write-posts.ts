import { boardAt } from '../../../core/plan/board';
import { boardKey, type BoardPlace } from '../../../core/audience/board-place';
import { sizeWords } from '../../../core/copy/size-words';
import { noteLinkWords } from '../../../core/copy/note-phrases';
import type { CopyFacts } from '../../../core/copy/values';
import {
	fileNameWithoutNames,
	wordingWithoutNames,
	type IsName
} from '../../../core/copy/without-names';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { boardWords, type BoardWords } from '../sheet/board-words';
import { readStored, type StoredFile } from '../sheet/letters';
import { placesOfRow, type PostRow } from './posts';
import type { BoardView, Post } from './types';

/** For whom announcements are written out on boards. */
export interface BoardReader {
	readonly language: string;
	/** What an announcement can say to them, by the places (as keys) that it stands on. */
	readonly factsOf: (places: readonly string[], dispatchId: number) => CopyFacts;
	/** The address that pictures and files are under. */
	readonly base: string;
	/** Where anybody may read it, whose names must not stand there: then nobody who sent it and no private files do either. Null for whoever belongs there. */
	readonly withoutNames: IsName | null;
}

/** Which announcement is wanted whole beside those in front: one by its number, all of them, or none. */
export type Asked = number | 'all' | null;

/** A board with its name, as it is asked for. */
export interface AskedBoard extends BoardPlace {
	readonly name: string;
	readonly school: string;
}

/** Writes announcements out, each whole or by its heading alone. */
class Writer {
	constructor(
		private readonly said: ReadonlyMap<number, BoardWords>,
		private readonly files: ReadonlyMap<number, StoredFile>,
		private readonly reader: BoardReader
	) {}

	post(row: PostRow, whole: boolean, also: readonly string[]): Post {
		const { versions, sender, files, note } = this.said.get(row.id)!;
		const { language, factsOf, base, withoutNames: isName } = this.reader;
		const copy = { facts: factsOf(placesOfRow(row), row.id), language, link: base, mayStop: false };
		const [newest, ...older] = (whole ? versions : versions.slice(0, 1)).map((v) => ({
			at: v.at ?? row.from,
			...v.letters.inbox(copy)
		}));
		const { subject, language: tag, direction, html } = newest!;
		return {
			...{ dispatchId: row.id, subject, language: tag, direction },
			...{ from: row.from, until: row.until, pinned: row.pinned, changedAt: row.changedAt },
			also,
			html: whole ? html : '',
			sender: isName || !whole ? '' : sender,
			files: whole
				? [
						// A voice names whom it likes: it is for those who belong there.
						...(note && !isName ? [{ id: note.fileId, words: noteLinkWords(note, tag) }] : []),
						...files.flatMap(({ fileId, private: own }) => {
							const file = this.files.get(fileId);
							if (!file || (isName && own)) return [];
							const name = isName ? fileNameWithoutNames(file.name, isName) : file.name;
							return [{ id: fileId, words: `${name} (${sizeWords(file.bytes)})` }];
						})
					]
				: [],
			before: older.map((v) => ({ at: v.at, subject: v.subject, html: v.html }))
		};
	}
}

/**
 * Boards as they stand at an instant (ms), written out for a reader: what is pinned and the newest whole, the
 * others by their headings, and the one that is asked for by its number whole wherever it stands. What stands on
 * several of the boards is on the first of them, which says of the others.
 */
export async function writeBoards(
	db: Query,
	boards: readonly AskedBoard[],
	rows: readonly PostRow[],
	reader: BoardReader,
	{ time, asked }: { readonly time: number; readonly asked: Asked }
): Promise<BoardView[]> {
	const standing = rows.filter((r) => r.from <= time);
	const { withoutNames: isName } = reader;
	const said = await boardWords(
		db,
		standing.map((r) => r.id),
		(wording) => (isName ? wordingWithoutNames(wording, isName) : wording)
	);
	const ids = [...said.values()].flatMap((s) => s.files.map((f) => f.fileId));
	const files = new Map((await readStored(db, ids)).map((f) => [f.id, f]));
	const writer = new Writer(said, files, reader);
	const names = new Map(boards.map((b) => [boardKey(b), b.name]));
	const boardsOf = (row: PostRow) => {
		const places = new Set(placesOfRow(row));
		return [...names.keys()].filter((key) => places.has(key));
	};
	const { front: most } = (await readDistrict(db)).boards;
	return boards.map((board) => {
		const key = boardKey(board);
		const own = standing.filter((row) => boardsOf(row)[0] === key);
		const { pinned, front, earlier } = boardAt(own, time, most);
		const write = (list: readonly PostRow[], whole: boolean) =>
			list.map((row) =>
				writer.post(
					row,
					whole || asked === 'all' || row.id === asked,
					boardsOf(row)
						.slice(1)
						.map((k) => names.get(k)!)
				)
			);
		return {
			...{ key, name: board.name, of: board.school },
			pinned: write(pinned, true),
			front: write(front, true),
			earlier: write(earlier, false)
		};
	});
}

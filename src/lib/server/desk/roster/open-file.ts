import { readDistrict } from '../../db/district';
import { listIn, readList, readListTable, type ListTable } from '../../reading/roster/list';
import {
	linesAsTheyStand,
	readOneRoster,
	type AsItStands,
	type ReadRoster
} from '../../reading/roster/oneroster';
import { rosterFile } from '../../db/models/rosters';
import { Broken } from '../../reading/roster/broken';
import type { RosterHouse } from './house';
import { tablesFolder } from './look-file';
import { sourceById } from './sources';
import { partsIn } from '../../reading/roster/parts';
import type { BookFile } from '../../../core/format/oneroster/book';
import type { RosterFile } from '../../../core/format/oneroster/files';
import type { ColumnsView } from './types';

/** What was brought, open to be read: the tables of a roster, or a contact list. */
export interface OpenFile {
	/** The list, where it is one. */
	readonly list: ListTable | null;
	readonly bytes: number;
	read(columns: ColumnsView | null, seen: (bytes: number) => void): Promise<ReadRoster>;
	/** Some lines as they stand, by table and number. */
	lines(
		wanted: ReadonlyMap<BookFile, ReadonlySet<number>>
	): Promise<ReadonlyMap<BookFile, AsItStands>>;
	close(): void;
}

/** Opens what was brought, as its source has it. Ends with Broken where it cannot be read. */
export async function openFile(
	{ db, dataFolder }: Pick<RosterHouse, 'db' | 'dataFolder'>,
	fileId: number
): Promise<OpenFile> {
	const folder = tablesFolder(dataFolder, fileId);
	const { sourceId } = (await db.rows(rosterFile).one({ id: fileId }, ['sourceId']))!;
	const { kind } = await sourceById(db, sourceId);
	const { country } = await readDistrict(db);
	if (kind === 'list') {
		const name = await listIn(folder);
		if (name === null)
			throw new Broken(
				'A contact list is one file: .csv, .tsv, .txt, .xlsx or .vcf. Bring it alone.'
			);
		return ofList(await readListTable(folder, name), country);
	}
	const parts = await partsIn(folder);
	return {
		list: null,
		bytes: parts.parts.reduce((sum, part) => sum + part.bytes, 1),
		read: (_, seen) => readOneRoster(parts, country, seen),
		lines: (wanted) =>
			linesAsTheyStand(parts, wanted as ReadonlyMap<RosterFile, ReadonlySet<number>>),
		close: () => parts.close()
	};
}

function ofList(table: ListTable, country: string): OpenFile {
	return {
		list: table,
		bytes: table.bytes + 1,
		read: (columns, seen) => {
			seen(table.bytes);
			return Promise.resolve(readList(table, { ...columns!, country }));
		},
		lines: (wanted) => {
			const numbers = wanted.get('contacts') ?? new Set<number>();
			const lines = table.rows.filter((r) => numbers.has(r.line));
			return Promise.resolve(
				new Map([
					[
						'contacts' as const,
						{ heading: table.heading, lines: new Map(lines.map((r) => [r.line, r.cells])) }
					]
				])
			);
		},
		close: () => {}
	};
}

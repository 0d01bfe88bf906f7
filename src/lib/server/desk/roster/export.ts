import type { Readable } from 'node:stream';
import { rosterFiles, unusedFiles } from '../../../core/format/oneroster/files';
import { manifestRows, tableRows } from '../../../core/format/oneroster/write';
import type { Db } from '../../db/open';
import { heldBook } from './held';
import { zipStream, type OutTable } from './write-zip';

/** The tables of everything that is here, as OneRoster 1.2 has them. */
export async function heldTables(db: Db, secret: Buffer): Promise<OutTable[]> {
	const book = await heldBook(db, secret);
	return [
		{ name: 'manifest.csv', rows: manifestRows(unusedFiles, 'Idle Courier') },
		...rosterFiles.map((file) => ({ name: `${file}.csv`, rows: tableRows(book, file) }))
	];
}

/** Everything that is here as a OneRoster 1.2 zip. */
export const heldZip = async (db: Db, secret: Buffer): Promise<Readable> =>
	zipStream(await heldTables(db, secret));

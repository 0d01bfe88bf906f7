import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import type { User } from '../../access/user';
import { districtDay, readDistrict } from '../../db/district';
import { contentPath, leavingFolder } from '../../db/file-store';
import { calendarFile } from '../calendar/events';
import { placeCards } from '../places/cards';
import { csvStream } from '../roster/write-zip';
import { columnsPage } from './columns-page';
import { answersOut } from './answers-out';
import { composeLetter } from './compose-letter';
import type { LetterOut, LettersHouse } from './letter-out';
import { inMbox } from './mbox';
import { readTable } from './read-table';
import { leavingTables, textsTable } from './tables';
import type { LeavingPart } from './types';
import { likeIt, writtenLetters, type WrittenLetter } from './written-letters';

/** What packing stands on. */
export interface PackHouse extends LettersHouse {
	readonly key: Buffer;
	/** Hears how far it is, from 0 to 1. */
	readonly heard: (done: number, what: string) => void;
}

/** One thing in the archive, made when its turn has come. */
type Entry = readonly [name: string, make: () => Readable | Promise<Readable>];

async function* mboxOf(letters: AsyncIterable<LetterOut>): AsyncGenerator<Buffer> {
	for await (const letter of letters) yield Buffer.from(inMbox(letter.octets, letter), 'latin1');
}

/** What was written, as the letter that stands for all that are like it. */
const asLetter = (written: WrittenLetter) => ({
	...written.of,
	letter: written.letter,
	comments: likeIt(written)
});

/** What was written in a file of its own each and all of it as one, as texts, and what came back. Only words are held; files and pictures are read with the letter they go in. */
async function letterEntries(house: LettersHouse): Promise<Entry[]> {
	const written: WrittenLetter[] = [];
	for await (const letter of writtenLetters(house)) written.push(letter);
	async function* composed() {
		for (const letter of written) yield await composeLetter(house, asLetter(letter));
	}
	const texts = written
		.filter(({ of }) => of.text > 0)
		.map(({ of, letter, text }) => [of.dispatchId, letter.language, text, of.text].map(String));
	return [
		['letters.mbox', () => Readable.from(mboxOf(composed()))],
		...written.map((letter): Entry => [
			`letters/${String(letter.of.dispatchId).padStart(6, '0')}-${fileName(letter.letter.language)}.eml`,
			async () => Readable.from([(await composeLetter(house, asLetter(letter))).octets])
		]),
		[textsTable.name, () => csvStream([textsTable.columns.map(([name]) => name), ...texts])],
		['answers.mbox', () => Readable.from(mboxOf(answersOut(house)))]
	];
}

async function cardEntries({ db, key }: PackHouse, user: User): Promise<Entry[]> {
	const schools = await db.all<{ id: number; name: string }>(
		'SELECT id, name FROM school ORDER BY id'
	);
	return schools.map(({ id, name }): Entry => [
		`cards/${fileName(name)}.vcf`,
		async () => Readable.from([(await placeCards({ db, key }, user, `school-${id}`))?.cards ?? ''])
	]);
}

/** Files that letters and answers name and that are still on the disk. */
async function fileEntries({ db, dataFolder }: PackHouse): Promise<Entry[]> {
	const rows = await db.all<{ hash: string }>(
		'SELECT hash FROM file UNION SELECT hash FROM answer_file WHERE hash IS NOT NULL'
	);
	const there: Entry[] = [];
	for (const { hash } of rows) {
		const path = contentPath(dataFolder, hash);
		const found = await stat(path).catch(() => null);
		if (found) there.push([`files/${hash}`, () => createReadStream(path)]);
	}
	return there;
}

/** A name as one of a file: nothing in it leads elsewhere. */
const fileName = (name: string): string =>
	name
		.replace(/[^\p{L}\p{N} ._-]/gu, '')
		.trim()
		.slice(0, 80) || 'school';

async function entriesOf(
	house: PackHouse,
	user: User,
	parts: readonly LeavingPart[]
): Promise<Entry[]> {
	const { db } = house;
	const { name } = await readDistrict(db);
	const page = columnsPage(name, await districtDay(db), parts);
	const has = (part: LeavingPart) => parts.includes(part);
	return [
		['columns.html', () => Readable.from([page])],
		...(has('tables')
			? leavingTables.map((t): Entry => [t.name, () => csvStream(readTable(db, t))])
			: []),
		...(has('letters') ? await letterEntries(house) : []),
		...(has('calendars')
			? [['calendars/calendar.ics', async () => Readable.from([await calendarFile(db)])] as const]
			: []),
		...(has('cards') ? await cardEntries(house, user) : []),
		...(has('files') ? await fileEntries(house) : [])
	];
}

/** Packs parts up into a file of the folder; what was begun and came to no end is taken away. Resolves to its size. */
export async function pack(
	house: PackHouse,
	user: User,
	{ file, parts }: { readonly file: string; readonly parts: readonly LeavingPart[] }
): Promise<number> {
	const folder = leavingFolder(house.dataFolder);
	await mkdir(folder, { recursive: true, mode: 0o700 });
	const entries = await entriesOf(house, user, parts);
	const zip = new ZipFile();
	let begun = 0;
	// What fails while it is made fails the whole: an archive that ends in the middle is none.
	const failed = new PassThrough();
	for (const [name, make] of entries)
		zip.addReadStreamLazy(name, { compress: !name.startsWith('files/') }, (give) => {
			house.heard(begun / entries.length, name);
			begun += 1;
			Promise.resolve()
				.then(make)
				.then(
					(stream) => {
						stream.once('error', (error) => failed.destroy(error));
						give(null, stream);
					},
					(error: Error) => failed.destroy(error)
				);
		});
	zip.end();
	const beside = join(folder, `${file}.part`);
	try {
		(zip.outputStream as Readable).pipe(failed);
		await pipeline(failed, createWriteStream(beside, { mode: 0o600 }));
		await rename(beside, join(folder, file)).catch(() => {
			throw new Error('Somebody was erased meanwhile. Pack it up once more.');
		});
	} catch (error) {
		await rm(beside, { force: true });
		throw error;
	}
	return (await stat(join(folder, file))).size;
}

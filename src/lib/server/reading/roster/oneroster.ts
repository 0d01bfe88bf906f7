import type { Came, CameFile } from '../../../core/format/oneroster/book';
import type { Fault } from '../../../core/format/oneroster/fault';
import {
	columnsOf,
	rosterFiles,
	unusedFiles,
	type RosterFile,
	type Version
} from '../../../core/format/oneroster/files';
import { readHeading, type Heading } from '../../../core/format/oneroster/heading';
import type { Lines } from '../../../core/format/oneroster/lines';
import { readLine } from '../../../core/format/oneroster/read-line';
import { readManifest, type Manifest, type Mode } from '../../../core/format/oneroster/manifest';
import { Broken } from './broken';
import type { Part, Parts } from './parts';
import { rowsOf, type TableRow } from './rows';

/** What one table of a roster file is, for whoever looks at it. */
export interface TableLine {
	readonly name: string;
	/** Lines without the heading; null of a table that is not used, and not read. */
	readonly lines: number | null;
	readonly mode: Mode | null;
	/** Columns that are not used, "metadata.…" among them. */
	readonly unknown: readonly string[];
}

/** What was handed in, read line by line; nothing in it has been looked up yet. */
export interface ReadRoster {
	/** Of OneRoster, or that it is a contact list. */
	readonly version: Version | 'list';
	readonly systemName: string | null;
	readonly tables: readonly TableLine[];
	/** What is unusual and no fault, as sentences. */
	readonly remarks: readonly string[];
	readonly came: Came;
	readonly faults: readonly Fault[];
}

/** More lines than any district has: of a million, something else is the matter. */
const mostLines = 5_000_000;

const fileOf = (part: Part): RosterFile | undefined =>
	rosterFiles.find((file) => `${file}.csv`.toLowerCase() === part.name.toLowerCase());

/** Reads a OneRoster zip or its loose tables; a number that names no country is of `country`. `seen` hears how many octets are read. Ends with Broken where nothing of it can be trusted. */
export async function readOneRoster(
	{ parts, others }: Parts,
	country: string,
	seen: (bytes: number) => void = () => {}
): Promise<ReadRoster> {
	const remarks = others.map((name) => `“${name}” is no table and was not read.`);
	const manifest = await manifestOf(parts);
	const version = manifest?.version ?? (await guessedVersion(parts));
	if (!manifest)
		remarks.push(
			`There is no manifest.csv: it was read as OneRoster ${version}, each table as the whole of what there is.`
		);
	const present = new Map<RosterFile, Part>();
	const tables: TableLine[] = [];
	for (const part of parts) {
		const file = fileOf(part);
		if (file && columnsOf(version, file)) {
			if (manifest && !manifest.modes.has(file))
				remarks.push(`The manifest says that ${part.name} is absent: it was not read.`);
			else {
				present.set(file, part);
				continue;
			}
		}
		if (part.name.toLowerCase() !== 'manifest.csv')
			tables.push({ name: part.name, lines: null, mode: null, unknown: [] });
	}
	for (const file of manifest?.modes.keys() ?? [])
		if (!present.has(file))
			throw new Broken(
				`The manifest says that there is a ${file}.csv, and it is not there. Export it again, whole.`
			);
	refuseStrange(parts, present);
	refuseParts(version, present);

	const came: { [F in RosterFile]?: CameFile<F> } = {};
	const faults: Fault[] = [];
	for (const file of rosterFiles) {
		const part = present.get(file);
		if (!part) continue;
		const mode = manifest?.modes.get(file) ?? 'bulk';
		const read = await readTable(file, { version, mode, country }, part, seen);
		(came as Record<RosterFile, unknown>)[file] = read.came;
		for (const fault of read.faults) faults.push(fault);
		tables.push({ name: part.name, lines: read.lines, mode, unknown: read.heading.unknown });
	}
	return {
		version,
		systemName: manifest?.systemName ?? null,
		tables: [...tables.filter((t) => t.lines !== null), ...tables.filter((t) => t.lines === null)],
		remarks,
		came,
		faults
	};
}

async function manifestOf(parts: readonly Part[]): Promise<Manifest | null> {
	const part = parts.find((p) => p.name.toLowerCase() === 'manifest.csv');
	if (!part) return null;
	const rows: (readonly string[])[] = [];
	for await (const some of rowsOf(part)) {
		for (const { cells } of some) rows.push(cells);
		if (rows.length > 200) throw new Broken('manifest.csv has over 200 lines: it is none.');
	}
	const read = readManifest(rows);
	if (!read.ok) throw new Broken(`${read.why} Export it again as OneRoster CSV 1.1 or 1.2.`);
	return read.manifest;
}

/** Without a manifest: roles in lines of their own came with 1.2. */
async function guessedVersion(parts: readonly Part[]): Promise<Version> {
	if (parts.some((part) => fileOf(part) === 'roles')) return '1.2';
	const users = parts.find((part) => fileOf(part) === 'users');
	if (!users) return '1.1';
	const rows = rowsOf(users);
	const first = (await rows.next()) as IteratorResult<readonly TableRow[], undefined>;
	await rows.return(undefined);
	const cells = first.done ? [] : (first.value[0]?.cells ?? []);
	const heading = cells.map((cell) => cell.trim().toLowerCase());
	return heading.includes('role') ? '1.1' : '1.2';
}

/** Tables of something else are refused by name before they are looked into. */
function refuseStrange(parts: readonly Part[], present: ReadonlyMap<RosterFile, Part>): void {
	if (present.size > 0) return;
	const known = parts.find((p) =>
		unusedFiles.some((name) => `${name}.csv`.toLowerCase() === p.name.toLowerCase())
	);
	throw new Broken(
		known
			? `There is ${known.name}, and none of the tables that say who is where: orgs, academicSessions, courses, classes, users, enrollments.`
			: `There is no table of a OneRoster export: “${parts[0]!.name}” is none. Its tables are called orgs.csv, classes.csv, users.csv and so on.`
	);
}

/** Tables that make no sense without another. */
function refuseParts(version: Version, present: ReadonlyMap<RosterFile, Part>): void {
	const both = [
		...(version === '1.2' ? ([['users', 'roles']] as const) : []),
		['classes', 'courses'],
		['classes', 'academicSessions']
	] as const;
	for (const [one, other] of both)
		if (present.has(one) && !present.has(other))
			throw new Broken(`There is a ${one}.csv, and no ${other}.csv beside it. Export both.`);
}

interface ReadTable {
	readonly came: CameFile<RosterFile>;
	readonly faults: readonly Fault[];
	readonly lines: number;
	readonly heading: Heading;
}

/** How a table is read: by which version, whether it is whole, and where a number is of that names no country (ISO 3166-1). */
interface HowRead {
	readonly version: Version;
	readonly mode: Mode;
	readonly country: string;
}

async function readTable(
	file: RosterFile,
	{ version, mode, country }: HowRead,
	part: Part,
	seen: (bytes: number) => void
): Promise<ReadTable> {
	const lines = new Map<string, Lines[RosterFile]>();
	const gone = new Set<string>();
	const out = new Map<string, number>();
	const at = new Map<string, number>();
	const faults: Fault[] = [];
	let heading: Heading | null = null;
	let count = 0;
	let before = 0;
	const take = ({ cells, line }: TableRow, columns: Heading) => {
		const read = readLine(file, version, { ...columns, country }, cells, line);
		for (const fault of read.faults) faults.push(fault);
		if (read.id === null) return;
		const first = at.get(read.id);
		if (first !== undefined) {
			// The same words twice is one line.
			if (JSON.stringify(lines.get(read.id)) === JSON.stringify(read.line)) return;
			const wrong = { code: 'twice', id: read.id, first } as const;
			faults.push({ file, line, id: read.id, wrong, rest: false });
			return;
		}
		at.set(read.id, line);
		if (read.line !== null) lines.set(read.id, read.line);
		else if (read.gone) gone.add(read.id);
		else out.set(read.id, line);
	};
	for await (const rows of rowsOf(part)) {
		for (const row of rows) {
			if (heading === null) heading = headingOf(file, version, mode, part.name, row.cells);
			else take(row, heading);
		}
		count += rows.length;
		if (count > mostLines) throw new Broken(`${part.name} has over ${mostLines} lines.`);
		const bytes = Math.round((part.bytes * count) / (count + 2_000));
		seen(bytes - before);
		before = bytes;
	}
	if (heading === null)
		throw new Broken(`${part.name} is empty: not even a heading stands in it. Export it again.`);
	seen(part.bytes - before);
	return { came: { mode, lines, gone, out, at }, faults, lines: Math.max(0, count - 1), heading };
}

/** Reads a heading, or says what is missing in it. */
function headingOf(
	file: RosterFile,
	version: Version,
	mode: Mode,
	name: string,
	cells: readonly string[]
): Heading {
	const read = readHeading(version, file, mode === 'delta', cells);
	if (read.ok) return read.heading;
	if (read.known < 2)
		throw new Broken(
			`${name} has the columns of something else (“${cells.slice(0, 3).join(', ').slice(0, 80)}”). The first line has to be the heading of OneRoster ${version}.`
		);
	const words = [
		...read.missing.map((column) => `the column ${column} is missing`),
		...read.twice.map((column) => `the column ${column} is there twice`)
	];
	throw new Broken(
		`${name}: ${words.join(', ')}. OneRoster ${version}${mode === 'delta' ? ' (delta)' : ''} has to have it.`
	);
}

/** Lines as they stand in their tables, with the headings of those: what is wrong, to be shown and mended. */
export interface AsItStands {
	readonly heading: readonly string[];
	readonly lines: ReadonlyMap<number, readonly string[]>;
}

/** Reads some lines again as they stand, by table and number. */
export async function linesAsTheyStand(
	{ parts }: Parts,
	wanted: ReadonlyMap<RosterFile, ReadonlySet<number>>
): Promise<Map<RosterFile, AsItStands>> {
	const found = new Map<RosterFile, AsItStands>();
	for (const part of parts) {
		const file = fileOf(part);
		const numbers = file && wanted.get(file);
		if (!file || !numbers) continue;
		let heading: readonly string[] | null = null;
		const lines = new Map<number, readonly string[]>();
		for await (const rows of rowsOf(part)) {
			for (const { cells, line } of rows) {
				if (heading === null) heading = cells;
				else if (numbers.has(line)) lines.set(line, cells);
			}
			if (lines.size === numbers.size) break;
		}
		found.set(file, { heading: heading ?? [], lines });
	}
	return found;
}

import { writeDown } from '../../access/log';
import { type Fault, faultText } from '../../../core/format/oneroster/fault';
import type { BookFile } from '../../../core/format/oneroster/book';
import { groupBy } from '../../../core/group-by';
import type { Thing } from '../../../core/roster/things';
import type { Db } from '../../db/open';
import type { RosterHouse } from './house';
import { rosterFile } from '../../db/models/rosters';
import { Broken } from '../../reading/roster/broken';
import type { ListTable } from '../../reading/roster/list';
import type { ReadRoster } from '../../reading/roster/oneroster';
import { proposeColumns, readColumns } from './columns';
import { compare, type Compared } from './compare';
import { openFile, type OpenFile } from './open-file';
import { effectsOf } from './effects';
import { changeFile, contentOf } from './files';
import { countsOf, sharesOf, unsaidOf } from './count-changes';
import { ChangeList } from './list-changes';
import { tablesFolder, writeLook } from './look-file';
import { disputesOf } from './plan-work';
import { readCustody, sourceById } from './sources';
import type { Looked, Question, WrongLine } from './types';

/** How far a long piece of work is, 0 to 1, and what is being done. */
export type Progress = (done: number, what: string) => void;

/** A file read and compared. */
export interface WorkedOut {
	readonly read: ReadRoster;
	readonly compared: Compared;
	readonly mostShare: number;
}

/** Reads a file and compares it with what is here; nothing is written. Ends with Broken where the file cannot be read. */
export async function workOut(
	{ db, key }: RosterHouse,
	opened: OpenFile,
	fileId: number,
	progress: Progress
): Promise<WorkedOut> {
	const file = (await db.rows(rosterFile).one({ id: fileId }))!;
	const source = await sourceById(db, file.sourceId);
	const all = opened.bytes;
	let bytes = 0;
	const read = await opened.read(readColumns(file.columns), (more) => {
		bytes += more;
		progress(0.6 * Math.min(1, bytes / all), 'The file is being read');
	});
	progress(0.6, 'It is being compared with what is here');
	const compared = await compare(db, key, source, read.came, {
		...source.custody,
		...readCustody(file.custody)
	});
	return { read, compared, mostShare: source.mostShare };
}

/**
 * Looks at a roster file: what would change, line by line, what is wrong, and what it does to whatever
 * is planned. Nothing changes by it. A file that cannot be read is refused, with the reason. `next` says
 * whether it waits for somebody, or is to be taken in at once.
 */
export async function lookAt(
	house: RosterHouse,
	fileId: number,
	progress: Progress,
	next: (looked: Looked) => Promise<'looked' | 'taking'> = () => Promise.resolve('looked')
): Promise<void> {
	const { db, dataFolder } = house;
	let opened: OpenFile | null = null;
	try {
		opened = await openFile(house, fileId);
		if (opened.list && (await askedFirst(db, fileId, opened.list))) return;
		const worked = await workOut(house, opened, fileId, progress);
		const looked = await seen(db, dataFolder, fileId, opened, worked, progress);
		const state = await next(looked);
		await db.write(async (tx) => {
			const row = await tx.rows(rosterFile).one({ id: fileId }, ['state']);
			if (row?.state !== 'looking') return;
			await changeFile(tx, fileId, {
				state,
				looked: JSON.stringify(looked),
				why: null,
				...(await contentOf(tablesFolder(dataFolder, fileId)))
			});
		});
	} catch (error) {
		if (!(error instanceof Broken)) throw error;
		await db.write(async (tx) => {
			await changeFile(tx, fileId, { state: 'refused', why: error.message });
			await writeDown(tx, { act: 'roster-refused', by: null, to: ['roster', fileId] });
		});
	} finally {
		opened?.close();
	}
}

/** Whether somebody has to say first what the columns of a list are; what is proposed is written down. */
async function askedFirst(db: Db, fileId: number, list: ListTable): Promise<boolean> {
	return db.write(async (tx) => {
		const row = await tx.rows(rosterFile).one({ id: fileId }, ['columns']);
		const before = readColumns(row?.columns ?? null);
		const columns = before ?? (await proposeColumns(tx, list));
		if (before === null)
			await changeFile(tx, fileId, {
				columns: JSON.stringify(columns),
				...(columns.said ? {} : { state: 'columns' })
			});
		return !columns.said;
	});
}

/** Writes down what was seen, for the page that shows it. */
async function seen(
	db: Db,
	dataFolder: string,
	fileId: number,
	opened: OpenFile,
	{ read, compared, mostShare }: WorkedOut,
	progress: Progress
): Promise<Looked> {
	const faults = [...read.faults, ...compared.faults].sort(byPlace);
	const { done, work, before } = compared;
	progress(0.75, 'The changes are being listed');
	const asked = new Set(compared.questions.map((q) => q.key));
	const tied = groupBy(
		[...compared.after.contact.values()].filter((c) => asked.has(c.person)),
		(c) => c.person
	);
	const changes = new ChangeList(compared, read.came).all();
	await writeLook(dataFolder, fileId, {
		changes,
		wrong: await wrongLines(opened, faults),
		questions: compared.questions.map((q) => question(q, compared, read, tied))
	});
	progress(0.85, 'What it does to whatever is planned is being worked out');
	const wrong = new Set(faults.filter((f) => !f.rest).map((f) => `${f.file} ${f.line}`));
	const partly = new Set(
		faults.map((f) => `${f.file} ${f.line}`).filter((place) => !wrong.has(place))
	);
	return {
		version: read.version,
		systemName: read.systemName,
		tables: read.tables,
		remarks: read.remarks,
		...countsOf(done),
		wrong: wrong.size,
		partly: partly.size,
		faults: faults.length > mostKept ? null : faults.map(faultMark),
		unsaid: unsaidOf(work.contact.put),
		questions: compared.questions.length,
		sameTies: compared.questions.filter((q) => q.by === 'tie').length,
		disputes: done.reduce((n, one) => n + disputesOf(one).length, 0),
		shares: sharesOf(before, done),
		mostShare,
		effects: await effectsOf(db, work),
		restsOn: compared.restsOn
	};
}

/** More wrong lines than this are not told from those of the next file. */
const mostKept = 1_000;
const faultMark = ({ file, id, line, wrong }: Fault): string =>
	`${file} ${id ?? line} ${wrong.code} ${'column' in wrong ? wrong.column : ''}`;

const byPlace = (a: Fault, b: Fault): number =>
	a.file === b.file ? a.line - b.line : a.file < b.file ? -1 : 1;

/** More wrong lines than this are counted and not shown one by one: the file is another than was meant. */
const mostShown = 20_000;

async function wrongLines(
	opened: OpenFile,
	faults: readonly Fault[]
): Promise<Omit<WrongLine, 'n'>[]> {
	const shown = faults.slice(0, mostShown);
	const wanted = new Map<BookFile, Set<number>>();
	for (const { file, line } of shown)
		wanted.set(file, (wanted.get(file) ?? new Set<number>()).add(line));
	const stand = await opened.lines(wanted);
	return shown.map((fault) => ({
		file: fault.file,
		line: fault.line,
		text: faultText(fault),
		rest: fault.rest,
		heading: stand.get(fault.file)?.heading ?? [],
		cells: stand.get(fault.file)?.lines.get(fault.line) ?? []
	}));
}

function question(
	asked: Omit<Question, 'inFile'>,
	{ after, studentNames }: Compared,
	{ came }: ReadRoster,
	tied: ReadonlyMap<string, readonly Thing<'contact'>[]>
): Question {
	const person = after.person.get(asked.key)!;
	const students = (tied.get(asked.key) ?? []).flatMap(
		(c) => after.person.get(c.student)?.givenName ?? studentNames.get(c.student) ?? []
	);
	return {
		...asked,
		inFile: {
			name: `${person.givenName} ${person.familyName}`,
			note:
				person.kind === 'student'
					? `student${person.gradeLevel ? `, grade ${person.gradeLevel}` : ''}`
					: students.length > 0
						? `adult, tied to ${students.join(', ')}`
						: 'adult',
			line: came.users?.at.get(asked.key) ?? null
		}
	};
}

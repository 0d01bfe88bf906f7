import { checkMailAddress } from '../mail-address';
import { toE164 } from '../phone';
import type { RosterFile, Version } from './files';
import type { Fault, Wrong } from './fault';
import { isDay, tidy } from './cells';

/*
 * What the lines of each file say, cell by cell, before anything in them is looked up elsewhere. Names
 * of cells are the standard's; `id` is the line's sourcedId.
 */

interface OrgLine {
	readonly id: string;
	readonly name: string;
	/** department, school, district, local, state, national. */
	readonly type: string;
}
export interface SessionLine {
	readonly id: string;
	readonly title: string;
	/** schoolYear, semester, term, gradingPeriod. */
	readonly type: string;
	/** ISO date of the first day, and of the day after the last. */
	readonly startDate: string;
	readonly endDate: string;
	readonly parent: string | null;
}
interface CourseLine {
	readonly id: string;
	readonly title: string;
	readonly courseCode: string;
	readonly org: string;
}
export interface ClassLine {
	readonly id: string;
	readonly title: string;
	readonly classCode: string;
	readonly course: string;
	readonly school: string;
	readonly terms: readonly string[];
	/** As people say it: "3", "1, 2"; "all day" for a homeroom that says none. */
	readonly periods: string;
}
export interface UserLine {
	readonly id: string;
	readonly enabled: boolean;
	readonly givenName: string;
	readonly familyName: string;
	/** The district's own number for this person, by which other lists name them. */
	readonly identifier: string | null;
	/** Not there where what stands in the cell is none. */
	readonly email?: string | null;
	readonly sms?: string | null;
	readonly phone?: string | null;
	/** People this one is tied to: of a student the parents, of a parent the students. */
	readonly agents: readonly string[];
	/** CEDS code of the first grade that is given. */
	readonly grade: string | null;
	/** 1.1: the role, and the organisations in which they have it; null in 1.2, where roles have lines of their own. */
	readonly role: string | null;
	readonly orgs: readonly string[];
}
export interface RoleLine {
	readonly id: string;
	readonly user: string;
	readonly role: string;
	readonly primary: boolean;
	readonly org: string;
	/** ISO dates; in force from the first, no more on the second. */
	readonly beginDate: string | null;
	readonly endDate: string | null;
}
export interface EnrollmentLine {
	readonly id: string;
	readonly class: string;
	readonly user: string;
	/** student, teacher, aide, proctor, administrator. */
	readonly role: string;
	readonly primary: boolean;
	readonly beginDate: string | null;
	readonly endDate: string | null;
}

/** A line of each file. */
export interface Lines {
	readonly orgs: OrgLine;
	readonly academicSessions: SessionLine;
	readonly courses: CourseLine;
	readonly classes: ClassLine;
	readonly users: UserLine;
	readonly roles: RoleLine;
	readonly enrollments: EnrollmentLine;
}

/** A line that was read. `line` is null where all of it stays out; `gone` says that the thing is no longer there. */
export interface ReadLine<F extends RosterFile> {
	readonly id: string | null;
	readonly line: Lines[F] | null;
	readonly gone: boolean;
	readonly faults: readonly Fault[];
}

/** Longest name or title that is taken, and longest of any other cell. */
const mostName = 200;
const mostCell = 2_000;

/** Ends the reading of a line that has to stay out. */
class StaysOut extends Error {
	constructor(readonly wrong: Wrong) {
		super(wrong.code);
	}
}

const orgTypes = ['department', 'school', 'district', 'local', 'state', 'national'];
const sessionTypes = ['gradingPeriod', 'semester', 'schoolYear', 'term'];
const classTypes = ['homeroom', 'scheduled'];
const enrollmentRoles = ['administrator', 'aide', 'proctor', 'student', 'teacher'];
const roles11 = [
	'administrator',
	'aide',
	'guardian',
	'parent',
	'proctor',
	'relative',
	'student',
	'teacher'
];
const roles12 = [
	'aide',
	'counselor',
	'districtAdministrator',
	'guardian',
	'parent',
	'principal',
	'proctor',
	'relative',
	'siteAdministrator',
	'student',
	'systemAdministrator',
	'teacher'
];

/** The cells of one line, asked by the name of their column. */
class Cells {
	readonly faults: Wrong[] = [];
	constructor(
		readonly at: ReadonlyMap<string, number>,
		readonly cells: readonly string[]
	) {}

	/** What stands in a column, tidied; nothing where there is no such column. */
	text(column: string, most = mostCell): string {
		const at = this.at.get(column);
		const text = at === undefined ? '' : tidy(this.cells[at] ?? '');
		if (text.length > most)
			throw new StaysOut({ code: 'too-long', column, length: text.length, most });
		return text;
	}
	need(column: string, most = mostCell): string {
		const text = this.text(column, most);
		if (text === '') throw new StaysOut({ code: 'empty', column });
		return text;
	}
	/** One of a set of words, whatever the case; the standard also lets an extension stand there ("ext:nurse"), which is made into what it is here. */
	oneOf(column: string, of: readonly string[], extension?: (word: string) => string): string {
		const value = this.need(column, mostName);
		const found = of.find((word) => word.toLowerCase() === value.toLowerCase());
		if (found !== undefined) return found;
		if (extension && /^ext:./i.test(value)) return extension(value.slice(4).trim());
		throw new StaysOut({ code: 'not-one-of', column, value, of });
	}
	yes(column: string, otherwise: boolean): boolean {
		const value = this.text(column).toLowerCase();
		if (value === '') return otherwise;
		if (value === 'true' || value === '1' || value === 'yes') return true;
		if (value === 'false' || value === '0' || value === 'no') return false;
		this.faults.push({ code: 'not-one-of', column, value, of: ['true', 'false'] });
		return otherwise;
	}
	/** A day, or nothing. A time behind it is passed over: some write an instant where a date is asked for. */
	day(column: string): string | null {
		const value = this.text(column);
		if (value === '') return null;
		const day = value.slice(0, 10);
		if (!isDay(day) || (value.length > 10 && !/^[T ]\d\d:\d\d/.test(value.slice(10))))
			throw new StaysOut({ code: 'no-date', column, value });
		return day;
	}
	needDay(column: string): string {
		this.need(column);
		return this.day(column)!;
	}
	/** Several values in one cell, parted by commas. */
	list(column: string): string[] {
		const text = this.text(column, 20_000);
		return text === ''
			? []
			: [
					...new Set(
						text
							.split(',')
							.map((part) => part.trim())
							.filter(Boolean)
					)
				];
	}
	/** An address under a name, or nothing under it; no name where it is no address, or the file has no such column. */
	email<K extends string>(column: K): { readonly [C in K]?: string | null } {
		if (!this.at.has(column)) return {};
		const value = this.text(column);
		if (value === '') return { [column]: null } as { [C in K]: null };
		const mail = checkMailAddress(value);
		if (mail.ok) return { [column]: mail.value } as { [C in K]: string };
		this.faults.push({ code: 'no-address', column, value, why: mail.why });
		return {};
	}
	/** A number in E.164, as {@link email} has addresses. */
	phone<K extends string>(column: K): { readonly [C in K]?: string | null } {
		if (!this.at.has(column)) return {};
		const value = this.text(column);
		const phone = value === '' ? null : toE164(value);
		if (value !== '' && phone === null) {
			this.faults.push({ code: 'no-number', column, value });
			return {};
		}
		return { [column]: phone } as { [C in K]: string | null };
	}
	/** From the first of two days to before the second. */
	stretch(): { readonly beginDate: string | null; readonly endDate: string | null } {
		const beginDate = this.day('beginDate');
		const endDate = this.day('endDate');
		if (beginDate !== null && endDate !== null && endDate < beginDate)
			throw new StaysOut({ code: 'ends-before', starts: beginDate, ends: endDate });
		return { beginDate, endDate };
	}
}

/** How a line of each file is read. */
const readers: {
	readonly [F in RosterFile]: (cells: Cells, id: string, version: Version) => Lines[F];
} = {
	orgs: (c, id) => ({
		id,
		name: c.need('name', mostName),
		type: c.oneOf('type', orgTypes, () => 'department')
	}),
	academicSessions(c, id) {
		const startDate = c.needDay('startDate');
		const endDate = c.needDay('endDate');
		if (endDate <= startDate)
			throw new StaysOut({ code: 'ends-before', starts: startDate, ends: endDate });
		return {
			id,
			title: c.need('title', mostName),
			type: c.oneOf('type', sessionTypes, () => 'term'),
			startDate,
			endDate,
			parent: c.text('parentSourcedId') || null
		};
	},
	courses: (c, id) => ({
		id,
		title: c.need('title', mostName),
		courseCode: c.text('courseCode', mostName),
		org: c.need('orgSourcedId')
	}),
	classes(c, id) {
		const homeroom = c.oneOf('classType', classTypes, () => 'scheduled') === 'homeroom';
		const terms = c.list('termSourcedIds');
		if (terms.length === 0) throw new StaysOut({ code: 'empty', column: 'termSourcedIds' });
		return {
			id,
			title: c.need('title', mostName),
			classCode: c.text('classCode', mostName),
			course: c.need('courseSourcedId'),
			school: c.need('schoolSourcedId'),
			terms,
			periods: periodsText(c.list('periods'), homeroom)
		};
	},
	users(c, id, version) {
		const inLine = version === '1.1';
		const orgs = inLine ? c.list('orgSourcedIds') : [];
		const primary = c.text('primaryOrgSourcedId');
		if (inLine && orgs.length === 0) throw new StaysOut({ code: 'empty', column: 'orgSourcedIds' });
		return {
			id,
			enabled: c.yes('enabledUser', true),
			givenName: c.text('preferredGivenName', mostName) || c.need('givenName', mostName),
			familyName: c.text('preferredFamilyName', mostName) || c.need('familyName', mostName),
			identifier: c.text('userMasterIdentifier') || c.text('identifier') || null,
			...c.email('email'),
			...c.phone('sms'),
			...c.phone('phone'),
			agents: c.list('agentSourcedIds'),
			grade: c.list('grades')[0] ?? null,
			role: inLine ? c.oneOf('role', roles11, (word) => word) : null,
			orgs: inLine ? orgs : primary === '' ? [] : [primary]
		};
	},
	roles: (c, id) => ({
		id,
		user: c.need('userSourcedId'),
		role: c.oneOf('role', roles12, (word) => word),
		primary: c.oneOf('roleType', ['primary', 'secondary']) === 'primary',
		org: c.need('orgSourcedId'),
		...c.stretch()
	}),
	enrollments: (c, id) => ({
		id,
		class: c.need('classSourcedId'),
		user: c.need('userSourcedId'),
		role: c.oneOf('role', enrollmentRoles, () => 'aide'),
		primary: c.yes('primary', false),
		...c.stretch()
	})
};

function periodsText(periods: readonly string[], homeroom: boolean): string {
	if (periods.length === 0) return homeroom ? 'all day' : '';
	const numbers = periods.every((p) => /^\d{1,2}$/.test(p));
	const word = periods.length === 1 ? 'period' : 'periods';
	return (numbers ? `${word} ${periods.join(', ')}` : periods.join(', ')).slice(0, mostName);
}

/** What became of a thing, in its line's `status`; what is not said is there. */
const states = ['active', 'inactive', 'tobedeleted'];

/**
 * Reads one line of a file. What is wrong with a single cell leaves that cell out where the line can
 * do without it; else the line stays out.
 */
export function readLine<F extends RosterFile>(
	file: F,
	version: Version,
	columns: { readonly at: ReadonlyMap<string, number>; readonly heading: number },
	cells: readonly string[],
	lineNumber: number
): ReadLine<F> {
	const reading = new Cells(columns.at, cells);
	const place = { file, line: lineNumber };
	let id: string | null = null;
	const fault = (wrong: Wrong, rest: boolean): Fault => ({ ...place, id, wrong, rest });
	try {
		if (cells.length !== columns.heading)
			throw new StaysOut({ code: 'cells', has: cells.length, heading: columns.heading });
		id = reading.need('sourcedId', 255);
		const status = reading.text('status') === '' ? 'active' : reading.oneOf('status', states);
		// Of what has gone, nothing more need be right.
		if (status !== 'active') return { id, line: null, gone: true, faults: [] };
		const line = readers[file](reading, id, version);
		return { id, line, gone: false, faults: reading.faults.map((wrong) => fault(wrong, true)) };
	} catch (error) {
		if (!(error instanceof StaysOut)) throw error;
		return { id, line: null, gone: false, faults: [fault(error.wrong, false)] };
	}
}

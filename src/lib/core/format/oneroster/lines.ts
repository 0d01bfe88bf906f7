import type { Fault } from './fault';
import type { RosterFile } from './files';

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

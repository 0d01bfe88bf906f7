import { rosterFiles, type RosterFile } from './files';
import type { Book } from './book';
import type { Lines, UserLine } from './lines';

/*
 * A book as the tables of OneRoster 1.2 (CSV binding, section 4), whole. Columns stand in the order of
 * the standard; what we do not hold is empty.
 */

/** Columns in the standard's order, as they are written. */
const order: Readonly<Record<RosterFile, readonly string[]>> = {
	orgs: [
		'sourcedId',
		'status',
		'dateLastModified',
		'name',
		'type',
		'identifier',
		'parentSourcedId'
	],
	academicSessions: [
		'sourcedId',
		'status',
		'dateLastModified',
		'title',
		'type',
		'startDate',
		'endDate',
		'parentSourcedId',
		'schoolYear'
	],
	courses: [
		'sourcedId',
		'status',
		'dateLastModified',
		'schoolYearSourcedId',
		'title',
		'courseCode',
		'grades',
		'orgSourcedId',
		'subjects',
		'subjectCodes'
	],
	classes: [
		'sourcedId',
		'status',
		'dateLastModified',
		'title',
		'grades',
		'courseSourcedId',
		'classCode',
		'classType',
		'location',
		'schoolSourcedId',
		'termSourcedIds',
		'subjects',
		'subjectCodes',
		'periods'
	],
	users: [
		'sourcedId',
		'status',
		'dateLastModified',
		'enabledUser',
		'username',
		'userIds',
		'givenName',
		'familyName',
		'middleName',
		'identifier',
		'email',
		'sms',
		'phone',
		'agentSourcedIds',
		'grades',
		'password',
		'userMasterIdentifier',
		'resourceSourcedIds',
		'preferredGivenName',
		'preferredMiddleName',
		'preferredFamilyName',
		'primaryOrgSourcedId',
		'pronouns'
	],
	roles: [
		'sourcedId',
		'status',
		'dateLastModified',
		'userSourcedId',
		'roleType',
		'role',
		'beginDate',
		'endDate',
		'orgSourcedId',
		'userProfileSourcedId'
	],
	enrollments: [
		'sourcedId',
		'status',
		'dateLastModified',
		'classSourcedId',
		'schoolSourcedId',
		'userSourcedId',
		'role',
		'primary',
		'beginDate',
		'endDate'
	]
};

/** A sourcedId in a list of them may hold no comma; ours hold none, and those of others come from such lists. */
const list = (ids: readonly string[]): string => ids.join(',');

const cells: {
	readonly [F in RosterFile]: (line: Lines[F], book: Book) => Readonly<Record<string, string>>;
} = {
	orgs: ({ id, name, type }) => ({ sourcedId: id, name, type }),
	academicSessions: ({ id, title, type, startDate, endDate, parent }) => ({
		sourcedId: id,
		title,
		type,
		startDate,
		endDate,
		parentSourcedId: parent ?? '',
		schoolYear: endDate.slice(0, 4)
	}),
	courses: ({ id, title, courseCode, org }) => ({
		sourcedId: id,
		title,
		courseCode,
		orgSourcedId: org
	}),
	classes: ({ id, title, classCode, course, school, terms, periods }) => ({
		sourcedId: id,
		title,
		courseSourcedId: course,
		classCode,
		classType: periods === 'all day' ? 'homeroom' : 'scheduled',
		schoolSourcedId: school,
		termSourcedIds: list(terms),
		periods:
			periods === 'all day' ? '' : periods.replace(/^periods? (?=\d)/, '').replace(/, /g, ',')
	}),
	users: (line) => userCells(line),
	roles: ({ id, user, role, primary, org, beginDate, endDate }) => ({
		sourcedId: id,
		userSourcedId: user,
		roleType: primary ? 'primary' : 'secondary',
		role,
		beginDate: beginDate ?? '',
		endDate: endDate ?? '',
		orgSourcedId: org
	}),
	enrollments: ({ id, class: section, user, role, primary, beginDate, endDate }, book) => ({
		sourcedId: id,
		classSourcedId: section,
		schoolSourcedId: book.classes.get(section)?.school ?? '',
		userSourcedId: user,
		role,
		primary: String(primary),
		beginDate: beginDate ?? '',
		endDate: endDate ?? ''
	})
};

const userCells = (u: UserLine): Record<string, string> => ({
	sourcedId: u.id,
	enabledUser: String(u.enabled),
	username: u.id,
	givenName: u.givenName,
	familyName: u.familyName,
	identifier: u.identifier ?? '',
	email: u.email ?? '',
	sms: u.sms ?? '',
	phone: u.phone ?? '',
	agentSourcedIds: list(u.agents),
	grades: u.grade ?? '',
	primaryOrgSourcedId: u.orgs[0] ?? ''
});

/** The rows of one table, its heading first, one after another. */
export function* tableRows(book: Book, file: RosterFile): Generator<readonly string[]> {
	const names = order[file];
	yield names;
	const cellsOf = cells[file] as (line: object, book: Book) => Readonly<Record<string, string>>;
	for (const line of book[file].values()) {
		const cell = cellsOf(line, book);
		yield names.map((name) => cell[name] ?? '');
	}
}

/** manifest.csv of a whole export (1.2 section 4.1): every table of the standard, there or absent. */
export const manifestRows = (
	unused: readonly string[],
	systemName: string
): (readonly string[])[] => [
	['propertyName', 'value'],
	['manifest.version', '1.0'],
	['oneroster.version', '1.2'],
	...rosterFiles.map((file) => [`file.${file}`, 'bulk']),
	...unused.map((file) => [`file.${file}`, 'absent']),
	['source.systemName', systemName],
	['source.systemCode', 'idle-courier']
];

/**
 * The files of the OneRoster CSV binding, and their columns, by version: 1EdTech OneRoster 1.1 CSV
 * tables (section 3) and OneRoster 1.2 CSV binding (section 4). Names are the standard's.
 */

export const versions = ['1.1', '1.2'] as const;
export type Version = (typeof versions)[number];

/** The files that a roster is made of, in the order in which they name each other. */
export const rosterFiles = [
	'orgs',
	'academicSessions',
	'courses',
	'classes',
	'users',
	'roles',
	'enrollments'
] as const;
export type RosterFile = (typeof rosterFiles)[number];

/** Files of the standard that say nothing of who is where: they are named and passed over. */
export const unusedFiles: readonly string[] = [
	'categories',
	'classResources',
	'courseResources',
	'demographics',
	'lineItemLearningObjectiveIds',
	'lineItems',
	'lineItemScoreScales',
	'resources',
	'resultLearningObjectiveIds',
	'results',
	'resultScoreScales',
	'scoreScales',
	'userProfiles',
	'userResources'
];

/** The columns of a file: those that a line cannot do without, those that are read where they are there, and those that are not used. */
export interface Columns {
	readonly required: readonly string[];
	readonly read: readonly string[];
	readonly unused: readonly string[];
}

const marks = ['status', 'dateLastModified'] as const;

/** The same in both versions. */
const shared: Readonly<Record<Exclude<RosterFile, 'users' | 'roles'>, Columns>> = {
	orgs: {
		required: ['sourcedId', 'name', 'type'],
		read: ['status', 'identifier', 'parentSourcedId'],
		unused: ['dateLastModified']
	},
	academicSessions: {
		required: ['sourcedId', 'title', 'type', 'startDate', 'endDate'],
		read: ['status', 'parentSourcedId'],
		unused: ['dateLastModified', 'schoolYear']
	},
	courses: {
		required: ['sourcedId', 'title', 'orgSourcedId'],
		read: ['status', 'courseCode'],
		unused: ['dateLastModified', 'schoolYearSourcedId', 'grades', 'subjects', 'subjectCodes']
	},
	classes: {
		required: [
			'sourcedId',
			'title',
			'courseSourcedId',
			'classType',
			'schoolSourcedId',
			'termSourcedIds'
		],
		read: ['status', 'classCode', 'periods'],
		unused: ['dateLastModified', 'grades', 'location', 'subjects', 'subjectCodes']
	},
	enrollments: {
		required: ['sourcedId', 'classSourcedId', 'userSourcedId', 'role'],
		read: ['status', 'schoolSourcedId', 'primary', 'beginDate', 'endDate'],
		unused: ['dateLastModified']
	}
};

const person = ['sourcedId', 'enabledUser', 'username', 'givenName', 'familyName'] as const;
const aboutPerson = ['status', 'identifier', 'email', 'sms', 'phone', 'agentSourcedIds', 'grades'];
const apart = ['dateLastModified', 'userIds', 'middleName', 'password'];

const columns11: Readonly<Partial<Record<RosterFile, Columns>>> = {
	...shared,
	// Roles and schools stand in the line of the person.
	users: {
		required: [...person, 'orgSourcedIds', 'role'],
		read: aboutPerson,
		unused: apart
	}
};

const columns12: Readonly<Record<RosterFile, Columns>> = {
	...shared,
	users: {
		required: person,
		read: [
			...aboutPerson,
			'userMasterIdentifier',
			'preferredGivenName',
			'preferredFamilyName',
			'primaryOrgSourcedId'
		],
		unused: [...apart, 'resourceSourcedIds', 'preferredMiddleName', 'pronouns']
	},
	roles: {
		required: ['sourcedId', 'userSourcedId', 'roleType', 'role', 'orgSourcedId'],
		read: ['status', 'beginDate', 'endDate'],
		unused: ['dateLastModified', 'userProfileSourcedId']
	}
};

/** The columns of a file; undefined where the version has no such file. */
export const columnsOf = (version: Version, file: RosterFile): Columns | undefined =>
	(version === '1.1' ? columns11 : columns12)[file];

/** In a delta file each line says what became of its thing, and when (1.1 section 2.3, 1.2 section 3.2). */
export const neededInDelta: readonly string[] = marks;

import type { Fault, Wrong } from './fault';
import type { RosterFile, Version } from './files';
import { LineCells, mostName, StaysOut } from './line-cells';
import type { Lines, ReadLine } from './lines';

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

/** How a line of each file is read. */
const readers: {
	readonly [F in RosterFile]: (cells: LineCells, id: string, version: Version) => Lines[F];
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
	columns: {
		readonly at: ReadonlyMap<string, number>;
		readonly heading: number;
		/** Where a number is of that names none (ISO 3166-1). */
		readonly country: string;
	},
	cells: readonly string[],
	lineNumber: number
): ReadLine<F> {
	const reading = new LineCells(columns.at, cells, columns.country);
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

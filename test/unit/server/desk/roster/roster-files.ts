import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';

/** Tables of a OneRoster export: the heading first. */
export type Tables = Readonly<Record<string, readonly (readonly string[])[]>>;

/** Rows of a table from what stands under each heading; what a row does not say is empty. */
export const table = (
	columns: string,
	...rows: readonly Readonly<Record<string, string>>[]
): string[][] => {
	const names = columns.split(',');
	return [names, ...rows.map((row) => names.map((name) => row[name] ?? ''))];
};

const userColumns =
	'sourcedId,status,dateLastModified,enabledUser,orgSourcedIds,role,username,userIds,givenName,familyName,middleName,identifier,email,sms,phone,agentSourcedIds,grades,password';
export const user = (id: string, role: string, given: string, family: string, more = {}) => ({
	sourcedId: id,
	enabledUser: 'true',
	orgSourcedIds: 'o-heron',
	role,
	username: id,
	givenName: given,
	familyName: family,
	...more
});

/** A school of two students with a mother each, a teacher and two sections, as OneRoster 1.1 has it. */
export const smallSchool = (): Record<string, string[][]> => ({
	'manifest.csv': table(
		'propertyName,value',
		...Object.entries({
			'manifest.version': '1.0',
			'oneroster.version': '1.1',
			'file.orgs': 'bulk',
			'file.academicSessions': 'bulk',
			'file.courses': 'bulk',
			'file.classes': 'bulk',
			'file.users': 'bulk',
			'file.enrollments': 'bulk',
			'file.demographics': 'absent',
			'source.systemName': 'Harbor Office'
		}).map(([propertyName, value]) => ({ propertyName, value }))
	),
	'orgs.csv': table(
		'sourcedId,status,dateLastModified,name,type,identifier,parentSourcedId',
		{ sourcedId: 'o-district', name: 'Brackwater Isles', type: 'district' },
		{
			sourcedId: 'o-heron',
			name: 'Heron Landing Elementary School',
			type: 'school',
			parentSourcedId: 'o-district'
		}
	),
	'academicSessions.csv': table(
		'sourcedId,status,dateLastModified,title,type,startDate,endDate,parentSourcedId,schoolYear',
		{
			sourcedId: 't-year',
			title: '2026/27',
			type: 'schoolYear',
			startDate: '2026-08-31',
			endDate: '2027-06-19',
			schoolYear: '2027'
		},
		{
			sourcedId: 't-winter',
			title: 'Winter',
			type: 'term',
			startDate: '2026-12-01',
			endDate: '2027-03-22',
			parentSourcedId: 't-year',
			schoolYear: '2027'
		}
	),
	'courses.csv': table(
		'sourcedId,status,dateLastModified,schoolYearSourcedId,title,courseCode,grades,orgSourcedId,subjects,subjectCodes',
		{ sourcedId: 'c-hr', title: 'Homeroom 4', courseCode: 'HR-4', orgSourcedId: 'o-heron' },
		{ sourcedId: 'c-boats', title: 'Boats', courseCode: 'B', orgSourcedId: 'o-district' }
	),
	'classes.csv': table(
		'sourcedId,status,dateLastModified,title,grades,courseSourcedId,classCode,classType,location,schoolSourcedId,termSourcedIds,subjects,subjectCodes,periods',
		{
			sourcedId: 's-4a',
			title: 'Homeroom 4-A',
			courseSourcedId: 'c-hr',
			classType: 'homeroom',
			schoolSourcedId: 'o-heron',
			termSourcedIds: 't-winter'
		},
		{
			sourcedId: 's-boats',
			title: 'Boats 1-A',
			courseSourcedId: 'c-boats',
			classType: 'scheduled',
			schoolSourcedId: 'o-heron',
			termSourcedIds: 't-winter',
			periods: '3'
		}
	),
	'users.csv': table(
		userColumns,
		user('u-marlo', 'student', 'Marlo', 'Ferreira', {
			identifier: '4410',
			grades: '04',
			agentSourcedIds: 'u-ana'
		}),
		user('u-linh', 'student', 'Linh', 'Pham', {
			identifier: '4411',
			grades: '04',
			agentSourcedIds: 'u-bao,u-thu'
		}),
		user('u-ana', 'parent', 'Ana', 'Ferreira', {
			email: 'ana@harbormail.example',
			sms: '+12075550177'
		}),
		user('u-bao', 'parent', 'Bao', 'Pham', { email: 'b.pham@ferrynet.example' }),
		user('u-thu', 'relative', 'Thu', 'Pham', { phone: '(207) 555-0178' }),
		user('u-okafor', 'teacher', 'Chidi', 'Okafor', { email: 'okafor@brackwater.example' })
	),
	'enrollments.csv': table(
		'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate',
		...(
			[
				['e1', 's-4a', 'u-marlo', 'student'],
				['e2', 's-4a', 'u-linh', 'student'],
				['e3', 's-boats', 'u-linh', 'student'],
				['e4', 's-4a', 'u-okafor', 'teacher'],
				['e5', 's-boats', 'u-okafor', 'teacher']
			] as const
		).map(([sourcedId, classSourcedId, userSourcedId, role]) => ({
			sourcedId,
			classSourcedId,
			schoolSourcedId: 'o-heron',
			userSourcedId,
			role,
			primary: role === 'teacher' ? 'true' : ''
		}))
	)
});

/** A table as it stands in a file. */
export const csvText = (rows: readonly (readonly string[])[]): string =>
	stringify(rows as string[][], { record_delimiter: 'windows' });

/** Puts tables into a folder as loose files. */
export function putLoose(folder: string, tables: Tables): void {
	mkdirSync(folder, { recursive: true });
	for (const [name, rows] of Object.entries(tables))
		writeFileSync(join(folder, name), csvText(rows));
}

/** Puts texts into a zip. */
export async function putZip(path: string, files: Readonly<Record<string, string>>): Promise<void> {
	const zip = new ZipFile();
	for (const [name, text] of Object.entries(files)) zip.addBuffer(Buffer.from(text), name);
	zip.end();
	await pipeline(zip.outputStream, createWriteStream(path));
}

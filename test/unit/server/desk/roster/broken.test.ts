import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { emptyBook } from '../../../../../src/lib/core/format/oneroster/book';
import { faultText } from '../../../../../src/lib/core/format/oneroster/fault';
import { lookUp } from '../../../../../src/lib/core/format/oneroster/look-up';
import { heldTables } from '../../../../../src/lib/server/desk/roster/export';
import { Broken } from '../../../../../src/lib/server/reading/roster/broken';
import { readOneRoster } from '../../../../../src/lib/server/reading/roster/oneroster';
import { partsIn, usualLimits } from '../../../../../src/lib/server/reading/roster/parts';
import { districtDatabase } from '../../database';
import { testKey } from './intake';
import { csvText, putZip } from './roster-files';
import { rawZip } from './raw-zip';

type Files = Record<string, string>;
type Rows = Record<string, string[][]>;

/** A table's cell, by the name of its column. */
const at = (rows: string[][], column: string) => rows[0]!.indexOf(column);
const texts = (rows: Rows): Files =>
	Object.fromEntries(Object.entries(rows).map(([name, list]) => [name, csvText(list)]));
const copy = (rows: Rows): Rows =>
	Object.fromEntries(Object.entries(rows).map(([name, list]) => [name, list.map((r) => [...r])]));

/** The same export as OneRoster 1.1 has it: roles and schools in the line of the person. */
function asOlder(rows: Rows): Rows {
	const { 'roles.csv': roles, ...older } = copy(rows);
	const users = older['users.csv']!;
	const of = new Map<string, string[]>();
	for (const row of roles!.slice(1)) {
		const user = row[at(roles!, 'userSourcedId')]!;
		if (!of.has(user)) of.set(user, [row[at(roles!, 'role')]!, row[at(roles!, 'orgSourcedId')]!]);
	}
	const eleven: Readonly<Record<string, string>> = {
		counselor: 'aide',
		principal: 'administrator'
	};
	users[0]!.push('role', 'orgSourcedIds');
	for (const row of users.slice(1)) {
		const [role, org] = of.get(row[0]!)!;
		row.push(eleven[role!] ?? role!, org!);
	}
	const manifest = older['manifest.csv']!;
	older['manifest.csv'] = manifest
		.filter((r) => r[0] !== 'file.roles')
		.map((r) => (r[0] === 'oneroster.version' ? [r[0], '1.1'] : r));
	return older;
}

const without = (name: string, files: Files): Files =>
	Object.fromEntries(Object.entries(files).filter(([other]) => other !== name));

/** What comes of files: the words of whatever is wrong, or why none of them can be read. */
async function wordsOf(files: Files | ((folder: string) => void | Promise<void>)): Promise<string> {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-roster-'));
	try {
		if (typeof files === 'function') await files(folder);
		else for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
		const parts = await partsIn(folder, { ...usualLimits, bytes: 30e6, allBytes: 60e6 });
		try {
			const read = await readOneRoster(parts, 'US');
			const { faults, book } = lookUp(emptyBook(), read.came);
			return [
				...read.remarks,
				...[...read.faults, ...faults].map((f) => `${f.file} ${f.line}: ${faultText(f)}`),
				`${book.users.size} people, ${book.enrollments.size} enrolments`
			].join('\n');
		} finally {
			parts.close();
		}
	} catch (error) {
		if (!(error instanceof Broken)) throw error;
		return `refused: ${error.message}`;
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
}

describe('the made-up district as OneRoster files, broken in many ways', () => {
	let newer: Rows;
	let older: Rows;
	before(async () => {
		const house = await districtDatabase(7);
		const tables = await heldTables(house.db, testKey);
		await house.close();
		const all = tables.map(({ name, rows }) => [name, [...rows].map((r) => [...r])] as const);
		newer = Object.fromEntries(all);
		// A part of the district is enough to be broken, and quick to read: one homeroom and its families.
		newer = smaller(newer);
		older = asOlder(newer);
	});

	it('both versions are read whole and nothing in them is wrong', async () => {
		const newerWords = await wordsOf(texts(newer));
		expect(newerWords).to.match(/^\d+ people, \d+ enrolments$/);
		expect(await wordsOf(texts(older))).to.equal(newerWords);
	});

	/** What may be strange and is no fault. */
	const fine: Record<string, (rows: Rows) => Files> = {
		'a mark of the octets’ order at the beginning': (r) => {
			const t = texts(r);
			return { ...t, 'users.csv': `\ufeff${t['users.csv']!}` };
		},
		'lines ending in LF alone': (r) =>
			Object.fromEntries(
				Object.entries(texts(r)).map(([name, text]) => [name, text.replace(/\r\n/g, '\n')])
			),
		'blank lines between and at the end': (r) => {
			const t = texts(r);
			return { ...t, 'users.csv': `${t['users.csv']!.replace(/\r\n/, '\r\n\r\n')}\r\n\r\n` };
		},
		'columns in another order': (r) => {
			r['users.csv'] = r['users.csv']!.map((row) => [...row].reverse());
			return texts(r);
		},
		'columns that nobody knows': (r) => {
			r['orgs.csv'] = r['orgs.csv']!.map((row, i) => [
				...row,
				i === 0 ? 'metadata.lunch' : 'kelp, "wet"\nand dry'
			]);
			return texts(r);
		},
		'quotes around every cell': (r) => {
			const t = texts(r);
			t['users.csv'] = r['users.csv']!.map((row) =>
				row.map((c) => `"${c.replace(/"/g, '""')}"`).join(',')
			).join('\r\n');
			return t;
		},
		'the same line twice, word for word': (r) => {
			r['orgs.csv']!.push([...r['orgs.csv']![1]!]);
			return texts(r);
		},
		'tables that are not used': (r) => {
			r['manifest.csv']!.push(['file.demographics', 'bulk']);
			return { ...texts(r), 'demographics.csv': 'sourcedId\r\nu1\r\n' };
		}
	};
	for (const [name, breakIt] of Object.entries(fine))
		for (const version of ['1.1', '1.2'] as const)
			it(`${version}: ${name} is no fault`, async () => {
				const rows = version === '1.1' ? older : newer;
				const whole = await wordsOf(texts(rows));
				expect(await wordsOf(breakIt(copy(rows)))).to.equal(whole);
			});

	/** Single lines that are wrong: they alone stay out. Each is said with its file and line. */
	const lines: Record<string, readonly [(rows: Rows) => void, RegExp]> = {
		'a user without a name': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'familyName')] = ''),
			/^users 3: familyName is empty\.$/m
		],
		'a name of 10,000 signs': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'givenName')] = 'o'.repeat(10_000)),
			/^users 3: givenName is 10000 characters long; 200 are taken\.$/m
		],
		'an address that is none': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'email')] = 'kelp garden'),
			/^users 3: “kelp garden” is no mail address \(email\): it has no @\. The rest of the line comes in\.$/m
		],
		'a number that is none': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'sms')] = 'ask at home'),
			/^users 3: “ask at home” is no phone number \(sms\)/m
		],
		'a sourcedId twice, for somebody else': [
			(r) => {
				const other = [...r['users.csv']![1]!];
				other[at(r['users.csv']!, 'givenName')] = 'Other';
				r['users.csv']!.push(other);
			},
			/^users \d+: The sourcedId “[^”]+” is in line 2 already; that line counts\.$/m
		],
		'no sourcedId': [(r) => (r['users.csv']![2]![0] = ''), /^users 3: sourcedId is empty\.$/m],
		'a line cut short': [
			(r) => (r['users.csv']![2] = r['users.csv']![2]!.slice(0, 5)),
			/^users 3: The line has 5 cells, the heading \d+\.$/m
		],
		'a line too long': [
			(r) => r['users.csv']![2]!.push('and', 'more'),
			/^users 3: The line has \d+ cells, the heading \d+\.$/m
		],
		'an unknown agent': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'agentSourcedIds')] = 'nobody'),
			/^users 3: agentSourcedIds names “nobody”, which is in no line of users\.csv\. The rest/m
		],
		'a role that is none': [
			(r) => {
				const table = r['roles.csv'] ?? r['users.csv']!;
				table[2]![at(table, 'role')] = 'captain';
			},
			/^(users|roles) 3: role is “captain”; it can be /m
		],
		'an unknown school of a person': [
			(r) => {
				const table = r['roles.csv'] ?? r['users.csv']!;
				table[2]![at(table, r['roles.csv'] ? 'orgSourcedId' : 'orgSourcedIds')] = 'reef';
			},
			/^(users|roles) 3: orgSourcedIds? names “reef”, which is in no line of orgs\.csv\.$/m
		],
		'enabledUser of its own': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'enabledUser')] = 'maybe'),
			/^users 3: enabledUser is “maybe”; it can be true, false\. The rest/m
		],
		'an enrolment of nobody': [
			(r) => (r['enrollments.csv']![1]![at(r['enrollments.csv']!, 'userSourcedId')] = 'S-4410'),
			/^enrollments 2: userSourcedId names “S-4410”, which is in no line of users\.csv\.$/m
		],
		'an enrolment in no class': [
			(r) => (r['enrollments.csv']![1]![at(r['enrollments.csv']!, 'classSourcedId')] = 'C-9'),
			/^enrollments 2: classSourcedId names “C-9”, which is in no line of classes\.csv\.$/m
		],
		'an enrolment that ends before it begins': [
			(r) => {
				const table = r['enrollments.csv']!;
				table[1]![at(table, 'beginDate')] = '2027-02-01';
				table[1]![at(table, 'endDate')] = '2027-01-01';
			},
			/^enrollments 2: It ends \(2027-01-01\) before it begins \(2027-02-01\)\.$/m
		],
		'a day that is none': [
			(r) => (r['enrollments.csv']![1]![at(r['enrollments.csv']!, 'beginDate')] = '31.12.2026'),
			/^enrollments 2: “31\.12\.2026” is no date \(beginDate\)/m
		],
		'an enrolment without a role': [
			(r) => (r['enrollments.csv']![1]![at(r['enrollments.csv']!, 'role')] = ''),
			/^enrollments 2: role is empty\.$/m
		],
		'a class of no course': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'courseSourcedId')] = 'kelp'),
			/^classes 2: courseSourcedId names “kelp”.*\n(.|\n)*whose own line stays out \(classes\.csv, line 2\)/m
		],
		'a class without a school': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'schoolSourcedId')] = ''),
			/^classes 2: schoolSourcedId is empty\.$/m
		],
		'a class at the district': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'schoolSourcedId')] = 'ic-district'),
			/^classes 2: schoolSourcedId names “ic-district”, which is a district and no school\.$/m
		],
		'a class in no term': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'termSourcedIds')] = ''),
			/^classes 2: termSourcedIds is empty\.$/m
		],
		'a class in an unknown term': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'termSourcedIds')] = 'summer'),
			/^classes 2: termSourcedIds names “summer”, which is in no line of academicSessions\.csv\.$/m
		],
		'a classType of its own': [
			(r) => (r['classes.csv']![1]![at(r['classes.csv']!, 'classType')] = 'raft'),
			/^classes 2: classType is “raft”; it can be homeroom, scheduled\.$/m
		],
		'a course of an unknown school': [
			(r) => (r['courses.csv']![1]![at(r['courses.csv']!, 'orgSourcedId')] = 'reef'),
			/^courses 2: orgSourcedId names “reef”.*The rest of the line comes in\.$/m
		],
		'a term that ends before it begins': [
			(r) =>
				(r['academicSessions.csv']![1]![at(r['academicSessions.csv']!, 'endDate')] = '1999-01-01'),
			/^academicSessions 2: It ends \(1999-01-01\) before it begins/m
		],
		'terms that are each other’s parents': [
			(r) => {
				const table = r['academicSessions.csv']!;
				const parent = at(table, 'parentSourcedId');
				table[1]![parent] = table[2]![0]!;
				table[2]![parent] = table[1]![0]!;
			},
			/^academicSessions 2: Its parents go round in a circle: /m
		],
		'a school without a name': [
			(r) => (r['orgs.csv']![2]![at(r['orgs.csv']!, 'name')] = ' '),
			/^orgs 3: name is empty\.$/m
		],
		'an org of no type': [
			(r) => (r['orgs.csv']![2]![at(r['orgs.csv']!, 'type')] = 'club'),
			/^orgs 3: type is “club”; it can be department, school/m
		],
		'a status of its own': [
			(r) => (r['users.csv']![2]![at(r['users.csv']!, 'status')] = 'asleep'),
			/^users 3: status is “asleep”; it can be active, inactive, tobedeleted\.$/m
		]
	};
	for (const [name, [breakIt, words]] of Object.entries(lines))
		it(`${name}: that line alone is said`, async () => {
			for (const rows of [older, newer]) {
				const broken = copy(rows);
				breakIt(broken);
				const said = await wordsOf(texts(broken));
				expect(said).to.match(words);
				expect(said).not.to.match(/^refused/);
			}
		});

	/** Files that cannot be trusted: nothing of them is taken. */
	const files: Record<string, readonly [(rows: Rows) => Files, RegExp]> = {
		'a column that has to be there': [
			(r) => {
				const table = r['users.csv']!;
				const i = at(table, 'familyName');
				table.forEach((row) => row.splice(i, 1));
				return texts(r);
			},
			/^refused: users\.csv: the column familyName is missing\. OneRoster 1\.2 has to have it\.$/
		],
		'two columns of one name': [
			(r) => {
				r['users.csv']!.forEach((row) => row.push(row[0]!));
				return texts(r);
			},
			/users\.csv: the column sourcedId is there twice/
		],
		'the columns of something else': [
			(r) => ({ ...texts(r), 'users.csv': 'Boat,Length,Crew\r\nHeron,7,2\r\n' }),
			/users\.csv has the columns of something else \(“Boat, Length, Crew”\)/
		],
		'no heading': [
			(r) => ({ ...texts(r), 'users.csv': texts(r)['users.csv']!.replace(/^.*\r\n/, '') }),
			/users\.csv has the columns of something else/
		],
		'an empty table': [
			(r) => ({ ...texts(r), 'enrollments.csv': '' }),
			/enrollments\.csv is empty: not even a heading/
		],
		'a table that the manifest promises': [
			(r) => {
				return without('classes.csv', texts(r));
			},
			/The manifest says that there is a classes\.csv, and it is not there/
		],
		'a version of the future': [
			(r) => {
				r['manifest.csv']!.find((row) => row[0] === 'oneroster.version')![1] = '3.0';
				return texts(r);
			},
			/oneroster\.version is “3\.0”; versions 1\.1 and 1\.2 are read/
		],
		'a manifest that is none': [
			(r) => ({ ...texts(r), 'manifest.csv': 'hello\r\n' }),
			/manifest\.csv: the heading has to be propertyName,value/
		],
		'users without roles': [
			(r) => {
				r['manifest.csv']!.find((row) => row[0] === 'file.roles')![1] = 'absent';
				return without('roles.csv', texts(r));
			},
			/There is a users\.csv, and no roles\.csv beside it/
		],
		'classes without courses': [
			(r) => {
				r['manifest.csv']!.find((row) => row[0] === 'file.courses')![1] = 'absent';
				return without('courses.csv', texts(r));
			},
			/There is a classes\.csv, and no courses\.csv beside it/
		],
		'a quote that never closes': [
			(r) => {
				const t = texts(r);
				return { ...t, 'users.csv': `${t['users.csv']!}"u9,active,` };
			},
			/A quote in “users\.csv” that begins in line \d+ or soon after is never closed/
		],
		'changes without their dates': [
			(r) => {
				r['manifest.csv']!.find((row) => row[0] === 'file.orgs')![1] = 'delta';
				r['orgs.csv'] = r['orgs.csv']!.map((row) => row.filter((_, i) => i !== 2));
				return texts(r);
			},
			/orgs\.csv: the column dateLastModified is missing\. OneRoster 1\.2 \(delta\)/
		],
		'tables of something else only': [
			() => ({ 'boats.csv': 'a,b\r\n1,2\r\n' }),
			/There is no table of a OneRoster export: “boats\.csv” is none/
		],
		'results and nothing else': [
			() => ({ 'results.csv': 'sourcedId\r\n1\r\n' }),
			/There is results\.csv, and none of the tables that say who is where/
		],
		'a text': [
			() => ({ 'letter.txt': 'Dear Maren' }),
			/“letter\.txt” is neither a zip nor a table/
		],
		'a zip by its name alone': [
			() => ({ 'roster.zip': 'not at all' }),
			/“roster\.zip” is no zip, whatever its name says/
		],
		nothing: [() => ({}), /No file came/]
	};
	for (const [name, [breakIt, words]] of Object.entries(files))
		it(`${name}: all of it is refused in words`, async () => {
			expect(await wordsOf(breakIt(copy(newer)))).to.match(words);
		});

	/** Octets and zips that mean harm. */
	const hostile: Record<string, readonly [(folder: string) => void | Promise<void>, RegExp]> = {
		'Latin-1 in place of UTF-8': [
			(folder) => {
				const t = texts(newer);
				for (const [name, text] of Object.entries(t)) writeFileSync(join(folder, name), text);
				const rows = copy(newer)['users.csv']!;
				rows[3]![at(rows, 'givenName')] = 'Jos\u00e9';
				writeFileSync(join(folder, 'users.csv'), Buffer.from(csvText(rows), 'latin1'));
			},
			/^refused: “users\.csv” is not UTF-8 \(about line \d+\)\. Save or export it as UTF-8\.$/
		],
		'UTF-16': [
			(folder) =>
				writeFileSync(
					join(folder, 'users.csv'),
					Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('sourcedId', 'utf16le')])
				),
			/“users\.csv” is UTF-16/
		],
		'NUL octets': [
			(folder) => writeFileSync(join(folder, 'users.csv'), 'sourcedId\0,role\r\n'),
			/holds octets that no text has/
		],
		'a zip and a table beside it': [
			async (folder) => {
				await putZip(join(folder, 'a.zip'), texts(newer));
				writeFileSync(join(folder, 'users.csv'), 'x');
			},
			/There are two files and “a\.zip” is a zip/
		],
		'a zip cut off in the middle': [
			async (folder) => {
				const path = join(folder, 'a.zip');
				await putZip(path, texts(newer));
				const { readFileSync } = await import('node:fs');
				const whole = readFileSync(path);
				writeFileSync(path, whole.subarray(0, whole.length / 2));
			},
			/“a\.zip” is cut off or broken: the list at the end of the zip is missing/
		],
		'a path that leads out': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([{ name: '../../users.csv', data: Buffer.from('x') }])
				),
			/“a\.zip” holds a file whose path leads out of it/
		],
		'two files of one name': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([
						{ name: 'users.csv', data: Buffer.from('x') },
						{ name: 'Users.csv', data: Buffer.from('y') }
					])
				),
			/Two files are called “Users\.csv”/
		],
		'tables in two folders': [
			(folder) => putZip(join(folder, 'a.zip'), { 'a/users.csv': 'x', 'b/orgs.csv': 'y' }),
			/lie in 2 folders/
		],
		'a bomb that says so': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([{ name: 'users.csv', data: Buffer.alloc(20e6, 'a') }])
				),
			/would unpack to 20 MB from .*that is no roster/
		],
		'a bomb that lies': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([{ name: 'users.csv', data: Buffer.alloc(20e6, 'a'), size: 1000 }])
				),
			/“users\.csv” breaks off while it is unpacked/
		],
		'a table of gigabytes': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([{ name: 'users.csv', data: Buffer.from('x'), size: 2e9 }])
				),
			/“users\.csv” is over 30 MB; no table of a roster is/
		],
		'too many files': [
			(folder) =>
				putZip(
					join(folder, 'a.zip'),
					Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`t${i}.csv`, 'x']))
				),
			/“a\.zip” holds 300 files; a roster has a dozen/
		],
		'a locked zip': [
			(folder) =>
				writeFileSync(
					join(folder, 'a.zip'),
					rawZip([{ name: 'users.csv', data: Buffer.from('x'), flags: 1 }])
				),
			/“a\.zip” is locked with a password/
		],
		'a zip without tables': [
			(folder) => putZip(join(folder, 'a.zip'), { 'readme.txt': 'hello' }),
			/“a\.zip” holds no table/
		]
	};
	for (const [name, [make, words]] of Object.entries(hostile))
		it(`${name}: refused in words`, async () => {
			expect(await wordsOf(make)).to.match(words);
		});

	it('a zip in a folder of its own, with what file managers put beside, is read', async () => {
		const inside = Object.fromEntries(
			Object.entries(texts(newer)).map(([name, text]) => [`export/${name}`, text])
		);
		const whole = await wordsOf(texts(newer));
		expect(
			await wordsOf((folder) =>
				putZip(join(folder, 'a.zip'), { ...inside, '__MACOSX/export/._users.csv': 'x' })
			)
		).to.equal(whole);
	});
});

/** A part of an export: the first students of it, with their families, classes and all that those name. */
function smaller(rows: Rows): Rows {
	const part = copy(rows);
	const users = part['users.csv']!;
	const column = (name: string, table: string) => at(part[table]!, name);
	const students = users
		.slice(1)
		.filter((r) => r[column('grades', 'users.csv')] !== '')
		.slice(0, 40);
	const keep = new Set(
		students.flatMap((r) => [r[0]!, ...r[column('agentSourcedIds', 'users.csv')]!.split(',')])
	);
	const limit = (name: string, test: (row: string[]) => boolean) =>
		(part[name] = part[name]!.filter((row, i) => i === 0 || test(row)));
	limit('users.csv', (r) => keep.has(r[0]!));
	limit('roles.csv', (r) => keep.has(r[column('userSourcedId', 'roles.csv')]!));
	limit('enrollments.csv', (r) => keep.has(r[column('userSourcedId', 'enrollments.csv')]!));
	return part;
}

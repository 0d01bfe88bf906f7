import { expect } from 'chai';
import { faultText } from '../../../../../src/lib/core/format/oneroster/fault';
import type { RosterFile, Version } from '../../../../../src/lib/core/format/oneroster/files';
import { readHeading } from '../../../../../src/lib/core/format/oneroster/heading';
import { readLine } from '../../../../../src/lib/core/format/oneroster/read-line';
import { readManifest } from '../../../../../src/lib/core/format/oneroster/manifest';
import { gradeCodeOf, gradeLevelOf, gradeRank } from '../../../../../src/lib/core/roster/grade';

/** A line of a file, by the names of its columns. */
function read<F extends RosterFile>(
	file: F,
	cells: Readonly<Record<string, string>>,
	version: Version = '1.1'
) {
	const names = Object.keys(cells);
	const at = new Map(names.map((name, i) => [name, i]));
	return readLine(
		file,
		version,
		{ at, heading: names.length, country: 'US' },
		Object.values(cells),
		7
	);
}
const said = (result: ReturnType<typeof read>) => result.faults.map(faultText).join(' ');

describe('lines of OneRoster tables', () => {
	// 1EdTech OneRoster 1.1 CSV tables, section 4.13 (users.csv), its columns in its order; values ours.
	const user = {
		sourcedId: 'u1',
		status: '',
		dateLastModified: '',
		enabledUser: 'true',
		orgSourcedIds: 'o1,o2',
		role: 'student',
		username: 'ana',
		userIds: '{LDAP:ana},{State:77}',
		givenName: 'Ana',
		familyName: 'Amaro',
		middleName: '',
		identifier: '4410',
		email: 'ana@harbormail.example',
		sms: '(207) 555-0143',
		phone: '',
		agentSourcedIds: 'u2,u3',
		grades: '05',
		password: ''
	};

	it('users.csv 1.1: roles, schools, agents and grades in one line', () => {
		expect(read('users', user)).to.deep.equal({
			id: 'u1',
			gone: false,
			faults: [],
			line: {
				id: 'u1',
				enabled: true,
				givenName: 'Ana',
				familyName: 'Amaro',
				identifier: '4410',
				email: 'ana@harbormail.example',
				sms: '+12075550143',
				phone: null,
				agents: ['u2', 'u3'],
				grade: '05',
				role: 'student',
				orgs: ['o1', 'o2']
			}
		});
	});

	it('users.csv 1.2: preferred names count, and the district’s master number', () => {
		const { line } = read(
			'users',
			{
				sourcedId: 'u1',
				enabledUser: 'false',
				username: 'a',
				givenName: 'Anabela',
				familyName: 'Amaro',
				preferredGivenName: 'Bela',
				userMasterIdentifier: 'M-1',
				identifier: '4410'
			},
			'1.2'
		);
		expect(line).to.include({ givenName: 'Bela', identifier: 'M-1', enabled: false, role: null });
		// No column, nothing said: what is known stays.
		expect(line).not.to.have.any.keys('email', 'sms', 'phone');
	});

	const wrong: readonly (readonly [
		string,
		RosterFile,
		Readonly<Record<string, string>>,
		RegExp
	])[] = [
		[
			'a name of 10,000 signs',
			'users',
			{ ...user, givenName: 'a'.repeat(10_000) },
			/10000 characters long; 200/
		],
		['no name', 'users', { ...user, givenName: ' \u00a0 ' }, /givenName is empty/],
		['no sourcedId', 'users', { ...user, sourcedId: '' }, /sourcedId is empty/],
		[
			'a role of another trade',
			'users',
			{ ...user, role: 'captain' },
			/role is “captain”; it can be/
		],
		['no school', 'users', { ...user, orgSourcedIds: ' , ' }, /orgSourcedIds is empty/],
		['a status of its own', 'users', { ...user, status: 'maybe' }, /status is “maybe”/],
		[
			'a day that is none',
			'academicSessions',
			{ sourcedId: 't', title: 'T', type: 'term', startDate: '2027-02-29', endDate: '2027-03-01' },
			/“2027-02-29” is no date \(startDate\)/
		],
		[
			'a day in another order',
			'academicSessions',
			{ sourcedId: 't', title: 'T', type: 'term', startDate: '09/01/2026', endDate: '2027-03-01' },
			/“09\/01\/2026” is no date/
		],
		[
			'dates the wrong way round',
			'academicSessions',
			{ sourcedId: 't', title: 'T', type: 'term', startDate: '2027-03-01', endDate: '2026-09-01' },
			/ends \(2026-09-01\) before it begins/
		],
		[
			'an enrolment that ends before it begins',
			'enrollments',
			{
				sourcedId: 'e',
				classSourcedId: 'c',
				userSourcedId: 'u',
				role: 'student',
				beginDate: '2027-03-02',
				endDate: '2027-03-01'
			},
			/before it begins/
		],
		[
			'a class without a school',
			'classes',
			{
				sourcedId: 'c',
				title: 'C',
				courseSourcedId: 'k',
				classType: 'homeroom',
				schoolSourcedId: '',
				termSourcedIds: 't'
			},
			/schoolSourcedId is empty/
		],
		['an org of no type', 'orgs', { sourcedId: 'o', name: 'O', type: 'club' }, /type is “club”/]
	];
	for (const [name, file, cells, text] of wrong)
		it(`${name}: the line stays out, and it is said why`, () => {
			const result = read(file, cells);
			expect(result.line).to.equal(null);
			expect(result.faults.every((f) => !f.rest)).to.equal(true);
			expect(said(result)).to.match(text);
		});

	it('a cell that is wrong alone is left out; the rest of the line comes in', () => {
		const result = read('users', { ...user, email: 'kelp garden', sms: '12', enabledUser: 'aye' });
		expect(result.line).to.include({ givenName: 'Ana', enabled: true, phone: null });
		expect(result.line).not.to.have.any.keys('email', 'sms');
		expect(result.faults.map((f) => [f.rest, faultText(f)])).to.deep.equal([
			[true, 'enabledUser is “aye”; it can be true, false. The rest of the line comes in.'],
			[
				true,
				'“kelp garden” is no mail address (email): it has no @. The rest of the line comes in.'
			],
			[true, '“12” is no phone number (sms). The rest of the line comes in.']
		]);
	});

	it('of what has gone nothing else need be right', () => {
		for (const status of ['tobedeleted', 'inactive', 'ToBeDeleted'])
			expect(read('users', { ...user, status, givenName: '' })).to.deep.equal({
				id: 'u1',
				line: null,
				gone: true,
				faults: []
			});
	});

	it('unseen signs, doubled blanks and other compositions are tidied; the apostrophe of a guarded cell goes', () => {
		const { line } = read('users', {
			...user,
			givenName: ' Jose\u0301  \u202eMaria ',
			familyName: "'=HYPERLINK(1)"
		});
		expect(line).to.include({ givenName: 'José Maria', familyName: '=HYPERLINK(1)' });
	});

	it('a line of another length than the heading stays out', () => {
		const at = new Map([['sourcedId', 0]]);
		const { faults } = readLine('orgs', '1.1', { at, heading: 3, country: 'US' }, ['o', 'x'], 9);
		expect(faultText(faults[0]!)).to.equal('The line has 2 cells, the heading 3.');
	});

	it('an instant where a day is asked for counts by its day; extensions of the standard are read (1.2 section 4.2, "ext:")', () => {
		expect(
			read('enrollments', {
				sourcedId: 'e',
				classSourcedId: 'c',
				userSourcedId: 'u',
				role: 'ext:helper',
				beginDate: '2027-03-02T00:00:00Z'
			}).line
		).to.include({ role: 'aide', beginDate: '2027-03-02' });
	});

	it('periods are said as people say them', () => {
		const periods = (cell: string, classType = 'scheduled') =>
			read('classes', {
				sourcedId: 'c',
				title: 'C',
				courseSourcedId: 'k',
				classType,
				schoolSourcedId: 'o',
				termSourcedIds: 't',
				periods: cell
			}).line!.periods;
		expect([
			periods('3'),
			periods('1,3'),
			periods('Blue'),
			periods(''),
			periods('', 'homeroom')
		]).to.deep.equal(['period 3', 'periods 1, 3', 'Blue', '', 'all day']);
	});
});

describe('headings', () => {
	it('order and case are free, unknown columns are named, metadata among them', () => {
		const read = readHeading('1.1', 'orgs', false, [
			'Name',
			'metadata.phone',
			'SOURCEDID',
			'type',
			''
		]);
		expect(read.ok && [...read.heading.at]).to.deep.equal([
			['name', 0],
			['sourcedId', 2],
			['type', 3]
		]);
		expect(read.ok && read.heading.unknown).to.deep.equal(['metadata.phone', '']);
	});
	it('what a file cannot do without is missed by name; a delta needs status and date', () => {
		expect(readHeading('1.1', 'orgs', true, ['sourcedId', 'name', 'name'])).to.deep.equal({
			ok: false,
			missing: ['type', 'status', 'dateLastModified'],
			twice: ['name'],
			known: 2
		});
	});
});

describe('manifest.csv', () => {
	// From memory of the standard's example (1.1 section 3.1): properties and values, one a line.
	const rows = [
		['propertyName', 'value'],
		['manifest.version', '1.0'],
		['oneroster.version', '1.1'],
		['file.academicSessions', 'bulk'],
		['file.categories', 'absent'],
		['file.users', 'delta'],
		['source.systemName', 'Harbor Office']
	];
	it('says which files are there, and how they are meant', () => {
		const read = readManifest(rows);
		expect(read.ok && [...read.manifest.modes]).to.deep.equal([
			['academicSessions', 'bulk'],
			['users', 'delta']
		]);
		expect(read.ok && read.manifest).to.include({ version: '1.1', systemName: 'Harbor Office' });
	});
	const broken: readonly (readonly [readonly (readonly string[])[], RegExp])[] = [
		[[['name', 'value']], /heading has to be propertyName,value/],
		[[['propertyName', 'value']], /oneroster\.version is missing/],
		[
			[
				['propertyName', 'value'],
				['oneroster.version', '2.0']
			],
			/“2\.0”; versions 1\.1 and 1\.2/
		],
		[[...rows, ['file.orgs', 'some']], /file\.orgs is “some”; it can be bulk, delta or absent/]
	];
	for (const [list, why] of broken)
		it(String(why), () => {
			const read = readManifest(list);
			expect(read.ok ? '' : read.why).to.match(why);
		});
});

describe('grade levels', () => {
	// CEDS "Entry Grade Level", option set.
	it('by the codes of CEDS, both ways', () => {
		const codes = ['IT', 'PR', 'PK', 'TK', 'KG', '01', '05', '12', '13', 'AE', 'UG', 'Other'];
		const levels = codes.map((code) => gradeLevelOf(code)!);
		expect(levels).to.deep.equal([
			'Infant',
			'Preschool',
			'Pre-K',
			'TK',
			'K',
			'1',
			'5',
			'12',
			'13',
			'Adult',
			'Ungraded',
			'Other'
		]);
		expect(levels.map(gradeCodeOf)).to.deep.equal(codes);
		expect(gradeLevelOf(' ')).to.equal(null);
		const first = levels.slice(0, 9);
		expect([...first].reverse().sort((a, b) => gradeRank(a) - gradeRank(b))).to.deep.equal(first);
	});
});

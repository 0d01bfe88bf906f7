import { createWriteStream, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { User } from '../src/lib/server/access/user';
import type { Db } from '../src/lib/server/db/open';
import { heldTables } from '../src/lib/server/desk/roster/export';
import { addFile, changeFile } from '../src/lib/server/desk/roster/files';
import type { RosterHouse } from '../src/lib/server/desk/roster/house';
import { lookAt } from '../src/lib/server/desk/roster/look';
import { tablesFolder } from '../src/lib/server/desk/roster/look-file';
import { sourceNamed } from '../src/lib/server/desk/roster/sources';
import { takeIn } from '../src/lib/server/desk/roster/take-in';
import { zipStream, type OutTable } from '../src/lib/server/desk/roster/write-zip';

/** The made-up system that keeps the district's records. */
const source = 'Harbor Records';

/** The tables with their rows at hand, to be changed. */
type Rows = Record<string, string[][]>;

/** Takes the district in as its own roster file would bring it, so that the next file is compared with it. */
export async function takeOwnRoster(house: RosterHouse, user: User): Promise<Rows> {
	const tables = await heldTables(house.db, house.key);
	const rows: Rows = Object.fromEntries(
		tables.map(({ name, rows }) => [name, [...rows].map((row) => [...row])])
	);
	const { id: sourceId } = await sourceNamed(house.db, source);
	const id = await addFile(
		house.db,
		house.dataFolder,
		sourceId,
		'brackwater-fall.zip',
		user.personId
	);
	await writeTables(join(tablesFolder(house.dataFolder, id), 'brackwater-fall.zip'), rows);
	await changeFile(house.db, id, { state: 'looking' });
	await lookAt(house, id, () => {});
	const taken = await takeIn(house, id, { user, typed: null }, () => {});
	if (!taken.ok) throw new Error(`the demo's own roster: ${taken.why}`);
	return rows;
}

async function writeTables(path: string, rows: Rows): Promise<void> {
	const tables = Object.entries(rows).map(([name, list]): OutTable => ({ name, rows: list }));
	await pipeline(zipStream(tables), createWriteStream(path, { mode: 0o600 }));
}

/** One table, its cells by the names of their columns. */
class Table {
	readonly #at: ReadonlyMap<string, number>;
	constructor(readonly rows: string[][]) {
		this.#at = new Map(rows[0]!.map((name, i) => [name, i]));
	}
	cell(row: readonly string[], name: string): string {
		return row[this.#at.get(name)!]!;
	}
	set(row: string[], cells: Readonly<Record<string, string>>): void {
		for (const [name, value] of Object.entries(cells)) row[this.#at.get(name)!] = value;
	}
	add(cells: Readonly<Record<string, string>>): void {
		const row = this.rows[0]!.map(() => '');
		this.set(row, cells);
		this.rows.push(row);
	}
	find(test: (cell: (name: string) => string) => boolean): string[] {
		const found = this.rows.slice(1).find((row) => test((name) => this.cell(row, name)));
		if (!found) throw new Error('the demo roster has no such line');
		return found;
	}
	/** Takes the lines out for which something holds. */
	drop(test: (cell: (name: string) => string) => boolean): void {
		const keep = this.rows.filter((row, i) => i === 0 || !test((name) => this.cell(row, name)));
		// Spread over an argument list, the rows of a district would not fit the stack.
		this.rows.length = 0;
		for (const row of keep) this.rows.push(row);
	}
}

/** New students with their guardian, who may be somebody known. */
const newcomers = [
	['Marlo', 'Ferreira', '04', 'Ana', 'ana.ferreira@harbormail.example', '+12075550177'],
	['Ilse', 'Quarrie', '04', 'Tom', 'tom.quarrie@ferrynet.example', ''],
	['Noor', 'Haddad', '07', 'Samira', '', '+12075550178'],
	['Pia', 'Lund', '10', 'Astrid', 'astrid.lund@islandpost.example', '+12075550179']
] as const;

/**
 * The file of the winter: newcomers, movers, leavers, corrections, a new section, and some lines that
 * are wrong; to be tried by hand. Beside it the same whole export cut off in the middle.
 */
export async function writeWinterRoster(db: Db, folder: string, rows: Rows): Promise<void> {
	const users = new Table(rows['users.csv']!);
	const roles = new Table(rows['roles.csv']!);
	const classes = new Table(rows['classes.csv']!);
	const enrollments = new Table(rows['enrollments.csv']!);
	const students = roles.rows.slice(1).filter((r) => roles.cell(r, 'role') === 'student');
	const homeroom = classes.find((c) => c('title').startsWith('Homeroom 4-B'));
	const section = classes.cell(homeroom, 'sourcedId');
	const school = classes.cell(homeroom, 'schoolSourcedId');
	const gone = students.filter((_, i) => i % 131 === 60).slice(0, 3);
	const goneIds = new Set(gone.map((r) => roles.cell(r, 'userSourcedId')));
	const own = (id: string) => goneIds.has(id);

	newcomers.forEach(([given, family, grade, guardian, email, sms], i) => {
		const [student, adult] = [`W-${4410 + i}`, `W-${5510 + i}`];
		users.add({
			...{ sourcedId: student, enabledUser: 'true', username: student, givenName: given },
			...{ familyName: family, identifier: String(44100 + i), agentSourcedIds: adult },
			...{ grades: grade, primaryOrgSourcedId: school }
		});
		users.add({
			...{ sourcedId: adult, enabledUser: 'true', username: adult, givenName: guardian },
			...{ familyName: family, email, sms }
		});
		for (const [user, role] of [
			[student, 'student'],
			[adult, i === 3 ? 'guardian' : 'parent']
		] as const)
			roles.add({
				...{ sourcedId: `${user}-role`, userSourcedId: user, roleType: 'primary' },
				...{ role, orgSourcedId: school }
			});
		enrollments.add({
			...{ sourcedId: `${student}-in`, classSourcedId: section, schoolSourcedId: school },
			...{ userSourcedId: student, role: 'student', primary: 'false' }
		});
	});
	// Somebody of a name and a mailbox that are here already, under another key.
	const guardians = new Set(
		roles.rows
			.slice(1)
			.flatMap((r) => (roles.cell(r, 'role') === 'parent' ? [roles.cell(r, 'userSourcedId')] : []))
	);
	const parents = users.rows
		.slice(1)
		.filter((r) => users.cell(r, 'email') !== '' && guardians.has(users.cell(r, 'sourcedId')));
	const twin = parents[70]!;
	users.set(users.rows.at(-2)!, {
		agentSourcedIds: `${users.cell(users.rows.at(-1)!, 'sourcedId')},W-TWIN`
	});
	users.add({
		...{ sourcedId: 'W-TWIN', enabledUser: 'true', username: 'W-TWIN' },
		...{ givenName: users.cell(twin, 'givenName'), familyName: users.cell(twin, 'familyName') },
		...{ email: users.cell(twin, 'email') }
	});
	roles.add({
		...{ sourcedId: 'W-TWIN-role', userSourcedId: 'W-TWIN', roleType: 'primary' },
		...{ role: 'parent', orgSourcedId: school }
	});

	await mendFailing(db, users, parents);
	users.set(parents[40]!, { email: 'moved@islandpost.example' });
	users.set(parents[41]!, { sms: '+12075550183' });
	users.set(parents[42]!, { familyName: `${users.cell(parents[42]!, 'familyName')}-Reis` });
	classes.add({
		...{ sourcedId: 'W-boats', title: 'Boatbuilding 1-C', periods: '5', classType: 'scheduled' },
		...{ courseSourcedId: classes.cell(boats(classes), 'courseSourcedId') },
		...{ schoolSourcedId: classes.cell(boats(classes), 'schoolSourcedId') },
		termSourcedIds: classes.cell(boats(classes), 'termSourcedIds')
	});
	move(enrollments, classes);
	users.drop((c) => own(c('sourcedId')));
	roles.drop((c) => own(c('userSourcedId')));
	enrollments.drop((c) => own(c('userSourcedId')));

	// Lines that are wrong, as they come.
	users.set(users.rows[640]!, { email: 'kelp garden' });
	users.set(users.rows[641]!, { sms: '12' });
	users.set(users.rows[700]!, { givenName: '' });
	enrollments.add({
		...{ sourcedId: 'W-lost', classSourcedId: section, userSourcedId: 'S-4410', role: 'student' }
	});
	enrollments.add({
		...{ sourcedId: 'W-late', classSourcedId: section, userSourcedId: 'W-4411', role: 'student' },
		...{ beginDate: '2027-03-22', endDate: '2027-03-01' }
	});
	mkdirSync(folder, { recursive: true });
	await writeTables(join(folder, 'brackwater-winter.zip'), rows);
}

const boats = (classes: Table): string[] => classes.find((c) => c('title') === 'Boatbuilding 1-B');

/** Puts addresses right that fail: the new one mends them. */
async function mendFailing(db: Db, users: Table, parents: readonly string[][]): Promise<void> {
	const failing = new Set(
		(
			await db.all<{ value: string }>(
				`SELECT value FROM address WHERE way = 'email' AND failing IS NOT NULL`
			)
		).map((r) => r.value)
	);
	for (const row of parents.filter((r) => failing.has(users.cell(r, 'email'))).slice(0, 2))
		users.set(row, { email: users.cell(row, 'email').replace(/@.*/, '.new@islandpost.example') });
}

/** Moves some students of a homeroom to the one beside it. */
function move(enrollments: Table, classes: Table): void {
	const [from, to] = ['Homeroom 2-A', 'Homeroom 2-B'].map((name) =>
		classes.cell(
			classes.find((c) => c('title') === name),
			'sourcedId'
		)
	);
	const moving = enrollments.rows
		.slice(1)
		.filter(
			(r) =>
				enrollments.cell(r, 'classSourcedId') === from && enrollments.cell(r, 'role') === 'student'
		)
		.slice(0, 3);
	moving.forEach((row, i) =>
		enrollments.set(row, { sourcedId: `W-move-${i}`, classSourcedId: to! })
	);
}

import { randomUUID } from 'node:crypto';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { putRows } from '../../../demo/put-rows';
import { madeDistrict } from '../made-district';
import { audienceOf } from '../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../src/lib/core/copy/words';
import { userWith, type User } from '../../../src/lib/server/access/rights';
import type { RoleName } from '../../../src/lib/server/db/models/access';
import { userById } from '../../../src/lib/server/access/user';
import { setClock } from '../../../src/lib/server/clock';
import { writeSetting } from '../../../src/lib/server/db/district';
import { openAccount } from '../../../src/lib/server/access/accounts';
import { migrate } from '../../../src/lib/server/db/migrate';
import { address, contact, person } from '../../../src/lib/server/db/models/roster';
import { openDatabase, type Db, type Query } from '../../../src/lib/server/db/open';
import { rosterChanged } from '../../../src/lib/server/db/roster';
import { sheetWith, type Sheet } from '../../../src/lib/server/desk/sheet/sheet';

/** A whole sheet to both sections by every way, in which a test changes what it is about. */
export const sheetOf = ({
	subject = 'Boats',
	body = 'The boat is late.',
	...over
}: Partial<Sheet> & { subject?: string; body?: string } = {}): Sheet =>
	sheetWith({
		sheetKey: randomUUID(),
		audience: audienceOf([100, 101]),
		ways: ['email', 'text', 'inbox'],
		wording: wordingOf(subject, body),
		...over
	});

/** 10 am on Tuesday, March 9, 2027 in the school's zone. */
export const testStart = Date.parse('2027-03-09T15:00:00Z');

/** A database of a small school in a folder of its own. */
export interface TestSchool {
	readonly db: Db;
	readonly folder: string;
	close(): Promise<void>;
}

/** Somebody with one role, of a school or (null) the district, and what it usually gives. */
export const as = (
	{ personId, name, title }: Pick<User, 'personId' | 'name' | 'title'>,
	role: RoleName,
	schoolId: number | null
): User => userWith({ personId, name, title }, [{ role, schoolId, sectionId: null }]);

export const coordinator = as(
	{ personId: 90, name: 'Maren Quill', title: 'Communications' },
	'coordinator',
	null
);
export const teacher = as({ personId: 91, name: 'Chidi Okafor', title: 'Boats' }, 'teacher', 1);

/** The office of the first school. */
export const office = as({ personId: 95, name: 'Odile Ferro', title: 'Office' }, 'office', 1);

/** An account for somebody with one role; nobody knows its password. */
const account = (
	{ personId, title, roles: [role] }: User,
	userName: string
): Parameters<typeof openAccount>[1] => ({
	...{ personId, title, userName, passwordHash: 'x' },
	...{ role: role!.role, schoolId: role!.schoolId }
});

/** The small school with somebody in its office. */
export async function testSchoolWithOffice(): Promise<TestSchool> {
	const school = await testSchool();
	await school.db.run(
		`INSERT INTO person (id, kind, given_name, family_name, language, has_inbox) VALUES (95, 'adult', 'Odile', 'Ferro', 'en', 1)`
	);
	await school.db.write((tx) => openAccount(tx, account(office, 'odile')));
	return school;
}

/** A second school beside the small one: a section, a student and his mother, whom nobody of the first knows. */
export async function farPoint(db: Db): Promise<void> {
	for (const statement of [
		`INSERT INTO school VALUES (2, 'Far Point', 'Far')`,
		`INSERT INTO course VALUES (3, 2, 'S', 'Sailing')`,
		`INSERT INTO section (id, course_id, term_id, name, period) VALUES (200, 3, 2, 'Sailing 8-A', '')`,
		`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (4, 'student', 'Nils', 'Berg', 'en', 2, '8', 0),
			(13, 'adult', 'Ida', 'Berg', 'en', NULL, NULL, 1)`,
		`INSERT INTO contact (student_id, person_id, relation, guardian, custody, correspondence, emergency) VALUES (4, 13, 'mother', 1, 1, 1, 0)`
	])
		await db.run(statement);
}

/** Why something was refused; "done" where it was not. */
export const whyOf = (done: { ok: boolean; why?: string }) => (done.ok ? 'done' : done.why);

export interface FreshDatabase {
	readonly db: Db;
	/** The folder it lies in. */
	readonly folder: string;
	close(): Promise<void>;
}

/** What a district of the tests has decided for itself. */
export const testDistrict = {
	name: 'Brackwater Isles',
	zone: 'America/New_York',
	mailFrom: 'letters@brackwater.example',
	textFrom: '12075550100',
	linkDays: 180
};

/** A database with the made-up district of a seed in it. */
export async function districtDatabase(seed: number): Promise<FreshDatabase> {
	const fresh = await freshDatabase();
	await fresh.db.write(async (tx) => {
		await putRows(tx, madeDistrict(seed).rows);
		await writeSetting(tx, 'district', testDistrict);
	});
	return fresh;
}

/** {@link districtDatabase} with somebody of its staff as coordinator of the whole. */
export async function districtWithCoordinator(
	seed: number
): Promise<FreshDatabase & { readonly user: User }> {
	const house = await districtDatabase(seed);
	const { db } = house;
	const personId = (await db.one<{ id: number }>('SELECT person_id AS id FROM staff LIMIT 1'))!.id;
	await db.write(async (tx) => {
		await openAccount(tx, account({ ...coordinator, personId }, 'maren'));
		await rosterChanged(tx);
	});
	return { ...house, user: (await userById(db, personId))! };
}

const newFolder = () => mkdtempSync(join(tmpdir(), 'idle-courier-'));
const fileIn = (folder: string) => join(folder, 'courier.sqlite');

/**
 * A file that is made once in a process and copied for every test: all migrations take a second and
 * more, a copy a few milliseconds.
 */
function madeOnce(fill: (db: Db) => Promise<void>, from?: () => Promise<string>) {
	let file: Promise<string> | undefined;
	const make = async () => {
		const folder = newFolder();
		process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
		if (from) copyFileSync(await from(), fileIn(folder));
		const db = await openDatabase(fileIn(folder), { durable: false });
		await fill(db);
		// Its write-ahead log goes into the file with the last connection.
		await db.close();
		return fileIn(folder);
	};
	return () => (file ??= make());
}
const emptyFile = madeOnce((db) => migrate(db));
const schoolFile = madeOnce(fillSchool, emptyFile);

/** A database of its own in a folder of its own, copied from a file. */
async function copyOf(file: string): Promise<FreshDatabase> {
	const folder = newFolder();
	copyFileSync(file, fileIn(folder));
	const db = await openDatabase(fileIn(folder), { durable: false });
	return {
		db,
		folder,
		async close() {
			await db.close();
			rmSync(folder, { recursive: true, force: true });
		}
	};
}

/** An empty database with today's tables, in a folder of its own. */
export const freshDatabase = async (): Promise<FreshDatabase> => copyOf(await emptyFile());

/** Makes so many guardians of Linh in a transaction, each with a mailbox and a phone of their own: "Reader No 7". */
export async function manyGuardians(tx: Query, families: number): Promise<void> {
	const who = Array.from({ length: families }, (_, i) => ({ personId: 1000 + i, i }));
	const yes = 1 as const;
	await tx.rows(person).addMany(
		who.map(({ personId, i }) => ({
			...{ id: personId, kind: 'adult', givenName: 'Reader', familyName: `No ${i}` },
			...{ language: 'en', hasInbox: 0 }
		}))
	);
	await tx.rows(contact).addMany(
		who.map(({ personId }) => ({
			...{ studentId: 3, personId, relation: 'guardian', guardian: yes },
			...{ custody: yes, correspondence: yes, emergency: 0 }
		}))
	);
	const consent = 'in' as const;
	await tx.rows(address).addMany(
		who.flatMap(({ personId, i }) => [
			{ personId, way: 'email', value: `reader${i}@harbormail.example`, consent },
			{
				personId,
				way: 'text',
				value: `+1207555${String(100 + (i % 100)).padStart(4, '0')}`,
				consent
			}
		])
	);
	await rosterChanged(tx);
}

/** Two sections, three students, three guardians (two share a mailbox), the teacher of section 100 only. */
export async function testSchool(): Promise<TestSchool> {
	const school = await copyOf(await schoolFile());
	// A Tuesday morning in school time: nothing is quiet.
	await setClock(school.db, testStart);
	return school;
}

async function fillSchool(db: Db): Promise<void> {
	await db.write(async (tx) => {
		for (const statement of [
			`INSERT INTO school VALUES (1, 'Heron Landing', 'Heron')`,
			`INSERT INTO term VALUES (2, 'Winter', '2026-12-01', '2027-03-22')`,
			`INSERT INTO course VALUES (1, 1, 'M', 'Mathematics'), (2, 1, 'D', 'Drama')`,
			`INSERT INTO section (id, course_id, term_id, name, period) VALUES (100, 1, 2, 'Mathematics 7-A', 'period 1'), (101, 2, 2, 'Drama 7-A', 'period 2')`,
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (1, 'student', 'Ana', 'Amaro', 'pt', 1, '7', 0), (2, 'student', 'Rui', 'Amaro', 'pt', 1, '7', 0),
				(3, 'student', 'Linh', 'Pham', 'vi', 1, '7', 0), (10, 'adult', 'Delfina', 'Amaro', 'pt', NULL, NULL, 1),
				(11, 'adult', 'Paulo', 'Amaro', 'pt', NULL, NULL, 0), (12, 'adult', 'Bao', 'Pham', 'vi', NULL, NULL, 1),
				(90, 'adult', 'Maren', 'Quill', 'en', NULL, NULL, 1), (91, 'adult', 'Chidi', 'Okafor', 'en', NULL, NULL, 1)`,
			`INSERT INTO contact (student_id, person_id, relation, guardian, custody, correspondence, emergency) VALUES (1, 10, 'mother', 1, 1, 1, 0), (2, 10, 'mother', 1, 1, 1, 0), (1, 11, 'father', 1, 1, 1, 0),
				(2, 11, 'father', 1, 1, 1, 0), (3, 12, 'father', 1, 1, 1, 0)`,
			`INSERT INTO address (person_id, way, value, consent) VALUES (10, 'email', 'home@harbormail.example', 'unknown'),
				(11, 'email', 'home@harbormail.example', 'unknown'), (10, 'text', '+12075550101', 'in'), (12, 'text', '+12075550102', 'in')`,
			`INSERT INTO enrolment (section_id, student_id) VALUES (100, 1), (100, 2), (101, 3)`,
			`INSERT INTO section_staff VALUES (100, 91)`
		]) {
			await tx.run(statement);
		}
		await openAccount(tx, account(coordinator, 'maren'));
		await openAccount(tx, account(teacher, 'chidi'));
		await writeSetting(tx, 'district', testDistrict);
		await rosterChanged(tx);
	});
}

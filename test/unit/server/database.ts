import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { audienceOf } from '../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../src/lib/core/copy/words';
import type { User } from '../../../src/lib/server/access/sessions';
import { setClock } from '../../../src/lib/server/clock';
import { writeSetting } from '../../../src/lib/server/db/district';
import { migrate } from '../../../src/lib/server/db/migrate';
import { openDatabase, type Db } from '../../../src/lib/server/db/open';
import { rosterChanged } from '../../../src/lib/server/db/roster';
import { usualTiming } from '../../../src/lib/core/time/timing';
import {
	usualBoard,
	usualCopies,
	usualFollowing,
	usualLetter,
	type Sheet
} from '../../../src/lib/server/desk/sheet/sheet';

/** A whole sheet to both sections by every way, in which a test changes what it is about. */
export const sheetOf = ({
	subject = 'Boats',
	body = 'The boat is late.',
	...over
}: Partial<Sheet> & { subject?: string; body?: string } = {}): Sheet => ({
	sheetKey: randomUUID(),
	kind: 'message',
	audience: audienceOf([100, 101]),
	ways: ['email', 'text', 'inbox'],
	...usualFollowing,
	copies: usualCopies,
	wording: wordingOf(subject, body),
	letter: usualLetter,
	board: usualBoard,
	timing: usualTiming,
	holdMinutes: 5,
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

export const coordinator: User = {
	personId: 90,
	name: 'Maren Quill',
	role: 'coordinator',
	schoolId: null,
	title: 'Communications'
};
export const teacher: User = {
	personId: 91,
	name: 'Chidi Okafor',
	role: 'teacher',
	schoolId: 1,
	title: 'Boats'
};

/** Two sections, three students, three guardians (two share a mailbox), the teacher of section 100 only. */
export async function testSchool(): Promise<TestSchool> {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-'));
	const db = await openDatabase(join(folder, 'courier.sqlite'), { durable: false });
	await migrate(db);
	await db.write(async (tx) => {
		for (const statement of [
			`INSERT INTO school VALUES (1, 'Heron Landing', 'Heron')`,
			`INSERT INTO term VALUES (2, 'Winter', '2026-12-01', '2027-03-22')`,
			`INSERT INTO course VALUES (1, 1, 'M', 'Mathematics'), (2, 1, 'D', 'Drama')`,
			`INSERT INTO section VALUES (100, 1, 2, 'Mathematics 7-A', 'period 1'), (101, 2, 2, 'Drama 7-A', 'period 2')`,
			`INSERT INTO person VALUES (1, 'student', 'Ana', 'Amaro', 'pt', 1, '7', 0), (2, 'student', 'Rui', 'Amaro', 'pt', 1, '7', 0),
				(3, 'student', 'Linh', 'Pham', 'vi', 1, '7', 0), (10, 'adult', 'Delfina', 'Amaro', 'pt', NULL, NULL, 1),
				(11, 'adult', 'Paulo', 'Amaro', 'pt', NULL, NULL, 0), (12, 'adult', 'Bao', 'Pham', 'vi', NULL, NULL, 1),
				(90, 'adult', 'Maren', 'Quill', 'en', NULL, NULL, 1), (91, 'adult', 'Chidi', 'Okafor', 'en', NULL, NULL, 1)`,
			`INSERT INTO contact VALUES (1, 10, 'mother', 1, 1, 1, 0), (2, 10, 'mother', 1, 1, 1, 0), (1, 11, 'father', 1, 1, 1, 0),
				(2, 11, 'father', 1, 1, 1, 0), (3, 12, 'father', 1, 1, 1, 0)`,
			`INSERT INTO address (person_id, way, value, consent) VALUES (10, 'email', 'home@harbormail.example', 'unknown'),
				(11, 'email', 'home@harbormail.example', 'unknown'), (10, 'text', '+12075550101', 'in'), (12, 'text', '+12075550102', 'in')`,
			`INSERT INTO enrolment VALUES (100, 1), (100, 2), (101, 3)`,
			`INSERT INTO section_staff VALUES (100, 91)`,
			`INSERT INTO sign_in VALUES (90, 'maren', 'x', 'coordinator', NULL, 'Communications'), (91, 'chidi', 'x', 'teacher', 1, 'Boats')`
		]) {
			await tx.run(statement);
		}
		await writeSetting(tx, 'district', {
			name: 'Brackwater Isles',
			zone: 'America/New_York',
			mailFrom: 'letters@brackwater.example',
			textFrom: '12075550100',
			linkDays: 180
		});
		await rosterChanged(tx);
	});
	// A Tuesday morning in school time: nothing is quiet.
	await setClock(db, testStart);
	return {
		db,
		folder,
		async close() {
			await db.close();
			rmSync(folder, { recursive: true, force: true });
		}
	};
}

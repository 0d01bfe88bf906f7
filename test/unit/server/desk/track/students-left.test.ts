import { expect } from 'chai';
import type { AudienceLine } from '../../../../../src/lib/core/audience/audience';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { readAccount } from '../../../../../src/lib/server/desk/reach/account';
import { deliveryCsv } from '../../../../../src/lib/server/desk/reach/delivery-csv';
import { leftOutPage } from '../../../../../src/lib/server/desk/reach/left-out-page';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { namesBehind } from '../../../../../src/lib/server/desk/plan/tally';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';
import { manifestView } from '../../../../../src/lib/server/desk/plan/manifest-view';
import { manifestCsv } from '../../../../../src/lib/server/desk/plan/manifest-files';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('students of whom no copy speaks', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		// Kai has nobody on file; Mia's only guardian has no custody; Rui's family is reached.
		await school.db
			.run(`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (4, 'student', 'Kai', 'Lund', 'en', 1, '7', 0),
			(5, 'student', 'Mia', 'Holt', 'en', 1, '7', 0), (13, 'adult', 'Jon', 'Holt', 'so', NULL, NULL, 1)`);
		await school.db.run(`INSERT INTO enrolment (section_id, student_id) VALUES (101, 4), (101, 5)`);
		await school.db.run(
			`INSERT INTO contact (student_id, person_id, relation, guardian, custody, correspondence, emergency) VALUES (5, 13, 'father', 1, 0, 1, 0)`
		);
		await school.db.write((tx) => rosterChanged(tx));
	});
	afterEach(() => school.close());

	it('are the same in the manifest, its file, Reach, the account and the CSV, with who and why', async () => {
		const line = (
			verb: 'and' | 'but-not',
			of: AudienceLine & { of: unknown }['of']
		): AudienceLine => ({
			verb,
			to: [{ kind: 'guardians' }],
			of: of as never,
			only: []
		});
		const sheet = sheetOf({
			ways: ['inbox'],
			holdMinutes: 0,
			audience: {
				version: 2,
				lines: [
					line('and', { kind: 'sections', ids: [100, 101] } as never),
					line('but-not', { kind: 'students', ids: [3] } as never)
				],
				byHand: []
			}
		});
		const wanted = [
			['Kai Lund', 'alone', 'None of the people asked for is on file'],
			['Linh Pham', 'out', 'Taken out by “but not guardians of students in the list of Linh Pham”'],
			['Mia Holt', 'unreached', 'Jon Holt: Guardian without custody']
		];
		const plain = (lines: readonly { name: string; kind: string; why: string }[]) =>
			lines.map((l) => [l.name, l.kind, l.why]).sort((a, b) => a[0]!.localeCompare(b[0]!));

		const manifest = await manifestView(school.db, coordinator, sheet, ['en']);
		expect(plain(manifest.studentsLeft)).to.deep.equal(wanted);
		expect(manifest.tally).to.include({
			students: 4,
			studentsWithNobody: 2,
			studentsAlone: 1,
			studentsOut: 1
		});
		for (const door of ['unreached', 'alone', 'out'] as const) {
			const behind = await namesBehind(school.db, coordinator, sheet, door);
			expect(behind.lines.map((l) => l.note)).to.deep.equal(
				wanted.filter((w) => w[1] === door).map((w) => w[2])
			);
		}

		const sent = await schedule(school.db, key, coordinator, sheet, manifest.tally.copies);
		const id = sent.ok ? sent.dispatchId! : 0;
		const reach = (await dispatchReach(school.db, coordinator, id, everything))!;
		expect(plain(reach.left.studentsFirst)).to.deep.equal(wanted);
		expect(reach.left.students).to.deep.equal({ unreached: 1, alone: 1, out: 1 });
		// Who was taken out is not waited for.
		expect([reach.coverage.students, reach.coverage.unreachable]).to.deep.equal([4, 2]);
		const page = (await leftOutPage(school.db, coordinator, id, 1))!;
		expect(plain(page.students)).to.deep.equal(wanted);
		const account = (await readAccount(school.db, coordinator, id))!;
		expect(
			account.parts
				.find((p) => p.heading === 'Students without a copy: 3')!
				.rows.map((r) => r.value)
		).to.deep.equal(['1', '1', '1']);
		for (const csv of [manifestCsv(manifest), (await deliveryCsv(school.db, coordinator, id))!]) {
			for (const [name, , why] of wanted) {
				expect(
					csv.split('\r\n').filter((l) => l.includes(name!) && l.includes(why!))
				).to.have.length(1);
			}
		}
		// By language: Delfina and Paulo are written to in Portuguese; nobody's lowest number decides.
		const languages = Object.fromEntries(reach.coverage.byLanguage.map((s) => [s.name, s.of]));
		expect(languages).to.deep.equal({ pt: 2, so: 1, en: 1 });
	});
});

import { expect } from 'chai';
import type { RosterRows } from '../../../../../src/lib/core/roster/types';
import { rosterSource } from '../../../../../src/lib/server/db/models/rosters';
import { readRosterRows } from '../../../../../src/lib/server/db/roster';
import { compare } from '../../../../../src/lib/server/desk/roster/compare';
import { rowsAfter } from '../../../../../src/lib/server/desk/roster/rows-after';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { keepAudience } from '../../../../../src/lib/server/desk/audience/kept';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { readOneRoster } from '../../../../../src/lib/server/reading/roster/oneroster';
import { partsIn } from '../../../../../src/lib/server/reading/roster/parts';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { bring, look, testKey } from './intake';
import { smallSchool, user } from './roster-files';

/** Rows in an order of their own, so that two readings can be compared. */
const sorted = (rows: RosterRows) =>
	Object.fromEntries(
		Object.entries(rows).map(([name, list]) => [
			name,
			(list as readonly object[]).map((row) => JSON.stringify(row)).sort()
		])
	);

describe('what a roster does to whatever is planned', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());

	/** The small school with another student and their parent, and without Linh. */
	function changed() {
		const tables = smallSchool();
		const [heading] = tables['users.csv']!;
		const line = (cells: Record<string, string>) => heading!.map((name) => cells[name] ?? '');
		tables['users.csv'] = [
			...tables['users.csv']!.filter((r) => r[0] !== 'u-linh'),
			line(
				user('u-noor', 'student', 'Noor', 'Haddad', { agentSourcedIds: 'u-samira', grades: '04' })
			),
			line(user('u-samira', 'parent', 'Samira', 'Haddad', { email: 's@x.example' }))
		];
		tables['enrollments.csv'] = [
			...tables['enrollments.csv']!.filter((r) => r[5] !== 'u-linh'),
			['e9', '', '', 's-4a', 'o-heron', 'u-noor', 'student', '', '', '']
		];
		return tables;
	}

	it('the roster as it would be is the roster as it then is', async () => {
		await bring(school, smallSchool());
		const file = await look(school, changed());
		const source = (await school.db.rows(rosterSource).one({ id: file.row.sourceId }))!;
		const read = await readOneRoster(await partsIn(tablesFolder(school.folder, file.id)), 'US');
		const { work } = await compare(school.db, testKey, source, read.came, {});
		const wouldBe = rowsAfter(await readRosterRows(school.db), work);
		await bring(school, changed());
		expect(sorted(wouldBe)).to.deep.equal(sorted(await readRosterRows(school.db)));
	});

	it('who comes into what is scheduled and kept, and who leaves it, by name; a teacher’s by their own students', async () => {
		await sourceNamed(school.db, 'Harbor Office');
		await school.db.run(`UPDATE roster_source SET custody = '{"parent":"yes"}'`);
		await bring(school, smallSchool());
		const { id: section } = (await school.db.one<{ id: number }>(
			`SELECT row_id AS id FROM known_as WHERE kind = 'section' AND key = 's-4a'`
		))!;
		await school.db.run(
			`INSERT INTO section_staff (section_id, person_id) VALUES (${section}, ${teacher.personId})`
		);
		const audience = {
			version: 2 as const,
			lines: [
				{
					verb: 'and' as const,
					to: [{ kind: 'guardians' as const }],
					of: { kind: 'sections' as const, ids: [section] },
					only: []
				}
			],
			byHand: []
		};
		for (const sender of [coordinator, teacher]) {
			const sheet = sheetOf({ audience, ways: ['email', 'inbox'] });
			const sent = await schedule(
				school.db,
				testKey,
				sender,
				{ ...sheet, timing: { ...sheet.timing, when: { kind: 'at', at: '2027-03-12T09:00' } } },
				4
			);
			expect(sent, JSON.stringify(sent)).to.include({ ok: true });
		}
		await keepAudience(school.db, coordinator, 'Crew', 'rule', audience);
		const { effects } = (await look(school, changed())).looked;
		expect(effects.map((e) => [e.kind, e.name, e.ins, e.outs])).to.deep.equal([
			['dispatch', 'Boats', ['Samira Haddad'], ['Bao Pham']],
			['dispatch', 'Boats', ['Samira Haddad'], ['Bao Pham']],
			['kept', 'Crew', ['Samira Haddad'], ['Bao Pham']]
		]);
	});
});

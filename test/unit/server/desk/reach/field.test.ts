import { expect } from 'chai';
import { identity } from '../../../../../courier/identity';
import { placeInbox } from '../../../../../courier/claim';
import { now } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

describe('whom a dispatch is about, kept while it is looked at', () => {
	let school: TestSchool;
	let id: number;
	beforeEach(async () => {
		school = await testSchool();
		const sheet = sheetOf({ ways: ['inbox'], holdMinutes: 0 });
		const sent = await schedule(school.db, Buffer.alloc(32, 7), coordinator, sheet, 2);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		id = sent.dispatchId;
		const me = identity(school.db);
		await me.beat();
		await placeInbox(school.db, me);
	});
	afterEach(() => school.close());
	const seen = async () => (await dispatchReach(school.db, coordinator, id, everything))!.coverage;
	const names = async () =>
		(await seen()).field.flatMap((line) => line.rings!.map((r) => `${r.name}, ${line.section}`));

	it('is the same with new evidence, which is counted all the same', async () => {
		const before = await seen();
		expect(before.covered).to.equal(0);
		await school.db.write(async (tx) => {
			const copy = (await tx.one<{ id: number }>(
				'SELECT id FROM delivery WHERE dispatch_id = $id AND person_id = 12',
				{ id }
			))!;
			const at = await now(tx);
			await record(tx, [
				{ deliveryId: copy.id, at, kind: 'acknowledged', source: 'inbox', detail: 'x' }
			]);
		});
		const after = await seen();
		expect(after.covered).to.equal(1);
		expect(after.byLanguage).to.deep.include({ ...after.byLanguage[1]!, name: 'vi', count: 1 });
		expect(after.field.map((line) => line.students)).to.deep.equal(
			before.field.map((line) => line.students)
		);
	});

	it('is read anew when the roster changes: a name, a section, the language of a family', async () => {
		expect(await names()).to.include('Linh Pham, Drama 7-A');
		expect((await seen()).byLanguage.map((s) => s.name)).to.deep.equal(['pt', 'vi']);
		await school.db.write(async (tx) => {
			await tx.run(`UPDATE person SET given_name = 'Lan' WHERE id = 3`);
			await tx.run(`UPDATE person SET language = 'en' WHERE id = 12`);
			await tx.run(`UPDATE section SET name = 'Drama 7-B' WHERE id = 101`);
			await rosterChanged(tx);
		});
		expect(await names()).to.include('Lan Pham, Drama 7-B');
		expect((await seen()).byLanguage.map((s) => s.name)).to.deep.equal(['pt', 'en']);
	});

	it('is nobody’s who may not see the dispatch, however often others have looked', async () => {
		await seen();
		expect(await dispatchReach(school.db, teacher, id, everything)).to.equal(null);
	});
});

import { expect } from 'chai';
import type { MeantKind } from '../../../../../src/lib/core/audience/audience';
import {
	stopWhatIsNotTheirs,
	type LostTie
} from '../../../../../src/lib/server/desk/roster/not-theirs';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);

describe('copies for people who are no longer to be written to', () => {
	let school: TestSchool;
	const send = async (to: MeantKind = { kind: 'guardians' }) => {
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({
				ways: ['email', 'text', 'inbox'],
				audience: {
					version: 2,
					lines: [{ verb: 'and', to: [to], of: { kind: 'sections', ids: [100, 101] }, only: [] }],
					byHand: []
				}
			}),
			5
		);
		expect(sent.ok).to.equal(true);
	};
	const stop = (lost: readonly LostTie[], gone: readonly number[] = []) =>
		school.db.write((tx) => stopWhatIsNotTheirs(tx, { lost, gone }));
	/** Each copy: whose, by which way, how it is, of which students. */
	const copies = async () =>
		(
			await school.db.all<{ line: string }>(
				`SELECT person_id || ' ' || way || ' ' || (state = 'held') || ' ' || coalesce((SELECT group_concat(student_id, '+')
					FROM (SELECT student_id FROM delivery_student WHERE delivery_id = delivery.id ORDER BY student_id)), '-') AS line
				FROM delivery ORDER BY person_id, way`
			)
		).map((r) => r.line);
	const lost = (studentId: number, personId: number, custodyOnly = false): LostTie => ({
		studentId,
		personId,
		custodyOnly
	});
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());

	it('a copy speaks no more of the student; of the last one it is not sent', async () => {
		await send();
		expect(await copies()).to.deep.equal([
			'10 email 1 1+2',
			'10 inbox 1 1+2',
			'10 text 1 1+2',
			'12 inbox 1 3',
			'12 text 1 3'
		]);
		await stop([lost(1, 10), lost(3, 12)]);
		expect(await copies()).to.deep.equal([
			// The mailbox is another guardian's as well, who is still to hear of both.
			'10 email 1 1+2',
			'10 inbox 1 2',
			'10 text 1 2',
			'12 inbox 0 -',
			'12 text 0 -'
		]);
		expect(
			await school.db.all(`SELECT DISTINCT kind, code FROM event WHERE kind = 'stopped'`)
		).to.deep.equal([{ kind: 'stopped', code: 'not-theirs' }]);
	});

	it('the copy of somebody who has gone goes to whoever reads at the same address', async () => {
		await send();
		await stop([], [10]);
		expect(await copies()).to.deep.equal([
			'10 inbox 0 1+2',
			'10 text 0 1+2',
			'11 email 1 1+2',
			'12 inbox 1 3',
			'12 text 1 3'
		]);
	});

	it('custody alone weighs not where guardians were meant whether with custody or without', async () => {
		await send({ kind: 'all-guardians' });
		await stop([lost(3, 12, true)]);
		expect(await copies()).to.include('12 text 1 3');
		await stop([lost(3, 12)]);
		expect(await copies()).to.include('12 text 0 -');
	});

	it('what is in the courier’s hands stays as it is', async () => {
		await send();
		await school.db.run(`UPDATE delivery SET claimed_by = 1 WHERE person_id = 12 AND way = 'text'`);
		await stop([lost(3, 12)]);
		expect(await copies()).to.include.members(['12 text 1 3', '12 inbox 0 -']);
	});
});

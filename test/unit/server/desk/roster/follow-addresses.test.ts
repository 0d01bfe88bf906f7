import { expect } from 'chai';
import { rowsWhere, type AnyRow } from '../../../../../src/lib/server/desk/roster/row-tables';
import { followAddresses } from '../../../../../src/lib/server/desk/roster/follow-addresses';
import { noWork } from '../../../../../src/lib/server/desk/roster/work';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);

describe('copies that are settled when a roster file changes addresses', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const send = async (at?: string) => {
		const sheet = sheetOf({
			ways: ['email', 'text'],
			...(at === undefined ? {} : { timing: { ...usualTiming, when: { kind: 'at', at } } })
		});
		expect((await schedule(school.db, key, coordinator, sheet, 3)).ok).to.equal(true);
	};
	const copies = async () =>
		(
			await school.db.all<{ line: string }>(
				`SELECT person_id || ' ' || way || ' ' || address || ' ' || state AS line FROM delivery ORDER BY id`
			)
		).map((r) => r.line);
	/** What a file does to the addresses that a condition names. */
	const follow = (where: string, after: Record<string, string> | null) =>
		school.db.write(async (tx) => {
			const rows = (await rowsWhere(tx, 'address', where, {})) as AnyRow[];
			const work = noWork();
			if (after)
				work.address.change.push(
					...rows.map((row) => ({ before: row, after: { ...row, ...after } }))
				);
			else work.address.take.push(...rows);
			await followAddresses(tx, work);
		});

	it('go to the new address, and from a mailbox of two to the one who still reads there', async () => {
		await send();
		expect(await copies()).to.have.members([
			'10 email home@harbormail.example held',
			'10 text +12075550101 held',
			'12 text +12075550102 held'
		]);
		await follow(`person_id = 10 AND way = 'text'`, { value: '(207) 555-0166' });
		await follow(`person_id = 10 AND way = 'email'`, { value: 'new@harbormail.example' });
		expect(await copies()).to.have.members([
			'11 email home@harbormail.example held',
			'10 text +12075550166 held',
			'12 text +12075550102 held'
		]);
	});

	it('are stopped where nothing comes in the place of an address, or a number wants no more texts', async () => {
		await send();
		await follow(`person_id = 12 AND way = 'text'`, null);
		await follow(`person_id = 10 AND way = 'text'`, { consent: 'out' });
		expect((await copies()).filter((c) => c.includes(' text '))).to.have.members([
			'10 text +12075550101 failed',
			'12 text +12075550102 failed'
		]);
		expect(
			await school.db.all(`SELECT detail FROM event WHERE kind = 'stopped' ORDER BY id`)
		).to.deep.equal([
			{ detail: 'not sent: the address was taken off their file' },
			{ detail: 'a list says that no more texts are wanted' }
		]);
	});

	it('what leaves later is left to be planned anew', async () => {
		await send('2027-03-10T10:00');
		const before = await copies();
		await follow(`person_id = 10 AND way = 'email'`, { value: 'new@harbormail.example' });
		expect(await copies()).to.deep.equal(before);
	});
});

import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { contactsCsv } from '../../../../../src/lib/server/desk/roster/contacts-out';
import { readColumns, sayColumns } from '../../../../../src/lib/server/desk/roster/columns';
import { addFile } from '../../../../../src/lib/server/desk/roster/files';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import { takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import { wrongLines } from '../../../../../src/lib/server/desk/roster/views';
import { coordinator, districtDatabase, type FreshDatabase } from '../../database';
import { everything, lookAgain, testKey } from './intake';

const written = async (fresh: FreshDatabase, key = testKey): Promise<string> => {
	let text = '';
	for await (const piece of contactsCsv(fresh.db, key)) text += piece;
	return text;
};

describe('contacts go out as a list', () => {
	let fresh: FreshDatabase;
	beforeEach(async () => {
		fresh = await districtDatabase(23);
		// What a spreadsheet would run, and a name that ends a line for some.
		await fresh.db.run(
			`UPDATE person SET family_name = '=1+1' WHERE id = (SELECT min(person_id) FROM contact_now)`
		);
	});
	afterEach(() => fresh.close());

	/** Brings a list, takes its columns as they are proposed and looks at it. */
	async function bring(text: string, complete: boolean) {
		const { id: sourceId } = await sourceNamed(fresh.db, 'Out and in', 'list');
		const id = await addFile(
			fresh.db,
			fresh.folder,
			sourceId,
			'contacts.csv',
			coordinator.personId
		);
		writeFileSync(join(tablesFolder(fresh.folder, id), 'contacts.csv'), text);
		const asked = await lookAgain(fresh, id);
		const { columns } = readColumns(asked.row.columns)!;
		expect(columns).to.not.include(null);
		const said = await sayColumns(fresh.db, coordinator, id, { columns: [...columns], complete });
		expect(said).to.deep.equal({ ok: true });
		return lookAgain(fresh, id);
	}

	it('has a line for every tie, and no cell that a spreadsheet would run', async () => {
		const rows: string[][] = parse(await written(fresh));
		const { n } = (await fresh.db.one<{ n: number }>('SELECT count(*) AS n FROM contact_now'))!;
		expect(rows).to.have.length(n + 1);
		// OWASP, "CSV Injection": a cell that begins with one of these is run.
		expect(rows.flat().filter((cell) => /^[=+\-@\t\r]/.test(cell))).to.deep.equal([]);
	});

	it('comes in again and changes nothing: 0 new, 0 changed, 0 gone', async () => {
		const before = await everything(fresh.db);
		const { id, looked } = await bring(await written(fresh), true);
		const none = { people: 0, contacts: 0, enrolments: 0, sections: 0, staff: 0 };
		expect(
			(await wrongLines(fresh.folder, id, { search: '', page: 1 }))!.lines.map((l) => l.text)
		).to.deep.equal([]);
		expect(looked.counts).to.deep.equal({ new: none, changed: none, gone: none });
		expect(looked).to.include({ questions: 0, homes: 0 });
		const taken = await takeIn(
			{ db: fresh.db, dataFolder: fresh.folder, key: testKey },
			...([id, { user: coordinator, typed: null }, () => {}] as const)
		);
		expect(taken).to.deep.equal({ ok: true });
		const after = await everything(fresh.db);
		// What the list said is kept, and under which key it knows whom.
		for (const all of [after, before])
			for (const table of ['known_as', 'roster_line']) delete all[table];
		// Addresses that the list has as well are its own from now on; they are what they were.
		const plain = (all: Record<string, unknown[]>) =>
			JSON.parse(
				JSON.stringify(all).replaceAll(/\\"slot\\":(null|\\"(email|sms|phone)\\")/g, '')
			) as unknown;
		expect(plain(after)).to.deep.equal(plain(before));
	});

	it('a key that somebody else has signed names nobody', async () => {
		const { looked, id } = await bring(await written(fresh, Buffer.alloc(32, 9)), false);
		expect(looked.counts.changed.contacts).to.equal(0);
		const wrong = (await wrongLines(fresh.folder, id, { search: '', page: 1 }))!;
		expect(wrong.found).to.be.greaterThan(0);
		expect(wrong.lines[0]!.text).to.match(/^No student here is “ic-person-/);
	});
});

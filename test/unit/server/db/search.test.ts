import { expect } from 'chai';
import { person } from '../../../../src/lib/server/db/models/roster';
import { found, searchWords } from '../../../../src/lib/server/db/search';
import { freshDatabase, type FreshDatabase } from '../database';

describe('a search', () => {
	let fresh: FreshDatabase;
	before(async () => {
		fresh = await freshDatabase();
		for (const [givenName, familyName] of [
			['José', 'Nuñez Ortega'],
			['Nguyễn', 'Thị Hồng'],
			['ليلى', 'حداد'],
			['Anna-Lena', "O'Rourke"],
			['Ana', 'Amaro']
		] as const) {
			const row = { givenName, familyName, kind: 'adult', language: 'en', hasInbox: 0 } as const;
			await fresh.db.rows(person).add(row);
		}
	});
	after(() => fresh.close());

	const names = async (search: string) => {
		const by = found(search, ['id', 'person_words']);
		if (!by) return null;
		const rows = await fresh.db.all<{ name: string }>(
			`SELECT given_name AS name FROM person WHERE ${by.sql} ORDER BY id`,
			by.bind
		);
		return rows.map((r) => r.name);
	};

	it('finds by the beginnings of words, in any order, whatever accents and case', async () => {
		expect(await names('nunez jose')).to.deep.equal(['José']);
		expect(await names('NUÑ')).to.deep.equal(['José']);
		expect(await names('hong nguyen')).to.deep.equal(['Nguyễn']);
		expect(await names('حد')).to.deep.equal(['ليلى']);
		expect(await names('an')).to.deep.equal(['Anna-Lena', 'Ana']);
		// In the middle of a word nothing is found, across a hyphen or an apostrophe it is.
		expect(await names('maro')).to.deep.equal([]);
		expect(await names('lena rourke')).to.deep.equal(['Anna-Lena']);
	});

	it('takes no sign of FTS5 for an operator, and nothing but words for a word', async () => {
		for (const search of [
			'ana OR jose',
			'ana" OR "jose',
			'ana*',
			'NEAR(ana jose)',
			'given_name:ana'
		])
			expect(await names(search), search).to.be.an('array');
		expect(await names('ana OR jose')).to.deep.equal([]);
		expect(await names('"-*()')).to.equal(null);
		expect(searchWords('a b '.repeat(20))).to.have.length(20);
	});

	it('follows what is changed and taken out', async () => {
		const people = fresh.db.rows(person);
		await people.change({ givenName: 'Ana' }, { givenName: 'Beatriz' });
		expect(await names('ana')).to.deep.equal([]);
		expect(await names('bea')).to.deep.equal(['Beatriz']);
		await people.remove({ givenName: 'Beatriz' });
		expect(await names('bea')).to.deep.equal([]);
	});
});

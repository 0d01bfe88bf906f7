import { expect } from 'chai';
import { plainFileName } from '../../../../src/lib/core/format/file-name';

describe('names of files that strangers give', () => {
	it('lead nowhere, hide nothing and turn nothing round', () => {
		expect(
			['../../x.csv', 'C:\\x\\y.csv', '..', '.bashrc', 'a\u202evsc.csv', 'x'.repeat(500), ''].map(
				(name) => plainFileName(name, 'roster')
			)
		).to.deep.equal(['x.csv', 'y.csv', 'roster', 'bashrc', 'avsc.csv', 'x'.repeat(120), 'roster']);
	});
});

import { expect } from 'chai';
import { writeCsv } from '../../../../src/lib/core/format/csv';
import { phoneText } from '../../../../src/lib/core/format/phone';

/** A reader of RFC 4180 written for this test alone: one state machine over the grammar of section 2. */
function readCsv(text: string): string[][] {
	const rows: string[][] = [[]];
	let cell = '';
	let quoted = false;
	for (let i = 0; i < text.length; i += 1) {
		const c = text[i]!;
		if (quoted && c === '"' && text[i + 1] === '"') {
			cell += '"';
			i += 1;
		} else if (c === '"') quoted = !quoted;
		else if (!quoted && c === ',') {
			rows.at(-1)!.push(cell);
			cell = '';
		} else if (!quoted && c === '\r' && text[i + 1] === '\n') {
			rows.at(-1)!.push(cell);
			rows.push([]);
			cell = '';
			i += 1;
		} else cell += c;
	}
	rows.pop();
	return rows;
}

describe('CSV (RFC 4180)', () => {
	it('comes back as it was, whatever is in the names', () => {
		const rows = [
			['name', 'note'],
			['O’Hara, "Bea"', 'two\r\nlines'],
			['ليلى حداد', '👩‍👧 and\nmore'],
			['', ' spaces ']
		];
		expect(readCsv(writeCsv(rows))).to.deep.equal(rows);
	});

	it('ends each line with CRLF and quotes only where needed', () => {
		expect(
			writeCsv([
				['a', 1],
				['b,c', 2]
			])
		).to.equal('a,1\r\n"b,c",2\r\n');
	});

	it('makes formulas harmless (OWASP, CSV injection)', () => {
		for (const formula of ['=1+1', '+12075550101', '-2+3', '@SUM(A1)', '\t=1', '\r=1']) {
			expect(readCsv(writeCsv([[formula]]))[0]![0]).to.equal(`'${formula}`);
		}
		expect(writeCsv([[-5]])).to.equal('-5\r\n');
	});
});

describe('phone numbers', () => {
	it('are shown as people read them; what is none stays as it is', () => {
		expect(phoneText('+12075550143')).to.equal('+1 207 555 0143');
		expect(phoneText('hello')).to.equal('hello');
	});
});

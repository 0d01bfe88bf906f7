import { expect } from 'chai';
import fc from 'fast-check';
import { decodeTable, signBetween } from '../../../../src/lib/core/format/table-text';

const utf16 = (text: string, order: 'le' | 'be', mark: boolean): Uint8Array => {
	const octets = Buffer.from((mark ? '\ufeff' : '') + text, 'utf16le');
	return order === 'le' ? octets : octets.swap16();
};

describe('tables as offices save them', () => {
	const text = 'Name;Größe\r\nDelfina Muñoz;7\r\n';

	it('tells UTF-8, UTF-16 and Windows-1252 apart by what stands in the file', () => {
		// Marks at the beginning: Unicode 16.0 section 23.8, table 23-5. UTF-8: RFC 3629 section 3.
		expect(decodeTable(Buffer.from(text))).to.deep.equal({ text, letters: 'UTF-8' });
		expect(decodeTable(Buffer.from(`\ufeff${text}`))).to.deep.equal({ text, letters: 'UTF-8' });
		for (const order of ['le', 'be'] as const)
			for (const mark of [true, false])
				expect(decodeTable(utf16(text, order, mark)), `${order} ${mark}`).to.deep.equal({
					text,
					letters: 'UTF-16'
				});
		// 0x80 is the euro sign and 0xF1 an n with a tilde in Windows-1252 (WHATWG Encoding, index windows-1252).
		const old = Buffer.from([0x4d, 0x75, 0xf1, 0x6f, 0x7a, 0x2c, 0x80, 0x0a]);
		expect(decodeTable(old)).to.deep.equal({ text: 'Muñoz,€\n', letters: 'Windows-1252' });
	});

	it('what is no text is none', () => {
		expect(decodeTable(Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 0]))).to.equal(null);
		expect(decodeTable(Buffer.from('a,b\n\0\0,c\n'))).to.equal(null);
	});

	it('finds the sign between the cells, whatever stands in quotes', () => {
		expect(signBetween('a,b,c\n1,2,3\n')).to.equal(',');
		expect(signBetween('a;b\n"x, y, z";2\n"p, q, r";3\n')).to.equal(';');
		expect(signBetween('a\tb\n1, 2\t3; 4\n')).to.equal('\t');
		expect(signBetween('Name, given;Number\nAmaro, Ana;1\nPham, Linh;2\n')).to.equal(';');
		expect(signBetween('only')).to.equal(',');
		expect(signBetween('')).to.equal(',');
	});

	it('finds it in any table of two columns and more', () => {
		const cell = fc.stringMatching(/^[a-z ,;"]{0,8}$/);
		fc.assert(
			fc.property(
				fc.constantFrom(',', ';', '\t'),
				fc
					.integer({ min: 2, max: 5 })
					.chain((n) =>
						fc.array(fc.array(cell, { minLength: n, maxLength: n }), { minLength: 3, maxLength: 8 })
					),
				(sign, rows) => {
					const table = rows
						.map((row) => row.map((c) => `"${c.replaceAll('"', '""')}"`).join(sign))
						.join('\n');
					return signBetween(table) === sign;
				}
			)
		);
	});
});

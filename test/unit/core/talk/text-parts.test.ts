import { expect } from 'chai';
import * as fc from 'fast-check';
import {
	joinParts,
	partOfHeader,
	partOfParameters
} from '../../../../src/lib/core/talk/text-parts';

const octets = (hex: string) => Uint8Array.from(Buffer.from(hex.replace(/ /g, ''), 'hex'));

describe('a text in parts', () => {
	it('says which by a header with a reference of 8 bits (3GPP TS 23.040 section 9.2.3.24.1)', () => {
		expect(partOfHeader([octets('00 03 5A 03 02')])).to.deep.equal({
			...{ reference: 0x5a, of: 3, number: 2 }
		});
	});

	it('or of 16 bits (section 9.2.3.24.8), among other elements', () => {
		// A port address (section 9.2.3.24.4) before it.
		expect(partOfHeader([octets('05 04 0B 84 23 F0'), octets('08 04 01 5A 02 01')])).to.deep.equal({
			reference: 0x15a,
			of: 2,
			number: 1
		});
	});

	it('or by parameters (SMPP 3.4 sections 5.3.2.22 to 5.3.2.24)', () => {
		expect(partOfParameters(513, 4, 4)).to.deep.equal({ reference: 513, of: 4, number: 4 });
		expect(partOfParameters(513, undefined, 4)).to.equal(null);
	});

	it('is whole where a header says nothing that can be: the element is then passed over (section 9.2.3.24.1)', () => {
		// No parts; a part beyond the last; part 0; cut off.
		for (const hex of [
			'00 03 5A 00 00',
			'00 03 5A 02 03',
			'00 03 5A 02 00',
			'00 03 5A 02',
			'00 03 5A 01 01'
		])
			expect(partOfHeader([octets(hex)]), hex).to.equal(null);
		expect(partOfHeader([])).to.equal(null);
	});

	it('is the same text in whatever order its parts come; what is missing is said', () => {
		fc.assert(
			fc.property(
				fc.array(fc.string({ minLength: 1 }), { minLength: 2, maxLength: 9 }),
				fc.nat(),
				(words, seed) => {
					const parts = words.map((w, i) => ({ number: i + 1, words: w }));
					const turned = [
						...parts.slice(seed % parts.length),
						...parts.slice(0, seed % parts.length)
					];
					expect(joinParts(turned, words.length)).to.equal(words.join('').trim());
				}
			)
		);
		expect(
			joinParts(
				[
					{ number: 3, words: 'at nine' },
					{ number: 1, words: 'We come' }
				],
				3
			)
		).to.equal('We come […] at nine');
	});
});

import { expect } from 'chai';
import * as fc from 'fast-check';
import { readVcards } from '../../../../src/lib/core/format/read-vcard';
import { writeVcards } from '../../../../src/lib/core/format/vcard';

const card = (version: '3.0' | '4.0', ...lines: string[]) =>
	['BEGIN:VCARD', `VERSION:${version}`, ...lines, 'END:VCARD', ''].join('\r\n');
const one = (version: '3.0' | '4.0', ...lines: string[]) =>
	readVcards(card(version, 'FN:Jo', ...lines))[0]!.card!;

describe('vCards that come in', () => {
	describe('by the examples that RFC 6350 prints', () => {
		it('a name, its parts and its escapes (sections 6.2.1, 6.2.2)', () => {
			const [read] = readVcards(
				card('4.0', 'FN:Mr. John Q. Public\\, Esq.', 'N:Public;John;Quinlan;Mr.;Esq.')
			);
			expect(read!.name).to.equal('Mr. John Q. Public, Esq.');
			expect(read!.card).to.include({ givenName: 'John', familyName: 'Public' });
			const several = readVcards(
				card('4.0', 'FN:X', 'N:Stevenson;John;Philip,Paul;Dr.;Jr.,M.D.,A.C.P.')
			)[0]!.card!;
			expect(several).to.include({ givenName: 'John', familyName: 'Stevenson' });
		});

		it('numbers by their types, an extension, and what is preferred (section 6.4.1, section 5.3)', () => {
			expect(
				one(
					'4.0',
					'TEL;VALUE=uri;TYPE=home:tel:+33-01-23-45-67',
					'TEL;VALUE=uri;PREF=1;TYPE="voice,home":tel:+1-555-555-5555;ext=5555'
				).phones
			).to.deep.equal([
				{ number: '+1-555-555-5555', type: 'voice' },
				{ number: '+33-01-23-45-67', type: 'voice' }
			]);
		});

		it('mail addresses (section 6.4.2) and languages (section 6.4.4)', () => {
			expect(
				one('4.0', 'EMAIL;TYPE=work:jqpublic@xyz.example.com', 'EMAIL;PREF=1:jane_doe@example.com')
					.emails
			).to.deep.equal(['jane_doe@example.com', 'jqpublic@xyz.example.com']);
			expect(
				one('4.0', 'LANG;TYPE=work;PREF=2:en', 'LANG;TYPE=work;PREF=1:en', 'LANG;TYPE=home:fr')
					.language
			).to.equal('en');
		});

		it('what they belong to (section 6.7.1)', () => {
			expect(one('4.0', 'CATEGORIES:TRAVEL AGENT').categories).to.deep.equal(['TRAVEL AGENT']);
			expect(
				one('4.0', 'CATEGORIES:INTERNET,IETF,INDUSTRY,INFORMATION TECHNOLOGY').categories
			).to.deep.equal(['INTERNET', 'IETF', 'INDUSTRY', 'INFORMATION TECHNOLOGY']);
		});

		it('a key (section 6.7.6), and what is no person (section 6.1.4)', () => {
			expect(one('4.0', 'UID:urn:uuid:f81d4fae-7dec-11d0-a765-00a0c91e6bf6').uid).to.equal(
				'urn:uuid:f81d4fae-7dec-11d0-a765-00a0c91e6bf6'
			);
			const [group] = readVcards(
				card(
					'4.0',
					'KIND:group',
					'FN:The Doe family',
					'MEMBER:urn:uuid:03a0e51f-d1aa-4385-8a53-e29025acd8af'
				)
			);
			expect(group).to.deep.include({ card: null, name: 'The Doe family' });
			expect(group!.why).to.contain('the card of a group');
		});

		it('a long line in its folds (section 3.2)', () => {
			const text = [
				'BEGIN:VCARD',
				'VERSION:4.0',
				'FN:Jo',
				'NOTE:This is a very long description that exists o',
				' n a long line.',
				'EMAIL:jo@',
				'\thouse.example',
				'END:VCARD'
			].join('\r\n');
			expect(readVcards(text)[0]!.card!.emails).to.deep.equal(['jo@house.example']);
		});
	});

	it('of version 3.0, by the examples that RFC 2426 prints (sections 3.1.1, 3.1.2, 3.3.1, 3.3.2, 3.6.1)', () => {
		const [read] = readVcards(
			card(
				'3.0',
				'FN:Mr. John Q. Public\\, Esq.',
				'N:Public;John;Quinlan;Mr.;Esq.',
				'TEL;TYPE=work,voice,pref,msg:+1-213-555-1234',
				'EMAIL;TYPE=internet:jqpublic@xyz.dom1.com',
				'CATEGORIES:INTERNET,IETF,INDUSTRY,INFORMATION TECHNOLOGY'
			)
		);
		expect(read!.card).to.deep.include({
			...{ givenName: 'John', familyName: 'Public' },
			emails: ['jqpublic@xyz.dom1.com'],
			phones: [{ number: '+1-213-555-1234', type: 'voice' }],
			categories: ['INTERNET', 'IETF', 'INDUSTRY', 'INFORMATION TECHNOLOGY']
		});
	});

	it('as address books write them: groups before a name, small letters, a picture, other line ends, marks (common practice)', () => {
		const text = `\ufeffbegin:vcard\nversion:3.0\nFN:Ana Pires\nitem1.EMAIL;type=INTERNET;type=pref:ana@pires.example\nitem1.X-ABLabel:school\nTEL;type=CELL;type=VOICE:(207) 555-0143\nTEL;type=FAX:2075550144\nPHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQSkZJRgABAQAAAQABAAD\n /2wBDAAMCAgMCAg==\nTEL;HOME:12\nend:vcard\n`;
		const [broken] = readVcards(text);
		expect(broken).to.deep.include({ line: 1, card: null });
		expect(broken!.why).to.contain('TEL;HOME:12');
		const [read] = readVcards(text.replace('TEL;HOME:12\n', ''));
		expect(read!.card).to.deep.include({
			...{ givenName: 'Ana', familyName: 'Pires', emails: ['ana@pires.example'] },
			phones: [{ number: '(207) 555-0143', type: 'text' }]
		});
	});

	it('one that cannot be used is said alone, with its line', () => {
		const text = [
			card('4.0', 'FN:One'),
			'BEGIN:VCARD\r\nVERSION:2.1\r\nFN:Two\r\nEND:VCARD\r\n',
			'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Three\r\n',
			card('4.0', 'NOTE:nobody'),
			'BEGIN:VCARD\r\nFN:Five\r\nEND:VCARD\r\n',
			'between\r\n',
			'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Six'
		].join('');
		expect(readVcards(text).map((c) => [c.line, c.name, c.why])).to.deep.equal([
			[1, 'One', ''],
			[5, '', 'its version is 2.1; 3.0 and 4.0 are read. Save it anew in one of them.'],
			[9, '', 'it does not end before the next begins (END:VCARD).'],
			[12, '', 'it has no name (FN, N).'],
			[16, '', 'it does not say its version (VERSION).'],
			[20, '', 'it does not end (END:VCARD): the file is cut off there.']
		]);
	});

	it('one without end is refused for itself, and the next is read', () => {
		const endless = card(
			'4.0',
			'FN:X',
			...Array.from({ length: 60_000 }, () => 'EMAIL:a@b.example')
		);
		const cut = `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Y\r\nEMAIL:${'x'.repeat(100_001)}\r\nEND:VCARD\r\n`;
		const [first, second, third] = readVcards(endless + cut + card('4.0', 'FN:Z'));
		expect(first!.why).to.equal('it has 60002 lines; no person has over 500.');
		expect(second!.why).to.equal('its EMAIL has no end.');
		expect(third!.name).to.equal('Z');
	});

	it('what goes out comes in again as it was', () => {
		const word = fc
			.string({ minLength: 1, maxLength: 40, unit: 'grapheme' })
			.map((s) => s.replace(/[\p{C}\s]+/gu, ' ').trim())
			.filter((s) => s !== '');
		fc.assert(
			fc.property(
				fc.record({
					uid: fc.uuid(),
					givenName: word,
					familyName: word,
					emails: fc.constantFrom([], ['a@b.example'], ['a@b.example', 'c@d.example']),
					phones: fc.constantFrom(
						[],
						[{ number: '+12075550143', type: 'text' as const }],
						[{ number: '+12075550144', type: 'voice' as const }]
					),
					language: fc.constantFrom('pt', 'vi', 'pt-BR'),
					children: fc.array(word, { maxLength: 3 }),
					categories: fc.uniqueArray(word, { maxLength: 3 }),
					note: fc.constant('')
				}),
				(out) => {
					const [read] = readVcards(writeVcards([out]));
					const { note, ...said } = out;
					expect(note).to.equal('');
					expect(read!.card).to.deep.equal(said);
				}
			)
		);
	});
});

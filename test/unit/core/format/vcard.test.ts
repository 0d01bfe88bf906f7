import { expect } from 'chai';
import ICAL from 'ical.js';
import { writeVcards } from '../../../../src/lib/core/format/vcard';

const card = (over = {}) => ({
	uid: 'person-1',
	givenName: 'Delfina',
	familyName: 'Amaro',
	emails: ['d.amaro@harbormail.example'],
	phones: [{ number: '+12075550143', type: 'text' as const }],
	language: 'pt',
	note: 'mother of Ana and Rui',
	...over
});
const read = (text: string) => {
	const parsed = ICAL.parse(text) as unknown[];
	const cards = typeof parsed[0] === 'string' ? [parsed] : parsed;
	return cards.map((c) => new ICAL.Component(c as never));
};

describe('vCard (RFC 6350), read back with ical.js', () => {
	it('holds name, address, number and language', () => {
		const [one] = read(writeVcards([card()]));
		expect(one!.getFirstPropertyValue('version')).to.equal('4.0');
		expect(one!.getFirstPropertyValue('fn')).to.equal('Delfina Amaro');
		expect(one!.getFirstPropertyValue('n')).to.deep.equal(['Amaro', 'Delfina', '', '', '']);
		expect(one!.getFirstPropertyValue('email')).to.equal('d.amaro@harbormail.example');
		expect(one!.getFirstPropertyValue('tel')).to.equal('tel:+12075550143');
	});

	it('says which number takes texts, whom they look after and what they belong to (sections 6.4.1, 6.6.6, 6.7.1)', () => {
		const text = writeVcards([
			card({
				phones: [
					{ number: '+12075550143', type: 'text' },
					{ number: '+12075550144', type: 'voice' }
				],
				children: ['Ana Amaro', 'Rui, the younger'],
				categories: ['Regatta Crew', 'Boats, all']
			})
		]);
		const [one] = read(text);
		expect(
			one!.getAllProperties('tel').map((p) => [p.getFirstParameter('type'), p.getFirstValue()])
		).to.deep.equal([
			['text', 'tel:+12075550143'],
			['voice', 'tel:+12075550144']
		]);
		expect(text).to.match(/^RELATED;TYPE=child;VALUE=text:Ana Amaro$/im);
		expect(
			one!.getAllProperties('related').map((p) => [p.getFirstParameter('type'), p.getFirstValue()])
		).to.deep.equal([
			['child', 'Ana Amaro'],
			['child', 'Rui, the younger']
		]);
		expect(one!.getAllProperties('categories').flatMap((p) => p.getValues())).to.deep.equal([
			'Regatta Crew',
			'Boats, all'
		]);
	});

	it('keeps commas, semicolons, backslashes, line breaks, emoji and right-to-left names', () => {
		const cards = read(
			writeVcards([
				card({
					givenName: 'Bea; "B"',
					familyName: 'O’Hara, elder',
					note: 'first\nsecond \\ third'
				}),
				card({ givenName: 'ليلى', familyName: 'حداد 👩‍👧', note: 'x'.repeat(300) })
			])
		);
		expect(cards.map((c) => c.getFirstPropertyValue('fn'))).to.deep.equal([
			'Bea; "B" O’Hara, elder',
			'ليلى حداد 👩‍👧'
		]);
		expect(cards[0]!.getFirstPropertyValue('n')).to.deep.equal([
			'O’Hara, elder',
			'Bea; "B"',
			'',
			'',
			''
		]);
		expect(cards[0]!.getFirstPropertyValue('note')).to.equal('first\nsecond \\ third');
		expect(cards[1]!.getFirstPropertyValue('note')).to.equal('x'.repeat(300));
	});

	it('folds at 75 octets, never inside a character (section 3.2)', () => {
		const text = writeVcards([card({ note: 'é👍ليلى '.repeat(60) })]);
		const lines = text.split('\r\n');
		expect(lines.every((l) => Buffer.byteLength(l) <= 75)).to.equal(true);
		expect(text).not.to.contain('\ufffd');
	});
});

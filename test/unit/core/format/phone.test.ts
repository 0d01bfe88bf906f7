import { expect } from 'chai';
import { parsePhoneNumberFromString } from 'libphonenumber-js/max';
import { phoneText, toE164 } from '../../../../src/lib/core/format/phone';
import { draws } from '../../random';

describe('a phone number', () => {
	it('is written in many ways and is one number in E.164', () => {
		for (const text of [
			'+12075550143',
			'(207) 555-0143',
			'207.555.0143',
			'1 207 555 0143',
			' +1 (207) 555 0143 ',
			'207-555-0143'
		]) {
			expect(toE164(text, 'US'), text).to.equal('+12075550143');
		}
	});

	it('is none where no phone can have it', () => {
		for (const text of ['', 'none', '555', '+', '+0123456789', '12345678901234567', 'ask office']) {
			expect(toE164(text, 'US'), text).to.equal(null);
		}
		// An extension cannot be texted to.
		expect(toE164('(207) 555-0143 ext. 5', 'US')).to.equal(null);
	});

	it('agrees with libphonenumber’s full tables over 3,000 ways to write a number', () => {
		const r = draws(41);
		let numbers = 0;
		for (let i = 0; i < 3000; i += 1) {
			const digits = Array.from({ length: r.int(5, 12) }, () => r.int(0, 9)).join('');
			const text = r.pick([
				digits,
				`(${digits.slice(0, 3)}) ${digits.slice(3, 6)}-${digits.slice(6)}`,
				digits.replace(/(\d{3})(?=\d)/g, '$1.'),
				`1 ${digits}`
			]);
			const theirs = parsePhoneNumberFromString(text, 'US');
			const wanted = theirs?.isPossible() && !theirs.ext ? theirs.number : null;
			expect(toE164(text, 'US'), text).to.equal(wanted);
			if (wanted) numbers += 1;
		}
		expect(numbers).to.be.within(300, 2700);
	});

	it('is shown in groups, and what is no number as it is', () => {
		expect(phoneText('+12075550143')).to.equal('+1 207 555 0143');
		expect(phoneText('none')).to.equal('none');
	});
});

import { expect } from 'chai';
import {
	dutyReason,
	reasonKey,
	reasonsText,
	reasonText,
	type Reason
} from '../../../../src/lib/core/audience/reasons';
import { guardian } from '../fixture';

describe('reasons', () => {
	for (const [reason, words, key] of [
		[{ code: 'no-custody' }, 'Guardian without custody', 'no-custody'],
		[{ code: 'no-custody', guardian: false }, 'Has no custody of this student', 'no-custody-other'],
		[
			{ code: 'no-correspondence' },
			'Not to receive correspondence about this student',
			'no-correspondence'
		],
		[{ code: 'no-email' }, 'No email address on file', 'no-email'],
		[{ code: 'no-number' }, 'No number on file', 'no-number'],
		[{ code: 'not-opted-in' }, 'Has not opted in to text', 'not-opted-in'],
		[{ code: 'opted-out', way: 'text' }, 'Has opted out of text', 'opted-out-text'],
		[{ code: 'opted-out', way: 'email' }, 'Asked for no email', 'opted-out-email'],
		[
			{ code: 'declined', way: 'email', kind: 'announcement' },
			'Wants no announcements by email',
			'declined-email-announcement'
		],
		[{ code: 'no-inbox' }, 'No account for the inbox', 'no-inbox'],
		[
			{ code: 'address-failing', way: 'text', why: 'off too long' },
			'Number does not work: off too long',
			'address-failing-text'
		],
		[
			{ code: 'address-failing', way: 'email', why: 'full' },
			'Email address does not work: full',
			'address-failing-email'
		],
		[{ code: 'not-on-roster' }, 'No longer on the roster', 'not-on-roster'],
		[{ code: 'no-longer-tied' }, 'No longer a contact of this student', 'no-longer-tied'],
		[{ code: 'by-hand' }, 'Taken out by hand', 'by-hand'],
		[{ code: 'by-line', line: 0 }, 'Taken out by “but not Drama”', 'by-line-0'],
		[{ code: 'by-line', line: 1 }, 'Taken out by line 2', 'by-line-1'],
		[{ code: 'way-by-hand' }, 'Another way was chosen by hand', 'way-by-hand'],
		[{ code: 'tried-less' }, 'Gets it by a way that was tried less', 'tried-less'],
		[{ code: 'past-end' }, 'Could only leave after its end time', 'past-end'],
		[
			{ code: 'no-allowed-time' },
			'No time outside quiet hours in the next 120 days',
			'no-allowed-time'
		]
	] as const satisfies readonly (readonly [Reason, string, string])[]) {
		it(`${key}: ${words}`, () => {
			expect(reasonText(reason, ['Drama'])).to.equal(words);
			expect(reasonKey(reason)).to.equal(key);
		});
	}

	it('stand one after another', () => {
		expect(reasonsText([{ code: 'no-email' }, { code: 'no-number' }])).to.equal(
			'No email address on file. No number on file'
		);
	});

	it('custody weighs before correspondence, and only both are no reason (common practice)', () => {
		expect(dutyReason(guardian(1, 10))).to.equal(null);
		expect(dutyReason(guardian(1, 10, { correspondence: false }))).to.deep.equal({
			code: 'no-correspondence'
		});
		expect(dutyReason(guardian(1, 10, { custody: false, correspondence: false }))).to.deep.equal({
			code: 'no-custody'
		});
		expect(dutyReason(guardian(1, 10, { custody: false, guardian: false }))).to.deep.equal({
			code: 'no-custody',
			guardian: false
		});
	});
});

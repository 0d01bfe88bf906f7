import { expect } from 'chai';
import { nextForReader } from '../../../../src/lib/core/plan/next-for-reader';
import type { QuietBook } from '../../../../src/lib/core/plan/reader-rules';

/** Texts are quiet from 21:00 to 07:00, in school 2 until 08:00; nothing else is. */
const book: QuietBook = {
	zone: () => 'America/New_York',
	hours: (way, schoolIds) =>
		way === 'text' ? [{ fromMinute: 21 * 60, toMinute: (schoolIds.includes(2) ? 8 : 7) * 60 }] : [],
	closed: () => true
};
const reader = { way: 'text', schoolIds: [1], zone: null, quietFrom: null, quietTo: null } as const;
const at = (iso: string) => Date.parse(iso);
const late = at('2027-03-09T22:00:00-05:00');

describe('when something for one reader may come', () => {
	it('is out of the quiet hours of its way and their schools, on whatever day', () => {
		expect(nextForReader(book, late, reader)).to.equal(at('2027-03-10T07:00:00-05:00'));
		expect(nextForReader(book, late, { ...reader, schoolIds: [1, 2] })).to.equal(
			at('2027-03-10T08:00:00-05:00')
		);
		expect(nextForReader(book, late, { ...reader, way: 'inbox' })).to.equal(late);
	});

	it('is by their own clock, and out of their own hours as well', () => {
		const west = { ...reader, zone: 'America/Los_Angeles' };
		expect(nextForReader(book, late, west)).to.equal(late);
		const own = { ...west, quietFrom: 18 * 60, quietTo: 9 * 60 };
		expect(nextForReader(book, late, own)).to.equal(at('2027-03-10T09:00:00-08:00'));
	});
});

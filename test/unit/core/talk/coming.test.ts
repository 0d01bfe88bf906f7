import { expect } from 'chai';
import { readComing } from '../../../../src/lib/core/talk/coming';

describe('an answer to an invitation by text', () => {
	it('is a yes or a no and how many, in the languages that families read (from memory)', () => {
		for (const [text, people] of [
			['yes 2', 2],
			['YES', null],
			['Yes, 3!', 3],
			['2 yes', 2],
			['sí, 3', 3],
			['sim 4 obrigada', 4],
			['có 2', 2],
			['نعم ٢', 2],
			['نعم ۳', 3],
			['we are coming 5', 5],
			['yes thank you', null]
		] as const)
			expect(readComing(text), text).to.deep.equal({ comes: true, people });
		for (const text of ['no', 'No, thank you', 'não', 'không', 'لا', 'no 0'])
			expect(readComing(text), text).to.deep.equal({ comes: false, people: null });
	});

	it('is left to a person where it says anything beside it', () => {
		for (const text of [
			...['yes 2 or 3', 'yes 2?', 'yes but late', 'no 2', 'yes 0', 'yes 21', 'yes 1234', '2'],
			...[
				'yes 2:30',
				'yes 2.5',
				'yes -2',
				'yes2',
				'yes 2x',
				'yes 1/2',
				'yes 2,5',
				'',
				'seen',
				'yes no'
			],
			'yes room 12'
		])
			expect(readComing(text), text).to.equal(null);
	});
});

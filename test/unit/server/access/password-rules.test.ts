import { expect } from 'chai';
import { asTyped, passwordRefused } from '../../../../src/lib/server/access/password-rules';

const about = ['maren', 'Maren Quill', 'Brackwater Isles School District', 'idle courier'];
const why = (password: string) => passwordRefused(password, about);

// NIST SP 800-63B-4 section 3.1.1.2: length, a list of what is tried first, words of the context, and no rule of composition.
describe('a password', () => {
	it('of fifteen characters is taken, whatever they are', () => {
		for (const good of [
			'four wet boots on deck',
			'корабль ждёт утром',
			'thuyền ra khơi lúc sáu giờ',
			'aaaaaaa bbbbbbbb ccccc',
			'Xk7#pQ2!mN9$vR4z',
			'🚢⛵🛶🚤🛳⛴🚢⛵🛶🚤🛳⛴🪝🧭⚓',
			'a'.repeat(14) + ' long rope and 64 more '.repeat(3)
		])
			expect(why(good), good).to.equal(null);
	});

	it('is measured as people count, and once it is made the same on every machine', () => {
		// Fourteen letters, some written as a letter and its accent.
		expect(why('e\u0301e\u0301e\u0301 klmnopqrst')).to.contain('14 characters');
		expect(asTyped('e\u0301')).to.equal(asTyped('\u00e9'));
		expect(asTyped('ﬁsh')).to.equal('fish');
	});

	for (const [what, bad, said] of [
		['short', 'tide pool day', '13 characters'],
		['over the most', 'x7'.repeat(101), 'over 200'],
		['common', 'passwordpassword', 'tried first'],
		['common with figures at its end', 'qwertyuiop12345!!', 'tried first'],
		['common, in capitals', 'QWERTYUIOP12345', 'tried first'],
		['one said several times', 'monkeymonkeymonkey', 'tried first'],
		['a run', '123456789012345', 'tried first'],
		['a run of letters', 'abcdefghijklmnop', 'tried first'],
		['one letter', 'zzzzzzzzzzzzzzzz', 'tried first'],
		['made of names around it', 'Brackwater-Isles-2027', 'names that stand around it'],
		['one’s own name', 'MarenQuillMaren1', 'names that stand around it']
	] as const)
		it(`that is ${what} is refused in words`, () => {
			expect(why(bad)).to.contain(said);
		});
});

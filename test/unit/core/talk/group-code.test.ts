import { expect } from 'chai';
import * as fc from 'fast-check';
import { codeInText, codeKey, newCode, readCode } from '../../../../src/lib/core/talk/group-code';
import { nameParts, readJoiner } from '../../../../src/lib/core/talk/joiner';

describe('the code of an open group', () => {
	it('is read however it is typed, and refused in words where it can be none', () => {
		expect(readCode(' ke-lp 7 ')).to.deep.equal({ ok: true, code: 'KELP7' });
		// Full-width letters are the same letters (Unicode Standard Annex 15, NFKC).
		expect(readCode('ＫＥＬＰ')).to.deep.equal({ ok: true, code: 'KELP' });
		const whyOf = (typed: string) => {
			const read = readCode(typed);
			return read.ok ? 'taken' : read.why;
		};
		expect(whyOf('KEL')).to.contain('4 to 12');
		expect(whyOf('K'.repeat(13))).to.contain('this one has 13');
		expect(whyOf('2027')).to.contain('digits alone');
		expect(whyOf('càfé')).to.contain('A to Z');
		expect(whyOf('')).to.contain('A to Z');
		// Words that end or begin texts (47 CFR 64.1200(a)(10), and common practice), and everyday answers.
		for (const word of ['stop', 'STOP ALL', 'unsubscribe', 'start', 'help', 'thanks', 'okay'])
			expect(whyOf(word), word).to.contain('answer to other things');
	});

	it('that looks like another is the same code: O and 0, I, L and 1, Z and 2, S and 5, B and 8 (common practice)', () => {
		expect(codeKey('BOILS')).to.equal(codeKey('80115'));
		expect(codeKey('kelp')).to.equal(codeKey('KE1P'));
		expect(codeKey('ZOO7')).to.equal(codeKey('2007'));
		expect(codeKey('KELP')).not.to.equal(codeKey('HELP'));
	});

	it('that nobody chose can be read in one way only, and is no word', () => {
		fc.assert(
			fc.property(fc.array(fc.nat(1_000_000), { minLength: 6, maxLength: 6 }), (numbers) => {
				const left = [...numbers];
				const code = newCode((below) => left.pop()! % below);
				expect(code).to.match(/^[A-Z0-9]{6}$/);
				expect(code).not.to.match(/[AEIOUYLZSB01258]/);
				expect(codeKey(code)).to.equal(code);
			})
		);
	});

	it('is found in a text that is nothing else', () => {
		const key = codeKey('KELP');
		for (const text of ['KELP', 'kelp.', '“Kelp”', 'join kelp', 'Join KE1P', ' kelp\n'])
			expect(codeInText(text), text).to.equal(key);
		for (const text of ['I would like kelp', 'stop', 'STOP ALL', 'the kelp garden', '', '12'])
			expect(codeInText(text), text).to.equal(null);
	});
});

describe('who says that they join', () => {
	it('is a name, and after a comma or on the next line that of a student', () => {
		expect(readJoiner('Ana  Pires')).to.deep.equal({ name: 'Ana Pires', student: '' });
		expect(readJoiner('Ana Pires, Tomás Pires')).to.deep.equal({
			name: 'Ana Pires',
			student: 'Tomás Pires'
		});
		expect(readJoiner('Ana\nTomás')).to.deep.equal({ name: 'Ana', student: 'Tomás' });
		// The comma of Arabic (U+060C).
		expect(readJoiner('ليلى حداد، سامي حداد')).to.deep.equal({
			name: 'ليلى حداد',
			student: 'سامي حداد'
		});
		expect(readJoiner("Siobhán O'Neill-Ruiz Jr.")?.name).to.equal("Siobhán O'Neill-Ruiz Jr.");
	});

	it('is nobody where it is a question, a number, an address or a whole sentence', () => {
		for (const text of [
			'Who is this?',
			'2027',
			'',
			', ',
			'a@b.example',
			'http://here.example',
			'I think that you have the wrong number',
			'Ana, Bo, Cy',
			'x'.repeat(81),
			'<b>Ana</b>'
		])
			expect(readJoiner(text), text).to.equal(null);
	});

	it('has a family’s name last', () => {
		expect(nameParts('Ana Maria Pires')).to.deep.equal({
			givenName: 'Ana Maria',
			familyName: 'Pires'
		});
		expect(nameParts('Ana')).to.deep.equal({ givenName: 'Ana', familyName: '' });
	});
});

import { expect } from 'chai';
import { fixedWords, wordLanguages } from '../../../../src/lib/core/copy/fixed-words';

/** What is filled in, in the order of the alphabet: "{name}", "{time}". */
const filled = (text: string): string[] => [...(text.match(/\{\w+\}/g) ?? [])].sort();

describe('the fixed words', () => {
	it('are in every language the same phrases, with the same to fill in, and none is empty', () => {
		const english = fixedWords('en');
		expect(english.length).to.be.above(5);
		for (const tag of wordLanguages) {
			const own = fixedWords(tag);
			expect(
				own.map((p) => p.place),
				tag
			).to.deep.equal(english.map((p) => p.place));
			own.forEach((part, i) => {
				expect(
					part.words.map((w) => w.key),
					`${tag} ${part.place}`
				).to.have.members(english[i]!.words.map((w) => w.key));
				for (const word of part.words) {
					expect(word.words.trim(), `${tag} ${word.key}`).not.to.equal('');
					expect(filled(word.words), `${tag} ${word.key}`).to.deep.equal(filled(word.english));
				}
			});
		}
		expect(fixedWords('xx')).to.deep.equal([]);
	});

	it('are in their own script (ISO 15924, by Unicode property), and not the English over again', () => {
		const arabic = fixedWords('ar').flatMap((p) => p.words);
		expect(
			arabic.filter((w) => !/\p{Script=Arabic}/u.test(w.words)).map((w) => w.key)
		).to.deep.equal([]);
		for (const tag of ['es', 'pt', 'vi']) {
			const words = fixedWords(tag).flatMap((p) => p.words);
			const same = words.filter((w) => w.words === w.english && w.words.length > 12);
			expect(
				same.map((w) => w.key),
				tag
			).to.deep.equal([]);
		}
	});
});

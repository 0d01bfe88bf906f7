import { expect } from 'chai';
import { joinLanguages, joinPhrases } from '../../../../src/lib/core/copy/join-phrases';
import { fillPhrase } from '../../../../src/lib/core/copy/phrases';
import { measureText } from '../../../../src/lib/core/copy/segments';

const placesIn = (phrase: string) => [...phrase.matchAll(/\{(\w+)\}/g)].map((m) => m[1]).sort();

describe('what is said to whoever joins', () => {
	const english = joinPhrases('en');
	it('has the same places to fill in in every language, and no empty phrase', () => {
		for (const tag of joinLanguages) {
			const words = joinPhrases(tag);
			expect(words.tag).to.equal(tag);
			for (const name of Object.keys(english) as (keyof typeof english)[]) {
				expect(words[name], `${tag} ${name}`).not.to.equal('');
				expect(placesIn(words[name]), `${tag} ${name}`).to.deep.equal(placesIn(english[name]));
			}
		}
	});

	it('names STOP in each text that brings texts (how to opt out stands in what confirms an opt-in: carriers’ common rule, from memory)', () => {
		for (const tag of joinLanguages)
			for (const name of ['askName', 'welcome'] as const)
				expect(joinPhrases(tag)[name], `${tag} ${name}`).to.contain('STOP');
	});

	it('is a text of two parts at most where 7 bits are enough, of four elsewhere', () => {
		const parts = {
			group: 'Kelp Garden',
			district: 'Brackwater Isles School District',
			name: 'Ana Pires',
			code: 'KELP'
		};
		for (const tag of joinLanguages)
			for (const name of ['askName', 'askCode', 'welcome', 'removed', 'over'] as const) {
				const text = fillPhrase(joinPhrases(tag)[name], parts);
				const { alphabet, parts: count } = measureText(text);
				expect(count, `${tag} ${name}`).to.be.at.most(alphabet === '7-bit' ? 2 : 4);
			}
	});

	it('falls to the nearest language there is (RFC 4647 section 3.4)', () => {
		expect(joinPhrases('pt-BR').tag).to.equal('pt');
		expect(joinPhrases(['fi', 'vi']).tag).to.equal('vi');
		expect(joinPhrases('fi').tag).to.equal('en');
	});
});

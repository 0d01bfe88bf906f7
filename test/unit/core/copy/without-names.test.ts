import { expect } from 'chai';
import type { Inline } from '../../../../src/lib/core/copy/doc';
import { wordingOf } from '../../../../src/lib/core/copy/words';
import {
	fileNameWithoutNames,
	plainName,
	textWithoutNames,
	wordingWithoutNames
} from '../../../../src/lib/core/copy/without-names';
import { draws } from '../../random';

const onFile = ['Ana Souza', 'Rui Souza', "Máire O'Dea", 'Jean-Luc van der Berg', 'Nguyễn Bảo'];
const names = new Set(onFile.map(plainName));
const isName = (name: string) => names.has(name);
const masked = (text: string) => textWithoutNames(text, isName);

describe('words that anybody may read', () => {
	it('have initials in the place of whole names, however they are written', () => {
		const said: readonly (readonly [string, string])[] = [
			['Well done, Ana Souza!', 'Well done, A. S.!'],
			['Ana Souza’s boat and ANA SOUZA', 'A. S.’s boat and A. S.'],
			['Souza, Rui (grade 7)', 'R. S. (grade 7)'],
			['Maire O’Dea. Jean-Luc van der Berg', 'M. O. J. V. D. B.'],
			['Ana\n  Souza', 'A. S.'],
			['Nguyễn Bảo', 'N. B.'],
			['Ana went; Souza stayed. Ana, Rui and Souza', 'Ana went; Souza stayed. Ana, Rui and Souza'],
			['Santana Souzas', 'Santana Souzas'],
			['', '']
		];
		for (const [text, shown] of said) expect(masked(text)).to.equal(shown);
	});

	it('also where a name is written in pieces of different looks, with its fallbacks, subject and pictures', () => {
		const bold = [{ type: 'bold' as const }];
		const content: Inline[] = [
			{ type: 'text', text: 'For ' },
			{ type: 'text', text: 'An', marks: bold },
			{ type: 'text', text: 'a' },
			{ type: 'hardBreak' },
			{ type: 'text', text: 'Souza and ', marks: bold },
			{ type: 'field', attrs: { name: 'student', fallback: 'Rui Souza' } }
		];
		const wording = {
			...wordingOf('Rui Souza wins', ''),
			words: {
				subject: 'Rui Souza wins',
				body: {
					type: 'doc' as const,
					content: [
						{ type: 'paragraph' as const, content },
						{ type: 'picture' as const, attrs: { fileId: 1, alt: 'Ana Souza on the pier' } }
					]
				},
				own: { email: { subject: 'Ana Souza', body: { type: 'doc' as const, content: [] } } }
			}
		};
		const { words } = wordingWithoutNames(wording, isName);
		expect(words.subject).to.equal('R. S. wins');
		expect(words.own).to.deep.equal({});
		expect(words.body.content).to.deep.equal([
			{
				type: 'paragraph',
				content: [
					{ type: 'text', text: 'For ' },
					{ type: 'text', text: 'A. S.', marks: bold },
					{ type: 'text', text: ' and ', marks: bold },
					{ type: 'field', attrs: { name: 'student', fallback: 'R. S.' } }
				]
			},
			{ type: 'picture', attrs: { fileId: 1, alt: 'A. S. on the pier' } }
		]);
	});

	it('also in the names of files, whatever parts their words', () => {
		const said: readonly (readonly [string, string])[] = [
			['Ana_Souza.pdf', 'A. S..pdf'],
			['list-Rui-Souza-7.xlsx', 'list R. S. 7.xlsx'],
			['Ana Souza', 'A. S.'],
			['map_of.the-pier.pdf', 'map_of.the-pier.pdf'],
			['.pdf', '.pdf']
		];
		for (const [name, shown] of said) expect(fileNameWithoutNames(name, isName)).to.equal(shown);
	});

	it('hold no name on file, and lose nothing else, in 500 random texts', () => {
		const r = draws(34);
		const others = ['the', 'ferry', 'Ana', 'Souza', 'leaves', 'at', '7:05', '“pier”', 'Dea'];
		for (let i = 0; i < 500; i += 1) {
			const words = Array.from({ length: 12 }, () =>
				r.chance(0.3) ? r.pick(onFile) : r.pick(others)
			);
			const shown = masked(words.join(' '));
			for (const name of onFile) expect(plainName(shown)).not.to.include(plainName(name));
			// What is no part of a name stays, in its order.
			const kept = words.filter((w) => ['ferry', 'leaves', '7:05', '“pier”'].includes(w));
			expect(shown.split(' ').filter((w) => kept.includes(w))).to.deep.equal(kept);
		}
	});
});

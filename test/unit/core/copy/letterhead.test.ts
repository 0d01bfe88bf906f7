import axe from 'axe-core';
import { expect } from 'chai';
import { contrast, logoSize, plainLetterhead } from '../../../../src/lib/core/copy/letterhead';
import { lettersOf, type LetterFrame } from '../../../../src/lib/core/copy/letter';
import { copyFacts } from '../../../../src/lib/core/copy/values';
import { wordingOf } from '../../../../src/lib/core/copy/words';
import { draws } from '../../random';

/** What axe-core computes contrast by, a reference of its own. */
const { Color, getContrast } = (
	axe as unknown as {
		commons: {
			color: {
				Color: new (r: number, g: number, b: number, a: number) => object;
				getContrast: (a: object, b: object) => number;
			};
		};
	}
).commons.color;

describe('the letterhead', () => {
	it('contrast is that of WCAG 2.2: the known values, and axe-core’s for 500 pairs', () => {
		expect(contrast('#000000', '#ffffff')).to.equal(21);
		expect(contrast('#ffffff', '#ffffff')).to.equal(1);
		// The lightest grey that passes on white (common practice).
		expect(contrast('#767676', '#ffffff')).to.be.within(4.5, 4.6);
		expect(contrast('#777777', '#ffffff')).to.be.below(4.5);
		const r = draws(7);
		for (let i = 0; i < 500; i += 1) {
			const [a, b] = [0, 1].map(() => [0, 0, 0].map(() => r.int(0, 255))) as [number[], number[]];
			const hex = (of: number[]) => `#${of.map((n) => n.toString(16).padStart(2, '0')).join('')}`;
			const theirs = getContrast(
				new Color(a[0]!, a[1]!, a[2]!, 1),
				new Color(b[0]!, b[1]!, b[2]!, 1)
			);
			expect(contrast(hex(a), hex(b)), `${hex(a)} ${hex(b)}`).to.be.closeTo(theirs, 0.02);
		}
	});

	it('a logo keeps its proportions, is never enlarged, and never nothing', () => {
		expect(logoSize({ width: 640, height: 96 })).to.deep.equal({ width: 320, height: 48 });
		expect(logoSize({ width: 100, height: 400 })).to.deep.equal({ width: 24, height: 96 });
		expect(logoSize({ width: 60, height: 20 })).to.deep.equal({ width: 60, height: 20 });
		expect(logoSize({ width: 99_999, height: 1 })).to.deep.equal({ width: 320, height: 1 });
	});

	it('stands around an email, as a part of it, and not in the inbox or a text', () => {
		const frame = (over: Partial<LetterFrame['letterhead']>): LetterFrame => ({
			signature: { name: 'Maren Quill', line: '' },
			...{ zone: 'America/New_York', leavesAt: 0, sectionBefore: false, sectionLine: false },
			...{ files: [], trace: null, letterhead: { ...plainLetterhead, ...over } }
		});
		const copy = {
			facts: copyFacts({ givenName: 'Delfina', familyName: 'Amaro' }, []),
			...{ language: 'en', link: 'https://x.example/f/t', mayStop: true }
		};
		const around = { alt: 'Isles', colour: '#7a1f3d', footer: ['Quay 1', 'Call 555-0100'] };
		const logo = { fileId: 9, width: 640, height: 96 };
		const letters = lettersOf(wordingOf('Boats', 'It is late.'), frame({ ...around, logo }));
		const email = letters.email(copy);
		expect(email.pictureIds).to.deep.equal([9]);
		// One that the words show as well is one part of the letter.
		const plain = wordingOf('Boats', 'x');
		const body = {
			...plain.words.body,
			content: [{ type: 'picture', attrs: { fileId: 9, alt: '' } } as const]
		};
		const shown = { ...plain, words: { ...plain.words, body } };
		expect(lettersOf(shown, frame({ ...around, logo })).email(copy).pictureIds).to.deep.equal([9]);
		expect(email.html).to.contain('<img src="cid:picture-9@idle-courier" width="320" height="48"');
		expect(email.html).to.contain('border-top:4px solid #7a1f3d').and.contain('color:#7a1f3d');
		expect(email.html).to.contain('Quay 1<br>Call 555-0100');
		expect(email.text.endsWith('\n\nQuay 1\nCall 555-0100\n')).to.equal(true);
		expect(JSON.stringify([letters.inbox(copy), letters.text(copy)])).not.to.contain('Quay 1');
		expect(lettersOf(wordingOf('Boats', 'x'), frame({})).email(copy).pictureIds).to.deep.equal([]);
	});
});

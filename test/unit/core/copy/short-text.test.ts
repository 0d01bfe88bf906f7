import { expect } from 'chai';
import { measureText } from '../../../../src/lib/core/copy/segments';
import { nameList } from '../../../../src/lib/core/copy/names';
import { shortText } from '../../../../src/lib/core/copy/short-text';
import { draws } from '../../random';

const parts = (subject: string, body: string) => ({
	subject,
	body,
	sender: 'Maren Quill',
	link: 'http://localhost:4173/f/abcdefghijklmnopqrstuv'
});

describe('the short text', () => {
	it('lists names as people say them', () => {
		expect(nameList([])).to.equal('');
		expect(nameList(['Ana'])).to.equal('Ana');
		expect(nameList(['Ana', 'Rui'])).to.equal('Ana and Rui');
		expect(nameList(['Ana', 'Rui', 'Lia'])).to.equal('Ana, Rui and Lia');
	});

	it('keeps a text whole where it fits', () => {
		expect(shortText(parts('Boats', 'The boat is late.'))).to.equal(
			'Boats. The boat is late. - Maren Quill\nhttp://localhost:4173/f/abcdefghijklmnopqrstuv'
		);
	});

	it('cuts between words and says so, and never loses the link or exceeds its parts (500 random texts)', () => {
		const r = draws(2);
		const words = [
			'boat',
			'late',
			'pão',
			'Nguyễn',
			'سفينة',
			'the',
			'landing',
			'€5',
			'😀',
			'a'.repeat(40)
		];
		for (let i = 0; i < 500; i += 1) {
			const subject = Array.from({ length: r.int(0, 12) }, () => r.pick(words)).join(' ');
			const body = Array.from({ length: r.int(0, 120) }, () => r.pick(words)).join(' ');
			const p = parts(subject, body);
			const text = shortText(p);
			expect(text.endsWith(`\n${p.link}`), text).to.equal(true);
			expect(measureText(text).parts, text).to.be.at.most(2);
			if (!text.includes('...')) expect(text).to.contain(body);
			else if (text.includes(subject) && subject) {
				const kept = text.slice(text.indexOf(subject) + subject.length + 2, text.indexOf('...'));
				expect(`${body} `.startsWith(`${kept} `) || kept === '', text).to.equal(true);
			}
		}
	});

	it('is cut as late as it can be, whether its letters are of one septet each or not (1,000 random texts, each place tried)', () => {
		const r = draws(12);
		let cut = 0;
		for (let i = 0; i < 1_000; i += 1) {
			const words = r.pick([
				['boat', 'the', 'landing', 'pão', 'x'.repeat(60)],
				['boat', '€5', 'late', '[7]'],
				['سفينة', 'boat', '😀']
			]);
			const body = Array.from({ length: r.int(1, 150) }, () => r.pick(words)).join(' ');
			const p = { ...parts(r.pick(['', 'Boats']), body), asks: r.pick(['', 'Answer Y7 or N7.']) };
			const most = r.int(1, 4);
			const text = shortText(p, most);
			const at = text.indexOf('...');
			if (at < 0 || !text.includes(p.sender)) continue;
			cut += 1;
			const [before, kept, behind] = [
				p.subject ? `${p.subject}. ` : '',
				text.slice(p.subject ? p.subject.length + 2 : 0, at),
				text.slice(at)
			];
			const ends = [...body.matchAll(/ /g)].map((space) => space.index);
			const best = ends.filter(
				(end) => measureText(before + body.slice(0, end) + behind).parts <= most
			);
			expect(kept.length, text).to.equal(Math.max(...best));
		}
		expect(cut).to.be.above(300);
	});

	it('gives up the subject before the link', () => {
		const text = shortText(parts('x'.repeat(500), ''));
		expect(text).to.match(/^x+\.\.\.\nhttp/);
		expect(measureText(text).parts).to.equal(2);
	});
});

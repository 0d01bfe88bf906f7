import { expect } from 'chai';
import { docOf, type Doc } from '../../../../src/lib/core/copy/doc';
import { startingWordings } from '../../../../src/lib/core/copy/starting-wordings';
import { translatable } from '../../../../src/lib/core/copy/translatable';
import { wordsMark } from '../../../../src/lib/core/copy/stale';
import { readTemplate } from '../../../../src/lib/core/copy/template';
import { bodyText } from '../../../../src/lib/core/copy/plain';
import { emptyWords, type Words } from '../../../../src/lib/core/copy/words';

const body: Doc = {
	type: 'doc',
	content: [
		{
			type: 'paragraph',
			content: [
				{ type: 'text', text: 'Dear ' },
				{ type: 'field', attrs: { name: 'first_name', fallback: '' } },
				{ type: 'text', text: ', a < b & c ' },
				{ type: 'text', text: 'bold {{student}}', marks: [{ type: 'bold' }] },
				{ type: 'hardBreak' }
			]
		},
		{ type: 'paragraph' },
		{ type: 'picture', attrs: { fileId: 1, alt: 'A jar' } },
		{
			type: 'bulletList',
			content: [{ type: 'listItem', content: docOf('one\n\ntwo').content }]
		},
		{
			type: 'table',
			content: [
				{ type: 'tableRow', content: [{ type: 'tableCell', content: docOf('cell').content }] }
			]
		}
	]
};
const words: Words = {
	subject: '{{student}}: boats',
	body,
	own: { text: { text: 'Boats', link: true }, inbox: { subject: 'In', body: docOf('box') } }
};

describe('words for a translation service', () => {
	it('are strings with numbered tags, and come back as they were where nothing is changed', () => {
		const { texts, rebuild } = translatable(words);
		expect(texts).to.deep.equal([
			'<f>{{student}}</f>: boats',
			'Dear <2/>, a &lt; b &amp; c <4>bold <f>{{student}}</f></4><5/>',
			'A jar',
			'one',
			'two',
			'cell',
			'In',
			'box',
			'Boats'
		]);
		const same = rebuild(texts);
		expect(same.ok && wordsMark(same.words)).to.equal(wordsMark(words));
		for (const { wording } of startingWordings) {
			const whole = translatable(wording.words);
			const back = whole.rebuild(whole.texts);
			expect(back.ok && wordsMark(back.words)).to.equal(wordsMark(wording.words));
		}
		expect(translatable(emptyWords).texts).to.deep.equal([]);
	});

	it('keep fields and marks in another order of words', () => {
		const { texts, rebuild } = translatable(words);
		const made = rebuild(
			texts.map((t, i) => (i === 1 ? '<4>fett</4> &lt; <2/> ist lieb' : t.replace('box', 'Kasten')))
		);
		if (!made.ok) throw new Error(made.why);
		expect(bodyText(made.words.body)).to.match(/^fett < \{\{first_name\}\} ist lieb/);
		const first = made.words.body.content[0]!;
		expect(first.type === 'paragraph' && first.content![0]).to.deep.equal({
			type: 'text',
			text: 'fett',
			marks: [{ type: 'bold' }]
		});
	});

	it('refuse nonsense, and say what is wrong with it', () => {
		const { texts, rebuild } = translatable(words);
		const with1 = (text: string) => texts.map((t, i) => (i === 1 ? text : t));
		for (const [answer, why] of [
			[texts.slice(1), /gave 8 texts for 9/],
			[[...texts, 'x'], /gave 10 texts/],
			[with1(''), /empty/],
			[with1('Lieber'), /a field is missing/],
			[with1('<2/> <9>x</9>'), /tag 9 is not one of ours/],
			[with1('<2/> <2/>'), /tag 2 is not one of ours/],
			[with1('<2/> <4/>'), /lost its words/],
			[with1('<2>x</2>'), /got words/],
			[with1('<2/> <4>x'), /broken/],
			[with1('<2/><script>alert(1)</script>'), /broken/]
		] as const) {
			const made = rebuild(answer);
			expect(made.ok ? '' : made.why, JSON.stringify(answer)).to.match(why);
		}
	});
});

describe('the wordings a school begins with', () => {
	it('are six, each with its fields in order in every language', () => {
		expect(startingWordings.map((s) => s.name)).to.deep.equal([
			'Closure',
			'Late ferry',
			'Event reminder',
			'Missing slip',
			'Picture day',
			'Welcome'
		]);
		for (const { name, wording } of startingWordings) {
			const used = (w: Words) =>
				readTemplate(`${w.subject} ${bodyText(w.body)} ${w.own.text?.text ?? ''}`);
			const original = used(wording.words);
			for (const v of wording.variants) {
				const read = used(v.words);
				expect(read.problems, `${name} ${v.language}`).to.deep.equal([]);
				expect(new Set(read.fields), `${name} ${v.language}`).to.deep.equal(
					new Set(original.fields)
				);
			}
		}
	});
});

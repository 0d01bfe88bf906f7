import { expect } from 'chai';
import { SegmentedMessage } from 'sms-segments-calculator';
import { exchangesOf, plainText } from '../../../../src/lib/core/copy/plain-signs';
import { measureText } from '../../../../src/lib/core/copy/segments';
import { draws } from '../../random';

describe('plain signs for a text', () => {
	it('names what forces 16 bits, how often, and what could stand for it', () => {
		expect(exchangesOf('“Boats” – at 7\u00a0pm… “soon” é ā 🚤 漢')).to.deep.equal([
			{ char: '“', count: 2, name: 'curly quote', plain: '"', kind: 'sign' },
			{ char: '”', count: 2, name: 'curly quote', plain: '"', kind: 'sign' },
			{ char: '–', count: 1, name: 'long dash', plain: '-', kind: 'sign' },
			{ char: '\u00a0', count: 1, name: 'special space', plain: ' ', kind: 'sign' },
			{ char: '…', count: 1, name: 'three-dot sign', plain: '...', kind: 'sign' },
			{ char: 'ā', count: 1, name: 'letter', plain: 'a', kind: 'letter' },
			{ char: '🚤', count: 1, name: 'picture', plain: null, kind: 'sign' },
			{ char: '漢', count: 1, name: 'letter', plain: null, kind: 'sign' }
		]);
		expect(exchangesOf('Plain @ text {with} €5 and é')).to.deep.equal([]);
	});

	it('exchanges signs at once and letters only when asked, and keeps the rest', () => {
		expect(plainText('“½ cup” – São Tomé…')).to.equal('"1/2 cup" - São Tomé...');
		expect(plainText('São Tomé', { letters: true })).to.equal('Sao Tomé');
		expect(plainText('ﬁsh \u200bnet\u00ad ２')).to.equal('fish net 2');
		expect(plainText('漢 🚤')).to.equal('漢 🚤');
		// A picture of several joined by a joiner stays one.
		expect(plainText('👩‍🚀')).to.equal('👩‍🚀');
	});

	it('halves no room: one curly quote in 100 characters costs a part, its plain one does not', () => {
		const text = `${'x'.repeat(99)}’`;
		expect(measureText(text).parts).to.equal(2);
		expect(measureText(plainText(text))).to.include({ alphabet: '7-bit', parts: 1, units: 100 });
	});

	it('comes to the same alphabet and parts as a reference library with its own exchange, over 2,000 random texts', () => {
		const r = draws(23);
		const letters = [...'abc XYZ 012 .,;:!? @$£ éèùà ÄÖÜ {}[]~^€'];
		const signs = [...'“”„‘’‚«»–—…½¼¾•\u00a0\u2009\u202f'];
		let forced = 0;
		for (let i = 0; i < 2000; i += 1) {
			const text = Array.from({ length: r.int(1, 320) }, () =>
				r.pick(r.chance(0.04) ? signs : letters)
			).join('');
			if (measureText(text).alphabet === '16-bit') forced += 1;
			const plain = plainText(text);
			const ours = measureText(plain);
			expect(ours.alphabet, text).to.equal(
				new SegmentedMessage(text, 'auto', true).encodingName === 'GSM-7' ? '7-bit' : '16-bit'
			);
			expect(ours.parts, text).to.equal(new SegmentedMessage(plain).segmentsCount);
		}
		expect(forced).to.be.above(1000);
	});
});

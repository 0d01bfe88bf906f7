import { expect } from 'chai';
import calculator from 'sms-segments-calculator';
import { measureText } from '../../../../src/lib/core/copy/segments';
import { draws } from '../../random';

const { SegmentedMessage } = calculator;

const plain = [
	...'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 .,:;!?-\'"()&%@\n'
];
const extended = [...'^{}\\[~]|€'];
const accented = [...'äöüñàèéùìòÇØøÅåßÉÆæ¿¡§'];
const wide = [...'áíóúãõçâêôțșđơưạếữчшжأبتثمرحب你好—’“”…😀👍🏽'];

describe('text length', () => {
	// Source: 3GPP TS 23.038 and TS 23.040 9.2.3.24.1: 160/153 septets, 70/67 units.
	for (const [text, alphabet, units, parts] of [
		['', '7-bit', 0, 0],
		['a'.repeat(160), '7-bit', 160, 1],
		['a'.repeat(161), '7-bit', 161, 2],
		['a'.repeat(306), '7-bit', 306, 2],
		['a'.repeat(307), '7-bit', 307, 3],
		['€'.repeat(80), '7-bit', 160, 1],
		['ã'.repeat(70), '16-bit', 70, 1],
		['ã'.repeat(71), '16-bit', 71, 2],
		['ã'.repeat(134), '16-bit', 134, 2],
		['ã'.repeat(135), '16-bit', 135, 3]
	] as const) {
		it(`${[...text].length} × ${text[0] ?? 'nothing'} is ${parts} parts of ${alphabet}`, () => {
			expect(measureText(text)).to.include({ alphabet, units, parts });
		});
	}

	it('does not cut the escape from its character: 77 euro signs and one more letter fill a part one short', () => {
		// 153 is odd, so 76 euro signs leave one septet empty in the first part.
		expect(measureText('€'.repeat(76 + 77)).parts).to.equal(3);
	});

	it('names the characters that force 16 bits, each once', () => {
		expect(measureText('it’s the boat’s turn — now').forcing).to.deep.equal(['’', '—']);
		expect(measureText('plain').forcing).to.deep.equal([]);
	});

	it('agrees with sms-segments-calculator on 4,000 random texts', () => {
		const r = draws(1);
		for (let i = 0; i < 4000; i += 1) {
			const letters = r.pick([
				plain,
				[...plain, ...extended],
				[...plain, ...accented],
				[...plain, ...wide],
				wide
			]);
			const text = Array.from({ length: r.int(1, r.pick([20, 165, 330, 480])) }, () =>
				r.pick(letters)
			).join('');
			const theirs = new SegmentedMessage(text);
			const ours = measureText(text);
			expect(ours.alphabet, text).to.equal(theirs.encodingName === 'GSM-7' ? '7-bit' : '16-bit');
			expect(ours.parts, text).to.equal(theirs.segmentsCount);
			// They count bits of the characters; we count septets or units.
			expect(ours.units * (ours.alphabet === '7-bit' ? 7 : 16), text).to.equal(theirs.messageSize);
		}
	});

	it('says how much room is left', () => {
		expect(measureText('a'.repeat(150)).unitsLeft).to.equal(10);
		expect(measureText('a'.repeat(300)).unitsLeft).to.equal(6);
	});
});

import { expect } from 'chai';
import { textCommand } from '../../../../src/lib/core/talk/keyword';

describe('a text that asks for something by itself', () => {
	// 47 CFR 64.1200(a)(10): "stop," "quit," "end," "revoke," "opt out," "cancel," or "unsubscribe".
	it('stops by each word that the rule names, however it is written', () => {
		for (const word of ['stop', 'quit', 'end', 'revoke', 'opt out', 'cancel', 'unsubscribe']) {
			for (const text of [word, word.toUpperCase(), ` ${word}. `, `"${word}"!`, `${word}\n`]) {
				expect(textCommand(text), text).to.equal('stop');
			}
		}
		expect(textCommand('OPT-OUT')).to.equal('stop');
		expect(textCommand('ＳＴＯＰ')).to.equal('stop');
	});
	// Common practice among carriers.
	it('starts again, and asks for help', () => {
		expect(textCommand('Start')).to.equal('start');
		expect(textCommand('UNSTOP')).to.equal('start');
		expect(textCommand('help')).to.equal('help');
	});
	it('is nothing of the kind where more is said, or a question is answered', () => {
		for (const text of [
			'Yes',
			'Does the bus stop at the pier?',
			'please stop by the office',
			'We start on Monday',
			'',
			'The end',
			'停止'
		]) {
			expect(textCommand(text), text).to.equal(null);
		}
	});
});

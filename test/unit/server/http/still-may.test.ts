import { expect } from 'chai';
import { lineThatAsks } from '../../../../src/lib/server/http/still-may';

describe('a line that asks whether it may still say something', () => {
	/** Answers come when they are given; the clock stands where it is put. */
	function made() {
		const said: string[] = [];
		const answers: ((may: boolean) => void)[] = [];
		const at = { ms: 0, ended: false };
		const line = lineThatAsks(
			{ say: (event) => void said.push(event), end: () => void (at.ended = true) },
			{
				ask: () => new Promise((may) => answers.push(may)),
				goodForMs: 100,
				clock: () => at.ms
			}
		);
		const passed = async () => {
			for (let i = 0; i < 10; i += 1) await Promise.resolve();
		};
		return { said, answers, at, line, passed };
	}

	it('says at once what it was asked about a moment ago', () => {
		const { line, said, answers } = made();
		line.say('a');
		line.say('b');
		expect([said, answers.length]).to.deep.equal([['a', 'b'], 0]);
	});

	it('says things in their order, also where the first of them waits for the answer', async () => {
		const { line, said, answers, at, passed } = made();
		at.ms = 101;
		line.say('a');
		await passed();
		// The answer is on its way; a moment ago is now.
		line.say('b');
		line.say('c');
		await passed();
		expect([said, answers.length]).to.deep.equal([[], 1]);
		answers[0]!(true);
		await passed();
		expect(said).to.deep.equal(['a', 'b', 'c']);
		line.say('d');
		expect(said.at(-1)).to.equal('d');
	});

	it('says nothing any more to one who may not hear it, and nothing that was waiting', async () => {
		const { line, said, answers, at, passed } = made();
		at.ms = 101;
		line.say('a');
		line.say('b');
		await passed();
		answers[0]!(false);
		await passed();
		line.say('c');
		await passed();
		at.ms = 500;
		line.say('d');
		await passed();
		expect([said, answers.length]).to.deep.equal([[], 1]);
	});
});

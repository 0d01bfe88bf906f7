import { expect } from 'chai';
import { actingIn } from '../../../src/lib/server/access/acting';
import { tellMachine, withoutPrivate } from '../../../src/lib/server/machine-log';

describe('what is said to whoever runs the machine', () => {
	/** What is written to one of the process's outputs meanwhile. */
	function written(to: 'stdout' | 'stderr', work: () => void): string {
		const real = process[to].write.bind(process[to]);
		let text = '';
		process[to].write = ((chunk: string) => ((text += chunk), true)) as typeof real;
		try {
			work();
		} finally {
			process[to].write = real;
		}
		return text;
	}

	it('is one line of JSON with the number of its request, and where an error came about', () => {
		const acting = { request: 'r-1', sessionId: null, refused: [] };
		const text = written('stderr', () =>
			actingIn(acting, () =>
				tellMachine('web', 'an answer failed\nwith 500', new TypeError('x is gone'))
			)
		);
		expect(text.match(/\n/g)).to.have.length(1);
		const line = JSON.parse(text) as Record<string, unknown>;
		expect(line).to.include({ level: 'error', from: 'web', request: 'r-1', name: 'TypeError' });
		expect(line.error).to.equal('x is gone');
		expect(line.frames).to.be.an('array').that.is.not.empty;
		expect(Number.isNaN(Date.parse(line.at as string))).to.equal(false);
		const quiet = JSON.parse(written('stdout', () => tellMachine('courier', 'at work'))) as object;
		expect(quiet).to.include({ level: 'info', says: 'at work' }).and.not.have.property('request');
	});

	it('holds no address, number or words of anybody', () => {
		for (const [said, is] of [
			['550 5.1.1 <ana.pham@tidebox.example> unknown', '550 5.1.1 <<address>> unknown'],
			['to müller@schule.example: refused', 'to <address> refused'],
			['+1 (207) 555-0143 is no number', '<number> is no number'],
			['near "Dear Ana": syntax error', 'near <quoted>: syntax error'],
			['“Come to the quay” is too long', '<quoted> is too long'],
			['port 2526 is taken', 'port 2526 is taken']
		] as const)
			expect(withoutPrivate(said)).to.equal(is);
		expect(withoutPrivate('x'.repeat(5000))).to.have.length(2000);
	});
});

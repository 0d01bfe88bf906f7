import { expect } from 'chai';
import { History } from '../../../../../src/lib/ui/write/sheet/history';

interface Value {
	readonly a: string;
	readonly b: readonly number[];
}
const value = (a: string, b: readonly number[] = []): Value => ({ a, b });

describe('undo over the whole sheet', () => {
	it('takes a run of keys back at once, and each other change by itself', () => {
		const history = new History(value(''));
		[...'boat'].forEach((_, i) => history.note(value('boat'.slice(0, i + 1)), i * 100));
		history.note(value('boat', [1]), 500);
		history.note(value('boats', [1]), 600);
		history.note(value('boats late', [1]), 3000);
		const back = [history.undo(), history.undo(), history.undo(), history.undo(), history.undo()];
		expect(back).to.deep.equal([
			value('boats', [1]),
			value('boat', [1]),
			value('boat'),
			value(''),
			null
		]);
		expect(history.redo()).to.deep.equal(value('boat'));
		expect(history.redo()).to.deep.equal(value('boat', [1]));
	});

	it('forgets what was taken back once something else is done, and takes no step where nothing changed', () => {
		const history = new History(value('x'));
		history.note(value('y'), 0);
		history.undo();
		history.note(value('x'), 10);
		expect(history.redo()).to.deep.equal(value('y'));
		history.undo();
		history.note(value('z'), 20);
		expect(history.redo()).to.equal(null);
		expect(history.undo()).to.deep.equal(value('x'));
	});

	it('takes what was put in at once back by itself, however quickly keys follow', () => {
		const history = new History(value('a'));
		history.note(value('x'.repeat(300)), 10);
		history.note(value(`${'x'.repeat(300)}y`), 20);
		history.note(value(`${'x'.repeat(300)}yz`), 30);
		expect(history.undo()).to.deep.equal(value('x'.repeat(300)));
		expect(history.undo()).to.deep.equal(value('a'));
	});

	it('does not join a key to what was just taken back', () => {
		const history = new History(value(''));
		history.note(value('a'), 0);
		history.note(value('ab'), 2000);
		history.undo();
		history.note(value('ac'), 2010);
		expect(history.undo()).to.deep.equal(value('a'));
	});
});

import { expect } from 'chai';
import { outcomeBook } from '../../../courier/outcome-book';
import type { Settled } from '../../../courier/outcomes';

describe('outcomes on their way into the database', () => {
	const outcome = {} as Settled;

	it('are never more at once than a kill may repeat', async () => {
		const ends: (() => void)[] = [];
		const book = outcomeBook(2, () => new Promise<void>((resolve) => ends.push(resolve)));
		book.write(outcome);
		await book.room();
		book.write(outcome);
		let room = false;
		const waits = book.room().then(() => (room = true));
		await new Promise(setImmediate);
		expect(room).to.equal(false);
		ends[0]!();
		await waits;
		let empty = false;
		const all = book.empty().then(() => (empty = true));
		await new Promise(setImmediate);
		expect(empty).to.equal(false);
		ends[1]!();
		await all;
	});

	it('one that cannot be written is said by whoever waits next, and by all after', async () => {
		const book = outcomeBook(2, () => Promise.reject(new Error('the disk is full')));
		book.write(outcome);
		const said = async (asked: Promise<void>) =>
			asked.then(
				() => 'nothing',
				(error: Error) => error.message
			);
		expect(await said(book.empty())).to.equal('the disk is full');
		expect(await said(book.room())).to.equal('the disk is full');
	});
});

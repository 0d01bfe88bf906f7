import { expect } from 'chai';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import {
	gatherPart,
	nextLateText,
	partsMs
} from '../../../../../src/lib/server/desk/replies/gather-parts';
import { takeLateTexts, takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { testSchool, type TestSchool } from '../../database';

const phone = '+12075550177';

describe('texts that come in parts', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const come = (words: string, number: number, of: number, reference = 7, from = phone) =>
		school.db.write((tx) =>
			takeTexts(tx, [{ from, to: '12075550100', words, part: { reference, of, number } }])
		);
	const kept = async () =>
		(await school.db.all<{ words: string }>('SELECT text AS words FROM answer ORDER BY id')).map(
			(t) => t.words
		);
	const waiting = async () =>
		(await school.db.one<{ n: number }>('SELECT count(*) AS n FROM text_part WHERE taken = 0'))!.n;
	const pass = async (ms: number) => moveTo(school.db, (await now(school.db)) + ms);

	it('are one text, in whatever order they come; what comes once more is no text', async () => {
		await come('at nine.', 3, 3);
		await come('We come ', 1, 3);
		expect(await kept()).to.deep.equal([]);
		await come('to the pier ', 2, 3);
		expect(await kept()).to.deep.equal(['We come to the pier at nine.']);
		for (const [words, number] of [
			['at nine.', 3],
			['We come ', 1]
		] as const)
			await come(words, number, 3);
		expect(await waiting()).to.equal(0);
		expect(await kept()).to.have.length(1);
	});

	it('of two phones, and of two texts of one phone, are not mixed', async () => {
		await come('a1', 1, 2, 1);
		await come('b1', 1, 2, 1, '+12075550178');
		await come('c1', 1, 2, 2);
		await come('c2', 2, 2, 2);
		await come('b2', 2, 2, 1, '+12075550178');
		await come('a2', 2, 2, 1);
		expect(await kept()).to.deep.equal(['c1c2', 'b1b2', 'a1a2']);
	});

	it('are obeyed as the whole that they are, not part by part', async () => {
		await come('stop', 1, 2);
		await come(' the boat, please', 2, 2);
		expect(await kept()).to.deep.equal(['stop the boat, please']);
		expect(await school.db.all('SELECT 1 FROM text_in')).to.deep.equal([]);
	});

	it('that do not all come are taken after ten minutes, with what is missing said', async () => {
		const started = Math.floor(await now(school.db));
		await come('We come ', 1, 3);
		await come('at nine.', 3, 3);
		const next = (await nextLateText(school.db))!;
		expect(next - partsMs).to.be.within(started, Math.round(await now(school.db)));
		expect(await school.db.write(takeLateTexts)).to.equal(0);
		await pass(partsMs);
		expect(await school.db.write(takeLateTexts)).to.equal(1);
		expect(await kept()).to.deep.equal(['We come […] at nine.']);
		expect(await nextLateText(school.db)).to.equal(null);
	});

	it('a reference that comes again much later is another text: what had begun with it is taken as it is', async () => {
		await come('half of ', 1, 2);
		await pass(partsMs);
		await come('the boat ', 1, 2);
		expect(await kept()).to.deep.equal(['half of […]']);
		await come('is late', 2, 2);
		expect(await kept()).to.deep.equal(['half of […]', 'the boat is late']);
		await pass(partsMs);
		// What was taken is let go without a word.
		expect(await school.db.write(takeLateTexts)).to.equal(0);
		expect(await school.db.one('SELECT 1 FROM text_part')).to.equal(undefined);
	});

	it('that are longer than any part can be are cut: an exchange that lies fills no disk', async () => {
		await come('x'.repeat(60_000), 1, 2);
		const [row] = await school.db.all<{ n: number }>('SELECT length(words) AS n FROM text_part');
		expect(row!.n).to.equal(500);
	});

	it('a part is kept only with the transaction that answers for it', async () => {
		const failed = await school.db
			.write(async (tx) => {
				const text = { from: phone, to: '', words: 'half' };
				await gatherPart(tx, text, { reference: 1, of: 2, number: 1 }, Math.round(await now(tx)));
				throw new Error('the disk is full');
			})
			.catch((error: Error) => error.message);
		expect(failed).to.equal('the disk is full');
		expect(await waiting()).to.equal(0);
	});
});

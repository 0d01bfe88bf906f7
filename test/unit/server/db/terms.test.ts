import { expect } from 'chai';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { audienceWords } from '../../../../src/lib/core/audience/sentence';
import { readSentence } from '../../../../src/lib/core/audience/read-sentence';
import { nameBook, nameFinder } from '../../../../src/lib/server/db/names';
import { runningTerms } from '../../../../src/lib/server/db/terms';
import { choices } from '../../../../src/lib/server/desk/audience/choices';
import { coordinator, testSchool, type TestSchool } from '../database';

describe('terms that run at once', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		for (const statement of [
			`INSERT INTO term VALUES (1, 'Fall', '2026-08-31', '2026-12-01'), (3, '2026/27', '2026-08-31', '2027-06-19'), (4, 'Spring', '2027-03-29', '2027-06-19')`,
			`INSERT INTO section (id, course_id, term_id, name, period) VALUES (102, 2, 3, 'Drama 7-A', 'period 2'), (103, 2, 3, 'Choir 7-A', 'period 3'), (104, 2, 1, 'Choir 7-A', 'period 3')`
		])
			await school.db.run(statement);
	});
	afterEach(() => school.close());

	it('are all of them that hold the day; between terms the next, after all the last', async () => {
		expect(await runningTerms(school.db, '2027-03-09')).to.deep.equal([3, 2]);
		expect(await runningTerms(school.db, '2027-03-25')).to.deep.equal([3]);
		await school.db.run('DELETE FROM section WHERE term_id = 3');
		await school.db.run('DELETE FROM term WHERE id = 3');
		expect(await runningTerms(school.db, '2027-03-25')).to.deep.equal([4]);
		// The last day of a term is not in it.
		expect(await runningTerms(school.db, '2026-12-01')).to.deep.equal([2]);
		expect(await runningTerms(school.db, '2028-01-01')).to.deep.equal([4]);
	});

	it('are shown together, and a section of either needs no term beside its name, unless both have one of it', async () => {
		const { terms } = await choices(school.db, coordinator);
		expect(terms.filter((t) => t.current).map((t) => t.name)).to.deep.equal(['2026/27', 'Winter']);
		const audience = audienceOf([101, 102, 103, 104]);
		const words = audienceWords(audience, await nameBook(school.db, audience));
		expect(words).to.equal(
			'Guardians of students in Drama 7-A (Winter), Drama 7-A (2026/27), Choir 7-A and Choir 7-A (Fall)'
		);
		const finder = await nameFinder(school.db, { dispatches: [], lists: [], markers: [] });
		const read = readSentence(words, finder);
		expect(read.ok && read.audience.lines).to.deep.equal(audience.lines);
	});
});

import { expect } from 'chai';
import { readSetting, writeSetting } from '../../../../../src/lib/server/db/district';
import {
	checkedWords,
	sayChecked,
	wordsOfLanguage
} from '../../../../../src/lib/server/desk/district/words-checked';
import { logPage } from '../../../../../src/lib/server/desk/log/log';
import { coordinator, office, testSchool, whyOf, type TestSchool } from '../../database';

describe('whether a speaker has checked our words', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const of = async (tag: string) => (await checkedWords(school.db)).find((l) => l.tag === tag)!;

	it('nobody has, until somebody says so; then who and when, and the log has it', async () => {
		expect((await checkedWords(school.db)).every((l) => l.checked === null)).to.equal(true);
		expect(whyOf(await sayChecked(school.db, office, 'es'))).not.to.equal('done');
		expect(whyOf(await sayChecked(school.db, coordinator, 'xx'))).to.match(/no words of ours/);
		expect((await of('es')).checked).to.equal(null);
		expect(whyOf(await sayChecked(school.db, coordinator, 'es'))).to.equal('done');
		expect((await of('es')).checked).to.deep.include({ by: 'Maren Quill', since: false });
		expect((await of('pt')).checked).to.equal(null);
		const filter = { by: '', kind: '', from: '', until: '', page: 1 } as const;
		const { lines } = await logPage(school.db, coordinator, filter as never);
		expect(lines[0]!.words).to.equal(
			'changed the settings: a speaker has checked our words in Spanish'
		);
	});

	it('words that were changed after that are told', async () => {
		await sayChecked(school.db, coordinator, 'vi');
		const kept = (await readSetting(school.db, 'words-checked')) as Record<string, object>;
		await writeSetting(school.db, 'words-checked', { vi: { ...kept.vi, mark: 'of other words' } });
		expect((await of('vi')).checked!.since).to.equal(true);
		expect((await wordsOfLanguage(school.db, 'vi'))!.places.length).to.be.above(5);
		expect(await wordsOfLanguage(school.db, 'fr')).to.equal(null);
	});

	it('who reads a language is counted from people, with its regions', async () => {
		const { n } = (await school.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM person_now WHERE kind = 'adult' AND language = 'pt'`
		))!;
		const before = (await of('pt')).people;
		expect(before).to.equal(n);
		await school.db.run(
			`UPDATE person SET language = 'pt-BR' WHERE id = (SELECT min(id) FROM person WHERE kind = 'adult' AND language = 'en')`
		);
		expect((await of('pt')).people).to.equal(n + 1);
	});
});

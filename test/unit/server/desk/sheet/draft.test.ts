import { expect } from 'chai';
import { bodyText } from '../../../../../src/lib/core/copy/plain';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import {
	readDraft,
	saveDraft,
	throwAwayDraft
} from '../../../../../src/lib/server/desk/sheet/draft';
import { draftLines } from '../../../../../src/lib/server/desk/week/dispatch-lines';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);

describe('saving a sheet while it is written', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const save = async (sheet: ReturnType<typeof sheetOf>, base: number | null, user = coordinator) =>
		saveDraft(school.db, user, sheet, base);

	const saying = (sheet: ReturnType<typeof sheetOf>, body: string) => ({
		...sheet,
		wording: wordingOf('Boats', body)
	});

	it('keeps every part of it, also where nothing is finished, and stands among the drafts', async () => {
		const sheet = sheetOf({ audience: audienceOf([]), ways: [], subject: '', body: 'half a wo' });
		const saved = await save(sheet, null);
		if (!saved.ok) throw new Error(saved.reason);
		const { savedAt, ...draft } = (await readDraft(school.db, coordinator, saved.dispatchId))!;
		expect(draft).to.deep.equal(sheet);
		expect(savedAt).to.equal(saved.savedAt);
		const lines = await draftLines(school.db, coordinator);
		expect(lines.map((l) => [l.id, l.audience])).to.deep.equal([
			[saved.dispatchId, 'Guardians of students in no section yet']
		]);
		expect(await readDraft(school.db, teacher, saved.dispatchId)).to.equal(null);
	});

	it('makes one draft of a sheet, each version with a later mark', async () => {
		const sheet = sheetOf();
		let base: number | null = null;
		const marks: number[] = [];
		for (const body of ['a', 'ab', 'abc']) {
			const saved = await save(saying(sheet, body), base);
			if (!saved.ok) throw new Error(saved.reason);
			marks.push((base = saved.savedAt));
		}
		expect(marks).to.deep.equal([...new Set(marks)].sort((a, b) => a - b));
		expect(await draftLines(school.db, coordinator)).to.have.length(1);
	});

	it('overwrites nothing that another window has saved since, and hands it back', async () => {
		const sheet = sheetOf({ body: 'first' });
		const first = await save(sheet, null);
		if (!first.ok) throw new Error(first.reason);
		const there = await save(saying(sheet, 'from there'), first.savedAt);
		if (!there.ok) throw new Error(there.reason);
		for (const base of [first.savedAt, null]) {
			const here = await save(saying(sheet, 'from here'), base);
			expect(
				!here.ok && here.reason === 'changed-elsewhere' && bodyText(here.other.wording.words.body)
			).to.equal('from there');
		}
		const chosen = await save(saying(sheet, 'from here'), there.savedAt);
		expect(chosen.ok).to.equal(true);
	});

	it('does not bring back what has been sent, and touches nobody else’s', async () => {
		const sheet = sheetOf();
		const saved = await save(sheet, null);
		expect(await save(saying(sheet, 'x'), null, teacher)).to.deep.equal({
			ok: false,
			reason: 'not-yours'
		});
		expect(await throwAwayDraft(school.db, teacher, sheet)).to.equal(false);
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		expect(sent.ok && saved.ok && sent.dispatchId === saved.dispatchId).to.equal(true);
		const late = await save(saying(sheet, 'too late'), saved.ok ? saved.savedAt : 0);
		expect(late).to.deep.equal({
			ok: false,
			reason: 'sent',
			dispatchId: sent.ok ? sent.dispatchId : 0
		});
		expect(await throwAwayDraft(school.db, coordinator, sheet)).to.equal(false);
	});

	it('is thrown away whole', async () => {
		const sheet = sheetOf();
		await save(sheet, null);
		expect(await throwAwayDraft(school.db, coordinator, sheet)).to.equal(true);
		expect(await throwAwayDraft(school.db, coordinator, sheet)).to.equal(false);
		expect(await draftLines(school.db, coordinator)).to.deep.equal([]);
	});
});

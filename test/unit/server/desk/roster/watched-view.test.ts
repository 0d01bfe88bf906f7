import { chmod, mkdir, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import {
	mostPercentSchema,
	setMostPercent,
	watchedView
} from '../../../../../src/lib/server/desk/roster/watched-view';
import { coordinator, office, testSchool, whyOf, type TestSchool } from '../../database';

describe('the watched folder as its page shows it', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());

	it('what lies in it, the newest first; folders are none of it', async () => {
		const folder = join(school.folder, 'nightly');
		await mkdir(join(folder, 'old'), { recursive: true });
		for (const [name, at] of [
			['a.zip', 1000],
			['b.zip', 2000]
		] as const) {
			await writeFile(join(folder, name), 'x'.repeat(at));
			await utimes(join(folder, name), at, at);
		}
		const seen = await watchedView(school.db, folder);
		expect(seen.trouble).to.equal('');
		expect(seen.lies).to.deep.equal([
			{ name: 'b.zip', bytes: 2000, changedAt: 2_000_000 },
			{ name: 'a.zip', bytes: 1000, changedAt: 1_000_000 }
		]);
		expect(await watchedView(school.db, null)).to.deep.include({ folder: null, lies: [] });
	});

	it('says in words why it cannot be looked into', async () => {
		const at = join(school.folder, 'nightly');
		expect((await watchedView(school.db, at)).trouble).to.match(/no such folder/);
		await writeFile(at, 'x');
		expect((await watchedView(school.db, at)).trouble).to.match(
			/a file, and no folder|may not read/
		);
		await chmod(at, 0o700);
	});

	it('how much may come in by itself is set by whoever may set it, for the source there is', async () => {
		expect(whyOf(await setMostPercent(school.db, coordinator, 5))).to.match(/by hand first/);
		await sourceNamed(school.db, 'Student records');
		expect((await watchedView(school.db, null)).mostPercent).to.equal(10);
		expect(whyOf(await setMostPercent(school.db, office, 5))).to.match(/not yours/);
		expect(whyOf(await setMostPercent(school.db, coordinator, 5))).to.equal('done');
		expect((await watchedView(school.db, null)).mostPercent).to.equal(5);
		for (const percent of ['', '-1', '101', '5.5', 'all'])
			expect(mostPercentSchema.safeParse({ percent }).success, percent).to.equal(false);
	});
});

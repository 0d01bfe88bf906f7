import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { getContent, putContent } from '../../../../src/lib/server/db/file-store';

describe('the contents of files', () => {
	it('are kept once and whole, also where several bring the same at the same moment', async () => {
		const folder = mkdtempSync(join(tmpdir(), 'idle-courier-'));
		try {
			const content = Buffer.alloc(3_000_000, 'a map of the harbour');
			const hashes = await Promise.all(
				Array.from({ length: 8 }, () => putContent(folder, content))
			);
			expect(new Set(hashes).size).to.equal(1);
			expect((await getContent(folder, hashes[0]!)).equals(content)).to.equal(true);
			expect(readdirSync(join(folder, 'files'))).to.deep.equal([hashes[0]]);
		} finally {
			rmSync(folder, { recursive: true });
		}
	});
});

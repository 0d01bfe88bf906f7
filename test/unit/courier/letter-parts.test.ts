import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { letterParts } from '../../../courier/letter-parts';
import { contentPath, putContent } from '../../../src/lib/server/db/file-store';

describe('the pictures of an email', () => {
	it('a logo that is gone from the disk holds up no letter; a picture of its words does', async () => {
		const folder = await mkdtemp(join(tmpdir(), 'idle-parts-'));
		const [logo, boat] = await Promise.all(
			['a logo that goes', 'a boat that stays'].map((octets) =>
				putContent(folder, Buffer.from(octets))
			)
		);
		const file = (id: number, hash: string) =>
			[id, { id, hash, name: `${id}.png`, type: 'image/png', bytes: 9 }] as const;
		const pictures = new Map([file(1, logo!), file(2, boat!)]);
		await rm(contentPath(folder, logo!));
		const letter = { pictureIds: [1, 2] };
		const parts = await letterParts(folder, { attached: [], pictures, logoId: 1 }, letter);
		expect(parts.pictures.map((p) => p.cid)).to.deep.equal(['picture-2@idle-courier']);
		const failed = await letterParts(
			folder,
			{ attached: [], pictures, logoId: null },
			letter
		).catch((error: unknown) => error);
		expect(failed).to.be.instanceOf(Error);
		await rm(folder, { recursive: true });
	});
});

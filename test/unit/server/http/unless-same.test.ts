import { expect } from 'chai';
import { unlessSame } from '../../../../src/lib/server/http/unless-same';

describe('what is asked for again and again', () => {
	let written = 0;
	const changedAt = Date.UTC(1994, 9, 29, 19, 43, 31, 500);
	const ask = (headers: Record<string, string> = {}, mark = 'one') =>
		unlessSame(new Request('http://x/', { headers }), 'text/plain', {
			...{ mark, changedAt },
			write: () => {
				written += 1;
				return 'words';
			}
		});
	beforeEach(() => (written = 0));

	it('is written once, and not again for whoever has it (RFC 9110 section 15.4.5)', async () => {
		const first = await ask();
		expect(first.status).to.equal(200);
		expect(await first.text()).to.equal('words');
		// The form of section 5.6.7, with the example of section 8.8.2.
		expect(first.headers.get('last-modified')).to.equal('Sat, 29 Oct 1994 19:43:31 GMT');
		const etag = first.headers.get('etag')!;
		expect(etag).to.match(/^W\/"[A-Za-z0-9_-]+"$/);
		const again = await ask({ 'if-none-match': etag });
		expect([again.status, await again.text(), written]).to.deep.equal([304, '', 1]);
		expect(again.headers.get('etag')).to.equal(etag);
		expect((await ask({ 'if-none-match': etag }, 'two')).status).to.equal(200);
	});

	it('compares tags weakly, any of a list, and the star (sections 8.8.3.2 and 13.1.2)', async () => {
		const etag = (await ask()).headers.get('etag')!;
		const status = async (field: string) => (await ask({ 'if-none-match': field })).status;
		expect(await status(etag.slice(2))).to.equal(304);
		expect(await status(`"xyzzy", ${etag}, W/"r2d2xxxx"`)).to.equal(304);
		expect(await status('*')).to.equal(304);
		expect(await status('"xyzzy"')).to.equal(200);
		expect(await status('nonsense')).to.equal(200);
	});

	it('goes by the time only where no tag is sent (section 13.1.3)', async () => {
		const since = (time: string, more = {}) => ask({ 'if-modified-since': time, ...more });
		expect((await since('Sat, 29 Oct 1994 19:43:31 GMT')).status).to.equal(304);
		expect((await since('Sat, 29 Oct 1994 19:43:30 GMT')).status).to.equal(200);
		expect((await since('never')).status).to.equal(200);
		expect(
			(await since('Sat, 29 Oct 1994 19:43:31 GMT', { 'if-none-match': '"other"' })).status
		).to.equal(200);
	});
});

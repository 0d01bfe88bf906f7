import { expect } from 'chai';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { draftTranslation } from '../../../../../src/lib/server/desk/sheet/translate';
import { translateGateway } from '../../../../../src/lib/server/gateway/translate';

const words = wordingOf('{{student}}: boats', 'The boat is late.').words;

describe('the translation service', () => {
	let server: Server;
	let answer: RequestListener;
	let url = '';
	before(async () => {
		server = createServer((request, response) => answer(request, response));
		await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
		url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/translate`;
	});
	after(() => {
		server.closeAllConnections();
		return new Promise<void>((r) => server.close(() => r()));
	});
	const says = (status: number, body: string) => {
		answer = (_request, response) => response.writeHead(status).end(body);
	};
	const draft = (to = url) =>
		draftTranslation(translateGateway(to, { timeoutMs: 300 }), words, 'en', 'pt');

	it('is asked with languages and strings, and its draft has every field in its place', async () => {
		let asked = '';
		answer = (request, response) => {
			request.on('data', (c) => (asked += c));
			request.on('end', () =>
				response.end(JSON.stringify({ texts: ['<f>{{student}}</f>: barcos', 'O barco.'] }))
			);
		};
		const made = await draft();
		expect(JSON.parse(asked)).to.deep.equal({
			from: 'en',
			to: 'pt',
			texts: ['<f>{{student}}</f>: boats', 'The boat is late.']
		});
		expect(made.ok && made.words).to.deep.equal(wordingOf('{{student}}: barcos', 'O barco.').words);
	});

	it('is down, slow, refuses or talks nonsense: nothing is changed, and it is said what was wrong', async () => {
		const why = async (to?: string) => {
			const made = await draft(to);
			return made.ok ? 'taken' : made.why;
		};
		expect(await why('http://127.0.0.1:59998/')).to.match(
			/nothing answers at its address.*by hand/
		);
		answer = () => {};
		expect(await why()).to.match(/did not answer within 0 seconds/);
		says(503, 'busy');
		expect(await why()).to.match(/it refused \(503\)/);
		for (const body of ['', 'ok', '[]', '{"texts":"x"}', '{"texts":[1,2]}', '<html>']) {
			says(200, body);
			expect(await why(), body).to.match(/makes no sense/);
		}
		says(200, '{"texts":["a"]}');
		expect(await why()).to.match(/cannot be used: it gave 1 texts for 2/);
		says(200, JSON.stringify({ texts: ['x', 'y'] }));
		expect(await why()).to.match(/taken/);
		says(200, `{"texts":["${'x'.repeat(2_100_000)}"]}`);
		expect(await why()).to.match(/too big/);
		const none = await draftTranslation(null, words, 'en', 'pt');
		expect(none.ok ? '' : none.why).to.match(/No translation service is set up/);
	});
});

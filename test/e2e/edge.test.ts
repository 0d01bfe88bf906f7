import { createServer } from 'node:net';
import { spawn } from 'node:child_process';
import { request } from 'node:http';
import { expect } from 'chai';
import { stack, until, type Stack } from './stack';

/** A session's cookie, by the form as a browser sends it; and where the form leads. */
async function signIn(
	s: Stack,
	to: string,
	cookie = ''
): Promise<{ cookie: string; location: string }> {
	const response = await fetch(`${s.url}/sign-in?to=${encodeURIComponent(to)}`, {
		method: 'POST',
		redirect: 'manual',
		headers: {
			origin: s.url,
			accept: 'text/html',
			'content-type': 'application/x-www-form-urlencoded',
			cookie
		},
		body: new URLSearchParams({ name: 'maren', password: 'slow-ferry' }).toString()
	});
	return {
		cookie: (response.headers.get('set-cookie') ?? '').split(';')[0]!,
		location: response.headers.get('location') ?? ''
	};
}

describe('the edge', () => {
	let s: Stack;
	before(async () => {
		s = await stack();
	});

	it('a sign-in leads to our own pages only, however another’s is written', async () => {
		for (const to of [
			'//evil.example',
			'/\\evil.example',
			'/\t/evil.example',
			'/\n/evil.example',
			'https://evil.example',
			'/%09/evil.example/../..//evil.example',
			'/sign-in',
			'javascript:alert(1)'
		]) {
			const { location } = await signIn(s, to);
			expect(new URL(location, s.url).origin, to).to.equal(s.url);
			expect(location, to).to.match(/^\/(?![/\\\s])/);
		}
		expect((await signIn(s, '/reach/3?state=read')).location).to.equal('/reach/3?state=read');
	});

	it('signing in anew ends the session that the same browser had', async () => {
		const first = await signIn(s, '/week');
		const ok = (cookie: string) =>
			fetch(`${s.url}/week`, { headers: { cookie }, redirect: 'manual' }).then((r) => r.status);
		expect(await ok(first.cookie)).to.equal(200);
		const second = await signIn(s, '/week', first.cookie);
		expect(await ok(second.cookie)).to.equal(200);
		expect(await ok(first.cookie)).to.equal(303);
	});

	it('a live line ends with its session', async () => {
		const { cookie } = await signIn(s, '/week');
		const { id } = (await s.db.one<{ id: number }>(
			`SELECT id FROM dispatch WHERE state = 'sent' LIMIT 1`
		))!;
		const line = await fetch(`${s.url}/reach/${id}/live`, { headers: { cookie } });
		expect(line.status).to.equal(200);
		const reader = line.body!.getReader();
		await reader.read();
		await fetch(`${s.url}/sign-out`, {
			method: 'POST',
			redirect: 'manual',
			headers: { cookie, origin: s.url, 'content-type': 'application/x-www-form-urlencoded' },
			body: ''
		});
		let heard = '';
		for (;;) {
			const { done, value } = await reader.read();
			if (done) break;
			heard += new TextDecoder().decode(value);
		}
		expect(heard).to.contain('event: ended');
		expect(
			(await fetch(`${s.url}/reach/${id}/live`, { headers: { cookie }, redirect: 'manual' })).status
		).not.to.equal(200);
	});

	it('a body that does not say how long it is is refused before it is read', async () => {
		const { cookie } = await signIn(s, '/week');
		const status = await new Promise<number>((resolve, reject) => {
			const asked = request(
				`${s.url}/write/tally`,
				{
					method: 'POST',
					headers: {
						cookie,
						origin: s.url,
						'content-type': 'application/json',
						'transfer-encoding': 'chunked'
					}
				},
				(response) => {
					response.resume();
					resolve(response.statusCode!);
				}
			);
			asked.once('error', reject);
			asked.write('{"a":1}');
			asked.end();
		});
		expect(status).to.equal(411);
	});

	it('with https, browsers are told to keep to it, and the cookie is bound to this host', async () => {
		const port = new URL(s.url).port;
		// A second web server on the same data, as it stands behind a proxy that speaks https.
		const free = await new Promise<number>((resolve) => {
			const probe = createServer().listen(0, '127.0.0.1', () => {
				const { port: found } = probe.address() as { port: number };
				probe.close(() => resolve(found));
			});
		});
		expect(free).not.to.equal(Number(port));
		const child = spawn(process.execPath, ['build/web/index.js'], {
			env: { ...s.env, PORT: String(free), IDLE_COURIER_URL: 'https://courier.example' },
			stdio: 'ignore'
		});
		try {
			const url = `http://127.0.0.1:${free}`;
			await until('it answers', () =>
				fetch(`${url}/health`).then(
					(r) => r.ok,
					() => false
				)
			);
			const response = await fetch(`${url}/sign-in`, {
				method: 'POST',
				redirect: 'manual',
				headers: {
					origin: url,
					accept: 'text/html',
					'content-type': 'application/x-www-form-urlencoded'
				},
				body: new URLSearchParams({ name: 'maren', password: 'slow-ferry' }).toString()
			});
			expect(response.headers.get('set-cookie')).to.match(/^__Host-session=.*Path=\/;.*Secure/);
			// RFC 6797 section 6.1.
			expect(response.headers.get('strict-transport-security')).to.equal('max-age=63072000');
			expect((await fetch(`${s.url}/sign-in`)).headers.get('strict-transport-security')).to.equal(
				null
			);
		} finally {
			child.kill('SIGKILL');
			await new Promise((r) => child.once('exit', r));
		}
	});
});

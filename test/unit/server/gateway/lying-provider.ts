import { createHash } from 'node:crypto';
import { createServer, type ServerResponse } from 'node:http';
import { exportJWK, generateKeyPair, SignJWT, UnsecuredJWT, type JWTPayload } from 'jose';

/** What an identity provider does otherwise than it should; nothing where it is honest. */
export interface Lie {
	/** Of what it says of itself. */
	readonly metadata?: Readonly<Record<string, unknown>>;
	/** Of what it says of somebody. */
	readonly token?: JWTPayload;
	readonly signs?: 'nobody' | 'another-key' | 'unknown-key' | 'our-secret';
	/** Instead of tokens. */
	readonly answers?: (response: ServerResponse) => void;
	readonly userinfo?: Readonly<Record<string, unknown>>;
	readonly noToken?: true;
	/** Its keys are others from now on. */
	readonly rotates?: true;
}

const key = () => generateKeyPair('RS256', { extractable: true });
const json = (response: ServerResponse, value: unknown, code = 200) => {
	response.writeHead(code, { 'content-type': 'application/json' });
	response.end(JSON.stringify(value));
};

/** An identity provider that knows one person, and lies when it is told to. */
export async function lyingProvider() {
	let lie: Lie = {};
	let [kid, keys] = ['one', await key()];
	const asked: URLSearchParams[] = [];
	/** What the browser brought along when it was sent there. */
	let begun = new URLSearchParams();
	const server = createServer((request, response) => {
		answer(request.url ?? '', request).then(
			(give) => give(response),
			(error: Error) => json(response, { error: error.message }, 500)
		);
	});
	await new Promise<void>((r) => server.listen(0, '127.0.0.1', () => r()));
	const issuer = `http://localhost:${(server.address() as { port: number }).port}`;

	async function tokenOf(): Promise<string> {
		const now = Math.floor(Date.now() / 1000);
		const payload: JWTPayload = {
			...{ iss: issuer, aud: 'courier', sub: 'odile-1', iat: now, exp: now + 300 },
			...{ nonce: begun.get('nonce'), email: 'odile@x.example', email_verified: true },
			...lie.token
		};
		if (lie.signs === 'nobody') return new UnsecuredJWT(payload).encode();
		if (lie.signs === 'our-secret')
			return new SignJWT(payload)
				.setProtectedHeader({ alg: 'HS256' })
				.sign(new TextEncoder().encode('a secret that is long enough for it'));
		const foreign = lie.signs === 'another-key' || lie.signs === 'unknown-key';
		return new SignJWT(payload)
			.setProtectedHeader({ alg: 'RS256', kid: lie.signs === 'unknown-key' ? 'other' : kid })
			.sign((foreign ? await key() : keys).privateKey);
	}

	async function answer(
		path: string,
		request: AsyncIterable<Buffer>
	): Promise<(response: ServerResponse) => void> {
		const give = (value: unknown) => (response: ServerResponse) => json(response, value);
		if (path === '/.well-known/openid-configuration')
			return give({
				...{ issuer, authorization_endpoint: `${issuer}/auth`, token_endpoint: `${issuer}/token` },
				...{ jwks_uri: `${issuer}/jwks`, userinfo_endpoint: `${issuer}/userinfo` },
				...{ response_types_supported: ['code'], subject_types_supported: ['public'] },
				...{ id_token_signing_alg_values_supported: ['RS256'] },
				authorization_response_iss_parameter_supported: true,
				...lie.metadata
			});
		if (path === '/jwks')
			return give({
				keys: [{ ...(await exportJWK(keys.publicKey)), kid, use: 'sig', alg: 'RS256' }]
			});
		if (path === '/userinfo') return give({ sub: 'odile-1', name: 'Odile Ferro', ...lie.userinfo });
		const chunks: Buffer[] = [];
		for await (const chunk of request) chunks.push(chunk);
		const form = new URLSearchParams(Buffer.concat(chunks).toString());
		asked.push(form);
		if (lie.answers) return lie.answers;
		// RFC 7636 section 4.6: the verifier is the one whose hash came first.
		const hash = createHash('sha256')
			.update(form.get('code_verifier') ?? '')
			.digest('base64url');
		if (hash !== begun.get('code_challenge'))
			return (response) => json(response, { error: 'invalid_grant' }, 400);
		const token = { access_token: 'at', token_type: 'Bearer' };
		return give(lie.noToken ? token : { ...token, id_token: await tokenOf() });
	}

	return {
		issuer,
		/** The forms in which codes were handed over. */
		asked,
		async lies(next: Lie): Promise<void> {
			lie = next;
			if (next.rotates) [kid, keys] = [`${kid}-next`, await key()];
		},
		/** A browser goes there and comes back: the address it comes back to. */
		visit(to: string, changes: Readonly<Record<string, string | null>> = {}): URL {
			begun = new URL(to).searchParams;
			const back = new URL(begun.get('redirect_uri')!);
			const said = { code: 'c-1', state: begun.get('state'), iss: issuer, ...changes };
			for (const [name, value] of Object.entries(said))
				if (value !== null) back.searchParams.set(name, value);
			return back;
		},
		close: () =>
			new Promise<void>((r) => {
				server.closeAllConnections();
				server.close(() => r());
			})
	};
}

import { createHash, generateKeyPairSync, randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { Provider, type JWK } from 'oidc-provider';
import { port, serve } from '../http';
import { signInPage } from './page';

/**
 * The identity provider: a district's own sign-in in appearance. Anybody with a mail address under
 * .example comes in with the password of the demo. Its keys change when they are told to.
 */
const httpPort = port('IDENTITY_HTTP_PORT', 2980);
const deskPort = port('IDENTITY_DESK_PORT', 2981);
const back = process.env.IDENTITY_BACK ?? 'http://localhost:4173/sign-in/outside/back';
const secret = process.env.IDENTITY_SECRET ?? 'tide-table';
const issuer = `http://localhost:${httpPort}/district`;
const password = 'slow-ferry';

/** What it says of everybody, where it is told to. */
let says: Readonly<Record<string, unknown>> = {};

function newKey(): JWK {
	const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
	const kid = randomBytes(6).toString('hex');
	return { ...privateKey.export({ format: 'jwk' }), kid, use: 'sig', alg: 'RS256' } as JWK;
}

const cookieKeys = [randomBytes(32).toString('hex')];
/** Who somebody is, for good: of their address as it was at first. */
const subjectOf = (mail: string): string =>
	createHash('sha256').update(mail.toLowerCase()).digest('hex').slice(0, 24);
const mailOf = new Map<string, string>();

const providerWith = (key: JWK): Provider => {
	const provider = new Provider(issuer, {
		clients: [
			{
				...{ client_id: 'idle-courier', client_secret: secret, redirect_uris: [back] },
				...{ grant_types: ['authorization_code'], response_types: ['code'] }
			}
		],
		jwks: { keys: [key] },
		cookies: { keys: cookieKeys },
		claims: {
			openid: ['sub', 'amr'],
			email: ['email', 'email_verified'],
			profile: ['name', 'preferred_username']
		},
		features: { devInteractions: { enabled: false } },
		interactions: { url: (_ctx, { uid }) => `/sign-in/${uid}` },
		findAccount: (_ctx, accountId) => ({
			accountId,
			claims: () => ({
				...{ sub: accountId, email: mailOf.get(accountId), email_verified: true },
				preferred_username: mailOf.get(accountId)?.split('@')[0],
				...says
			})
		}),
		// A district asks nobody whether their own sign-in may tell who they are.
		async loadExistingGrant(ctx) {
			const { client, session } = ctx.oidc;
			const grant = new ctx.oidc.provider.Grant({
				...{ clientId: client!.clientId, accountId: session!.accountId! }
			});
			grant.addOIDCScope('openid email profile');
			await grant.save();
			return grant;
		}
	});
	provider.on('server_error', (_ctx, error) => process.stderr.write(`identity: ${error.stack}\n`));
	return provider;
};
let provider = providerWith(newKey());

async function typedIn(request: IncomingMessage): Promise<URLSearchParams> {
	const chunks: Buffer[] = [];
	for await (const chunk of request) chunks.push(chunk as Buffer);
	return new URLSearchParams(Buffer.concat(chunks).toString('utf8'));
}

async function signIn(request: IncomingMessage, response: ServerResponse): Promise<void> {
	const page = (why: string, mail: string) => {
		response.writeHead(why === '' ? 200 : 400, { 'content-type': 'text/html; charset=utf-8' });
		response.end(signInPage(why, mail));
	};
	await provider.interactionDetails(request, response);
	if (request.method !== 'POST') return page('', '');
	const typed = await typedIn(request);
	if (typed.get('what') === 'no')
		return provider.interactionFinished(request, response, {
			...{ error: 'access_denied', error_description: 'ended by the person' }
		});
	const mail = typed.get('mail') ?? '';
	if (!/^[^\s@]+@[^\s@]+\.example$/.test(mail) || typed.get('password') !== password)
		return page('Address and password do not fit together.', mail);
	const accountId = subjectOf(mail);
	mailOf.set(accountId, mail);
	return provider.interactionFinished(request, response, {
		login: { accountId, amr: typed.get('factor') === 'yes' ? ['pwd', 'mfa'] : ['pwd'] }
	});
}

createServer((request, response) => {
	const path = new URL(request.url ?? '/', issuer).pathname;
	if (path.startsWith('/sign-in/')) {
		signIn(request, response).catch((error: Error) => {
			response.writeHead(400, { 'content-type': 'text/plain; charset=utf-8' });
			response.end(`This sign-in is over: ${error.message}`);
		});
		return;
	}
	// The issuer has a path, as some have; what is asked beneath it is the provider's.
	request.url = (request.url ?? '/').replace(/^\/district(?=\/|$)/, '') || '/';
	void provider.callback()(request, response);
}).listen(httpPort, '127.0.0.1');

await serve(deskPort, {
	'GET /health': () => ({ issuer }),
	'POST /rotate': () => {
		provider = providerWith(newKey());
		return { rotated: true };
	},
	'POST /says': (_url, body) => {
		says = (body ?? {}) as Record<string, unknown>;
		return { says };
	}
});
process.stdout.write(`identity: ${issuer}\n`);

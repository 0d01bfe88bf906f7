import * as client from 'openid-client';
import { isLoopback, plainNetwork } from './network';

/** An identity provider as it is spoken to (OpenID Connect Core 1.0, code flow). */
export interface IdentityServer {
	/** Its issuer: the address under which it says what it can do (OpenID Connect Discovery 1.0 section 4). */
	readonly issuer: string;
	readonly clientId: string;
	/** Empty where it knows us by the code alone (PKCE). */
	readonly secret: string;
	/** How long it may take for one answer, s; shorter in tests. */
	readonly waits?: number;
}

/** What has to come back unchanged from a sign-in that was begun; it stays in the browser, sealed. */
export interface BegunChecks {
	/** Against a request from elsewhere (RFC 9700 section 4.7). */
	readonly state: string;
	/** Against a code that is put in from elsewhere (OpenID Connect Core 1.0 section 3.1.2.1). */
	readonly nonce: string;
	/** The same, at the provider (RFC 7636). */
	readonly verifier: string;
}

/** Who has come back. Claims are as the provider says them, checked in nothing but their signature and whom they are for. */
export interface CameBack {
	readonly issuer: string;
	readonly subject: string;
	readonly claims: Readonly<Record<string, unknown>>;
	/** It has asked for a second factor itself ("mfa", RFC 8176 section 2). */
	readonly withFactor: boolean;
}

/** Why a sign-in came to nothing, in words. */
export class NotSignedIn extends Error {}

/** How long the provider may take for one answer, s: a person waits. */
const answerSeconds = 10;
/** The most that it may say at once: what providers say of themselves has some kilobytes. */
const mostOctets = 1_000_000;
/** How long what it says of itself is taken for true, ms. */
const knownMs = 600_000;

/** Fetches no more than a provider may say at once, and follows it nowhere else. */
const carefulFetch: client.CustomFetch = async (url, options) => {
	const answer = await fetch(url, { ...(options as RequestInit), redirect: 'manual' });
	const pieces: Uint8Array[] = [];
	let octets = 0;
	const reader = answer.body?.getReader();
	for (;;) {
		const piece = (await reader?.read())?.value;
		if (!piece) break;
		octets += piece.length;
		if (octets > mostOctets)
			throw new NotSignedIn('It says more than an identity provider has to say.');
		pieces.push(piece);
	}
	const empty = [101, 204, 205, 304].includes(answer.status);
	return new Response(empty ? null : Buffer.concat(pieces), {
		...{ status: answer.status, headers: answer.headers }
	});
};

/** How we show who we are: by our secret, as the provider takes it (OpenID Connect Core 1.0 section 9; basic where it says nothing). */
function authOf(secret: string, says?: client.ServerMetadata): client.ClientAuth {
	if (secret === '') return client.None();
	const takes = says?.token_endpoint_auth_methods_supported ?? ['client_secret_basic'];
	return takes.includes('client_secret_basic')
		? client.ClientSecretBasic(secret)
		: client.ClientSecretPost(secret);
}
const settingsOf = (issuer: string) => [
	// Signatures are checked although the code came over TLS: what is said of somebody is the provider's, whoever stands between.
	client.enableNonRepudiationChecks,
	// Without https only on this very machine: a stand-in, or a proxy beside us.
	...(isLoopback(issuer) ? [client.allowInsecureRequests] : [])
];

/** Asks a provider what it can do. */
export async function learn(server: IdentityServer): Promise<client.ServerMetadata> {
	const config = await client.discovery(
		new URL(server.issuer),
		server.clientId,
		{},
		authOf(server.secret),
		{
			...{ timeout: server.waits ?? answerSeconds, [client.customFetch]: carefulFetch },
			execute: settingsOf(server.issuer)
		}
	);
	return config.serverMetadata();
}

let known: {
	readonly of: string;
	readonly at: number;
	readonly says: client.ServerMetadata;
} | null = null;
/** What a provider can do, as it said some minutes ago; its keys are asked for with every sign-in, since they change when they change. */
async function configOf(server: IdentityServer): Promise<client.Configuration> {
	if (known?.of !== server.issuer || Date.now() - known.at > knownMs)
		known = { of: server.issuer, at: Date.now(), says: await learn(server) };
	const auth = authOf(server.secret, known.says);
	const config = new client.Configuration(known.says, server.clientId, {}, auth);
	config.timeout = server.waits ?? answerSeconds;
	config[client.customFetch] = carefulFetch;
	for (const set of settingsOf(server.issuer)) set(config);
	return config;
}

/** How many keys a provider shows now. */
export async function keysOf({ jwks_uri: at }: client.ServerMetadata): Promise<number> {
	if (!at) return 0;
	const answer = await carefulFetch(at, {
		...{ method: 'GET', headers: { accept: 'application/json' }, redirect: 'manual' },
		...{ body: undefined, signal: AbortSignal.timeout(answerSeconds * 1000) }
	});
	const { keys } = (await answer.json()) as { keys?: unknown };
	return Array.isArray(keys) ? keys.length : 0;
}

const said = (text: unknown): string =>
	String(text)
		.replace(/[^\p{L}\p{N}\p{P}\p{Zs}]/gu, ' ')
		.slice(0, 200);

/** What is wrong, by the code of the library or the protocol; the rest is the provider's own fault. */
const codeWords: Readonly<Record<string, string>> = {
	OAUTH_INVALID_RESPONSE: 'What it answered is not written or signed as it has to be.',
	OAUTH_JWT_CLAIM_COMPARISON_FAILED:
		'What it said of you was meant for somebody else, or for another sign-in.',
	OAUTH_JWT_TIMESTAMP_CHECK_FAILED:
		'What it said of you is past its time, or not yet true. Are the clocks of both machines right?',
	OAUTH_KEY_SELECTION_FAILED: 'What it said of you is signed with a key that it does not have.',
	OAUTH_JWKS_NOT_FOUND: 'It does not show its keys, so that nothing it says can be checked.',
	OAUTH_TIMEOUT: 'It did not answer in time. Try again in a moment.'
};
/** What a provider says of itself by a code of its own (RFC 6749 sections 4.1.2.1 and 5.2, OpenID Connect Core 1.0 section 3.1.2.6). */
const refusalWords: Readonly<Record<string, string>> = {
	access_denied: 'The sign-in was ended there. Begin once more if that was not meant.',
	invalid_client:
		'It does not take our client id and secret. Whoever looks after the settings has to put them right.',
	invalid_grant: 'It does not take the code it gave a moment ago. Begin once more.',
	unauthorized_client: 'It does not let us ask like this: is our address entered there?',
	temporarily_unavailable: 'It is not there at the moment. Try again later.',
	login_required: 'It wants you to sign in there first. Begin once more.'
};

/** Why something with a provider failed. */
export function notSignedIn(error: unknown): NotSignedIn {
	if (error instanceof NotSignedIn) return error;
	const { code, message, cause, name } = error as Error & { code?: string; cause?: Error };
	if (cause instanceof NotSignedIn) return cause;
	const oauth = (error as { error?: unknown }).error;
	if (typeof oauth === 'string')
		return new NotSignedIn(refusalWords[oauth] ?? `It refused, and said “${said(oauth)}”.`);
	if (name === 'TimeoutError' || cause?.name === 'TimeoutError')
		return new NotSignedIn(codeWords.OAUTH_TIMEOUT);
	if (code && codeWords[code]) return new NotSignedIn(codeWords[code]);
	const network = (cause ?? error) as Error & { code?: string; cause?: Error & { code?: string } };
	const under = network.cause?.code ? network.cause : network;
	if (under.code && /^(E(?!RR_)[A-Z]|CERT|SELF|UNABLE|DEPTH|ERR_TLS)/.test(under.code))
		return new NotSignedIn(`It cannot be reached: ${plainNetwork(under)}.`);
	return new NotSignedIn(`It did not answer as it should: ${said(message)}.`);
}

/** Begins a sign-in: where the browser is sent, and what has to come back with it. `back` is our own address. */
export async function beginSignIn(
	server: IdentityServer,
	back: string
): Promise<{ readonly to: string; readonly checks: BegunChecks }> {
	try {
		const config = await configOf(server);
		const checks = {
			state: client.randomState(),
			nonce: client.randomNonce(),
			verifier: client.randomPKCECodeVerifier()
		};
		const to = client.buildAuthorizationUrl(config, {
			...{ redirect_uri: back, scope: 'openid email profile', state: checks.state },
			...{ nonce: checks.nonce, code_challenge_method: 'S256' },
			code_challenge: await client.calculatePKCECodeChallenge(checks.verifier)
		});
		return { to: to.href, checks };
	} catch (error) {
		throw notSignedIn(error);
	}
}

/** Ends a sign-in: hands the code over and reads who has come. `at` is the address the browser came back to, with all of its query. */
export async function endSignIn(
	server: IdentityServer,
	at: URL,
	{ state, nonce, verifier }: BegunChecks
): Promise<CameBack> {
	if (at.searchParams.get('state') !== state)
		throw new NotSignedIn(
			'What came back does not belong to the sign-in that was begun here. Begin once more.'
		);
	try {
		const config = await configOf(server);
		const tokens = await client.authorizationCodeGrant(config, at, {
			...{ expectedState: state, expectedNonce: nonce, pkceCodeVerifier: verifier },
			idTokenExpected: true
		});
		const token = tokens.claims()!;
		// The mail address is often said there alone (OpenID Connect Core 1.0 section 5.4).
		const more = config.serverMetadata().userinfo_endpoint
			? await client.fetchUserInfo(config, tokens.access_token, token.sub)
			: {};
		const amr = Array.isArray(token.amr) ? token.amr : [];
		return {
			...{ issuer: token.iss, subject: token.sub, claims: { ...more, ...token } },
			withFactor: amr.includes('mfa')
		};
	} catch (error) {
		throw notSignedIn(error);
	}
}

import { keysOf, learn, notSignedIn, type IdentityServer } from './identity';
import { bareHost, foundAndThere, taken, type Tried } from './tried';

/** What it lacks, in words; null where it has what a sign-in needs. */
function lacks(says: Awaited<ReturnType<typeof learn>>): string | null {
	if (!says.authorization_endpoint || !says.token_endpoint)
		return 'It does not say where a sign-in begins and ends.';
	if (says.response_types_supported && !says.response_types_supported.includes('code'))
		return 'It gives no codes (the flow called “code”).';
	// Every one has it, OpenID Connect Core 1.0 section 15.1; without a signature of its own nothing is taken.
	const signs = (says.id_token_signing_alg_values_supported ?? ['RS256']) as readonly unknown[];
	if (!signs.some((alg) => /^(RS|PS|ES|Ed)/.test(String(alg))))
		return 'It does not sign what it says with a key of its own.';
	return null;
}

/** Tries an identity provider step by step, as far as that goes without anybody signing in: found, there, what it can do, its keys. */
export async function tryIdentity(server: IdentityServer): Promise<Tried> {
	const url = new URL(server.issuer);
	const port = Number(url.port || (url.protocol === 'https:' ? 443 : 80));
	let says: Awaited<ReturnType<typeof learn>> | null = null;
	const inWords = async <T>(work: () => Promise<T>): Promise<T> => {
		try {
			return await work();
		} catch (error) {
			throw new Error(notSignedIn(error).message);
		}
	};
	const steps = await taken([
		...foundAndThere(bareHost(url), port),
		[
			'It says what it can do',
			async () => {
				says = await inWords(() => learn(server));
				return `as ${says.issuer}`;
			}
		],
		[
			'It can do what we need',
			async () => {
				const why = lacks(says!);
				if (why !== null) throw new Error(why);
				// RFC 8414 section 2: who does not name it may still have it, and asks nothing of it.
				return says!.code_challenge_methods_supported?.includes('S256')
					? 'codes that are bound to one browser (PKCE)'
					: 'codes; it does not say that it binds them to one browser (PKCE), and is asked for it all the same';
			}
		],
		[
			'Its keys are there',
			async () => {
				const keys = await inWords(() => keysOf(says!));
				if (keys === 0)
					throw new Error('It shows no keys, so that nothing it says can be checked.');
				return keys === 1 ? 'one key' : `${keys} keys`;
			}
		]
	]);
	return { steps, works: steps.every((s) => s.ok) };
}

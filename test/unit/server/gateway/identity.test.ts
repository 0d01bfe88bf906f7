import { expect } from 'chai';
import { beginSignIn, endSignIn, NotSignedIn } from '../../../../src/lib/server/gateway/identity';
import { tryIdentity } from '../../../../src/lib/server/gateway/try-identity';
import { lyingProvider, type Lie } from './lying-provider';

const back = 'http://here.example/sign-in/outside/back';

describe('a sign-in by the identity provider (OpenID Connect Core 1.0, code flow)', () => {
	let provider: Awaited<ReturnType<typeof lyingProvider>>;
	const server = () => ({ issuer: provider.issuer, clientId: 'courier', secret: 'tide' });
	beforeEach(async () => void (provider = await lyingProvider()));
	afterEach(() => provider.close());

	/** A whole sign-in under a lie; what came of it, or the words why not. */
	async function comeBack(
		lie: Lie = {},
		changes: Readonly<Record<string, string | null>> = {}
	): Promise<string> {
		const { to, checks } = await beginSignIn(server(), back);
		await provider.lies(lie);
		try {
			const came = await endSignIn(server(), provider.visit(to, changes), checks);
			return `${came.subject} ${String(came.claims.email)}`;
		} catch (error) {
			expect(error, String((error as Error).stack)).to.be.instanceOf(NotSignedIn);
			return (error as Error).message;
		}
	}

	it('asks for a code with state, nonce and a challenge by SHA-256, and for nothing more than who it is (RFC 9700 section 2.1.1)', async () => {
		const { to, checks } = await beginSignIn(server(), back);
		const asked = new URL(to).searchParams;
		expect(asked.get('response_type')).to.equal('code');
		expect(asked.get('redirect_uri')).to.equal(back);
		expect(asked.get('scope')).to.equal('openid email profile');
		expect(asked.get('code_challenge_method')).to.equal('S256');
		expect(asked.get('state')).to.equal(checks.state).and.have.length.above(20);
		expect(asked.get('nonce')).to.equal(checks.nonce).and.not.equal(checks.state);
		expect(to).not.to.contain(checks.verifier);
	});

	it('hands the code over with its verifier, and reads who came, with what only the userinfo says', async () => {
		const { to, checks } = await beginSignIn(server(), back);
		const came = await endSignIn(server(), provider.visit(to), checks);
		expect(came).to.deep.include({
			issuer: provider.issuer,
			subject: 'odile-1',
			withFactor: false
		});
		expect(came.claims).to.include({ email: 'odile@x.example', name: 'Odile Ferro' });
		expect(provider.asked[0]!.get('code_verifier')).to.equal(checks.verifier);
		await provider.lies({ token: { amr: ['pwd', 'mfa'] } });
		const again = await beginSignIn(server(), back);
		const factor = await endSignIn(server(), provider.visit(again.to), again.checks);
		expect(factor.withFactor, 'RFC 8176 section 2').to.equal(true);
	});

	it('goes on when the keys were changed a moment ago (OpenID Connect Core 1.0 section 10.1.1)', async () => {
		expect(await comeBack()).to.equal('odile-1 odile@x.example');
		expect(await comeBack({ rotates: true })).to.equal('odile-1 odile@x.example');
	});

	const past = { iat: 1_700_000_000, exp: 1_700_000_300 };
	const lied = /not written or signed as it has to be/;
	const wrong: readonly (readonly [
		string,
		RegExp,
		Lie,
		Readonly<Record<string, string | null>>?
	])[] = [
		['another state (RFC 9700 section 4.7)', /does not belong to the sign-in/, {}, { state: 'x' }],
		['no state', /does not belong to the sign-in/, {}, { state: null }],
		['another issuer in the answer (RFC 9207)', lied, {}, { iss: 'http://else.example' }],
		['no issuer in the answer, where it says it gives one', lied, {}, { iss: null }],
		['no code', lied, {}, { code: null }],
		['another nonce (section 3.1.3.7, 11)', /meant for somebody else/, { token: { nonce: 'x' } }],
		[
			'for somebody else (section 3.1.3.7, 3)',
			/meant for somebody else/,
			{ token: { aud: 'other' } }
		],
		[
			'of another issuer (section 3.1.3.7, 2)',
			/meant for somebody else/,
			{ token: { iss: 'http://x' } }
		],
		['past its time (section 3.1.3.7, 9)', /past its time/, { token: past }],
		['signed with another key by the same name', lied, { signs: 'another-key' }],
		['signed with a key it does not show', /signed with a key/, { signs: 'unknown-key' }],
		['signed by nobody (section 3.1.3.7, 7)', lied, { signs: 'nobody' }],
		['signed with our own secret', lied, { signs: 'our-secret' }],
		['nothing said of anybody', lied, { noToken: true }],
		['no subject', /did not answer as it should/, { token: { sub: '' } }],
		[
			'userinfo of another person (section 5.3.2)',
			/did not answer as it should/,
			{ userinfo: { sub: 'maren-1' } }
		],
		[
			'ended there (RFC 6749 section 4.1.2.1)',
			/ended there/,
			{},
			{ code: null, error: 'access_denied' }
		]
	];
	for (const [what, words, lie, changes] of wrong)
		it(`lets nobody in: ${what}`, async () => {
			expect(await comeBack(lie, changes)).to.match(words);
		});

	it('says what it answers instead of tokens: a refusal, nonsense, another place, more than it has to say', async () => {
		const answers = (code: number, body: string, headers = {}): Lie => ({
			answers: (response) => void response.writeHead(code, headers).end(body)
		});
		const refused = (error: string) =>
			answers(400, JSON.stringify({ error }), { 'content-type': 'application/json' });
		expect(await comeBack(refused('invalid_client'))).to.contain('client id and secret');
		expect(await comeBack(refused('invalid_grant'))).to.contain('the code it gave');
		expect(await comeBack(refused('<b>odd'))).to.match(/^It refused, and said/);
		expect(await comeBack(answers(200, '<p>hello'))).to.contain('did not answer as it should');
		expect(await comeBack(answers(302, '', { location: 'http://else.example' }))).to.contain(
			'as it should'
		);
		const huge = answers(200, JSON.stringify({ x: 'y'.repeat(2e6) }), {
			'content-type': 'application/json'
		});
		expect(await comeBack(huge)).to.contain('more than an identity provider');
	});

	it('one that goes on answering for ever is not waited for for ever', async () => {
		const { to, checks } = await beginSignIn(server(), back);
		let dripped = 0;
		await provider.lies({
			answers: (response) => {
				response.writeHead(200, { 'content-type': 'application/json' });
				const drip = setInterval(() => void response.write(' ', () => (dripped += 1)), 50);
				response.once('close', () => clearInterval(drip));
			}
		});
		const words = await endSignIn({ ...server(), waits: 1 }, provider.visit(to), checks).catch(
			(e: Error) => e.message
		);
		expect(words).to.contain('did not answer in time');
		expect(dripped).to.be.above(1);
	});

	it('a code that somebody else began opens nothing: the verifier is not theirs (RFC 7636)', async () => {
		const mine = await beginSignIn(server(), back);
		const theirs = await beginSignIn(server(), back);
		const at = provider.visit(theirs.to, { state: mine.checks.state });
		const words = await endSignIn(server(), at, mine.checks).catch((e: Error) => e.message);
		expect(words).to.contain('the code it gave');
	});

	it('is tried without anybody signing in, up to the step that fails', async () => {
		const last = async (lie: Lie, issuer = provider.issuer) => {
			await provider.lies(lie);
			const { steps, works } = await tryIdentity({ ...server(), issuer });
			return `${works ? 'works' : 'stops'} at ${steps.at(-1)!.name}: ${steps.at(-1)!.said}`;
		};
		expect(await last({})).to.equal('works at Its keys are there: one key');
		expect(await last({ metadata: { issuer: 'http://else.example' } })).to.match(
			/^stops at It says what it can do/
		);
		expect(await last({ metadata: { response_types_supported: ['id_token'] } })).to.match(
			/^stops at It can do what we need: It gives no codes/
		);
		expect(
			await last({ metadata: { id_token_signing_alg_values_supported: ['HS256', 'none'] } })
		).to.match(/^stops at It can do what we need: It does not sign/);
		expect(await last({ metadata: { jwks_uri: undefined } })).to.match(
			/^stops at Its keys are there/
		);
		expect(await last({}, 'http://nowhere.invalid')).to.match(/^stops at Its name is found/);
		expect(await last({}, 'http://localhost:1')).to.match(/^stops at It is there/);
	});
});

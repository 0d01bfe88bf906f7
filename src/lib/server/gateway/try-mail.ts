import { isIP } from 'node:net';
import { connect } from 'node:tls';
import MailComposer from 'nodemailer/lib/mail-composer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import { mailOf, type Letter } from './mail-letter';
import { isLoopback, plainNetwork } from './network';
import { shortened, type SmtpError } from './smtp-reply';
import { bareHost, foundAndThere, taken, type ToTake, type Tried } from './tried';

/** How long the server may be silent while it is tried, ms: a person waits. */
const silentMs = 20_000;

const quoted = (error: SmtpError): string =>
	error.response ? ` It said: “${shortened(error.response)}”.` : '';
const untrusted = 'its certificate cannot be trusted';
const isTls = (error: SmtpError): boolean =>
	error.code === 'ETLS' || plainNetwork(error) === untrusted;
const safe = 'nobody on the way can read along';
const speaks = 'it speaks SMTP';

/** An SMTP connection whose calls are promises. An error that comes at any time ends what is waited for. */
function connectionTo(url: URL, port: number) {
	const connection = new SMTPConnection({
		host: bareHost(url),
		port,
		secure: url.protocol === 'smtps:',
		requireTLS: url.searchParams.get('requireTLS') === 'true',
		connectionTimeout: silentMs,
		greetingTimeout: silentMs,
		socketTimeout: silentMs,
		tls: { rejectUnauthorized: !isLoopback(url.href) }
	});
	let broke: (error: Error) => void = () => {};
	connection.on('error', (error: Error) => broke(error));
	const step = <T>(take: (done: (error?: Error | null, value?: T) => void) => void): Promise<T> =>
		new Promise((resolve, reject) => {
			broke = reject;
			take((error, value) => (error ? reject(error) : resolve(value as T)));
		});
	return {
		connect: () => step<void>((done) => connection.connect(done as never)),
		login: (user: string, pass: string) =>
			step<void>((done) =>
				connection.login({ credentials: { user, pass } } as never, done as never)
			),
		send: (envelope: object, message: Buffer) =>
			step<{ response: string }>((done) =>
				connection.send(envelope as never, message, done as never)
			),
		isSecure: () => connection.secure === true,
		close: () => connection.close()
	};
}

type Server = ReturnType<typeof connectionTo>;

/** Why the greeting failed; `hint` is what may be wrong with the address. */
const greetingTrouble = (error: SmtpError, hint: string): Error =>
	new Error(
		/EPROTOCOL|ETIMEDOUT|ESOCKET/.test(error.code ?? '')
			? `What listens there does not greet as a mail server does.${quoted(error)} ${hint}`
			: `${plainNetwork(error)}.${quoted(error)}`
	);

/** Why a letter was not taken, by the command at which it stopped. */
function refusal(error: SmtpError, letter: Letter): string {
	const why = quoted(error);
	if (/^MAIL/.test(error.command ?? ''))
		return `It does not let us send as ${letter.returnAddress}.${why} Ask whoever runs it to allow this sender.`;
	if (/^RCPT/.test(error.command ?? ''))
		return `It does not take mail for ${letter.to.address}.${why}`;
	return `It did not take the letter: ${plainNetwork(error)}.${why}`;
}

/** Why no encrypted connection came about. */
const encryptionTrouble = (error: SmtpError): Error =>
	new Error(
		`${
			plainNetwork(error) === untrusted
				? 'Its certificate cannot be trusted: it is out of date, for another name, or signed by nobody known'
				: 'No encrypted connection comes about: it does not offer one here'
		}.${quoted(error)}`
	);

/** Shakes hands for TLS, and no more. */
const handshake = (url: URL, port: number): Promise<string> =>
	new Promise((resolve, reject) => {
		const host = bareHost(url);
		const socket = connect({
			...{ host, port, timeout: silentMs },
			...(isIP(host) === 0 ? { servername: host } : {}),
			rejectUnauthorized: !isLoopback(url.href)
		});
		const refuse = (error: SmtpError) => {
			socket.destroy();
			reject(encryptionTrouble(error));
		};
		socket.once('secureConnect', () => {
			socket.destroy();
			resolve(safe);
		});
		socket.once('timeout', () => refuse(new Error('')));
		socket.once('error', refuse);
	});

/** Encrypted from the first moment (RFC 8314 section 3.3): shaken hands first, then greeted. */
const secureSteps = (server: Server, url: URL, port: number): readonly ToTake[] => [
	['The connection is encrypted', () => handshake(url, port)],
	[
		'It greets us',
		async () => {
			await server.connect().catch((error: SmtpError) => {
				throw greetingTrouble(error, 'It may be another service.');
			});
			return speaks;
		}
	]
];

/** Encrypted after the greeting (RFC 3207), which are one call of the connection's. */
function plainSteps(server: Server, url: URL): readonly ToTake[] {
	let trouble: SmtpError | null = null;
	return [
		[
			'It greets us',
			async () => {
				await server.connect().catch((error: SmtpError) => {
					if (!isTls(error))
						throw greetingTrouble(
							error,
							'It may want to be encrypted from the first moment: try that, usually at port 465.'
						);
					trouble = error;
				});
				return speaks;
			}
		],
		[
			'The connection is encrypted',
			() => {
				if (trouble) return Promise.reject(encryptionTrouble(trouble));
				return Promise.resolve(
					server.isSecure()
						? safe
						: isLoopback(url.href)
							? 'not encrypted; it does not leave this machine'
							: 'it is not: whoever is on the way can read along'
				);
			}
		]
	];
}

/** User and password, where there are any (RFC 4954). */
const signInSteps = (server: Server, { username, password }: URL): readonly ToTake[] => {
	const user = decodeURIComponent(username);
	if (user === '') return [];
	return [
		[
			'It lets us in',
			async () => {
				await server.login(user, decodeURIComponent(password)).catch((error: SmtpError) => {
					throw new Error(
						error.code === 'EAUTH'
							? `It does not take user and password.${quoted(error)} Write them again.`
							: `${plainNetwork(error)}.${quoted(error)}`
					);
				});
				return `as ${user}`;
			}
		]
	];
};

/**
 * Tries a mail server step by step (RFC 5321 section 3): found, there, encrypted, greeted, let in, and one letter
 * handed over. `ms` is how long each step may take.
 */
export async function tryMail(address: string, letter: Letter, ms?: number): Promise<Tried> {
	const url = new URL(address);
	const secure = url.protocol === 'smtps:';
	const port = Number(url.port || (secure ? 465 : 587));
	const server = connectionTo(url, port);
	const steps = await taken(
		[
			...foundAndThere(bareHost(url), port),
			...(secure ? secureSteps(server, url, port) : plainSteps(server, url)),
			...signInSteps(server, url),
			[
				'It takes the letter',
				async () => {
					const message = await new MailComposer(mailOf(letter) as never).compile().build();
					const envelope = { from: letter.returnAddress, to: [letter.to.address] };
					const { response } = await server.send(envelope, message).catch((error: SmtpError) => {
						throw new Error(refusal(error, letter));
					});
					return `for ${letter.to.address}: “${shortened(response)}”`;
				}
			]
		],
		ms
	);
	server.close();
	return { steps, works: steps.every((s) => s.ok) };
}

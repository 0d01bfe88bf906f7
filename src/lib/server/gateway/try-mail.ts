import MailComposer from 'nodemailer/lib/mail-composer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import { mailOf, type Letter } from './mail-letter';
import { isLoopback, plainNetwork } from './network';
import { shortened, type SmtpError } from './smtp-reply';
import { foundAndThere, taken, type Step, type Tried } from './tried';

/** How long the server may be silent while it is tried, ms: a person waits. */
const silentMs = 20_000;

const quoted = (error: SmtpError): string =>
	error.response ? ` It said: “${shortened(error.response)}”.` : '';
const isTls = (error: SmtpError): boolean =>
	error.code === 'ETLS' || plainNetwork(error) === 'its certificate cannot be trusted';

/** An SMTP connection whose calls are promises. An error that comes at any time ends what is waited for. */
function connectionTo(url: URL) {
	const secure = url.protocol === 'smtps:';
	const connection = new SMTPConnection({
		host: url.hostname.replace(/^\[|\]$/g, ''),
		port: Number(url.port || (secure ? 465 : 587)),
		secure,
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

/** Why the greeting failed, for whoever set the address. */
function greetingTrouble(error: SmtpError, secure: boolean): string {
	if (error.code === 'EPROTOCOL' || /ETIMEDOUT|ESOCKET/.test(error.code ?? ''))
		return `What listens there does not greet as a mail server does.${quoted(error)} ${
			secure
				? 'It may not encrypt from the first moment: try “asked for after the greeting”.'
				: 'It may want to be encrypted from the first moment: try that, usually at port 465.'
		}`;
	return `${plainNetwork(error)}.${quoted(error)}`;
}

/** Why a letter was not taken, by the command at which it stopped. */
function refusal(error: SmtpError, letter: Letter): string {
	const why = quoted(error);
	if (/^MAIL/.test(error.command ?? ''))
		return `It does not let us send as ${letter.returnAddress}.${why} Ask whoever runs it to allow this sender.`;
	if (/^RCPT/.test(error.command ?? ''))
		return `It does not take mail for ${letter.to.address}.${why}`;
	return `It did not take the letter: ${plainNetwork(error)}.${why}`;
}

/**
 * Tries a mail server step by step (RFC 5321 section 3): found, there, encrypted (RFC 8314, RFC 3207), greeted, let
 * in (RFC 4954), and one letter handed over.
 */
export async function tryMail(address: string, letter: Letter): Promise<Tried> {
	const url = new URL(address);
	const secure = url.protocol === 'smtps:';
	const port = Number(url.port || (secure ? 465 : 587));
	const server = connectionTo(url);
	const user = decodeURIComponent(url.username);
	let trouble: SmtpError | null = null;
	const encrypted: readonly [Step['name'], () => Promise<string>] = [
		'The connection is encrypted',
		async () => {
			if (trouble && isTls(trouble))
				throw new Error(
					`${/certificate/.test(plainNetwork(trouble)) ? 'Its certificate cannot be trusted: it is out of date, for another name, or signed by nobody known' : 'No encrypted connection comes about'}.${quoted(trouble)}`
				);
			if (server.isSecure()) return 'nobody on the way can read along';
			if (trouble) return 'not come to yet';
			return isLoopback(address)
				? 'not encrypted; it does not leave this machine'
				: 'it is not: whoever is on the way can read along';
		}
	];
	const greets: readonly [Step['name'], () => Promise<string>] = [
		'It greets us',
		async () => {
			if (trouble && !isTls(trouble)) throw new Error(greetingTrouble(trouble, secure));
			return 'it speaks SMTP';
		}
	];
	const steps = await taken([
		...foundAndThere(url.hostname, port),
		[
			secure ? encrypted[0] : greets[0],
			async () => {
				await server.connect().catch((error: SmtpError) => (trouble = error));
				return (secure ? encrypted : greets)[1]();
			}
		],
		secure ? greets : encrypted,
		...(user === ''
			? []
			: [
					[
						'It lets us in' as const,
						async () => {
							try {
								await server.login(user, decodeURIComponent(url.password));
								return `as ${user}`;
							} catch (thrown) {
								const error = thrown as SmtpError;
								throw new Error(
									error.code === 'EAUTH'
										? `It does not take user and password.${quoted(error)} Write them again.`
										: `${plainNetwork(error)}.${quoted(error)}`
								);
							}
						}
					] as const
				]),
		[
			'It takes the letter',
			async () => {
				const message = await new MailComposer(mailOf(letter) as never).compile().build();
				try {
					const { response } = await server.send(
						{ from: letter.returnAddress, to: [letter.to.address] },
						message
					);
					return `for ${letter.to.address}: “${shortened(response)}”`;
				} catch (error) {
					throw new Error(refusal(error as SmtpError, letter));
				}
			}
		]
	]);
	server.close();
	return { steps, works: steps.every((s) => s.ok) };
}

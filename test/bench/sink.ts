/**
 * Servers that take everything and keep nothing, in a process of their own: SMTP and SMPP on ports
 * that are printed as one line of JSON. What is sent to them measures the sender.
 */
import smpp, { type Pdu } from 'smpp';
import { SMTPServer } from 'smtp-server';

// Whoever started it is gone.
process.stdin.resume().on('end', () => process.exit(0));

const mail = new SMTPServer({
	disabledCommands: ['AUTH', 'STARTTLS'],
	disableReverseLookup: true,
	hideDSN: false,
	onData(stream, _session, done) {
		stream.resume();
		stream.on('end', () => done(null, '2.0.0 taken'));
	}
});
mail.on('error', () => {});
let last = 0;
const text = smpp.createServer((session) => {
	session.on('bind_transceiver', (pdu: Pdu) => void session.send(pdu.response()));
	session.on('submit_sm', (pdu: Pdu) => {
		last += 1;
		session.send(pdu.response({ message_id: last.toString(16) }));
	});
	session.on('enquire_link', (pdu: Pdu) => void session.send(pdu.response()));
	session.on('error', () => session.destroy());
});
await new Promise<void>((r) => mail.listen(0, '127.0.0.1', () => r()));
await new Promise<void>((r) => text.listen(0, '127.0.0.1', () => r()));
const portOf = (server: { address(): unknown }) => (server.address() as { port: number }).port;
process.stdout.write(
	`${JSON.stringify({ smtp: portOf(mail.server as never), smpp: portOf(text) })}\n`
);

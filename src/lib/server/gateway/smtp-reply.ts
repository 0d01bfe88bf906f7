import { matterOf, smtpReplyText } from '../../core/track/status-code';
import { plainNetwork } from './network';
import type { Outcome } from './outcome';

/** What nodemailer throws. */
export interface SmtpError extends Error {
	code?: string;
	originalCode?: string;
	responseCode?: number;
	response?: string;
	command?: string;
}

/**
 * Whether a mail server says that it is given too much: congestion, too many at once, a limit on rate (RFC 3463
 * sections 3.5, 3.6 and 3.8). A server that wants this one letter to come again (greylisting, 4.7.1 or in words,
 * common practice) says nothing about the others.
 */
const isBusy = (reply: string): boolean =>
	/\b4\.(4\.5|5\.3|7\.\d+)\b/.test(reply) && !/\b4\.7\.1\b|gr[ae]y-?list/i.test(reply);

/** A reply as it is kept with each copy: a server that talks without end fills no database. */
export const shortened = (reply: string): string => reply.trim().slice(0, 200);

/** Sorts a failed attempt. A reply to RCPT TO or DATA is about the copy; anything before that is about the server. */
export function sortSmtpError(error: SmtpError): Outcome {
	const reply = error.response ?? '';
	const code = error.responseCode ?? 0;
	const aboutCopy = /^(RCPT TO|DATA|MAIL FROM|API)/.test(error.command ?? '') && code >= 400;
	if (!aboutCopy || code === 421) {
		return {
			kind: 'unavailable',
			why: error.code === 'EAUTH' ? 'it refused our sign-in' : plainNetwork(error)
		};
	}
	const detail = smtpReplyText(reply);
	const said = shortened(reply);
	if (code < 500) return { kind: 'deferred', detail, said, tooMuch: isBusy(reply) };
	// What is said to MAIL FROM is said about our sender, whatever the code.
	const matter = /^MAIL FROM/.test(error.command ?? '') ? 'sender' : matterOf(reply);
	return {
		kind: 'refused',
		detail,
		said,
		code: matter,
		addressFault: matter === 'address' ? detail : null
	};
}

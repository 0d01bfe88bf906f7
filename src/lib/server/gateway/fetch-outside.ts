import { lookup as resolve } from 'node:dns';
import { request as askPlainly, type IncomingMessage, type RequestOptions } from 'node:http';
import { request as askSecretly } from 'node:https';
import type { LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';

/** What came of asking: what is there, that it is as it was, or why there is nothing, in words. */
export type FetchedOutside =
	| {
			readonly kind: 'content';
			readonly content: Buffer;
			/** What it is, as whoever has it says. */
			readonly contentType: string;
			/** The address it came from in the end. */
			readonly from: string;
			/** By which it is asked for the next time. */
			readonly etag: string | null;
			readonly lastModified: string | null;
	  }
	| { readonly kind: 'same' }
	| { readonly kind: 'failed'; readonly why: string };

/** How something is asked for. */
export interface Asked {
	/** What is asked for, in words ("feed"), and as HTTP says it (RFC 9110 section 12.5.1). */
	readonly what: string;
	readonly accept: string;
	/** The most that is taken, bytes. */
	readonly most: number;
	/** What was said the last time, so that what is the same need not be sent. */
	readonly etag?: string | null;
	readonly lastModified?: string | null;
	/** Origins of the house that may be asked all the same: those of stand-ins, by the settings of the machine. */
	readonly inside?: readonly string[];
	/** The longest it may take in all, ms. */
	readonly withinMs?: number;
}

const mostRedirects = 4;
const usualMs = 20_000;

/** What is said to whoever asked; never what the other side answered. */
class Refused extends Error {}

/** Whether an address is one of the world's, not of this machine, its network, or of nobody (RFC 6890 and those it lists). */
export function isOutside(address: string): boolean {
	if (!ipaddr.isValid(address)) return false;
	const parsed = ipaddr.process(address);
	if (parsed.range() !== 'unicast') return false;
	// What carries an address of version 4 inside is as far as that one is (RFC 6052, RFC 3056).
	return parsed.kind() === 'ipv4' || !/^(64:ff9b|2002):/i.test(parsed.toNormalizedString());
}

/** Finds the address of a name and lets only those of the world through: what is asked is then that very address, whatever the name says a moment later. */
const outsideOnly: LookupFunction = (name, options, done) => {
	resolve(name, { ...options, all: true }, (error, found) => {
		if (error) return done(error, '', 0);
		const outside = found.filter((a) => isOutside(a.address));
		const first = outside[0];
		if (!first) return done(new Refused('The address leads into our own house.'), '', 0);
		if (options.all) return done(null, outside);
		done(null, first.address, first.family);
	});
};

/** The address that is asked, or why it is not. */
function readAddress(text: string, inside: readonly string[]): { url: URL; free: boolean } {
	let url: URL;
	try {
		url = new URL(text);
	} catch {
		throw new Refused('This is no address on the web: it begins with https:// or http://.');
	}
	if (!['http:', 'https:'].includes(url.protocol))
		throw new Refused('This is no address on the web: it begins with https:// or http://.');
	if (url.username !== '' || url.password !== '')
		throw new Refused('The address holds a name or a password. Take them out.');
	const free = inside.includes(url.origin);
	const host = url.hostname.replace(/^\[|\]$/g, '');
	if (!free && ipaddr.isValid(host) && !isOutside(host))
		throw new Refused('The address leads into our own house.');
	return { url, free };
}

/** Asks one address once. */
function askOnce(
	{ url, free }: { readonly url: URL; readonly free: boolean },
	headers: Readonly<Record<string, string>>,
	signal: AbortSignal
): Promise<IncomingMessage> {
	const options: RequestOptions = {
		...{ headers, signal, agent: false },
		...(free ? {} : { lookup: outsideOnly })
	};
	const ask = url.protocol === 'https:' ? askSecretly : askPlainly;
	return new Promise((done, failed) => {
		ask(url, options, done).once('error', failed).end();
	});
}

/** Takes what comes, as far as it may be long. */
async function contentOf(answer: IncomingMessage, { what, most }: Asked): Promise<Buffer> {
	const parts: Buffer[] = [];
	let bytes = 0;
	for await (const part of answer as AsyncIterable<Buffer>) {
		bytes += part.length;
		if (bytes > most) {
			answer.destroy();
			throw new Refused(`The ${what} is over ${most / 1e6} MB.`);
		}
		parts.push(part);
	}
	return Buffer.concat(parts);
}

/** Why nothing came, in words of ours. */
function wordsOf(error: unknown, what: string): string {
	if (error instanceof Refused) return error.message;
	const { name, code } = error as { name?: string; code?: string };
	if (name === 'TimeoutError' || name === 'AbortError') return `The ${what} did not come in time.`;
	const known: Readonly<Record<string, string>> = {
		ENOTFOUND: 'There is no such place: the name in the address leads nowhere.',
		EAI_AGAIN: 'The name in the address could not be looked up just now.',
		ECONNREFUSED: 'Nobody answers at this address.',
		ECONNRESET: 'The connection broke off.'
	};
	return known[code ?? ''] ?? `The ${what} could not be reached.`;
}

/** Why an answer brings nothing. */
const refusedWords = (status: number, what: string): string =>
	status === 404 || status === 410
		? `There is no ${what} at this address any more.`
		: status === 401 || status === 403
			? `The ${what} is not for everybody: it asks for a sign-in.`
			: `Whoever has the ${what} answered with ${status}.`;

/** Fetches something from wherever it says it is: within a time and a size, over a few redirects, and never from inside our own house. */
export async function fetchOutside(address: string, asked: Asked): Promise<FetchedOutside> {
	const { what, accept, etag = null, lastModified = null, inside = [] } = asked;
	const signal = AbortSignal.timeout(asked.withinMs ?? usualMs);
	const headers = {
		accept,
		'user-agent': `IdleCourier (${what})`,
		...(etag === null ? {} : { 'if-none-match': etag }),
		...(lastModified === null ? {} : { 'if-modified-since': lastModified })
	};
	try {
		let at = readAddress(address, inside);
		for (let turn = 0; turn <= mostRedirects; turn += 1) {
			const answer = await askOnce(at, headers, signal);
			const status = answer.statusCode ?? 0;
			const { location } = answer.headers;
			if (status >= 301 && status <= 308 && status !== 304 && location !== undefined) {
				answer.destroy();
				at = readAddress(new URL(location, at.url).href, inside);
				continue;
			}
			if (status === 304) {
				answer.destroy();
				return { kind: 'same' };
			}
			if (status !== 200) {
				answer.destroy();
				return { kind: 'failed', why: refusedWords(status, what) };
			}
			return {
				...{ kind: 'content', content: await contentOf(answer, asked), from: at.url.href },
				contentType: answer.headers['content-type'] ?? '',
				...{
					etag: answer.headers.etag ?? null,
					lastModified: answer.headers['last-modified'] ?? null
				}
			};
		}
		throw new Refused('The address leads on and on. Take the one it leads to.');
	} catch (error) {
		return {
			kind: 'failed',
			why: signal.aborted ? `The ${what} did not come in time.` : wordsOf(error, what)
		};
	}
}

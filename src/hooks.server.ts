import { isAllowed } from '$lib/server/access/may';
import { mustSetFactor } from '$lib/server/desk/work/must-factor';
import { randomUUID } from 'node:crypto';
import { redirect, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { building } from '$app/environment';
import '$lib/server/plain-issues';
import { actingIn, type Acting } from '$lib/server/access/acting';
import { makeFirstKey } from '$lib/server/access/first-key';
import { writeRefused } from '$lib/server/access/refused';
import { sessionOf } from '$lib/server/access/sessions';
import { warmChoices } from '$lib/server/desk/audience/choices';
import { isSecure, sessionCookie } from '$lib/server/http/cookie';
import { lookOf } from '$lib/server/http/look';
import { tellMachine } from '$lib/server/machine-log';
import { isDiskFull } from '$lib/server/disk';
import { ask, TookTooLong } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import { CannotStart } from '$lib/server/settings';

/** Pages that need no sign-in: the family's side and the way to it, joining an open group, sign-in itself, and what machines ask. */
const open =
	/^\/(f\/|b\/|i\/|in$|join(\/|$)|sign-in(\/|$)|account\/|first\/|forgot$|health$|metrics$|bench\/time$)/;

/** Write, all of it but the files. */
const writing = /^\/write(\/(?!file(\/|$))|$)/;
const mayNotWrite = 'You may read here, and not write to families.';
/** A page is refused by itself, so that it is one that can be read. */
const isPage = (request: Request): boolean =>
	request.method === 'GET' && (request.headers.get('accept')?.includes('text/html') ?? false);

/** What somebody needs who has to set up a second factor first. */
const ownSignIn = /^\/(settings\/me|sign-out)$/;

/** What machines ask, and whoever runs it: who is signed in is told more. */
const watched = /^\/(health|metrics)$/;

/** Feeds and calendars of boards. */
const followed = /^\/b\/[^/]+\/(news\.atom|calendar\.ics)$/;

/** Where mail programs post to without a page of ours: the link itself is the right (RFC 8058 section 3.2). */
const oneClick = /^\/f\/[^/]+\/stop$/;

/** Bodies larger than this are only taken where files are put in. */
const bodyBytes = 4_000_000;
const filePlace = '/write/file';
/** Where a family answers with pictures from its phone; what the server takes at all is set by BODY_SIZE_LIMIT. */
const answerPlace = /^\/f\/[A-Za-z0-9_-]{16,64}$/;
const answerBytes = 24_000_000;

/** Whether a request that changes something comes from our own pages: its origin is the address it was sent to. */
function ownOrigin(request: Request, url: URL): boolean {
	const origin = request.headers.get('origin');
	if (origin === null) return request.headers.get('sec-fetch-site') === 'same-origin';
	try {
		return new URL(origin).host === (request.headers.get('host') ?? url.host);
	} catch {
		return false;
	}
}

/** Roster and lists are read while nobody waits for them yet. Where they cannot be, the first who asks is told why. */
export const init: ServerInit = async () => {
	if (building) return;
	const say = (error: Error) => tellMachine('web', 'what is read at the start could not be', error);
	try {
		const { db, settings } = await services();
		const key = await makeFirstKey(db);
		if (key !== null)
			return console.log(
				`Nothing is set up here yet. Whoever opens this first sets it up, so it is yours alone:\n  ${settings.publicUrl}/first/${key}`
			);
		warmChoices(db).catch(say);
		ask('warm').catch(say);
	} catch (error) {
		if (error instanceof CannotStart) console.error(error.message);
		else say(error as Error);
		// What only a person can mend does not get better by waiting.
		if (error instanceof CannotStart) process.exit(1);
	}
};

export const handle: Handle = async ({ event, resolve }) => {
	const { request, url, cookies } = event;
	// No page of ours asks for it by this name, and the framework takes it for a fault of its own.
	if (url.searchParams.has('/default')) {
		return new Response('There is nothing at this address.', { status: 404 });
	}
	const reads = ['GET', 'HEAD', 'OPTIONS'].includes(request.method);
	if (!reads && !oneClick.test(url.pathname) && !ownOrigin(request, url)) {
		return new Response('This request came from another site and was not carried out.', {
			status: 403
		});
	}
	const length = request.headers.get('content-length');
	// A body that does not say how long it is cannot be held to a limit before it is read (RFC 9110 section 15.5.12).
	if (!reads && request.body !== null && url.pathname !== filePlace && length === null) {
		return new Response(JSON.stringify({ why: 'The request does not say how long it is.' }), {
			status: 411,
			headers: { 'content-type': 'application/json' }
		});
	}
	const most = answerPlace.test(url.pathname) ? answerBytes : bodyBytes;
	if (!reads && url.pathname !== filePlace && Number(length ?? 0) > most) {
		return new Response(
			JSON.stringify({
				why: `That is over ${most / 1e6} MB, more than is taken here. Shorten it, or send fewer pictures.`
			}),
			{
				status: 413,
				headers: { 'content-type': 'application/json' }
			}
		);
	}
	const { db, settings } = await services();
	const token = cookies.get(sessionCookie(settings));
	const session =
		open.test(url.pathname) && !watched.test(url.pathname) ? null : await sessionOf(db, token);
	event.locals.user = session?.user ?? null;
	event.locals.sessionId = session?.id ?? null;
	if (!event.locals.user && !open.test(url.pathname)) {
		if (request.method !== 'GET' || request.headers.get('accept')?.includes('application/json')) {
			return new Response(
				JSON.stringify({
					message: 'Your session has ended. Sign in again; what you typed is kept.'
				}),
				{ status: 401, headers: { 'content-type': 'application/json' } }
			);
		}
		redirect(303, `/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
	}
	// Whoever has to have a second factor sets it up before anything else.
	if (
		session &&
		!session.factorOutside &&
		!ownSignIn.test(url.pathname) &&
		(await mustSetFactor(db, session.user)) &&
		!url.pathname.startsWith('/_app/')
	)
		redirect(303, '/settings/me');
	const acting: Acting = {
		...{ request: randomUUID(), sessionId: session?.id ?? null, refused: [] }
	};
	const response = await actingIn(acting, async () => {
		// Whoever may not write is told so at the door; what answers take with them is put in there too.
		if (
			session &&
			writing.test(url.pathname) &&
			!isPage(request) &&
			!isAllowed(session.user, 'write')
		)
			return new Response(JSON.stringify({ message: mayNotWrite }), {
				status: 403,
				headers: { 'content-type': 'application/json' }
			});
		return resolve(event, {
			transformPageChunk: ({ html }) =>
				html.replace('%lang%', 'en').replace('%dir%', 'ltr').replace('%look%', lookOf(cookies))
		});
	});
	if (session && acting.refused.length > 0)
		await actingIn(acting, () => writeRefused(db, session.user, acting.refused));
	response.headers.set('x-request', acting.request);
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	// Two years, as browsers' lists ask (RFC 6797 section 6.1).
	if (isSecure(settings)) {
		response.headers.set('strict-transport-security', 'max-age=63072000');
	}
	// Links open an inbox without a password: no cache in between may keep what they show.
	// What programs follow is kept by them, so that it need not be sent again.
	if (!url.pathname.startsWith('/_app/') && !followed.test(url.pathname))
		response.headers.set('cache-control', 'no-store');
	return response;
};

/** What is said where the framework itself refuses. */
const refusals: Readonly<Record<number, string>> = {
	400: 'The address or the request cannot be read. Go back, and try once more.',
	404: 'There is nothing at this address.',
	405: 'This page takes nothing of that kind. Load it again.',
	413: 'That is more than is taken at once.',
	415: 'What was sent is no form. Load the page again and try once more.'
};
const wordsOf = (status: number): string =>
	refusals[status] ??
	(status < 500
		? 'The request was refused, and nothing was changed.'
		: 'Something went wrong on our side. Nothing was changed; try once more.');

export const handleError: HandleServerError = ({ error, status }) => {
	if (status >= 500) tellMachine('web', `an answer failed with ${status}`, error);
	if (isDiskFull(error)) {
		return {
			message:
				'The disk of the server is full, so nothing was saved. Whoever runs it has to make room; then try again.'
		};
	}
	if (error instanceof TookTooLong) return { message: error.message };
	return {
		message: wordsOf(status)
	};
};

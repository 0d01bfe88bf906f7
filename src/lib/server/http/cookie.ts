import type { Cookies } from '@sveltejs/kit';
import type { Settings } from '../settings';

/** Whether browsers come by https: then cookies never leave it. */
export const isSecure = ({ publicUrl }: Pick<Settings, 'publicUrl'>): boolean =>
	publicUrl.startsWith('https:');

/** The name of the session's cookie. With https it can be set by this host alone, for the whole of it (RFC 6265bis section 4.1.3.2). */
export const sessionCookie = (settings: Pick<Settings, 'publicUrl'>): string =>
	isSecure(settings) ? '__Host-session' : 'session';

/** Gives a browser the session that was opened for it. */
export const keepSession = (
	cookies: Cookies,
	settings: Pick<Settings, 'publicUrl'>,
	{ token, endsAt }: { readonly token: string; readonly endsAt: number }
): void =>
	cookies.set(sessionCookie(settings), token, {
		path: '/',
		httpOnly: true,
		sameSite: 'lax',
		secure: isSecure(settings),
		expires: new Date(endsAt)
	});

import type { Cookies } from '@sveltejs/kit';
import { z } from 'zod';
import type { Settings } from '../settings';
import { isSecure } from './cookie';

/** How pages look: as the device says, on paper, or in the dark. */
export const lookSchema = z.enum(['device', 'paper', 'dark'], 'Choose how pages look.');
type Look = z.infer<typeof lookSchema>;

const name = 'look';
/** A year. It says nothing of anybody, and stays when they sign out. */
const seconds = 31_536_000;

/** How somebody wants pages in this browser. */
export const lookOf = (cookies: Cookies): Look =>
	lookSchema.catch('device').parse(cookies.get(name));

/** Keeps how somebody wants pages in this browser. */
export const keepLook = (cookies: Cookies, settings: Settings, look: Look): void =>
	cookies.set(name, look, {
		...{ path: '/', httpOnly: true, sameSite: 'lax', maxAge: seconds },
		secure: isSecure(settings)
	});

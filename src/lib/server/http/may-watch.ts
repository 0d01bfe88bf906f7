import { createHash, timingSafeEqual } from 'node:crypto';
import { may } from '../access/may';
import type { User } from '../access/user';

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

/**
 * Whether somebody may see how everything stands: whoever runs it, signed in; or a machine with the token of the settings,
 * as a bearer (RFC 6750 section 2.1). Null where nobody has said who they are.
 */
export function mayWatch(
	user: User | null,
	authorization: string | null,
	token: string | null
): boolean | null {
	if (user) return may(user, 'operate');
	if (authorization === null) return null;
	const given = /^bearer ([\w.~+/-]+=*)$/i.exec(authorization.trim())?.[1];
	return token !== null && given !== undefined && timingSafeEqual(digest(given), digest(token));
}

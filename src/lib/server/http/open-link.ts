import { error } from '@sveltejs/kit';
import { z } from 'zod';
import type { Services } from '../services';
import { openLink, type Opened } from '../access/private-link';

/** What a private link's token looks like. */
export const tokenSchema = z.string().regex(/^[A-Za-z0-9_-]{16,64}$/);

/** Opens the private link in an address, or ends the request with what is wrong and what to do. */
export async function openedLink(
	s: Services,
	token: string
): Promise<Extract<Opened, { ok: true }>> {
	const parsed = tokenSchema.safeParse(token);
	const link = parsed.success
		? await openLink(s.db, parsed.data)
		: ({ ok: false, why: 'unknown' } as const);
	if (link.ok) return link;
	error(
		link.why === 'ended' ? 410 : 404,
		link.why === 'ended'
			? 'This link has ended. Open a newer letter from the school, or ask the school office for a new link.'
			: 'This link opens nothing. Check that the whole address was copied, or ask the school office for a new link.'
	);
}

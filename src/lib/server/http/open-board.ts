import { error } from '@sveltejs/kit';
import { lookupLanguage } from '../../core/copy/language';
import { openBoardLink, type BoardOpened } from '../desk/boards/links';
import { languagesWanted } from '../desk/joining/by-link';
import { readDistrict } from '../db/district';
import type { Services } from '../services';
import { tokenSchema } from './open-link';

/** Opens the link to a board in an address, or ends the request with what is wrong and what to do. */
export async function openedBoard(
	s: Services,
	token: string
): Promise<Extract<BoardOpened, { ok: true }>> {
	const parsed = tokenSchema.safeParse(token);
	const link = parsed.success
		? await openBoardLink(s.db, parsed.data)
		: ({ ok: false, why: 'unknown' } as const);
	if (link.ok) return link;
	error(
		link.why === 'ended' ? 410 : 404,
		link.why === 'ended'
			? 'This link has ended. Families find the board from their own letters; everybody else asks the school office.'
			: 'This link opens nothing. Check that the whole address was copied, or ask the school office.'
	);
}

/** The language in which a board is read by whoever asks: one that is offered, by the address, the browser, or the district. */
export async function languageOfBoard(
	s: Services,
	asked: string | null,
	header: string | null
): Promise<string> {
	const { languages, language } = await readDistrict(s.db);
	const wanted = await languagesWanted(s.db, header);
	return lookupLanguage(
		[...(asked === null ? [] : [asked.slice(0, 35)]), ...wanted],
		languages,
		language
	);
}

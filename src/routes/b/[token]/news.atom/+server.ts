import { boardFeed } from '$lib/server/desk/boards/board-feed';
import { languageOfReader } from '$lib/server/desk/family/reader';
import { languageOfBoard, openedBoard } from '$lib/server/http/open-board';
import { unlessSame } from '$lib/server/http/unless-same';
import { services } from '$lib/server/services';

/** What stands on a board, as a feed that programs follow. */
export const GET = async ({ params, url, request }) => {
	const s = await services();
	const { place, personId, madeAt } = await openedBoard(s, params.token);
	// Programs that follow a feed ask for no language: it is the person’s, the address’s, or the district’s.
	const language =
		personId === null
			? await languageOfBoard(s, url.searchParams.get('language'), null)
			: await languageOfReader(s.db, personId);
	const feed = await boardFeed(s.db, place, {
		...{ personId, language, madeAt },
		...{ site: s.settings.publicUrl, path: `/b/${params.token}`, feed: `news.atom${url.search}` }
	});
	return unlessSame(request, 'application/atom+xml', feed);
};

import { boardCalendar } from '$lib/server/desk/boards/board-calendar';
import { openedBoard } from '$lib/server/http/open-board';
import { unlessSame } from '$lib/server/http/unless-same';
import { services } from '$lib/server/services';

/** The events and days without school of a place, as a calendar to subscribe to. */
export const GET = async ({ params, request }) => {
	const s = await services();
	const { place, personId, madeAt } = await openedBoard(s, params.token);
	const site = s.settings.publicUrl;
	const open = personId === null;
	const link = open ? `${site}/b/${params.token}` : `${site}/in`;
	const calendar = await boardCalendar(s.db, place, { link, open });
	return unlessSame(request, 'text/calendar', {
		...calendar,
		changedAt: Math.max(calendar.changedAt, madeAt)
	});
};

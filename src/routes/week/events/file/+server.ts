import contentDisposition from 'content-disposition';
import { calendarFile } from '$lib/server/desk/calendar/events';
import { services } from '$lib/server/services';

/** The calendar as an iCalendar file. */
export const GET = async () => {
	const { db } = await services();
	return new Response(await calendarFile(db), {
		headers: {
			'content-type': 'text/calendar; charset=utf-8',
			'content-disposition': contentDisposition('school-events.ics')
		}
	});
};

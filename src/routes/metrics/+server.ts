import { courierHealth } from '$lib/server/desk/office/courier-status';
import { metricsText } from '$lib/server/desk/office/metrics';
import { waitingCount } from '$lib/server/desk/replies/shelf-counts';
import { diskRoom } from '$lib/server/disk';
import { countInBackground } from '$lib/server/http/in-background';
import { mayWatch } from '$lib/server/http/may-watch';
import { services } from '$lib/server/services';

/** Figures for whatever watches over the machine, as OpenMetrics text: for whoever runs it, or by the token of the settings. */
export const GET = async ({ request, locals }) => {
	const { db, settings } = await services();
	const allowed = mayWatch(locals.user, request.headers.get('authorization'), settings.watchToken);
	if (allowed !== true)
		return new Response('These figures are for whoever runs this.\n', {
			status: allowed === null ? 401 : 403,
			headers: { 'www-authenticate': 'Bearer', 'content-type': 'text/plain; charset=utf-8' }
		});
	const health = await courierHealth(db);
	const { type, text } = await metricsText({
		health,
		disk: await diskRoom(settings.dataFolder),
		waitingReplies: await waitingCount(db, null, health.now),
		inBackground: countInBackground(),
		memoryBytes: process.memoryUsage.rss()
	});
	return new Response(text, { headers: { 'content-type': type } });
};

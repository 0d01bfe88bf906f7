import { may } from '$lib/server/access/may';
import type { PageServerLoad } from './$types';

/** The sheet itself is in the browser; the page asks for its lines. */
export const load: PageServerLoad = ({ locals }) => ({
	userId: locals.user!.personId,
	userName: locals.user!.name,
	/** Only the district office puts single people in. */
	mayPutIn: may(locals.user!, 'speak-for-district')
});

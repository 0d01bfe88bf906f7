import { actsForDistrict } from '$lib/server/access/rights';
import type { PageServerLoad } from './$types';

/** The sheet itself is in the browser; the page asks for its lines. */
export const load: PageServerLoad = ({ locals }) => ({
	userId: locals.user!.personId,
	userName: locals.user!.name,
	/** Only the district office puts single people in. */
	mayPutIn: actsForDistrict(locals.user!)
});

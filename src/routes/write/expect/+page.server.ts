import type { PageServerLoad } from './$types';

/** The sheet itself is in the browser; the page asks what is to be expected of it. */
export const load: PageServerLoad = ({ locals }) => ({ userId: locals.user!.personId });

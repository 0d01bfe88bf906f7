import { failingAddresses } from '$lib/server/desk/mend';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	// A teacher sees own sections only; the list of the whole district is the office's.
	return {
		failing: locals.user!.role === 'teacher' ? null : await failingAddresses(db, locals.user!)
	};
};

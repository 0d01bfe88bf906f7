import { may } from '$lib/server/access/may';
import { mendCounts } from '$lib/server/desk/people/mend';
import { unsaidCustody } from '$lib/server/desk/hand/custody';
import { waitingFiles } from '$lib/server/desk/roster/views';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	return {
		mend: await mendCounts(db, locals.user!),
		everyone: may(locals.user!, 'speak-for-district'),
		unsaid: may(locals.user!, 'correct-people')
			? (await unsaidCustody(db, locals.user!, { relation: '', page: 1 })).found
			: 0,
		rosters: may(locals.user!, 'bring-roster') ? await waitingFiles(db) : null
	};
};

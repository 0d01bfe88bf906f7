import { may } from '$lib/server/access/may';
import { mendCounts } from '$lib/server/desk/people/mend';
import { unsaidCustody } from '$lib/server/desk/hand/custody';
import { waitingFiles } from '$lib/server/desk/roster/views';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const user = locals.user!;
	const correct = may(user, 'correct-people');
	return {
		// Counted from the whole roster: the page need not wait for it.
		places: ask('reachOfPlaces', user),
		silent: ask('countSilent', user),
		mend: await mendCounts(db, user),
		everyone: may(user, 'speak-for-district'),
		correct,
		unsaid: correct ? (await unsaidCustody(db, user, { relation: '', page: 1 })).found : 0,
		rosters: may(user, 'bring-roster') ? await waitingFiles(db) : null
	};
};

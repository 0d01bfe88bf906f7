import { wentOut } from '$lib/server/http/went-out';
import { error } from '@sveltejs/kit';
import { joinedCsv } from '$lib/server/desk/joining/joined-out';
import { csvOut } from '$lib/server/http/csv-out';
import { groupIdOf } from '$lib/server/http/joining';
import { services } from '$lib/server/services';

/** Who is in an open group, as a list. */
export const GET = async ({ params, locals }) => {
	const { db } = await services();
	const group = groupIdOf(params);
	const out = await joinedCsv(db, locals.user!, group);
	if (!out) error(404, 'There is no such group, or another office looks after it.');
	await wentOut(locals.user!, 'joined', ['group', group]);
	return csvOut(out.name, out.csv);
};

import { silentFilterSchema } from '$lib/server/desk/silent/silent-families';
import { silentCsv, silentPdf } from '$lib/server/desk/silent/phone-sheet';
import { fileAsked, fileOut } from '$lib/server/http/table-or-paper';
import { wentOut } from '$lib/server/http/went-out';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { RequestHandler } from './$types';

/** The sheet for calls: the families that nothing has reached, of one school or of all. */
export const GET: RequestHandler = async ({ url, locals }) => {
	const as = fileAsked(url);
	const { days, school } = silentFilterSchema.parse(Object.fromEntries(url.searchParams));
	const { db } = await services();
	const sheet = await ask('silentToCall', locals.user!, { days, school });
	const content = await (as === 'csv' ? silentCsv(db, sheet) : silentPdf(db, sheet));
	await wentOut(locals.user!, 'silent');
	return fileOut(as, content, 'families-nothing-reached');
};

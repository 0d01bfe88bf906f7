import { waysOf } from '$lib/server/http/joining';
import { codePath } from '$lib/server/paper/qr-code';
import type { PageServerLoad } from './$types';

/** How a group is joined, for the wall of a room: nothing else stands on the page. */
export const load: PageServerLoad = async ({ params, locals, depends }) => {
	depends('app:joined');
	const { ways, within } = await waysOf(locals.user!, params);
	return { bare: true, ways, within, square: codePath(ways.link) };
};

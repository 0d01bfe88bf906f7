import { error } from '@sveltejs/kit';
import { isAllowed } from '$lib/server/access/may';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals }) => {
	if (!isAllowed(locals.user!, 'write'))
		error(403, 'You may read here, and not write to families.');
};

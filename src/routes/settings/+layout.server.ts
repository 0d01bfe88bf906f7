import { chaptersOf } from '$lib/server/desk/office/chapters';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals }) => ({ chapters: chaptersOf(locals.user!) });

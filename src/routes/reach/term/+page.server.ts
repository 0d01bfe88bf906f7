import { error } from '@sveltejs/kit';
import { reportAskedSchema } from '$lib/server/desk/report/term-report';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const asked = reportAskedSchema.parse(Object.fromEntries(url.searchParams));
	const report = await ask('termReport', locals.user!, asked);
	if (!report && (asked.term !== 0 || asked.school !== 0))
		error(404, 'There is no such term or school, or it is not yours to see.');
	return { report };
};

import { error } from '@sveltejs/kit';
import { readDistrict } from '$lib/server/db/district';
import { reportCsv } from '$lib/server/desk/report/report-csv';
import { reportPdf } from '$lib/server/desk/report/report-pdf';
import { reportAskedSchema } from '$lib/server/desk/report/term-report';
import { fileAsked, fileOut } from '$lib/server/http/table-or-paper';
import { wentOut } from '$lib/server/http/went-out';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { RequestHandler } from './$types';

/** The report of a term, as a table or on paper. */
export const GET: RequestHandler = async ({ url, locals }) => {
	const as = fileAsked(url);
	const asked = reportAskedSchema.parse(Object.fromEntries(url.searchParams));
	const report = await ask('termReport', locals.user!, asked);
	if (!report) error(404, 'There is no such term or school, or it is not yours to see.');
	const { db } = await services();
	const { name: district, clock } = await readDistrict(db);
	const content = as === 'csv' ? reportCsv(report) : await reportPdf(report, { district, clock });
	await wentOut(locals.user!, 'report');
	return fileOut(as, content, `term-${report.term.startsOn}`);
};

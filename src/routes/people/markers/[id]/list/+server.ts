import { wentOut } from '$lib/server/http/went-out';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { marksCsv } from '$lib/server/desk/markers/marks-out';
import { csvOut } from '$lib/server/http/csv-out';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** Whoever has a marker, as a list that comes in again. */
export const GET = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const out = id.success ? await marksCsv(await services(), locals.user!, id.data) : null;
	if (!out) error(404, 'There is no such marker, or another office looks after it.');
	await wentOut(locals.user!, 'marks', ['marker', id.data!]);
	return csvOut(out.name, out.csv);
};
